import { workerData } from "node:worker_threads";
import { type Mapping } from "../../formats/mapping";
import { databasePath, explain, openStore } from "../../store/open";
import { setRunStatus } from "../../store/runs";
import { stopInterruptedEdits } from "../../store/edits";
import { syncSearch } from "../../store/search";
import { revision } from "../../store/site";
import { applyEdit } from "../edits/apply-edit";
import { applyRun } from "../runs/apply-run";
import { bringIn, uploadedFile } from "../exchange/bring-in";
import { bringKeywords, type KeywordMapping } from "../keywords/bring-keywords";
import { type Call, serveWorker } from "../threads/rpc";

const { path, stop } = workerData as { path: string; stop: Int32Array };
const db = openStore(path);
const now = () => new Date().toISOString();

/** Long work that writes: one job after another, each with progress and a way to stop it. */
export const jobMethods = {
  apply: ({ run }: { run: number }, call: Call): void => {
    try {
      applyRun(db, run, { now, stopped: call.cancelled, progress: call.progress });
    } catch (error) {
      try {
        setRunStatus(db, run, "stopped", now());
      } catch {
        // Where nothing can be written, the next start marks the run as stopped.
      }
      throw new Error(explain(error, databasePath()), { cause: error });
    }
  },
  edit: ({ edit }: { edit: number }, call: Call): void => {
    try {
      applyEdit(db, edit, { stopped: call.cancelled, progress: call.progress });
    } catch (error) {
      try {
        stopInterruptedEdits(db);
      } catch {
        // Where nothing can be written, the next start marks the step as stopped.
      }
      throw new Error(explain(error, databasePath()), { cause: error });
    }
  },
  /** Brings the full text index up to date, so that who searches first need not wait for it. */
  syncSearch: (): void => syncSearch(db, revision(db)),
  bringKeywords: ({ token, mapping }: { token: string; mapping: KeywordMapping }, call: Call) =>
    bringKeywords(db, token, mapping, call.progress),
  bringIn: ({ token, name, mapping }: { token: string; name: string; mapping: Mapping }, call: Call) =>
    bringIn(db, uploadedFile(token), name, mapping, { now, stopped: call.cancelled, progress: call.progress }),
};

export type JobMethods = typeof jobMethods;

serveWorker(jobMethods, stop);
