import { createHash, timingSafeEqual } from "node:crypto";
import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import { setTimeout } from "node:timers/promises";
import { gzipSync } from "node:zlib";
import { type Answer, htmlAnswer } from "./answer";
import { CrawlerFiles } from "./crawler-files";
import { type ApiRequest } from "./api-request";
import { FaultSwitches } from "./fault-switches";
import { Faults } from "./faults";
import { FlatFace } from "./flat-face";
import { InterfaceFaults } from "./interface-faults";
import { NestedFace } from "./nested-face";
import { type PracticeStore } from "./practice-store";
import { type PracticeIdentity } from "./identity";
import { openApi } from "./openapi";
import { jsonAnswer, problem } from "./problem";
import { PageFaults } from "./page-faults";
import { type SiteRequest } from "./site-request";
import { startPage } from "./start-page";
import { ThirdFace } from "./third-face";
import { VisitorPages } from "./visitor-pages";

/** A shape of the site’s interface. */
interface Face {
  readonly answer: (request: ApiRequest) => Answer;
  /** Pages that a request is to change. */
  readonly changes: (request: ApiRequest) => readonly string[];
}

/** From so many bytes on an answer is compressed for who takes that. */
const SMALL = 1024;
/** More than any change of a hundred pages needs. */
const MOST_BODY = 20_000_000;
const [FLAT, NESTED, THIRD] = ["/api/flat", "/api/nested", "/api/third"] as const;
const SWITCHES = "/_practice/faults";

/** A site of its own: pages for visitors, files for crawlers, an interface for programs. */
export class PracticeSite {
  private readonly visitors: VisitorPages;
  private readonly crawlers: CrawlerFiles;
  /** Its interface in both shapes, by the path that each is below. */
  private readonly faces: ReadonlyMap<string, Face>;
  private readonly faults: InterfaceFaults;
  private readonly switches: FaultSwitches;

  /** @param token what a program shows to be let in. @param faults what goes wrong. */
  constructor(
    private readonly store: PracticeStore,
    private readonly identity: PracticeIdentity,
    private readonly token: string,
    faults = new Faults(store),
  ) {
    this.faults = new InterfaceFaults(faults, store);
    this.switches = new FaultSwitches(faults, identity.base);
    this.visitors = new VisitorPages(store, identity, new PageFaults(faults, store, identity.name));
    this.crawlers = new CrawlerFiles(store, identity.base);
    this.faces = new Map<string, Face>([
      [FLAT, new FlatFace(store, (place) => this.faults.refuses(place))],
      [NESTED, new NestedFace(store, identity.base + NESTED)],
      [THIRD, new ThirdFace(store, identity.base)],
    ]);
  }

  answer(request: SiteRequest): Answer {
    const { method, target } = request;
    const asked = readTarget(target);
    if (asked === null) return htmlAnswer("<h1>Bad request</h1>", 400);
    const { path, search } = asked;
    for (const [below, face] of this.faces)
      if (path.startsWith(`${below}/`)) return this.program(face, path.slice(below.length), search, request);
    if (path === SWITCHES) return this.switches.answer(request);
    if (method !== "GET" && method !== "HEAD")
      return {
        status: 405,
        headers: { allow: "GET, HEAD", "content-type": "text/plain" },
        body: "Only GET and HEAD\n",
      };
    if (path === "/api/openapi.json") return jsonAnswer(openApi(this.identity.base));
    if (path === "/_practice")
      return htmlAnswer(startPage(this.identity, this.store.count(), this.switches.list()), 200, {
        "cache-control": "no-store",
      });
    return this.crawlers.answer(path) ?? this.visitors.answer(path, search);
  }

  private program(face: Face, path: string, search: string, { method, headers = {}, body = "" }: SiteRequest): Answer {
    if (!this.isLetIn(headers["authorization"] ?? "") && !this.isLetIn(`Bearer ${headers["x-key"] ?? ""}`))
      return problem(401, "Unauthorized", "Send the token of this site: Authorization: Bearer …", {
        "www-authenticate": 'Bearer realm="practice"',
      });
    const asked = { method, path, query: new URLSearchParams(search), headers, body };
    return this.faults.answer(asked, face.changes(asked), (own) => face.answer(own));
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

  /** Answers a request of HTTP. */
  async serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const body = await bodyOf(request);
    const { method = "GET", url: target = "/" } = request;
    const headers = Object.fromEntries(Object.entries(request.headers).map(([name, value]) => [name, String(value)]));
    const answer =
      body === null ? problem(413, "Content too large", "") : this.answer({ method, target, headers, body });
    const takesGzip = /\bgzip\b/.test(headers["accept-encoding"] ?? "");
    await deliver(answer, response, { takesGzip, isHead: method === "HEAD" });
  }
}

/** Sends an answer, compressed for who takes that. */
async function deliver(
  { status, headers, body, delivery = {} }: Answer,
  response: ServerResponse,
  { takesGzip, isHead }: { readonly takesGzip: boolean; readonly isHead: boolean },
): Promise<void> {
  if (delivery.hangs) return;
  if (delivery.afterMs !== undefined) await setTimeout(delivery.afterMs);
  const bytes = Buffer.from(body);
  const compressed = delivery.gzipped ?? (takesGzip && bytes.length >= SMALL ? gzipSync(bytes) : null);
  const sent = compressed ?? bytes;
  response.writeHead(status, {
    ...headers,
    vary: "accept-encoding",
    "content-length": String(sent.length),
    ...(compressed && { "content-encoding": "gzip" }),
  });
  if (isHead) response.end();
  else if (!delivery.isDropped) response.end(sent);
  else response.write(sent.subarray(0, Math.floor(sent.length / 2)), () => response.destroy());
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
