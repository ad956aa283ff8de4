import type { CallInput, CallName, CallResult } from "../../server/api/contract";
import type { TroubleCode } from "../../core/refusal";
import type { WorkProgress } from "../../server/workspace/watch";
import { CLIENT } from "./client-id";
import { Silence } from "./silence";
import { sitePath } from "./site-path";
import { beginWait, type Wait } from "./waits";

/** An answer that says in words what went wrong; `code` tells what kind of trouble it is. */
export class ApiError extends Error {
  constructor(
    message: string,
    readonly code: TroubleCode | "offline" = "bug",
  ) {
    super(message);
  }
}

const NO_ANSWER =
  "The server does not answer. Check that it is running, then try again; your draft is kept in this window.";
const CUT_OFF = "The server's answer ended too early. Try again.";

export interface CallOptions {
  readonly signal?: AbortSignal;
  /** Sent even when the page is left meanwhile. */
  readonly keepalive?: boolean;
  /** Told how far the answer is, where it takes long. */
  readonly onProgress?: (progress: never) => void;
}

/**
 * Asks the server for something by its name.
 *
 * @throws {ApiError} with the server's words; `offline` where it does not answer, or has said nothing for a minute. An abort is thrown as it is.
 */
export async function call<N extends CallName>(
  name: N,
  input: CallInput<N>,
  { signal, keepalive = false, onProgress }: CallOptions = {},
): Promise<CallResult<N>> {
  const silence = new Silence();
  try {
    const response = await fetch(name.startsWith("sites.") ? `/api/${name}` : sitePath(`/api/${name}`), {
      method: "POST",
      body: JSON.stringify(input),
      headers: {
        "content-type": "application/json",
        accept: "application/json, application/x-ndjson",
        "x-client": CLIENT,
      },
      keepalive,
      signal: silence.signal(signal),
    });
    silence.heard();
    if (response.headers.get("content-type")?.startsWith("application/x-ndjson"))
      return (await inPieces(response, silence, onProgress as Told | undefined)) as CallResult<N>;
    return (await whole(response)) as CallResult<N>;
  } catch (error) {
    if (!silence.isTooLong && (error instanceof ApiError || isAborted(error))) throw error;
    throw new ApiError(NO_ANSWER, "offline");
  } finally {
    silence.end();
  }
}

/** Sends a file, or what was typed in its place, and gives what the server made of it. @throws {ApiError} */
export async function sendFile<T>(path: string, body: Blob): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, { method: "POST", body, headers: { "x-client": CLIENT } });
  } catch {
    throw new ApiError(NO_ANSWER, "offline");
  }
  return (await whole(response)) as T;
}

type Told = (progress: unknown) => void;

interface Said {
  /** A quick answer is late: it waits for what the server is at. */
  readonly late?: boolean;
  readonly progress?: unknown;
  readonly result?: unknown;
  readonly error?: string;
  readonly code?: TroubleCode;
  readonly cancelled?: boolean;
}

async function whole(response: Response): Promise<unknown> {
  if (!response.ok) throw troubleOf((await response.json().catch(() => null)) as Said | null, response.status);
  return response.json().catch(() => {
    throw new ApiError(CUT_OFF, "offline");
  });
}

/**
 * Reads an answer that comes as lines of JSON: how far it is, then the result. Where it should have been there at once, and waits
 * for others, every screen says for what.
 */
async function inPieces(response: Response, silence: Silence, onProgress: Told | undefined): Promise<unknown> {
  if (!response.ok || !response.body) throw troubleOf(null, response.status);
  let wait: Wait | null = null;
  try {
    for await (const said of saidIn(response.body, silence)) {
      if ("result" in said) return said.result;
      if (said.cancelled || said.error !== undefined) throw troubleOf(said, response.status);
      if (said.late) wait ??= beginWait();
      if (said.progress === undefined) continue;
      wait?.told(said.progress as WorkProgress);
      onProgress?.(said.progress);
    }
  } finally {
    wait?.end();
  }
  throw new ApiError(CUT_OFF, "offline");
}

async function* saidIn(body: ReadableStream<Uint8Array<ArrayBuffer>>, silence: Silence): AsyncGenerator<Said> {
  const reader = body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (let isDone = false; !isDone;) {
    const { value, done } = await reader.read();
    silence.heard();
    isDone = done;
    const lines = (rest + (value ?? "")).split("\n");
    rest = done ? "" : lines.pop()!;
    for (const line of lines) if (line !== "") yield JSON.parse(line) as Said;
  }
}

function troubleOf(said: Said | null, status: number): Error {
  if (said?.cancelled) return new DOMException("Replaced by a newer request", "AbortError");
  return new ApiError(said?.error ?? `The server answered with status ${status}.`, said?.code ?? "bug");
}

/** Whether an error only says that a newer request took this one's place. */
export function isAborted(error: unknown): boolean {
  return error instanceof DOMException && error.name === "AbortError";
}

/** What an error says, for people. */
export function wordsOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
