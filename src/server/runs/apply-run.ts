import { type ItemRow } from "../../store/items";
import { type Db } from "../../store/open";
import { type ChangeRow, countRun, createRun, readRun, setRunStatus, skipWaiting } from "../../store/runs";
import { nextRevision } from "../../store/site";

/** How many items one transaction changes: few enough to be quick, so that a stop is heard and a kill loses little. */
const CHUNK = 250;

/** How far a run got. */
export interface RunProgress {
  readonly run: number;
  readonly done: number;
  readonly total: number;
}

/**
 * Applies what waits in a run, an item's changes always in one transaction together. Ended at any moment, by a stop or
 * a kill, it has applied whole items only and goes on where it was. A change whose item no longer reads as it did when
 * the run was frozen is skipped and says so.
 */
export function applyRun(
  db: Db,
  id: number,
  options: { stopped?: () => boolean; progress?: (progress: RunProgress) => void; now: () => string },
): void {
  const run = readRun(db, id);
  if (!run) throw new Error(`There is no run ${id}`);
  const total = run.waiting + run.applied + run.skipped;
  let done = total - run.waiting;
  setRunStatus(db, id, "running", options.now());
  const step = db.transaction(() => applyChunk(db, id));
  for (;;) {
    if (options.stopped?.()) {
      setRunStatus(db, id, "stopped", options.now());
      return;
    }
    const count = step.immediate();
    if (count === 0) break;
    done += count;
    options.progress?.({ run: id, done, total });
  }
  setRunStatus(db, id, "done", options.now());
}

function applyChunk(db: Db, run: number): number {
  const changes = db
    .prepare(
      `SELECT * FROM run_changes WHERE run_id = ? AND status = 'waiting' AND item_id IN
         (SELECT DISTINCT item_id FROM run_changes WHERE run_id = ? AND status = 'waiting' ORDER BY item_id LIMIT ?) ORDER BY item_id, id`,
    )
    .all(run, run, CHUNK) as ChangeRow[];
  if (changes.length === 0) return 0;
  const revision = nextRevision(db);
  const itemOf = db.prepare("SELECT * FROM items WHERE id = ?");
  const handOf = db.prepare("SELECT value FROM hand_texts WHERE item_id = ? AND text = ?").pluck();
  const takesBack = db.prepare("SELECT type FROM runs WHERE id = ?").pluck().get(run) === "take-back";
  const taken = db.prepare("SELECT id FROM items WHERE path = ? AND id <> ? LIMIT 1");
  const moving = db.prepare(
    "SELECT 1 FROM run_changes WHERE run_id = ? AND item_id = ? AND path_before IS NOT NULL AND status = 'waiting' LIMIT 1",
  );
  const put = {
    title: db.prepare("UPDATE items SET title = ?, revision = ? WHERE id = ?"),
    description: db.prepare("UPDATE items SET description = ?, revision = ? WHERE id = ?"),
    robots: db.prepare("UPDATE items SET robots = ?, revision = ? WHERE id = ?"),
    slug: db.prepare("UPDATE items SET slug = ?, path = ?, revision = ? WHERE id = ?"),
    address: db.prepare("UPDATE items SET path = ?, revision = ? WHERE id = ?"),
  };
  const settle = db.prepare("UPDATE run_changes SET status = ?, reason = ? WHERE id = ?");
  const redirects = redirectWriter(db, run);
  const counts = { applied: 0, skipped: 0, redirects: 0 };
  for (const change of changes) {
    const item = itemOf.get(change.item_id) as ItemRow | undefined;
    const reason = reasonToSkip(change, item, {
      // What the run was frozen with may be the text by hand itself; on the way back it is what the run had put there.
      byHand: (text) => {
        const hand = handOf.get(change.item_id, text) as string | undefined;
        return hand !== undefined && hand !== change.after && !(takesBack && hand === change.before);
      },
      addressTaken: (path) => {
        const other = taken.get(path, change.item_id) as { id: number } | undefined;
        return other !== undefined && moving.get(run, other.id) === undefined;
      },
    });
    if (reason !== null) {
      settle.run("skipped", reason, change.id);
      counts.skipped++;
      continue;
    }
    if (change.text === "address") put.address.run(change.path_after, revision, change.item_id);
    else if (change.text === "slug") put.slug.run(change.after, change.path_after, revision, change.item_id);
    else put[change.text].run(change.after, revision, change.item_id);
    if (change.path_before !== null && change.path_after !== null && change.path_before !== change.path_after)
      counts.redirects += redirects(change.item_id, change.path_before, change.path_after);
    settle.run("applied", null, change.id);
    counts.applied++;
  }
  countRun(db, run, counts);
  return changes.length;
}

