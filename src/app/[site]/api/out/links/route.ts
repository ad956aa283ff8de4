import { type NextRequest } from "next/server";
import { FILE_TYPES } from "../../../../../core/items/taken-out";
import { listFormatSchema, listRequest } from "../../../../../server/api/list-request";
import { onSite } from "../../../../../server/api-handle";
import { linkFilterSchema } from "../../../../../server/links/calls";

/** The links that a filter leaves, a line each. */
export async function GET(request: NextRequest, context: { params: Promise<{ site: string }> }): Promise<Response> {
  const asked = listRequest(request, linkFilterSchema);
  const format = listFormatSchema.safeParse(request.nextUrl.searchParams.get("format") ?? "csv");
  if (!asked.success || !format.success)
    return Response.json({ error: "Ask for finding=broken, say, with format=csv or format=jsonl." }, { status: 400 });
  return onSite(
    context,
    (api) =>
      new Response(api.takeOutLinks(format.data, asked.data), {
        headers: {
          "content-type": FILE_TYPES[format.data],
          "content-disposition": `attachment; filename="links-${asked.data.finding}.${format.data}"`,
        },
      }),
  );
}
