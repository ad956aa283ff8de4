import { onSite } from "../../../../../server/api-handle";

export const dynamic = "force-dynamic";

/** The drafts as a lines file. */
export function GET(_request: Request, context: { params: Promise<{ site: string }> }): Promise<Response> {
  const headers = {
    "content-type": "application/json; charset=utf-8",
    "content-disposition": 'attachment; filename="site.lines.json"',
  };
  return onSite(context, (api) => new Response(api.linesFile(), { headers }));
}
