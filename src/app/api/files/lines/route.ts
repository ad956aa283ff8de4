import { api } from "../../../../server/api-handle";

export const dynamic = "force-dynamic";

/** The drafts as a lines file. */
export function GET(): Response {
  const headers = {
    "content-type": "application/json; charset=utf-8",
    "content-disposition": 'attachment; filename="site.lines.json"',
  };
  return new Response(api().linesFile(), { headers });
}
