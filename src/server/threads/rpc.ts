import { parentPort, Worker } from "node:worker_threads";

/** Methods that a worker answers; each takes one value and gives one back, both structured-cloneable. */
export type Methods = Record<string, (params: never, call: Call) => unknown>;

/** What a method sees of the call that it answers. */
export interface Call {
  /** Whether the caller no longer wants the answer. */
  readonly cancelled: () => boolean;
  readonly progress: (value: unknown) => void;
}

type Request = { id: number; method: string; params: unknown };
type Reply = { id: number; result?: unknown; error?: { message: string; name: string }; progress?: unknown };

/** Answers calls in a worker thread, one after another. */
export function serveWorker(methods: Methods, stop: Int32Array): void {
  parentPort!.on("message", ({ id, method, params }: Request) => {
    const call: Call = {
      cancelled: () => Atomics.load(stop, id & STOP_MASK) === id,
      progress: (progress) => parentPort!.postMessage({ id, progress } satisfies Reply),
    };
    void (async () => {
      try {
        if (call.cancelled()) throw new CancelledCall();
        const result = await (methods[method] as (params: unknown, call: Call) => unknown)(params, call);
        parentPort!.postMessage({ id, result } satisfies Reply);
      } catch (error) {
        const { message, name } = error instanceof Error ? error : new Error(String(error));
        parentPort!.postMessage({ id, error: { message, name } } satisfies Reply);
      }
    })();
  });
}

/** Thrown to the caller of a call that was cancelled or made needless by a newer one. */
export class CancelledCall extends Error {
  constructor() {
    super("A newer request took this one's place");
    this.name = "Cancelled";
  }
}

const STOP_MASK = 1023;

/** A worker thread and the calls it is answering. */
export class WorkerClient<M extends Methods> {
  private readonly worker: Worker;
  private readonly stop = new Int32Array(new SharedArrayBuffer(4 * (STOP_MASK + 1)));
  private readonly waiting = new Map<
    number,
    { resolve: (value: unknown) => void; reject: (error: Error) => void; progress?: (value: unknown) => void }
  >();
  private readonly lanes = new Map<string, number>();
  private next = 1;

  /** @param options `sharesProgress`: how far one call is, is told to all that wait: they wait for it. */
  constructor(file: string, data: object, options: { sharesProgress?: boolean } = {}) {
    this.worker = new Worker(file, { workerData: { ...data, stop: this.stop } });
    this.worker.on("message", (reply: Reply) => {
      const call = this.waiting.get(reply.id);
      if (!call) return;
      if ("progress" in reply) {
        if (options.sharesProgress) for (const waits of this.waiting.values()) waits.progress?.(reply.progress);
        else call.progress?.(reply.progress);
        return;
      }
      this.waiting.delete(reply.id);
      if (reply.error)
        call.reject(
          reply.error.name === "Cancelled"
            ? new CancelledCall()
            : Object.assign(new Error(reply.error.message), { name: reply.error.name }),
        );
      else call.resolve(reply.result);
    });
    this.worker.on("error", (error) => {
      for (const call of this.waiting.values()) call.reject(error instanceof Error ? error : new Error(String(error)));
      this.waiting.clear();
    });
  }

  /**
   * Calls a method. A call in a lane takes the place of the one before it in that lane, which is then cancelled.
   *
   * @throws {CancelledCall} when a newer call took its place.
   */
  call<K extends keyof M & string>(
    method: K,
    params: Parameters<M[K]>[0],
    options: { lane?: string; progress?: (value: unknown) => void; signal?: AbortSignal } = {},
  ): Promise<Awaited<ReturnType<M[K]>>> {
    const id = this.next++;
    if (options.lane !== undefined) {
      const before = this.lanes.get(options.lane);
      if (before !== undefined && this.waiting.has(before)) this.cancel(before);
      this.lanes.set(options.lane, id);
    }
    if (options.signal?.aborted) return Promise.reject(new CancelledCall());
    options.signal?.addEventListener("abort", () => this.cancel(id));
    return new Promise((resolve, reject) => {
      this.waiting.set(id, {
        resolve: resolve as (value: unknown) => void,
        reject,
        ...(options.progress ? { progress: options.progress } : {}),
      });
      this.worker.postMessage({ id, method, params } satisfies Request);
    });
  }

  /** Asks the worker to stop working on a call. */
  private cancel(id: number): void {
    Atomics.store(this.stop, id & STOP_MASK, id);
  }

  async close(): Promise<void> {
    await this.worker.terminate();
  }
}
