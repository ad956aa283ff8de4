import { createHash } from "node:crypto";
import { Worker } from "node:worker_threads";
import { Refusal } from "../../core/refusal";
import { CancelledCall, type Methods, type Reply, type Request, type SentError, STOP_CELLS } from "./call";
import { capital } from "../../core/text/capital";

/** A thread that ended though nobody asked it to. */
export interface WorkerDeath {
  /** What it was asked for at that time, `null` for nothing. */
  readonly method: string | null;
  /** Tells that call by its content. */
  readonly fingerprint: string | null;
  /** How many other calls waited. */
  readonly waiting: number;
  readonly error: string;
}

export interface WorkerOptions {
  /** What the thread is, for people: `the thread that looks at the pages`. */
  readonly name: string;
  /** What it is given at each start. */
  readonly data: () => object;
  /** How far one call is, is told to all that wait: they wait for it. */
  readonly sharesProgress?: boolean;
  /** How many MB of memory it may take; without it as many as this process may. */
  readonly memory?: number;
  /** Told of each death, before anything else is asked; gives what it was at, in words. */
  readonly onDeath?: (death: WorkerDeath) => string | null;
  /** Why a call is not made, `null` where it is: by its content ({@link fingerprintOf}). */
  readonly refusal?: (fingerprint: string, method: string) => string | null;
}

interface Waiting {
  readonly method: string;
  readonly params: unknown;
  readonly resolve: (value: unknown) => void;
  readonly reject: (error: Error) => void;
  readonly progress?: ((value: unknown) => void) | undefined;
}

/** A thread that died sooner than so many ms after its start is not started again at once. */
const SOON = 1000;
const PAUSE = 500;

/**
 * A worker thread and the calls it is answering, one after another. One that dies is noticed, what waited is told in words, and
 * another is there within a second.
 */
export class WorkerClient<M extends Methods> {
  private worker: Worker | null = null;
  private readonly stop = new Int32Array(new SharedArrayBuffer(4 * STOP_CELLS));
  private readonly waiting = new Map<number, Waiting>();
  private readonly lanes = new Map<string, number>();
  private readonly onlookers = new Set<(progress: unknown) => void>();
  private next = 1;
  private startedAt = 0;
  private restart: ReturnType<typeof setTimeout> | null = null;
  private isClosed = false;

  constructor(
    private readonly file: string,
    private readonly options: WorkerOptions,
  ) {
    this.start();
  }

  /**
   * Calls a method. A call in a lane takes the place of the one before it in that lane, which is then cancelled.
   *
   * @throws {CancelledCall} when a newer call took its place or its signal was aborted.
   * @throws {Refusal} `worker-died` when the thread ended meanwhile; `refused-call` when this call ended it twice before.
   */
  call<K extends keyof M & string>(
    method: K,
    params: Parameters<M[K]>[0],
    options: { lane?: string; progress?: (value: unknown) => void; signal?: AbortSignal } = {},
  ): Promise<Awaited<ReturnType<M[K]>>> {
    const id = this.next++;
    this.takeLane(options.lane, id);
    if (options.signal?.aborted) return Promise.reject(new CancelledCall());
    if (this.isClosed) return Promise.reject(new Refusal("worker-died", "The server is being ended."));
    const refused = this.options.refusal?.(fingerprintOf(method, params), method) ?? null;
    if (refused !== null) return Promise.reject(new Refusal("refused-call", refused));
    const cancel = () => this.cancel(id);
    options.signal?.addEventListener("abort", cancel);
    const answered = new Promise<Awaited<ReturnType<M[K]>>>((resolve, reject) => {
      const settle = resolve as (value: unknown) => void;
      this.waiting.set(id, { method, params, resolve: settle, reject, progress: options.progress });
      this.worker?.postMessage({ id, method, params } satisfies Request);
    });
    return answered.finally(() => options.signal?.removeEventListener("abort", cancel));
  }

  /** Whether something is asked of it that it has not answered yet. */
  get isAtWork(): boolean {
    return this.waiting.size > 0;
  }

  /** Tells how far the thread is with whatever it is at, until what this gives is called. */
  watch(told: (progress: unknown) => void): () => void {
    this.onlookers.add(told);
    return () => this.onlookers.delete(told);
  }

  async close(): Promise<void> {
    this.isClosed = true;
    if (this.restart) clearTimeout(this.restart);
    await this.worker?.terminate();
  }

  private start(): void {
    this.restart = null;
    this.startedAt = performance.now();
    const { data, memory } = this.options;
    const worker = new Worker(this.file, {
      workerData: { ...data(), stop: this.stop },
      ...(memory === undefined ? {} : { resourceLimits: { maxOldGenerationSizeMb: memory } }),
    });
    this.worker = worker;
    let reason: Error | null = null;
    worker.on("message", (reply: Reply) => this.take(reply));
    worker.on("error", (error: unknown) => {
      reason = error instanceof Error ? error : new Error(String(error));
    });
    worker.on("exit", (code) => this.died(worker, reason ?? new Error(`The thread ended with ${code}`)));
    // What was asked while there was no thread.
    for (const [id, { method, params }] of this.waiting) worker.postMessage({ id, method, params } satisfies Request);
  }

  private take(reply: Reply): void {
    const call = this.waiting.get(reply.id);
    if (!call) return;
    if ("progress" in reply) {
      for (const told of this.onlookers) told(reply.progress);
      if (this.options.sharesProgress) for (const waits of this.waiting.values()) waits.progress?.(reply.progress);
      else call.progress?.(reply.progress);
      return;
    }
    this.waiting.delete(reply.id);
    if ("error" in reply) call.reject(received(reply.error));
    else call.resolve(reply.result);
  }

  private died(worker: Worker, error: Error): void {
    if (this.isClosed || worker !== this.worker) return;
    this.worker = null;
    // Calls are answered in their order: it was at the first that has no answer yet.
    const [first] = this.waiting.values();
    const at = this.options.onDeath?.({
      method: first?.method ?? null,
      fingerprint: first ? fingerprintOf(first.method, first.params) : null,
      waiting: Math.max(0, this.waiting.size - 1),
      error: error.message,
    });
    const words = `${capital(this.options.name)} ended${at ? ` while it was at ${at}` : ""}. It is being restarted; your request was not done. Try again.`;
    for (const call of this.waiting.values()) call.reject(new Refusal("worker-died", words));
    this.waiting.clear();
    const pause = performance.now() - this.startedAt < SOON ? PAUSE : 0;
    this.restart = setTimeout(() => this.start(), pause);
  }

  private takeLane(lane: string | undefined, id: number): void {
    if (lane === undefined) return;
    const before = this.lanes.get(lane);
    if (before !== undefined && this.waiting.has(before)) this.cancel(before);
    this.lanes.set(lane, id);
  }

  /** Asks the worker to stop working on a call. */
  private cancel(id: number): void {
    Atomics.store(this.stop, id % STOP_CELLS, id);
  }
}

/** What a call is told by: its method and all that it was given. */
export function fingerprintOf(method: string, params: unknown): string {
  return createHash("sha256")
    .update(`${method} ${JSON.stringify(params)}`)
    .digest("base64url");
}

function received({ message, name, code, systemCode, stack }: SentError): Error {
  if (name === "Cancelled") return new CancelledCall();
  if (code !== null) return new Refusal(code, message);
  const error = Object.assign(new Error(message), systemCode === null ? { name } : { name, code: systemCode });
  if (stack !== null) error.stack = stack;
  return error;
}
