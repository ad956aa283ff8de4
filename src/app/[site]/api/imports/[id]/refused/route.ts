import { onSite } from "../../../../../../server/api-handle";

/** The rows that an import refused, as CSV: line, reason, content. */
export async function GET(
  _request: Request,
  context: { params: Promise<{ site: string; id: string }> },
): Promise<Response> {
  const id = Number((await context.params).id);
  return onSite(
    context,
    (api) =>
      new Response(api.refusedRows(id), {
        headers: {
          "content-type": "text/csv; charset=utf-8",
          "content-disposition": `attachment; filename="refused-rows-${id}.csv"`,
        },
      }),
  );
}
