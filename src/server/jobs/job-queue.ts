import { Refusal } from "../../core/refusal";
import {
  addJob,
  beginJob,
  endJob,
  isOpen,
  type JobType,
  listJobs,
  type NewJob,
  noteProgress,
  openJobs,
  readJob,
  stopInterruptedJobs,
  type StoredJob,
} from "../../store/jobs";
import { type Db } from "../../store/open";
import { CancelledCall } from "../threads/call";

/** What a job's work sees of it. */
export interface JobWork {
  /** Aborted when a person stops the job. */
  readonly signal: AbortSignal;
  /** Says how far it is; what is left out stays as it was. */
  readonly tell: (progress: Partial<Pick<StoredJob, "done" | "total" | "result">>) => void;
}

/** How a job ended. */
export interface JobEnd {
  readonly state: "done" | "stopped";
  readonly result?: unknown;
}

/** How a type of job is done. */
export type JobWorker<P = never> = (params: P, work: JobWork) => Promise<JobEnd>;

/** Told what went on, for the log. */
export type JobListener = (event: "began" | "ended", job: StoredJob, error: unknown) => void;

/** How far a job is is written down at most once in so many ms; until then it is known here. */
const WRITE_EVERY = 500;
/** So many jobs are shown. */
const MOST_SHOWN = 30;

/**
 * Long work that writes, one after another in the order in which it was asked for: while one writes, nothing else does. All of it
 * is in the store, so that what a kill interrupted is known afterwards.
 */
export class JobQueue {
  private running: { readonly id: number; readonly stop: AbortController; live: StoredJob; written: number } | null =
    null;
  private readonly ends = new Map<number, Set<(job: StoredJob) => void>>();
  private isClosed = false;

  constructor(
    private readonly db: Db,
    private readonly workers: Readonly<Record<JobType, JobWorker>>,
    private readonly now: () => string,
    private readonly listener: JobListener = () => {},
  ) {
    stopInterruptedJobs(db, now());
  }

  /** Puts a job behind all others; it begins when its turn comes. */
  add(job: NewJob): StoredJob {
    const added = addJob(this.db, job, this.now());
    this.pump();
    return this.read(added.id);
  }

  /** A job as it is now. @throws {Refusal} where there is none. */
  read(id: number): StoredJob {
    const job = this.running?.id === id ? this.running.live : readJob(this.db, id);
    if (!job) throw new Refusal("not-found", "That job no longer exists");
    return job;
  }

  /** The last jobs, the newest first. */
  list(): StoredJob[] {
    return listJobs(this.db, MOST_SHOWN).map((job) => (this.running?.id === job.id ? this.running.live : job));
  }

  /** What is under way and what waits behind it. */
  open(): StoredJob[] {
    return openJobs(this.db).map((job) => (this.running?.id === job.id ? this.running.live : job));
  }

  /** Waits for a job's end; with a limit in ms no longer than that: the job is given as it is then. */
  async ended(id: number, limit?: number): Promise<StoredJob> {
    const job = this.read(id);
    if (!isOpen(job.state)) return job;
    return new Promise((resolve) => {
      const listeners = this.ends.get(id) ?? new Set();
      this.ends.set(id, listeners);
      const timer = limit === undefined ? null : setTimeout(() => settle(this.read(id)), limit);
      const settle = (own: StoredJob) => {
        if (timer) clearTimeout(timer);
        listeners.delete(settle);
        resolve(own);
      };
      listeners.add(settle);
    });
  }

  /** Stops a job: one that waits is not begun any more, what one under way has done stays done. */
  stop(id: number): void {
    if (this.running?.id === id) this.running.stop.abort();
    else if (readJob(this.db, id)?.state === "waiting") this.end(id, { state: "stopped" }, null);
  }

  /** Begins nothing any more. */
  close(): void {
    this.isClosed = true;
  }

  private pump(): void {
    if (this.running || this.isClosed) return;
    const next = openJobs(this.db)[0];
    if (!next || !beginJob(this.db, next.id, this.now())) return;
    const job = readJob(this.db, next.id)!;
    const running = { id: job.id, stop: new AbortController(), live: job, written: performance.now() };
    this.running = running;
    this.listener("began", job, null);
    const tell: JobWork["tell"] = (progress) => {
      running.live = { ...running.live, ...progress };
      if (performance.now() - running.written < WRITE_EVERY) return;
      running.written = performance.now();
      noteProgress(this.db, job.id, running.live);
    };
    void this.work(job, { signal: running.stop.signal, tell });
  }

  private async work(job: StoredJob, work: JobWork): Promise<void> {
    try {
      const end = await (this.workers[job.type] as JobWorker<unknown>)(job.params, work);
      this.finish(job.id, end, null);
    } catch (error) {
      this.finish(job.id, error instanceof CancelledCall ? { state: "stopped" } : null, error);
    }
  }

  private finish(id: number, end: JobEnd | null, error: unknown): void {
    if (this.isClosed) return;
    if (this.running) noteProgress(this.db, id, this.running.live);
    this.running = null;
    this.end(id, end, error);
    this.pump();
  }

  private end(id: number, end: JobEnd | null, error: unknown): void {
    const state = end?.state ?? "failed";
    const message = end ? null : error instanceof Error ? error.message : String(error);
    endJob(this.db, id, { state, message, result: end?.result ?? null }, this.now());
    const job = readJob(this.db, id)!;
    this.listener("ended", job, end ? null : error);
    for (const listener of this.ends.get(id) ?? []) listener(job);
    this.ends.delete(id);
  }
}
