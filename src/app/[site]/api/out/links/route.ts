import { type NextRequest } from "next/server";
import { listAnswer } from "../../../../../server/api/list-request";
import { linkFilterSchema } from "../../../../../server/links/calls";

/** The links that a filter leaves, a line each. */
export async function GET(request: NextRequest, context: { params: Promise<{ site: string }> }): Promise<Response> {
  return listAnswer(request, context, {
    name: "links",
    schema: linkFilterSchema,
    take: (api, format, asked) => api.takeOutLinks(format, asked),
  });
}
