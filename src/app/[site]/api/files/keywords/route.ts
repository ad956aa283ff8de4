import { onSite } from "../../../../../server/api-handle";

/** Receives a list of keywords, CSV or pasted, and takes a first look at it. */
export function POST(request: Request, context: { params: Promise<{ site: string }> }): Promise<Response> {
  return onSite(context, (api) => api.receiveKeywords(request.body));
}
