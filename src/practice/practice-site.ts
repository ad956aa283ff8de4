import { createHash, timingSafeEqual } from "node:crypto";
import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import { gzipSync } from "node:zlib";
import { type Answer, htmlAnswer } from "./answer";
import { CrawlerFiles } from "./crawler-files";
import { type ApiRequest } from "./api-request";
import { FlatFace } from "./flat-face";
import { NestedFace } from "./nested-face";
import { type PracticeStore } from "./practice-store";
import { type PracticeIdentity } from "./identity";
import { problem } from "./problem";
import { startPage } from "./start-page";
import { VisitorPages } from "./visitor-pages";

/** A request, as far as the site looks at it. */
export interface SiteRequest {
  readonly method: string;
  /** Path and query, as they came. */
  readonly target: string;
  /** By their names in lower case. */
  readonly headers?: Readonly<Record<string, string | undefined>>;
  readonly body?: string;
}

/** A shape of the site’s interface. */
interface Face {
  readonly answer: (request: ApiRequest) => Answer;
}

/** From so many bytes on an answer is compressed for who takes that. */
const SMALL = 1024;
/** More than any change of a hundred pages needs. */
const MOST_BODY = 20_000_000;
const [FLAT, NESTED] = ["/api/flat", "/api/nested"] as const;

/** A site of its own: pages for visitors, files for crawlers, an interface for programs. */
export class PracticeSite {
  private readonly visitors: VisitorPages;
  private readonly crawlers: CrawlerFiles;
  /** Its interface in both shapes, by the path that each is below. */
  private readonly faces: ReadonlyMap<string, Face>;

  /** @param token what a program shows to be let in. */
  constructor(
    private readonly store: PracticeStore,
    private readonly identity: PracticeIdentity,
    private readonly token: string,
  ) {
    this.visitors = new VisitorPages(store, identity);
    this.crawlers = new CrawlerFiles(store, identity.base);
    this.faces = new Map<string, Face>([
      [FLAT, new FlatFace(store)],
      [NESTED, new NestedFace(store, identity.base + NESTED)],
    ]);
  }

  answer(request: SiteRequest): Answer {
    const { method, target } = request;
    const asked = readTarget(target);
    if (asked === null) return htmlAnswer("<h1>Bad request</h1>", 400);
    const { path, search } = asked;
    for (const [below, face] of this.faces)
      if (path.startsWith(`${below}/`)) return this.program(face, path.slice(below.length), search, request);
    if (method !== "GET" && method !== "HEAD")
      return {
        status: 405,
        headers: { allow: "GET, HEAD", "content-type": "text/plain" },
        body: "Only GET and HEAD\n",
      };
    if (path === "/_practice") return htmlAnswer(startPage(this.identity, this.store.count()));
    return this.crawlers.answer(path) ?? this.visitors.answer(path, search);
  }

  private program(face: Face, path: string, search: string, { method, headers = {}, body = "" }: SiteRequest): Answer {
    if (!this.isLetIn(headers["authorization"] ?? ""))
      return problem(401, "Unauthorized", "Send the token of this site: Authorization: Bearer …", {
        "www-authenticate": 'Bearer realm="practice"',
      });
    return face.answer({ method, path, query: new URLSearchParams(search), headers, body });
  }

  private isLetIn(authorization: string): boolean {
    const [given, known] = [authorization, `Bearer ${this.token}`].map((text) =>
      createHash("sha256").update(text).digest(),
    );
    return timingSafeEqual(given!, known!);
  }

  /** The site behind HTTP. */
  server(): Server {
    return createServer((request, response) => void this.serve(request, response));
  }

  private async serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const body = await bodyOf(request);
    const { method = "GET", url: target = "/" } = request;
    const headers = Object.fromEntries(Object.entries(request.headers).map(([name, value]) => [name, String(value)]));
    const answer =
      body === null ? problem(413, "Content too large", "") : this.answer({ method, target, headers, body });
    const takesGzip = /\bgzip\b/.test(headers["accept-encoding"] ?? "");
    const bytes = Buffer.from(answer.body);
    const isCompressed = takesGzip && bytes.length >= SMALL;
    const sent = isCompressed ? gzipSync(bytes) : bytes;
    response.writeHead(answer.status, {
      ...answer.headers,
      vary: "accept-encoding",
      "content-length": String(sent.length),
      ...(isCompressed && { "content-encoding": "gzip" }),
    });
    response.end(method === "HEAD" ? undefined : sent);
  }
}

/** What a request brings; `null` where that is too much. */
async function bodyOf(request: IncomingMessage): Promise<string | null> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    // What is too much is read to its end, so that the answer can be heard, and not kept.
    if (size <= MOST_BODY) parts.push(part);
  }
  return size > MOST_BODY ? null : Buffer.concat(parts).toString("utf8");
}

/** A path and a query with its question mark, escapes resolved; `null` where they are neither. */
function readTarget(target: string): { readonly path: string; readonly search: string } | null {
  const [path = "/", query] = target.split(/\?(.*)/s);
  try {
    return { path: decodeURI(path), search: query === undefined ? "" : `?${query}` };
  } catch {
    return null;
  }
}
