import { type IncomingMessage, type ServerResponse } from "node:http";
import sirv from "sirv";

/** Where pages look for what was built: scripts, styles, fonts. Their names change with what is in them. */
const PREFIX = "/_next/static/";
const YEAR_S = 365 * 24 * 3600;

/**
 * Serves what was built for the pages as it was compressed then (`scripts/setup.mjs`): as small as it gets, and nothing is compressed anew
 * each time that a screen opens.
 *
 * @param folder where it is. @returns whether the request was for a file there; it is answered then.
 */
export function staticFiles(folder: string): (request: IncomingMessage, response: ServerResponse) => boolean {
  const serve = sirv(folder, { brotli: true, gzip: true, etag: true, immutable: true, maxAge: YEAR_S });
  return (request, response) => {
    const { url = "" } = request;
    if (!url.startsWith(PREFIX)) return false;
    request.url = url.slice(PREFIX.length - 1);
    // One that a page of before an update still asks for: the page is told, and can be loaded anew.
    serve(request, response, () => {
      response.writeHead(404, { "content-type": "text/plain; charset=utf-8" }).end("There is no such file.");
    });
    return true;
  };
}
