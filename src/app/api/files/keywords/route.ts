import { api } from "../../../../server/api-handle";

/** Receives a list of keywords, CSV or pasted, and takes a first look at it. */
export function POST(request: Request): Promise<Response> {
  return api().receiveKeywords(request.body);
}
