import { type Db } from "../../store/open";
import { setRunStatus } from "../../store/runs";
import { type Call } from "../threads/call";
import { applyRun } from "./apply-run";
import { createTakeBack } from "./take-back";

/** What the thread that writes does for runs. */
export const runJobs = (db: Db, now: () => string) => ({
  applyRun: ({ run }: { run: number }, call: Call): "done" | "stopped" => {
    try {
      return applyRun(db, run, { now, stopped: call.cancelled, progress: call.progress });
    } catch (error) {
      try {
        setRunStatus(db, run, "stopped", now());
      } catch {
        // Where nothing can be written, the next start marks the run as stopped.
      }
      throw error;
    }
  },
  createTakeBack: ({ run }: { run: number }): number => createTakeBack(db, run, now()),
});
