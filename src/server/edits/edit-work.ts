import { Refusal } from "../../core/refusal";
import { editSteps, type EditSteps, readEdit, setEdit } from "../../store/edits";
import { isOpen } from "../../store/jobs";
import { type JobWorker } from "../jobs/job-queue";
import { type OpenedSite } from "../workspace/opened-site";
import { type EditProgress } from "./apply-edit";

/** What a job of a step of editing is to do. */
export interface EditParams {
  readonly edit: number;
  readonly goal: "set" | "undone";
}

/** Most steps are small: who asked is answered when they are made. A large one is waited for no longer than so many ms. */
const WAITED_FOR = 700;

export const editWorker =
  (site: OpenedSite): JobWorker<EditParams> =>
  async (params, { signal, tell }) => {
    const progress = (value: unknown) => {
      const { done, total } = value as EditProgress;
      tell({ done, total });
    };
    return { state: await site.writer.call("applyEdit", params, { signal, progress }) };
  };

/** What can be taken back and done again, and what a step that was asked for waits for. */
export interface MadeSteps {
  readonly steps: EditSteps;
  /** What is under way before it, by its name; `null` where it is made or being made. */
  readonly waitsFor: string | null;
}

/** Brings a step of editing to where its changes stand, or do not stand any more. */
export async function runEdit(site: OpenedSite, { edit: id, goal }: EditParams, begunBy: string): Promise<MadeSteps> {
  const edit = readEdit(site.db, id);
  if (!edit) throw new Refusal("not-found", "That step no longer exists");
  const isUnderWay = site.jobs
    .open()
    .some(({ type, state, params }) => type === "edit" && isOpen(state) && (params as EditParams).edit === id);
  if (isUnderWay) throw new Refusal("busy", "That step is still running; stop it first");
  setEdit(site.db, id, goal, "running");
  const label = goal === "set" ? edit.label : `Undoing: ${edit.label}`;
  const params: EditParams = { edit: id, goal };
  const job = site.jobs.add({ type: "edit", label, params, total: edit.total - edit.skipped, begunBy });
  const now = await site.jobs.ended(job.id, WAITED_FOR);
  if (now.state === "failed") throw new Refusal("store", now.message ?? "The step could not be made");
  const first = site.jobs.open()[0];
  return { steps: editSteps(site.db), waitsFor: now.state === "waiting" && first ? first.label : null };
}

/** Makes a step that was just written down. */
export async function madeStep<T extends { readonly edit: number | null }>(
  site: OpenedSite,
  made: T,
  begunBy: string,
): Promise<T & MadeSteps> {
  if (made.edit === null) return { ...made, steps: editSteps(site.db), waitsFor: null };
  return { ...made, ...(await runEdit(site, { edit: made.edit, goal: "set" }, begunBy)) };
}
