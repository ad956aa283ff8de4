import { type NextRequest } from "next/server";
import { backend } from "../../../server/backend-handle";
import { answer, kindsSchema } from "../answer";

export function GET(request: NextRequest): Promise<Response> {
  return answer(() =>
    backend().proof.call("fields", { kind: kindsSchema.parse(request.nextUrl.searchParams.get("kind")) }),
  );
}
