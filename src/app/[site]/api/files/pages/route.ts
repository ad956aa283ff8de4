import { type NextRequest } from "next/server";
import { onSite } from "../../../../../server/api-handle";

/** Receives a file of pages as the request's body and takes a first look at it. */
export function POST(request: NextRequest, context: { params: Promise<{ site: string }> }): Promise<Response> {
  const name = request.nextUrl.searchParams.get("name") ?? "file.csv";
  return onSite(context, (api) => api.receivePages(request.body, name));
}
