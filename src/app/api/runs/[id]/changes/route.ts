import { type NextRequest } from "next/server";
import { backend } from "../../../../../server/backend-handle";
import { answer } from "../../../answer";

export function GET(request: NextRequest, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () =>
    backend().runChanges(Number((await params).id), Number(request.nextUrl.searchParams.get("after") ?? 0)),
  );
}
