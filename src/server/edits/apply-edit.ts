import { Refusal } from "../../core/refusal";
import { editChunk, readEdit, setEdit } from "../../store/edits";
import { type Db } from "../../store/open";

/** Changes to a transaction. */
const CHUNK = 500;

export interface EditProgress {
  readonly edit: number;
  readonly done: number;
  readonly total: number;
}

/**
 * Brings a step of editing to where its changes stand, or do not stand any more. Stopped or ended at any moment, it goes on
 * where it was, or back.
 */
export function applyEdit(
  db: Db,
  id: number,
  goal: "set" | "undone",
  options: { stopped?: () => boolean; progress?: (progress: EditProgress) => void } = {},
): "done" | "stopped" {
  setEdit(db, id, goal, "running");
  const edit = readEdit(db, id);
  if (!edit) throw new Refusal("not-found", "That step no longer exists");
  const total = edit.total - edit.skipped;
  let done = total - edit.waiting;
  const end = (status: "done" | "stopped") => {
    setEdit(db, id, goal, status);
    return status;
  };
  for (;;) {
    if (options.stopped?.()) return end("stopped");
    const count = editChunk(db, id, CHUNK);
    if (count === 0) return end("done");
    options.progress?.({ edit: id, done: (done += count), total });
  }
}
