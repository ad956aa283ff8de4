import { sitesApi } from "../../../../server/api-handle";

/** Receives a site's file and makes it a site here. */
export function POST(request: Request): Promise<Response> {
  return sitesApi().receive(request.body);
}
