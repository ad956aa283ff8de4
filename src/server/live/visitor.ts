import type PQueue from "p-queue";
import { setMaxListeners } from "node:events";
import { Agent, fetch, type Response } from "undici";
import { decodeHtml } from "../../core/live/decode-html";
import { extractPage } from "../../core/live/extract";
import { type Hop, type PageMet } from "../../core/live/findings";
import { CancelledCall } from "../threads/call";
import { inTime, pacedQueue } from "../wire/paced";
import { isPrivateBase, publicLookup } from "../wire/private-addresses";

const TIMEOUT_MS = 20_000;
const MOST_HOPS = 10;
/** Of a page so many bytes are read, decompressed: what is said of a page stands at its top. */
const MOST_BYTES = 3_000_000;
/** A site of others is asked politely; one on this machine may be asked as fast as it can. */
const PACE = { others: { perSecond: 5, atOnce: 2 }, own: { perSecond: 500, atOnce: 8 } };

/** Fetches pages as a visitor gets them: from one site, without any secret, its redirects followed within it. */
export class Visitor {
  private readonly agent: Agent;
  private readonly queue: PQueue;
  private readonly origin: string;

  /** @param base where the site is. */
  constructor(
    base: string,
    private readonly signal: AbortSignal,
  ) {
    const isOwn = isPrivateBase(base);
    const pace = isOwn ? PACE.own : PACE.others;
    this.queue = pacedQueue(pace);
    this.origin = new URL(base).origin;
    this.agent = new Agent({ connections: pace.atOnce, ...(!isOwn && { connect: { lookup: publicLookup } }) });
    setMaxListeners(0, signal);
  }

  /** How many pages are worth having on their way. */
  get room(): number {
    return this.queue.concurrency * 2;
  }

  /** What is met at an address. */
  async visit(url: string): Promise<PageMet> {
    const hops: Hop[] = [];
    const none = (trouble: string): PageMet => ({ hops, trouble, says: null, robotsHeader: null });
    for (let at = url; ;) {
      if (new URL(at).origin !== this.origin) return none(`It leads to ${at}, which is another site`);
      if (hops.some((hop) => hop.url === at)) return none(`It leads in a circle, by ${at}`);
      if (hops.length > MOST_HOPS) return none(`It leads on more than ${MOST_HOPS} times`);
      const met = await this.queue.add(() => this.get(at));
      if (this.signal.aborted) throw new CancelledCall();
      if (typeof met === "string") return none(met);
      hops.push({ url: at, status: met.status });
      if (met.onward === null) return { hops, trouble: null, says: met.says, robotsHeader: met.robots };
      at = met.onward;
    }
  }

  async close(): Promise<void> {
    this.queue.clear();
    await this.agent.destroy();
  }

  /** What is at an address, or why nothing is, in words. */
  private async get(url: string) {
    try {
      return await inTime(
        TIMEOUT_MS,
        this.signal,
        async (signal) => {
          const headers = { accept: "text/html", "user-agent": "NineLines" };
          return this.read(url, await fetch(url, { redirect: "manual", signal, dispatcher: this.agent, headers }));
        },
        () => new Error(`not within ${TIMEOUT_MS / 1000} seconds`),
      );
    } catch (error) {
      if (error instanceof CancelledCall) throw error;
      const { cause, message } = error as { cause?: { message?: string }; message: string };
      return `${url} is not answered: ${cause?.message ?? message}`;
    }
  }

  private async read(url: string, response: Response) {
    const { status } = response;
    const location = status >= 300 && status < 400 ? response.headers.get("location") : null;
    const robots = response.headers.get("x-robots-tag");
    if (location !== null) {
      await response.body?.cancel();
      return { status, robots, onward: URL.canParse(location, url) ? new URL(location, url).href : null, says: null };
    }
    const { text } = decodeHtml(await someBytes(response), response.headers.get("content-type"));
    return { status, robots, onward: null, says: extractPage(text, url) };
  }
}

async function someBytes(response: Response): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  let size = 0;
  if (!response.body) return new Uint8Array();
  for await (const part of response.body as AsyncIterable<Uint8Array>) {
    parts.push(part);
    size += part.length;
    // Leaving the loop ends the answer.
    if (size >= MOST_BYTES) break;
  }
  return Buffer.concat(parts).subarray(0, MOST_BYTES);
}
