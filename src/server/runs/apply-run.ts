import { Refusal } from "../../core/refusal";
import { type Db } from "../../store/open";
import { readRun, setRunStatus } from "../../store/runs";
import { Applier } from "./applier";
import { settleMoves } from "./settle-moves";

/** How far a run got. */
export interface RunProgress {
  readonly run: number;
  readonly done: number;
  readonly total: number;
}

/**
 * Applies what waits in a run, an item's changes always in one transaction together. Ended at any moment, by a stop or
 * a kill, it has applied whole items only and goes on where it was. A change whose item no longer reads as it did when
 * the run was frozen is skipped and says so; so is what could not move without it.
 */
export function applyRun(
  db: Db,
  id: number,
  options: { stopped?: () => boolean; progress?: (progress: RunProgress) => void; now: () => string },
): "done" | "stopped" {
  const run = readRun(db, id);
  if (!run) throw new Refusal("not-found", `There is no run ${id}`);
  const total = run.waiting + run.applied + run.skipped;
  setRunStatus(db, id, "running", options.now());
  const { together } = settleMoves(db, id);
  const applier = new Applier(db, id);
  const end = (status: "done" | "stopped") => {
    setRunStatus(db, id, status, options.now());
    return status;
  };
  let done = total - readRun(db, id)!.waiting;
  const queue = together.map((items) => () => applier.applyItems(items));
  for (;;) {
    if (options.stopped?.()) return end("stopped");
    const next = queue.shift();
    const count = next ? next() : applier.applyNext();
    if (count === 0 && !next) break;
    done += count;
    options.progress?.({ run: id, done, total });
  }
  return end("done");
}
