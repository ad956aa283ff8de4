import { Refusal } from "../../core/refusal";
import { type StoredJob } from "../../store/jobs";

/** What a job of a run is to do: write one down of a review, write one's way back down, or go on with one that is there. */
export type RunParams =
  | {
      readonly do: "apply";
      readonly goingOut: string;
      readonly name: string;
      readonly click: string;
      readonly dueAt?: string | null;
    }
  | { readonly do: "take-back"; readonly of: number }
  | { readonly do: "go-on"; readonly run: number };

/** What came of it so far: the run's number. */
export interface RunResult {
  readonly run: number;
}

/** Tells who asked for a run its number as soon as it is written down. */
export class RunClicks {
  private readonly waiting = new Map<RunParams, (run: number) => void>();

  known(params: RunParams, run: number): void {
    for (const [own, tell] of this.waiting) if (JSON.stringify(own) === JSON.stringify(params)) tell(run);
  }

  /** The run's number, once it is written down. @throws {Refusal} with the job's words where it was not. */
  async of(params: RunParams, ended: Promise<StoredJob>): Promise<number> {
    try {
      return await Promise.race([
        new Promise<number>((resolve) => this.waiting.set(params, resolve)),
        ended.then((job) => {
          const { run } = (job.result ?? {}) as Partial<RunResult>;
          if (run === undefined) throw new Refusal("stale", job.message ?? "It was stopped before it began");
          return run;
        }),
      ]);
    } finally {
      this.waiting.delete(params);
    }
  }
}
