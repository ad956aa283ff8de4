import { type NextRequest } from "next/server";
import { api } from "../../../../server/api-handle";

/** Receives a file of pages as the request's body and takes a first look at it. */
export function POST(request: NextRequest): Promise<Response> {
  return api().receivePages(request.body, request.nextUrl.searchParams.get("name") ?? "file.csv");
}
