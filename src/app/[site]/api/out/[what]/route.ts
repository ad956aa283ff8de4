import { type NextRequest } from "next/server";
import * as z from "zod";
import { FILE_TYPES, OUT_FORMATS } from "../../../../../core/items/taken-out";
import type { Api } from "../../../../../server/api/api";
import { onSite } from "../../../../../server/api-handle";

const whatSchema = z.enum(["items", "changes", "bodies", "redirects", "extras"]);
const formatSchema = z.enum(OUT_FORMATS);

/** Items with their texts, a run's changes and the bodies that it changed, redirects, extra texts: streamed as CSV, JSON Lines or a workbook. */
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
    ((what.data === "changes" || what.data === "bodies") && run === null)
  ) {
    return Response.json(
      {
        error:
          "Ask for items, changes?run=N, bodies?run=N, redirects or extras, with format=csv, format=jsonl or format=xlsx.",
      },
      { status: 400 },
    );
  }
  const name = `${what.data}${run === null ? "" : `-run-${run}`}.${format.data}`;
  const headers = {
    "content-type": FILE_TYPES[format.data],
    "content-disposition": `attachment; filename="${name}"`,
  };
  const piecesOf = (api: Api) =>
    what.data === "extras"
      ? api.takeOutExtras(format.data)
      : api.takeOut(what.data, format.data, run === null ? null : Number(run));
  return onSite(context, (api) => new Response(piecesOf(api), { headers }));
}
