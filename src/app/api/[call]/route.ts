import { sitesApi } from "../../../server/api-handle";

export const dynamic = "force-dynamic";

/** Whatever the interface asks about all sites together, by name (`server/sites/calls`). */
export async function POST(request: Request, { params }: { params: Promise<{ call: string }> }): Promise<Response> {
  return sitesApi().call((await params).call, request);
}
