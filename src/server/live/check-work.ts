import { type JobWorker } from "../jobs/job-queue";
import { type OpenedSite } from "../workspace/opened-site";
import { type CheckProgress, type CheckScope, liveBases } from "./check-live";
import { storedConnection } from "../wire/wire-jobs";

export interface CheckParams {
  readonly scope: CheckScope;
}

export const checkWorker =
  (site: OpenedSite): JobWorker<CheckParams> =>
  async (params, { signal, tell }) => {
    const progress = (value: unknown) => {
      const now = value as CheckProgress;
      tell({ done: now.done, total: now.total, result: now });
    };
    const { state, ...result } = await site.writer.call("checkLive", params, { signal, progress });
    tell({ done: result.done, total: result.total });
    return { state, result };
  };

/** Begins to look at pages as visitors get them; one look at a time. @throws {Refusal} where it is not known where they are. */
export function startCheck(site: OpenedSite, scope: CheckScope, begunBy: string): number {
  liveBases(site.db, storedConnection(site.db));
  const open = site.jobs.open().find(({ type }) => type === "check");
  if (open) return open.id;
  return site.jobs.add({ type: "check", label: "Checking the live pages", params: { scope }, total: null, begunBy }).id;
}
