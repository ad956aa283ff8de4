import { type Db } from "../../store/open";

/** A page that moved. */
export interface Moved {
  readonly item: number;
  readonly from: string;
  readonly to: string;
}

/**
 * Writes the redirects that moves owe, so that no chains and no loops come about: what led to the old address leads to the new
 * one, and what led away from the new address ends, since a page stands there now. An address at which another page stands
 * has none. Call it when the pages of a transaction have moved.
 *
 * @returns writes a move's redirects and says how many.
 */
export function redirectWriter(db: Db, run: number): (move: Moved) => number {
  // What a person or a file gave is theirs: the fold of all redirects follows it to where its page is now.
  const retireFrom = db.prepare(
    "UPDATE redirects SET retired_by = ? WHERE from_path = ? AND retired_by IS NULL AND origin = 'run'",
  );
  const leading = db
    .prepare(
      "SELECT id, from_path FROM redirects WHERE item_id = ? AND to_path = ? AND retired_by IS NULL AND retired_at IS NULL",
    )
    .raw();
  const retire = db.prepare("UPDATE redirects SET retired_by = ? WHERE id = ?");
  const insert = db.prepare(
    "INSERT INTO redirects (run_id, item_id, from_path, to_path, created_at) SELECT id, ?, ?, ?, created_at FROM runs WHERE id = ?",
  );
  const standsAt = db.prepare("SELECT 1 FROM items WHERE path = ? LIMIT 1");
  return ({ item, from, to }) => {
    let written = 0;
    const owe = (old: string) => {
      if (old === to || standsAt.get(old) !== undefined) return;
      insert.run(item, old, to, run);
      written++;
    };
    retireFrom.run(run, to);
    // Of the pages that were at the old address one after another it is this one that has moved on.
    for (const [id, old] of leading.all(item, from) as [number, string][]) {
      retire.run(run, id);
      owe(old);
    }
    retireFrom.run(run, from);
    owe(from);
    return written;
  };
}
