import { setMaxListeners } from "node:events";
import { setTimeout as pause } from "node:timers/promises";
import type PQueue from "p-queue";
import { Agent, fetch, type Response } from "undici";
import { type Json, jsonDepth } from "../../core/connection/json";
import { type Connection } from "../../core/connection/schema";
import { CancelledCall } from "../threads/call";
import { inTime, pacedQueue } from "./paced";
import { isPrivateBase, publicLookup } from "./private-addresses";
import { reasonIn } from "./reason";
import { WireError, type WireTrouble } from "./wire-error";

/** What a site is asked. */
export interface SiteRequest {
  readonly method: "GET" | "POST" | "PUT" | "PATCH" | "DELETE";
  readonly url: string;
  readonly headers?: Readonly<Record<string, string>>;
  readonly body?: Json;
}

/** What it answers. */
export interface SiteAnswer {
  readonly status: number;
  readonly url: string;
  readonly header: (name: string) => string | null;
  readonly text: string;
}

/** Bytes of an answer, decompressed. */
const MOST_ANSWER = 64 * 1024 * 1024;
const MOST_DEPTH = 200;
const MOST_HOPS = 5;
/** So long the first wait for another try is, in ms; each is twice as long, up to the longest, and some of it is chance. */
const FIRST_WAIT = 500;
const LONGEST_WAIT = 8000;
/** Waits longer than that are not waited for, whatever a site asks for. */
const LONGEST_ASKED = 10 * 60_000;

/** How a client asks. */
export interface ClientOptions {
  /** Put into headers for `{secret}`. */
  readonly secret: string | null;
  /** Ends all asking. */
  readonly signal?: AbortSignal;
  /** Told when a request has to be made again, and why. */
  readonly again?: (error: WireError) => void;
  /** The first wait before another try, in ms. */
  readonly firstWait?: number;
}

/** Asks a site’s interface, at its origin only, no faster and no more at once than its description allows. */
export class SiteClient {
  private readonly queue: PQueue;
  private readonly agent: Agent;
  private readonly headers: Record<string, string>;
  private readonly origin: string;
  private readonly timeoutMs: number;
  private readonly giveUpMs: number;
  private lastGood = Date.now();
  private restsUntil = 0;

  constructor(
    { base, headers, limits }: Pick<Connection, "base" | "headers" | "limits">,
    private readonly options: ClientOptions,
  ) {
    const { perSecond, atOnce, timeoutSeconds, giveUpMinutes } = limits;
    this.queue = pacedQueue({ perSecond, atOnce });
    this.timeoutMs = timeoutSeconds * 1000;
    this.giveUpMs = giveUpMinutes * 60_000;
    this.origin = new URL(base).origin;
    this.agent = new Agent({
      connections: atOnce,
      headersTimeout: this.timeoutMs,
      bodyTimeout: this.timeoutMs,
      ...(!isPrivateBase(base) && { connect: { lookup: publicLookup } }),
    });
    const { signal } = options;
    // One for each request that waits or is under way.
    if (signal) setMaxListeners(0, signal);
    // What waits in a queue that rests is to hear of its end, too.
    signal?.addEventListener("abort", () => this.queue.start(), { once: true });
    this.headers = Object.fromEntries(
      Object.entries(headers).map(([name, value]) => [name, withSecret(value, options.secret)]),
    );
  }

  /** Asks once. @throws {WireError} for whatever is no success. @throws {CancelledCall} when it is ended. */
  async ask(request: SiteRequest): Promise<SiteAnswer> {
    this.endIfStopped();
    try {
      const answer = await this.queue.add(() => this.send(request));
      this.lastGood = Date.now();
      return answer;
    } catch (error) {
      this.endIfStopped();
      // A site that says no is there.
      if (error instanceof WireError && !error.isPassing) this.lastGood = Date.now();
      if (error instanceof WireError && error.afterMs !== null) this.rest(error.afterMs);
      throw error;
    }
  }

