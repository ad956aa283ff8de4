import { randomUUID } from "node:crypto";
import * as z from "zod";
import { type TroubleCode } from "../../core/refusal";
import { explain, isStoreFailure } from "../../store/open";
import { log } from "../log";
import { isRefusal } from "../threads/call";

/** What is said of a request that was not done. */
export type Failure = { readonly cancelled: true } | { readonly error: string; readonly code: TroubleCode };

const STATUS = {
  invalid: 422,
  "not-found": 404,
  stale: 409,
  busy: 409,
  conflict: 409,
  "worker-died": 503,
  "refused-call": 422,
  store: 507,
  site: 502,
  bug: 500,
} as const satisfies Record<TroubleCode, number>;

/** Does a request's work and answers with JSON; trouble becomes words with a fitting status. */
export async function answer(work: () => unknown, name: string): Promise<Response> {
  try {
    return Response.json((await work()) ?? null);
  } catch (error) {
    const { body, status } = failure(error, name);
    return Response.json(body, { status });
  }
}

/** What an error means for who asked. A bug gets a number under which the log has it. */
export function failure(error: unknown, name: string): { body: Failure; status: number } {
  if (error instanceof Error && error.name === "Cancelled") return { body: { cancelled: true }, status: 409 };
  const { code, words, status } = meaning(error);
  if (code !== "bug") return { body: { error: words, code }, status };
  const number = randomUUID().slice(0, 8);
  log.error({ event: "bug", call: name, number, err: error });
  const told = `Something went wrong. Details are in the server log under ${number}. Nothing is lost; try again.`;
  return { body: { error: told, code }, status };
}

function meaning(error: unknown): { code: TroubleCode; words: string; status: number } {
  if (error instanceof z.ZodError)
    return { code: "invalid", words: `The request is not valid: ${z.prettifyError(error)}`, status: 400 };
  if (error instanceof SyntaxError) return { code: "invalid", words: "The request has no JSON.", status: 400 };
  if (isRefusal(error)) return { code: error.code, words: error.message, status: STATUS[error.code] };
  if (isStoreFailure(error)) return { code: "store", words: explain(error), status: STATUS.store };
  return { code: "bug", words: "", status: STATUS.bug };
}

/** So often an answer that is not there yet says that it is being worked on, in ms: whoever waits for it takes silence for a server that is gone. */
const BEAT = 5_000;

/** The media type of an answer in pieces; a quick call comes so, too, where it is late and who asks takes it. */
export const PIECES = "application/x-ndjson";

/**
 * Does work that may take long and answers with lines of JSON: any number of `{ "progress": … }`, then `{ "result": … }` or
 * what {@link answer} says of an error. Between them come empty lines, so that it is heard of every few seconds.
 *
 * @param isLate whether it should have been answered already: then `{ "late": true }` comes first.
 */
export function answerInPieces(
  work: (progress: (value: unknown) => void) => unknown,
  name: string,
  isLate = false,
): Response {
  const encoder = new TextEncoder();
  let open = true;
  const body = new ReadableStream<Uint8Array>({
    async start(controller) {
      const send = (line: string) => {
        if (open) controller.enqueue(encoder.encode(`${line}\n`));
      };
      const tell = (value: unknown) => send(JSON.stringify(value));
      const beat = setInterval(send, BEAT, "");
      try {
        if (isLate) tell({ late: true });
        tell({ result: (await work((progress) => tell({ progress }))) ?? null });
      } catch (error) {
        tell(failure(error, name).body);
      }
      clearInterval(beat);
      if (open) controller.close();
      open = false;
    },
    cancel() {
      open = false;
    },
  });
  return new Response(body, {
    headers: { "content-type": `${PIECES}; charset=utf-8`, "cache-control": "no-store" },
  });
}