function reasonToSkip(
  change: ChangeRow,
  item: ItemRow | undefined,
  look: { byHand: (text: string) => boolean; addressTaken: (path: string) => boolean },
): string | null {
  if (!item) return "The page is no longer there";
  if (change.text !== "address") {
    if (item[change.text] !== change.before)
      return `The ${change.text} was changed meanwhile; it now reads “${item[change.text].slice(0, 80)}”`;
    if (look.byHand(change.text)) return `The ${change.text} was written by hand meanwhile`;
  }
  if (change.path_before !== null) {
    if (item.path !== change.path_before) return `The page moved meanwhile; it is now at ${item.path}`;
    if (change.path_after !== null && look.addressTaken(change.path_after))
      return `Another page is at ${change.path_after} meanwhile`;
  }
  return null;
}

/**
 * Writes the redirect that a move owes, so that no chains and no loops come about: what led to the old address leads to
 * the new one, and what led away from the new address ends, since a page stands there now.
 *
 * @returns says how many redirects it wrote.
 */
function redirectWriter(db: Db, run: number): (item: number, from: string, to: string) => number {
  const retireFrom = db.prepare("UPDATE redirects SET retired_by = ? WHERE from_path = ? AND retired_by IS NULL");
  const leading = db.prepare("SELECT id, item_id, from_path FROM redirects WHERE to_path = ? AND retired_by IS NULL");
  const retire = db.prepare("UPDATE redirects SET retired_by = ? WHERE id = ?");
  const insert = db.prepare("INSERT INTO redirects (run_id, item_id, from_path, to_path) VALUES (?, ?, ?, ?)");
  return (item, from, to) => {
    retireFrom.run(run, to);
    let written = 1;
    for (const old of leading.all(from) as { id: number; item_id: number; from_path: string }[]) {
      retire.run(run, old.id);
      if (old.from_path === to) continue;
      insert.run(run, old.item_id, old.from_path, to);
      written++;
    }
    insert.run(run, item, from, to);
    return written;
  };
}

/** Freezes the way back of a run: what it applied, the other way round. */
export function createTakeBack(db: Db, id: number, now: string): number {
  const run = readRun(db, id);
  if (!run) throw new Error(`There is no run ${id}`);
  if (run.taken_back_by !== null) throw new Error(`Run ${id} was taken back already, by run ${run.taken_back_by}`);
  if (run.status === "running") throw new Error(`Run ${id} is still under way; stop it first`);
  if (run.applied === 0) throw new Error(`Run ${id} applied nothing; there is nothing to take back`);
  function* reversed() {
    const page = db.prepare(
      "SELECT * FROM run_changes WHERE run_id = ? AND status = 'applied' AND id > ? ORDER BY id LIMIT 2000",
    );
    const revisionOf = db.prepare("SELECT revision FROM items WHERE id = ?");
    for (let after = 0; ;) {
      const rows = page.all(id, after) as ChangeRow[];
      if (rows.length === 0) return;
      for (const row of rows) {
        const item = revisionOf.get(row.item_id) as { revision: number } | undefined;
        yield {
          item_id: row.item_id,
          text: row.text,
          before: row.after,
          after: row.before,
          path_before: row.path_after,
          path_after: row.path_before,
          revision: item?.revision ?? 0,
        };
      }
      after = rows.at(-1)!.id;
    }
  }
  return db
    .transaction(() => {
      if (run.waiting > 0) skipWaiting(db, id, "The run was taken back before it got here");
      if (run.status !== "done") setRunStatus(db, id, "done", now);
      return createRun(
        db,
        { type: "take-back", ofRun: id, note: `Takes run ${id} back`, design: run.design, now },
        reversed(),
      );
    })
    .immediate();
}
