import { onSite } from "../../../../server/api-handle";

export const dynamic = "force-dynamic";

/** Whatever the interface asks about a site, by name (`server/api/calls`). */
export async function POST(
  request: Request,
  context: { params: Promise<{ site: string; call: string }> },
): Promise<Response> {
  const { call } = await context.params;
  return onSite(context, (api) => api.call(call, request));
}
