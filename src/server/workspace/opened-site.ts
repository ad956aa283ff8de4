import { join } from "node:path";
import { stopInterruptedEdits } from "../../store/edits";
import { stopInterruptedImports } from "../../store/imports";
import { type Db } from "../../store/open";
import { dropUnfinishedRuns, stopInterruptedRuns } from "../../store/runs";
import { type JobType } from "../../store/jobs";
import { readSite } from "../../store/site";
import { type JobMethods } from "../jobs/jobs-worker";
import { JobQueue, type JobWorker } from "../jobs/job-queue";
import { LinkReading } from "../links/link-reading";
import { log } from "../log";
import { RunClicks } from "../runs/run-clicks";
import { WorkerClient } from "../threads/worker-client";
import { Activity } from "./activity";
import { type ProofMethods, type ProofWorkerData } from "./proof-worker";
import { ThreadDeaths } from "./thread-deaths";

const now = () => new Date().toISOString();

/** How many MB the thread that looks at pages may take, where `NINE_LINES_MEMORY` says so. */
function memoryLimit(): { memory?: number } {
  const memory = Number(process.env["NINE_LINES_MEMORY"]);
  return memory > 0 ? { memory } : {};
}

/** One opened site: its database, the thread that proves, the one that writes, and the queue of what writes. */
export class OpenedSite {
  readonly proof: WorkerClient<ProofMethods>;
  readonly writer: WorkerClient<JobMethods>;
  readonly jobs: JobQueue;
  readonly clicks = new RunClicks();
  readonly links = new LinkReading(this);

  /**
   * @param workers how each type of job is done on this site.
   * @param threads the folder in which the threads' bundles are.
   */
  constructor(
    readonly db: Db,
    /** Its file. */
    readonly path: string,
    workers: (site: OpenedSite) => Readonly<Record<JobType, JobWorker>>,
    threads = join(process.cwd(), "dist"),
  ) {
    dropUnfinishedRuns(db);
    stopInterruptedRuns(db);
    stopInterruptedEdits(db);
    stopInterruptedImports(db);
    const deaths = new ThreadDeaths(db, now);
    const activity = new Activity();
    this.proof = new WorkerClient(join(threads, "proof-worker.mjs"), {
      name: "the thread that looks at the pages",
      data: (): ProofWorkerData => ({
        path,
        nearWorker: join(threads, "near-worker.mjs"),
        liveWorker: join(threads, "live-worker.mjs"),
        activity: activity.memory,
        refused: deaths.refusedLines(),
      }),
      sharesProgress: true,
      ...memoryLimit(),
      onDeath: (death) => deaths.note("proof", death, activity),
      refusal: (fingerprint) => deaths.refusal(fingerprint),
    });
    this.writer = new WorkerClient(join(threads, "jobs-worker.mjs"), {
      name: "the thread that writes",
      data: () => ({ path }),
      onDeath: (death) => {
        const at = deaths.note("writer", death, null);
        // Whatever it was at stands half-way; it can be gone on with.
        stopInterruptedRuns(db);
        stopInterruptedEdits(db);
        stopInterruptedImports(db);
        return at;
      },
      refusal: (fingerprint) => deaths.refusal(fingerprint),
    });
    this.jobs = new JobQueue(db, workers(this), now, (event, { id, type, state, done }, error) => {
      log.info({ event: `job-${event}`, job: id, type, state, done, ...(error ? { err: error } : {}) });
      if (event === "ended") this.links.kick();
    });
  }

  /** Brings the drafts' proofs into memory before anybody asks for them. */
  async warm(): Promise<void> {
    if (!readSite(this.db)) return;
    try {
      await this.proof.call("board", undefined);
      await this.writer.call("syncSearch", undefined);
      this.links.kick();
    } catch (error) {
      // Whoever asks next is told what is wrong.
      log.warn({ event: "not-warm", error: error instanceof Error ? error.message : String(error) });
    }
  }

  private uses = 0;

  /** Whether somebody waits for an answer, or long work is under way: it is not closed then. */
  get isAtWork(): boolean {
    return this.uses > 0 || this.proof.isAtWork || this.writer.isAtWork || this.jobs.open().length > 0;
  }

  /** Keeps it from being closed until what this gives is called. */
  hold(): () => void {
    this.uses++;
    let isHeld = true;
    return () => {
      if (isHeld) this.uses--;
      isHeld = false;
    };
  }

  now(): string {
    return now();
  }

  async close(): Promise<void> {
    this.links.close();
    this.jobs.close();
    await Promise.all([this.proof.close(), this.writer.close()]);
    this.db.close();
  }
}
