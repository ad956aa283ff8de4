import { api } from "../../../../../server/api-handle";

/** The rows that an import refused, as CSV: line, reason, content. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return new Response(api().refusedRows(Number(id)), {
    headers: {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": `attachment; filename="refused-rows-${Number(id)}.csv"`,
    },
  });
}
