import { type JobType } from "../store/jobs";
import { openStore } from "../store/open";
import { editWorker } from "./edits/edit-work";
import { importBackWorker, importWorker } from "./exchange/import-work";
import { type JobWorker } from "./jobs/job-queue";
import { keywordWorker } from "./keywords/keyword-work";
import { runWorker } from "./runs/run-work";
import { checkWorker } from "./live/check-work";
import { lookWorker } from "./wire/look-work";
import { OpenedSite } from "./workspace/opened-site";

/** Opens a site's database with its threads and its queue; every type of job has its work here. */
export function openSite(path: string): OpenedSite {
  return new OpenedSite(
    openStore(path),
    path,
    (site) =>
      ({
        run: runWorker(site),
        edit: editWorker(site),
        import: importWorker(site),
        "import-back": importBackWorker(site),
        keywords: keywordWorker(site),
        look: lookWorker(site),
        check: checkWorker(site),
      }) satisfies Record<JobType, JobWorker>,
  );
}
