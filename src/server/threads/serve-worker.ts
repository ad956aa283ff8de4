import { parentPort } from "node:worker_threads";
import {
  type Call,
  CancelledCall,
  isRefusal,
  type Methods,
  type Reply,
  type Request,
  type SentError,
  STOP_CELLS,
} from "./call";

/** Answers calls in a worker thread, one after another: a call that waits for something holds up those behind it. */
export function serveWorker(methods: Methods, stop: Int32Array): void {
  const send = (reply: Reply) => parentPort!.postMessage(reply);
  let last: Promise<void> = Promise.resolve();
  parentPort!.on("message", (request: Request) => {
    last = last.then(() => answer(methods, stop, request, send));
  });
}

async function answer(
  methods: Methods,
  stop: Int32Array,
  { id, method, params }: Request,
  send: (reply: Reply) => void,
) {
  const call: Call = {
    cancelled: () => Atomics.load(stop, id % STOP_CELLS) === id,
    progress: (progress) => send({ id, progress }),
  };
  try {
    if (call.cancelled()) throw new CancelledCall();
    const work = methods[method] as (params: unknown, call: Call) => unknown;
    send({ id, result: await work(params, call) });
  } catch (error) {
    // What goes wrong in a call that nobody waits for is nobody's trouble.
    send({ id, error: sent(call.cancelled() ? new CancelledCall() : error) });
  }
}

function sent(error: unknown): SentError {
  const { message, name, stack } = error instanceof Error ? error : new Error(String(error));
  const { code } = (error ?? {}) as { code?: unknown };
  const isRefused = isRefusal(error);
  return {
    message,
    name,
    code: isRefused ? error.code : null,
    systemCode: !isRefused && typeof code === "string" ? code : null,
    stack: stack ?? null,
  };
}
