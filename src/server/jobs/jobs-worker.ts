import { workerData } from "node:worker_threads";
import { readNextLinks } from "../../store/links";
import { openStore } from "../../store/open";
import { syncSearch } from "../../store/search";
import { revision } from "../../store/site";
import { editJobs } from "../edits/edit-jobs";
import { importJobs } from "../exchange/import-jobs";
import { keywordJobs } from "../keywords/keyword-jobs";
import { runJobs } from "../runs/run-jobs";
import { wireJobs } from "../wire/wire-jobs";
import { serveWorker } from "../threads/serve-worker";

const { path, stop } = workerData as { path: string; stop: Int32Array };
const db = openStore(path);
const now = () => new Date().toISOString();

/** What the thread that writes does, one after another. */
const jobMethods = {
  ...runJobs(db, now),
  ...editJobs(db),
  ...importJobs(db, now),
  ...keywordJobs(db),
  ...wireJobs(db, path, now),
  /** Reads the links of the next bodies; says how many wait still. */
  readLinks: (_: undefined): number => readNextLinks(db),
  /** Brings the full text index up to date, so that who searches first need not wait for it. */
  syncSearch: (_: undefined): void => syncSearch(db, revision(db)),
};

export type JobMethods = typeof jobMethods;

serveWorker(jobMethods, stop);
