import { api } from "../../../server/api-handle";

export const dynamic = "force-dynamic";

/** Whatever the interface asks of the server, by name (`server/api/calls`). */
export async function POST(request: Request, { params }: { params: Promise<{ call: string }> }): Promise<Response> {
  return api().call((await params).call, request);
}
