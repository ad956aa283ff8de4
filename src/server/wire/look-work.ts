import { type ByHandChoice } from "../../core/infer/by-hand";
import { Refusal } from "../../core/refusal";
import { readStoredConnection } from "../../store/wire";
import { type ImportProgress } from "../exchange/bring-in";
import { type JobWorker } from "../jobs/job-queue";
import { type OpenedSite } from "../workspace/opened-site";

export interface LookParams {
  readonly isFull: boolean;
  readonly byHand: ByHandChoice;
}

export const lookWorker =
  (site: OpenedSite): JobWorker<LookParams> =>
  async (params, { signal, tell }) => {
    const progress = (value: unknown) => tell({ done: (value as ImportProgress).rows, result: value });
    const { status, ...result } = await site.writer.call("look", params, { signal, progress });
    tell({ done: result.rows, total: result.rows });
    return { state: status, result };
  };

/** Begins to look at the live site; one look at a time. @throws {Refusal} where the site has no connection. */
export function startLook(site: OpenedSite, params: LookParams, begunBy: string): number {
  if (!readStoredConnection(site.db)) throw new Refusal("invalid", "This site has no connection yet.");
  const open = site.jobs.open().find(({ type }) => type === "look");
  if (open) return open.id;
  return site.jobs.add({ type: "look", label: "Looking at the live site", params, total: null, begunBy }).id;
}
