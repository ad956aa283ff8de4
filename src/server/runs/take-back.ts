import { Refusal } from "../../core/refusal";
import { type Db } from "../../store/open";
import { sentPages } from "../../store/wire";
import { createTakeBackOf, readRun, setRunStatus, skipWaiting } from "../../store/runs";

/**
 * Writes the way back of a run down: what it applied, the other way round, as a run of its own.
 *
 * @throws {Refusal} where it was taken back already, is under way, or applied nothing.
 */
export function createTakeBack(db: Db, id: number, now: string): number {
  return db
    .transaction(() => {
      const run = readRun(db, id);
      if (!run) throw new Refusal("not-found", `There is no run ${id}`);
      if (run.taken_back_by !== null)
        throw new Refusal("invalid", `Run ${id} was already undone by run ${run.taken_back_by}`);
      if (run.type === "take-back")
        throw new Refusal("invalid", `Run ${id} takes run ${run.of_run} back itself; apply the drafts again instead`);
      if (run.status === "running") throw new Refusal("busy", `Run ${id} is still running; stop it first`);
      const sent = sentPages(db, id).length;
      if (sent > 0)
        throw new Refusal(
          "busy",
          `Of run ${id} ${sent.toLocaleString("en")} ${sent === 1 ? "page was" : "pages were"} sent and not confirmed yet. Continue it first, so that it is known what the site has.`,
        );
      if (run.applied === 0) throw new Refusal("invalid", `Run ${id} applied nothing; there is nothing to undo`);
      if (run.waiting > 0) skipWaiting(db, id, "The run was undone before this page’s turn");
      if (run.status !== "done") setRunStatus(db, id, "done", now);
      return createTakeBackOf(db, run, now);
    })
    .immediate();
}
