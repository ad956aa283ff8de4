import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import { gzipSync } from "node:zlib";
import { type Answer, htmlAnswer } from "./answer";
import { CrawlerFiles } from "./crawler-files";
import { type PracticeStore } from "./practice-store";
import { startPage } from "./start-page";
import { VisitorPages } from "./visitor-pages";

/** How a site calls itself, and where it says that it is, without a slash at its end. */
export interface PracticeIdentity {
  readonly name: string;
  readonly base: string;
}

/** From so many bytes on an answer is compressed for who takes that. */
const SMALL = 1024;

/** A site of its own: pages for visitors, files for crawlers. */
export class PracticeSite {
  private readonly visitors: VisitorPages;
  private readonly crawlers: CrawlerFiles;

  constructor(
    private readonly store: PracticeStore,
    private readonly identity: PracticeIdentity,
  ) {
    this.visitors = new VisitorPages(store, identity);
    this.crawlers = new CrawlerFiles(store, identity.base);
  }

  /** @param target the path and query of a request, as they came. */
  answer(method: string, target: string): Answer {
    if (method !== "GET" && method !== "HEAD")
      return {
        ...htmlAnswer("Only GET and HEAD\n", 405),
        headers: { allow: "GET, HEAD", "content-type": "text/plain" },
      };
    const asked = readTarget(target);
    if (asked === null) return htmlAnswer("<h1>Bad request</h1>", 400);
    const { path, search } = asked;
    if (path === "/_practice") return htmlAnswer(startPage(this.identity, this.store.count()));
    return this.crawlers.answer(path) ?? this.visitors.answer(path, search);
  }

  /** The site behind HTTP. */
  server(): Server {
    return createServer((request, response) => this.serve(request, response));
  }

  private serve(request: IncomingMessage, response: ServerResponse): void {
    const { status, headers, body } = this.answer(request.method ?? "GET", request.url ?? "/");
    const takesGzip = /\bgzip\b/.test(String(request.headers["accept-encoding"] ?? ""));
    const bytes = Buffer.from(body);
    const isCompressed = takesGzip && bytes.length >= SMALL;
    const sent = isCompressed ? gzipSync(bytes) : bytes;
    response.writeHead(status, {
      ...headers,
      vary: "accept-encoding",
      "content-length": String(sent.length),
      ...(isCompressed && { "content-encoding": "gzip" }),
    });
    response.end(request.method === "HEAD" ? undefined : sent);
  }
}

/** A path and a query with its question mark, escapes resolved; `null` where they are neither. */
function readTarget(target: string): { readonly path: string; readonly search: string } | null {
  const [path = "/", query] = target.split(/\?(.*)/s);
  try {
    return { path: decodeURI(path), search: query === undefined ? "" : decodeURI(`?${query}`) };
  } catch {
    return null;
  }
}