  /** Asks for JSON, again and again while trouble may pass, for as long as the description says. Only for what changes nothing. */
  async read(url: string): Promise<SiteAnswer & { readonly body: Json }> {
    const attempt = async () => {
      const answer = await this.ask({ method: "GET", url });
      return { ...answer, body: jsonOf(answer) };
    };
    return this.persist(attempt);
  }

  /** Tries something again while its trouble may pass, with longer and longer waits, for as long as the description says. */
  async persist<T>(attempt: () => Promise<T>): Promise<T> {
    const { signal, again, firstWait = FIRST_WAIT } = this.options;
    const until = Date.now() + this.giveUpMs;
    for (let wait = firstWait; ; wait = Math.min(2 * wait, LONGEST_WAIT)) {
      try {
        return await attempt();
      } catch (error) {
        const mayPass = error instanceof WireError && error.isPassing && Date.now() + wait < until;
        if (!mayPass) throw error;
        again?.(error);
      }
      await pause(wait * (0.5 + Math.random()), undefined, signal ? { signal } : {}).catch(() => {});
      this.endIfStopped();
    }
  }

  /** Whether nothing was answered as it should be for as long as the description lets a site fail. */
  get isDead(): boolean {
    return Date.now() - this.lastGood > this.giveUpMs;
  }

  /** Ends its connections. */
  async close(): Promise<void> {
    this.queue.clear();
    await this.agent.destroy();
  }

  private endIfStopped(): void {
    if (this.options.signal?.aborted) throw new CancelledCall();
  }

  /** Leaves the site alone for a while, as it asked. */
  private rest(ms: number): void {
    const until = Date.now() + Math.min(ms, LONGEST_ASKED);
    // Of several answers the one that asks for most is obeyed.
    if (until <= this.restsUntil) return;
    this.restsUntil = until;
    this.queue.pause();
    setTimeout(() => {
      if (this.restsUntil === until) this.queue.start();
    }, until - Date.now()).unref();
  }

  private async send(request: SiteRequest): Promise<SiteAnswer> {
    const { signal, secret } = this.options;
    try {
      return await inTime(
        this.timeoutMs,
        signal,
        (own) => this.answerTo(request, own),
        () => lateError(request, this.timeoutMs),
      );
    } catch (error) {
      if (error instanceof WireError) throw withoutSecret(error, secret);
      throw error instanceof CancelledCall ? error : brokenError(request, error);
    }
  }

  private async answerTo({ method, url, headers, body }: SiteRequest, signal: AbortSignal): Promise<SiteAnswer> {
    for (let at = url, hops = 0; ; hops++) {
      this.refuseElsewhere(at, url);
      const response = await fetch(at, {
        method,
        signal,
        redirect: "manual",
        dispatcher: this.agent,
        headers: {
          accept: "application/json",
          "user-agent": "NineLines",
          ...(body !== undefined && {
            "content-type": method === "PATCH" ? "application/merge-patch+json" : "application/json",
          }),
          ...this.headers,
          ...headers,
        },
        ...(body !== undefined && { body: JSON.stringify(body) }),
      });
      const onward = response.status >= 300 && response.status < 400 ? response.headers.get("location") : null;
      if (onward === null) return answerOf(at, method, response);
      await response.body?.cancel();
      const target = new URL(onward, at).href;
      if (method !== "GET" || hops === MOST_HOPS)
        throw new WireError(
          "elsewhere",
          `${method} ${url} is answered with a redirect to ${target}, which is not followed`,
        );
      at = target;
    }
  }

  private refuseElsewhere(at: string, from: string): void {
    if (new URL(at).origin === this.origin) return;
    throw new WireError(
      "elsewhere",
      `${from} leads to ${at}, which is not at ${this.origin}. Nothing was asked there, and the secret was not sent there.`,
    );
  }
}

