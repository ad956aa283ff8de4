import { type NextRequest } from "next/server";
import { z } from "zod";
import type { Api } from "../../../../../server/api/api";
import { onSite } from "../../../../../server/api-handle";

const whatSchema = z.enum(["items", "changes", "redirects", "extras"]);
const formatSchema = z.enum(["csv", "jsonl"]);

/** Items with their texts, a run's changes, redirects, extra texts: streamed as CSV or JSON Lines. */
export async function GET(
  request: NextRequest,
  context: { params: Promise<{ site: string; what: string }> },
): Promise<Response> {
  const what = whatSchema.safeParse((await context.params).what);
  const format = formatSchema.safeParse(request.nextUrl.searchParams.get("format") ?? "csv");
  const run = request.nextUrl.searchParams.get("run");
  if (
    !what.success ||
    !format.success ||
    (run !== null && !/^\d+$/.test(run)) ||
    (what.data === "changes" && run === null)
  ) {
    return Response.json(
      { error: "Ask for items, changes?run=N, redirects or extras, with format=csv or format=jsonl." },
      { status: 400 },
    );
  }
  const name = `${what.data}${run === null ? "" : `-run-${run}`}.${format.data}`;
  const headers = {
    "content-type": format.data === "csv" ? "text/csv; charset=utf-8" : "application/x-ndjson",
    "content-disposition": `attachment; filename="${name}"`,
  };
  const linesOf = (api: Api) =>
    what.data === "extras"
      ? api.takeOutExtras(format.data)
      : api.takeOut(what.data, format.data, run === null ? null : Number(run));
  return onSite(context, (api) => new Response(linesOf(api), { headers }));
}
