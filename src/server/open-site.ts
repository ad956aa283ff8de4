import { type JobType } from "../store/jobs";
import { openStore } from "../store/open";
import { editWorker } from "./edits/edit-work";
import { cleanUploads, KEPT_FOR_MS } from "./exchange/uploads";
import { importWorker } from "./exchange/import-work";
import { type JobWorker } from "./jobs/job-queue";
import { keywordWorker } from "./keywords/keyword-work";
import { runWorker } from "./runs/run-work";
import { OpenedSite } from "./workspace/opened-site";

const HOUR_MS = 3600 * 1000;

/** Opens a site's database with its threads and its queue; every type of job has its work here. */
export function openSite(path: string): OpenedSite {
  const site = new OpenedSite(
    openStore(path),
    path,
    (site) =>
      ({
        run: runWorker(site),
        edit: editWorker(site),
        import: importWorker(site),
        keywords: keywordWorker(site),
      }) satisfies Record<JobType, JobWorker>,
  );
  cleanUploads(filesWanted(site), 0);
  setInterval(() => cleanUploads(filesWanted(site), KEPT_FOR_MS), HOUR_MS).unref();
  return site;
}

/** The received files that open jobs need. */
function filesWanted({ jobs }: OpenedSite): Set<string> {
  const tokens = jobs.open().map(({ params }) => (params as { token?: string }).token);
  return new Set(tokens.filter((token) => token !== undefined));
}