/** A site may say what it was sent: its words are kept and shown, the secret among them is not. */
function withoutSecret(error: WireError, secret: string | null): WireError {
  if (!secret || !error.message.includes(secret)) return error;
  const { status } = (error.cause ?? {}) as { status?: number };
  const cause = status === undefined ? undefined : { status };
  const afterMs = error.afterMs ?? undefined;
  return new WireError(error.trouble, error.message.replaceAll(secret, "{secret}"), { afterMs, cause });
}

function withSecret(value: string, secret: string | null): string {
  if (!value.includes("{secret}")) return value;
  if (secret === null)
    throw new WireError("shut", "The secret of this connection is not set. Type it in under Connection.");
  return value.replaceAll("{secret}", secret);
}

/** What an answer says, read as JSON. @throws {WireError} in words for what is none. */
export function jsonOf({ text, url, header }: Pick<SiteAnswer, "text" | "url" | "header">): Json {
  const start = text.trimStart().slice(0, 80);
  const wrong = (what: string) => new WireError("rubbish", `${url} answers ${what}: “${start}”`);
  if (start === "") throw new WireError("rubbish", `${url} answers nothing where JSON is expected`);
  if (start.startsWith("<"))
    throw wrong(`${(header("content-type") ?? "").includes("html") ? "an HTML page" : "markup"} and no JSON`);
  if (jsonDepth(text, MOST_DEPTH) > MOST_DEPTH) throw wrong(`JSON that is nested more than ${MOST_DEPTH} levels deep`);
  try {
    return JSON.parse(text) as Json;
  } catch (error) {
    throw wrong(`something that is no JSON (${(error as Error).message})`);
  }
}

async function answerOf(url: string, method: string, response: Response): Promise<SiteAnswer> {
  const { status } = response;
  const text = await boundedText(url, response);
  const header = (name: string) => response.headers.get(name);
  if (status >= 200 && status < 300) return { status, url, header, text };
  const trouble = troubleOf(status);
  const reason = reasonIn(text, header("content-type")) ?? response.statusText;
  const afterMs = retryAfter(header("retry-after"));
  throw new WireError(trouble, `${method} ${url} is answered with ${status}${reason === "" ? "" : `: ${reason}`}`, {
    afterMs,
    cause: { status, reason },
  });
}

/** What a status is to who asked. */
export function troubleOf(status: number): WireTrouble {
  if (status === 401 || status === 403) return "shut";
  if (status === 404 || status === 410) return "missing";
  if (status === 409 || status === 412) return "changed";
  if (status === 408 || status === 425 || status === 429 || status === 503) return "busy";
  return status >= 500 ? "broken" : "refused";
}

/** `Retry-After` in ms: seconds, or a date (RFC 9110, 10.2.3). */
function retryAfter(value: string | null): number | undefined {
  if (value === null) return undefined;
  if (/^\d{1,9}$/.test(value)) return Number(value) * 1000;
  const at = Date.parse(value);
  return Number.isNaN(at) ? undefined : Math.max(0, at - Date.now());
}

async function boundedText(url: string, response: Response): Promise<string> {
  const decoder = new TextDecoder();
  let text = "";
  let size = 0;
  if (!response.body) return text;
  for await (const part of response.body as AsyncIterable<Uint8Array>) {
    size += part.length;
    if (size > MOST_ANSWER)
      throw new WireError("rubbish", `${url} answers more than ${MOST_ANSWER / 1024 / 1024} MB; the rest was not read`);
    text += decoder.decode(part, { stream: true });
  }
  return text + decoder.decode();
}

function lateError({ method, url }: SiteRequest, timeoutMs: number): WireError {
  return new WireError("late", `${method} ${url} is not answered within ${timeoutMs / 1000} seconds`);
}

function brokenError({ method, url }: SiteRequest, error: unknown): WireError {
  const cause = (error as { cause?: { message?: string; code?: string } }).cause;
  const said = cause?.message || cause?.code || (error as Error).message;
  return new WireError("unreachable", `${method} ${url} is not answered: ${said}`, { cause: error });
}
