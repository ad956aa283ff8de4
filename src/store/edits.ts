import { Refusal } from "../core/refusal";
import { type EditedField } from "../core/edits/hand-text";
import { isExtra } from "../core/design/kinds";
import { type Db } from "./open";
import { nextRevision } from "./site";

/** One thing set on one item. `null`: not by hand; a keyword is never `null`, but `""`. */
export interface EditChange {
  readonly item: number;
  readonly field: EditedField;
  /** Of an image: its address as it stands in the body; `""` for what is no image's. */
  readonly image?: string | undefined;
  readonly before: string | null;
  readonly after: string | null;
}

/** A step of editing. `goal` says which side of its changes is to stand, `status` how far that is. */
export interface EditRow {
  readonly id: number;
  readonly label: string;
  readonly goal: "set" | "undone";
  readonly status: "running" | "stopped" | "done";
  readonly created_at: string;
}

/** A step with how far it got: changes that still have to be made, and those that someone else was before. */
export interface EditFigures extends EditRow {
  readonly waiting: number;
  readonly total: number;
  readonly skipped: number;
}

/** Writes a step down before anything of it is done. Nothing that was undone can be done again then. */
export function createEdit(db: Db, label: string, changes: Iterable<EditChange>, now: string): number {
  const insert = db.prepare(
    "INSERT INTO edit_changes (edit_id, item_id, field, image, before, after) VALUES (?, ?, ?, ?, ?, ?)",
  );
  return db
    .transaction(() => {
      db.prepare("DELETE FROM edits WHERE goal = 'undone' AND status = 'done'").run();
      const id = Number(
        db
          .prepare("INSERT INTO edits (label, goal, status, created_at) VALUES (?, 'set', 'running', ?)")
          .run(label, now).lastInsertRowid,
      );
      for (const { item, field, image = "", before, after } of changes)
        insert.run(id, item, field, image, before, after);
      return id;
    })
    .immediate();
}

const FIGURES = `
  SELECT edits.*,
    (SELECT count(*) FROM edit_changes WHERE edit_id = edits.id AND state = CASE goal WHEN 'set' THEN 'before' ELSE 'after' END) AS waiting,
    (SELECT count(*) FROM edit_changes WHERE edit_id = edits.id AND state = 'skipped') AS skipped,
    (SELECT count(*) FROM edit_changes WHERE edit_id = edits.id) AS total
  FROM edits`;

export function readEdit(db: Db, id: number): EditFigures | undefined {
  return db.prepare(`${FIGURES} WHERE id = ?`).get(id) as EditFigures | undefined;
}

/** The steps that can be taken back and done again now, and one that was stopped half-way. */
export interface EditSteps {
  readonly undo: EditFigures | null;
  readonly redo: EditFigures | null;
  readonly stopped: EditFigures | null;
}

export function editSteps(db: Db): EditSteps {
  const first = (where: string) =>
    (db.prepare(`${FIGURES} WHERE ${where} LIMIT 1`).get() as EditFigures | undefined) ?? null;
  return {
    undo: first("goal = 'set' AND status = 'done' ORDER BY id DESC"),
    redo: first("goal = 'undone' AND status = 'done' ORDER BY id"),
    stopped: first("status = 'stopped' ORDER BY id DESC"),
  };
}

export function setEdit(db: Db, id: number, goal: EditRow["goal"], status: EditRow["status"]): void {
  db.prepare("UPDATE edits SET goal = ?, status = ? WHERE id = ?").run(goal, status, id);
}

/** Steps that were under way when the process ended can be gone on with or taken back. */
export function stopInterruptedEdits(db: Db): void {
  db.prepare("UPDATE edits SET status = 'stopped' WHERE status = 'running'").run();
}

/**
 * Makes the next so many changes of a step, forward or back, in one transaction; gives how many were looked at. What no
 * longer reads as the step found or left it stays as it is, and is marked.
 */
export function editChunk(db: Db, id: number, most: number): number {
  const step = db.transaction((): number => {
    const edit = db.prepare("SELECT goal FROM edits WHERE id = ?").get(id) as Pick<EditRow, "goal"> | undefined;
    if (!edit) throw new Refusal("not-found", `There is no edit ${id}`);
    const [from, to] = edit.goal === "set" ? (["before", "after"] as const) : (["after", "before"] as const);
    const changes = db
      .prepare(
        "SELECT item_id AS item, field, image, before, after FROM edit_changes WHERE edit_id = ? AND state = ? LIMIT ?",
      )
      .all(id, from, most) as EditChange[];
    if (changes.length === 0) return 0;
    const revision = nextRevision(db);
    const write = valueWriter(db);
    const settle = db.prepare(
      "UPDATE edit_changes SET state = ? WHERE edit_id = ? AND item_id = ? AND field = ? AND image = ?",
    );
    for (const change of changes)
      settle.run(
        write(change, change[from], change[to], revision) ? to : "skipped",
        id,
        change.item,
        change.field,
        change.image ?? "",
      );
    return changes.length;
  });
  return step.immediate();
}

/** Sets a value on an item where it is still what is expected; says whether it was. */
function valueWriter(
  db: Db,
): (
  place: Pick<EditChange, "item" | "field" | "image">,
  expected: string | null,
  value: string | null,
  revision: number,
) => boolean {
  const keyword = db.prepare("SELECT keyword FROM items WHERE id = ?").pluck();
  const exists = db.prepare("SELECT 1 FROM items WHERE id = ?").pluck();
  const hand = db.prepare("SELECT value FROM hand_texts WHERE item_id = ? AND text = ?").pluck();
  const putKeyword = db.prepare("UPDATE items SET keyword = ?, revision = ? WHERE id = ?");
  const putHand = db.prepare(
    "INSERT INTO hand_texts (item_id, text, value) VALUES (?, ?, ?) ON CONFLICT (item_id, text) DO UPDATE SET value = excluded.value",
  );
  const dropHand = db.prepare("DELETE FROM hand_texts WHERE item_id = ? AND text = ?");
  const extra = db.prepare("SELECT value FROM hand_extras WHERE item_id = ? AND text = ? AND image = ?").pluck();
  const putExtra = db.prepare(
    "INSERT INTO hand_extras (item_id, text, image, value) VALUES (?, ?, ?, ?) ON CONFLICT (item_id, text, image) DO UPDATE SET value = excluded.value",
  );
  const dropExtra = db.prepare("DELETE FROM hand_extras WHERE item_id = ? AND text = ? AND image = ?");
  const touch = db.prepare("UPDATE items SET revision = ? WHERE id = ?");
  return ({ item, field, image = "" }, expected, value, revision) => {
    if (field === "keyword")
      return keyword.get(item) === expected && putKeyword.run(value ?? "", revision, item).changes === 1;
    if (exists.get(item) === undefined) return false;
    const isExtraText = isExtra(field);
    const now = (isExtraText ? extra.get(item, field, image) : hand.get(item, field)) as string | undefined;
    if ((now ?? null) !== expected) return false;
    if (isExtraText && value === null) dropExtra.run(item, field, image);
    else if (isExtraText) putExtra.run(item, field, image, value);
    else if (value === null) dropHand.run(item, field);
    else putHand.run(item, field, value);
    touch.run(revision, item);
    return true;
  };
}
