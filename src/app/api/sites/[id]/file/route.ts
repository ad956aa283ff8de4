import { sitesApi } from "../../../../../server/api-handle";

export const dynamic = "force-dynamic";

/** A site whole, as one file that can be taken in elsewhere. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return sitesApi().takeOut((await params).id);
}
