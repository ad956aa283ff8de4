import { type NextRequest } from "next/server";
import { FILE_TYPES } from "../../../../../core/items/taken-out";
import { listFormatSchema, listRequest } from "../../../../../server/api/list-request";
import { onSite } from "../../../../../server/api-handle";
import { movesFilterSchema } from "../../../../../server/review/calls";

/** The moves that a filter leaves, a line each. */
export async function GET(request: NextRequest, context: { params: Promise<{ site: string }> }): Promise<Response> {
  const asked = listRequest(request, movesFilterSchema);
  const format = listFormatSchema.safeParse(request.nextUrl.searchParams.get("format") ?? "csv");
  if (!asked.success || !format.success)
    return Response.json({ error: "Ask for show=all and folder=/, with format=csv or format=jsonl." }, { status: 400 });
  return onSite(
    context,
    (api) =>
      new Response(api.takeOutMoves(format.data, asked.data), {
        headers: {
          "content-type": FILE_TYPES[format.data],
          "content-disposition": `attachment; filename="moves.${format.data}"`,
        },
      }),
  );
}
