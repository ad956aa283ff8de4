import { type NextRequest } from "next/server";
import { listAnswer } from "../../../../../server/api/list-request";
import { movesFilterSchema } from "../../../../../server/review/calls";

/** The moves that a filter leaves, a line each. */
export async function GET(request: NextRequest, context: { params: Promise<{ site: string }> }): Promise<Response> {
  return listAnswer(request, context, {
    name: "moves",
    schema: movesFilterSchema,
    take: (api, format, asked) => api.takeOutMoves(format, asked),
  });
}
