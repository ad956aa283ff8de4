import { type NextRequest } from "next/server";
import { backend } from "../../../server/backend-handle";
import { answer, kindSchema } from "../answer";

export function GET(request: NextRequest): Promise<Response> {
  return answer(() => backend().proof.call("fields", { kind: kindSchema.parse(request.nextUrl.searchParams.get("kind")) }));
}
