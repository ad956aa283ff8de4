import { editChunk, readEdit, setEdit } from "../../store/edits";
import { type Db } from "../../store/open";

/** Changes to a transaction. */
const CHUNK = 500;

export interface EditProgress {
  readonly edit: number;
  readonly done: number;
  readonly total: number;
}

/** Makes what is left of a step of editing, or takes back what is left of one. Stopped or ended at any moment, it goes on where it was. */
export function applyEdit(
  db: Db,
  id: number,
  options: { stopped?: () => boolean; progress?: (progress: EditProgress) => void } = {},
): void {
  const edit = readEdit(db, id);
  if (!edit) throw new Error(`There is no edit ${id}`);
  const total = edit.total - edit.skipped;
  let done = total - edit.waiting;
  setEdit(db, id, edit.goal, "running");
  for (;;) {
    if (options.stopped?.()) {
      setEdit(db, id, edit.goal, "stopped");
      return;
    }
    const count = editChunk(db, id, CHUNK);
    if (count === 0) break;
    options.progress?.({ edit: id, done: (done += count), total });
  }
  setEdit(db, id, edit.goal, "done");
}
