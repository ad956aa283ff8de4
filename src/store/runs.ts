import { type ReviewedText } from "../core/plan/review-filter";
import { type Db } from "./open";

export type RunType = "apply" | "take-back";
export type RunStatus = "ready" | "running" | "stopped" | "done";
export type ChangedText = ReviewedText | "address";

/** The column of a run in which the changes of each text are counted; pages that only move along are the rest. */
export const COUNT_COLUMNS = {
  title: "titles",
  description: "descriptions",
  slug: "slugs",
  robots: "robots",
  alt: "alts",
  keywords: "keywords",
  canonical: "canonicals",
  body: "bodies",
} as const satisfies Record<Exclude<ChangedText, "address">, string>;
const COUNTED = Object.entries(COUNT_COLUMNS);

export interface RunRow {
  id: number;
  type: RunType;
  of_run: number | null;
  status: RunStatus;
  taken_back_by: number | null;
  /** What a person called it; `""` for nothing. */
  name: string;
  note: string;
  design: string;
  created_at: string;
  ended_at: string | null;
  /** 1: it goes out over the site’s interface, and what is applied was confirmed by the site. */
  over_wire: 0 | 1;
  /** When it is to go out by itself, ISO 8601; `null`: when somebody says so. */
  due_at: string | null;
}

/** A run with how far it got. */
export interface RunFigures extends RunRow {
  readonly changes: number;
  readonly waiting: number;
  readonly applied: number;
  readonly skipped: number;
  /** Pages that it changes. */
  readonly items: number;
  /** Redirects that it wrote so far. */
  readonly redirects: number;
  readonly titles: number;
  readonly descriptions: number;
  readonly slugs: number;
  readonly robots: number;
  readonly alts: number;
  readonly keywords: number;
  readonly canonicals: number;
  /** Links of bodies. */
  readonly bodies: number;
}

export interface ChangeRow {
  id: number;
  run_id: number;
  item_id: number;
  text: ChangedText;
  before: string;
  after: string;
  path_before: string | null;
  path_after: string | null;
  /** Of an image: which of the body's it is, from 1, its address as it stands there, and its tag as it was before the run; of a link its number, text and tag. */
  part: number | null;
  image: string | null;
  tag: string | null;
  /** Of a link that is rewritten because a page moves: the page. */
  follows: number | null;
  revision: number;
  status: "waiting" | "applied" | "skipped";
  reason: string | null;
  /** Why it was skipped over the interface: the site refused it, or it was changed there meanwhile. */
  trouble: ChangeTrouble | null;
}

export type ChangeTrouble = "refused" | "changed";

export type NewChange = Pick<
  ChangeRow,
  "item_id" | "text" | "before" | "after" | "path_before" | "path_after" | "revision"
> &
  Partial<Pick<ChangeRow, "part" | "image" | "tag" | "follows">>;

/** What a run is made with. */
export interface NewRun {
  /** What a person called it; `""` for nothing. */
  readonly name: string;
  readonly note: string;
  /** The designs it was worked out with, as JSON. */
  readonly design: string;
  /** The sign of the click that asked for it: a second request with it is the same. */
  readonly click: string | null;
  readonly now: string;
}

/** Begins to write a run down; it counts as one when it is {@link finishRun | finished}. */
export function beginRun(db: Db, { name, note, design, click, now }: NewRun): number {
  const insert = db.prepare(
    `INSERT INTO runs (type, of_run, status, name, note, design, click, created_at, frozen, over_wire)
     VALUES ('apply', NULL, 'ready', ?, ?, ?, ?, ?, 0, coalesce((SELECT writes FROM connection), 0))`,
  );
  return Number(insert.run(name, note, design, click, now).lastInsertRowid);
}

/** Writes changes of a run that was begun, in one transaction. */
export function changeWriter(db: Db, run: number): (changes: readonly NewChange[]) => void {
  const insert = db.prepare(
    "INSERT INTO run_changes (run_id, item_id, text, before, after, path_before, path_after, part, image, tag, follows, revision) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
  );
  const write = db.transaction((changes: readonly NewChange[]) => {
    for (const {
      item_id,
      text,
      before,
      after,
      path_before,
      path_after,
      part,
      image,
      tag,
      follows,
      revision,
    } of changes)
      insert.run(
        run,
        item_id,
        text,
        before,
        after,
        path_before,
        path_after,
        part ?? null,
        image ?? null,
        tag ?? null,
        follows ?? null,
        revision,
      );
  });
  return (changes) => write.immediate(changes);
}

/** Makes what was written down a run. */
export function finishRun(db: Db, id: number, counts: Readonly<Record<ChangedText, number>>, items: number): void {
  db.prepare(
    `UPDATE runs SET items = @items, changes = ${Object.keys(counts)
      .map((text) => `@${text}`)
      .join(" + ")}, ${COUNTED.map(([text, column]) => `${column} = @${text}`).join(", ")}, frozen = 1 WHERE id = @id`,
  ).run({ ...counts, items, id });
}

/** Drops a run that was begun and is not finished. */
export function dropRun(db: Db, id: number): void {
  db.prepare("DELETE FROM runs WHERE id = ? AND frozen = 0").run(id);
}

/** Drops what a kill left of runs that were being written down: nothing of them was applied. */
export function dropUnfinishedRuns(db: Db): void {
  db.prepare("DELETE FROM runs WHERE frozen = 0").run();
}

/** The run that a click made, if there is one. */
export function runOfClick(db: Db, click: string): number | null {
  return (
    (db.prepare("SELECT id FROM runs WHERE click = ? AND frozen = 1").pluck().get(click) as number | undefined) ?? null
  );
}

/** Writes the way back of a run down: what it applied, the other way round. Call it inside a transaction. */
export function createTakeBackOf(db: Db, run: RunFigures, now: string): number {
  const insert = db.prepare(
    "INSERT INTO runs (type, of_run, status, note, design, created_at, over_wire) VALUES ('take-back', ?, 'ready', ?, ?, ?, ?)",
  );
  const note = `Takes run ${run.id} back`;
  const id = Number(insert.run(run.id, note, run.design, now, run.over_wire).lastInsertRowid);
  db.prepare(
    `INSERT INTO run_changes (run_id, item_id, text, before, after, path_before, path_after, part, image, tag, follows, revision)
     SELECT ?, item_id, text, after, before, path_after, path_before, part, image, tag, follows, revision FROM run_changes
     WHERE run_id = ? AND status = 'applied' ORDER BY item_id, id`,
  ).run(id, run.id);
  const counted = `SELECT
      count(*) AS changes, count(DISTINCT item_id) AS items,
      ${COUNTED.map(([text, column]) => `coalesce(sum(text = '${text}'), 0) AS ${column}`).join(", ")}
    FROM run_changes WHERE run_id = ?`;
  const figures = db.prepare(counted).get(id) as object;
  db.prepare(
    `UPDATE runs SET changes = @changes, items = @items, ${COUNTED.map(([, column]) => `${column} = @${column}`).join(", ")}
     WHERE id = @id`,
  ).run({ ...figures, id });
  db.prepare("UPDATE runs SET taken_back_by = ? WHERE id = ?").run(id, run.id);
  return id;
}

const FIGURES = "SELECT *, changes - applied - skipped AS waiting FROM runs WHERE frozen = 1";

/** Runs, the newest first. */
export function listRuns(db: Db, most = 200): RunFigures[] {
  return db.prepare(`${FIGURES} ORDER BY id DESC LIMIT ?`).all(most) as RunFigures[];
}

export function readRun(db: Db, id: number): RunFigures | undefined {
  return db.prepare(`${FIGURES} AND id = ?`).get(id) as RunFigures | undefined;
}

/** Adds to a run's figures what was just done of it; in the transaction that does it. */
export function countRun(
  db: Db,
  id: number,
  more: { readonly applied: number; readonly skipped: number; readonly redirects: number },
): void {
  db.prepare(
    "UPDATE runs SET applied = applied + @applied, skipped = skipped + @skipped, redirects = redirects + @redirects WHERE id = @id",
  ).run({ ...more, id });
}

/** Says when a run goes out by itself; `null`: when somebody says so. */
export function setDue(db: Db, id: number, dueAt: string | null): void {
  db.prepare("UPDATE runs SET due_at = ? WHERE id = ?").run(dueAt, id);
}

/** What runs there are and when they go out by themselves: another text with each that is made or set to another time. */
export function runsStamp(db: Db): string {
  return db
    .prepare(
      "SELECT coalesce(max(id), 0) || coalesce(group_concat(CASE WHEN due_at IS NULL THEN NULL ELSE ' ' || id || ' ' || due_at END), '') FROM runs",
    )
    .pluck()
    .get() as string;
}

/** Runs that are to go out by now and were not begun. */
export function dueRuns(db: Db, now: string): number[] {
  return db
    .prepare("SELECT id FROM runs WHERE frozen = 1 AND status = 'ready' AND due_at <= ? ORDER BY due_at")
    .pluck()
    .all(now) as number[];
}

/** Skips what still waits in a run. */
export function skipWaiting(db: Db, id: number, reason: string): void {
  const { changes } = db
    .prepare("UPDATE run_changes SET status = 'skipped', reason = ? WHERE run_id = ? AND status = 'waiting'")
    .run(reason, id);
  countRun(db, id, { applied: 0, skipped: changes, redirects: 0 });
}

export interface ChangeWithName extends ChangeRow {
  readonly name: string;
  readonly kind: string;
  /** Where the page is now; `""` for no address. */
  readonly path: string;
  readonly isGone: boolean;
}

const WITH_PAGE = `SELECT run_changes.*, coalesce(items.name, gone_items.name, '') AS name, coalesce(items.kind, gone_items.kind, '') AS kind,
    coalesce(items.path, gone_items.path, '') AS path, items.id IS NULL AS isGone
  FROM run_changes LEFT JOIN items ON items.id = run_changes.item_id LEFT JOIN gone_items ON gone_items.id = run_changes.item_id`;

/** A page of a run's changes by key: those after a change's id. */
export function changesAfter(db: Db, run: number, after: number, most: number): ChangeWithName[] {
  const rows = db
    .prepare(`${WITH_PAGE} WHERE run_id = ? AND run_changes.id > ? ORDER BY run_changes.id LIMIT ?`)
    .all(run, after, most) as (Omit<ChangeWithName, "isGone"> & { isGone: number })[];
  return rows.map(({ isGone, ...row }) => ({ ...row, isGone: isGone === 1 }));
}

/** A page whose body a run changed, as it is now. */
export interface BodyOfRun {
  readonly id: number;
  readonly key: string | null;
  readonly kind: string;
  readonly path: string | null;
  readonly name: string;
  readonly body: string;
}

/** The numbers of the pages whose bodies a run changed. */
export const PAGES_WITH_BODIES_OF_RUN =
  "SELECT item_id FROM run_changes WHERE run_id = ? AND text IN ('alt', 'body') AND status = 'applied'";

/** The bodies that a run changed, by key: those after a page’s number. */
export function bodiesOfRun(db: Db, run: number, after: number, most: number): BodyOfRun[] {
  return db
    .prepare(
      `SELECT items.id AS id, key, kind, path, name, body FROM items JOIN bodies ON bodies.item_id = items.id
       WHERE items.id IN (${PAGES_WITH_BODIES_OF_RUN}) AND items.id > ? ORDER BY items.id LIMIT ?`,
    )
    .all(run, after, most) as BodyOfRun[];
}

/** What runs did to one item, the newest first. */
export interface ItemHistory extends ChangeRow {
  readonly type: RunType;
  readonly run_at: string;
}

export function historyOfItem(db: Db, item: number, most = 100): ItemHistory[] {
  return db
    .prepare(
      "SELECT run_changes.*, runs.type AS type, coalesce(runs.ended_at, runs.created_at) AS run_at FROM run_changes JOIN runs ON runs.id = run_id WHERE item_id = ? ORDER BY run_changes.id DESC LIMIT ?",
    )
    .all(item, most) as ItemHistory[];
}

export interface RedirectRow {
  id: number;
  run_id: number;
  item_id: number;
  from_path: string;
  to_path: string;
  status: number;
  retired_by: number | null;
}

/** Redirects that runs wrote, by key; of one run, or all that hold now. */
export function redirectsAfter(db: Db, run: number | null, after: number, most: number): RedirectRow[] {
  return run === null
    ? (db
        .prepare(
          "SELECT * FROM redirects WHERE retired_by IS NULL AND retired_at IS NULL AND id > ? ORDER BY id LIMIT ?",
        )
        .all(after, most) as RedirectRow[])
    : (db
        .prepare("SELECT * FROM redirects WHERE run_id = ? AND id > ? ORDER BY id LIMIT ?")
        .all(run, after, most) as RedirectRow[]);
}

export function setRunStatus(db: Db, id: number, status: RunStatus, now: string): void {
  db.prepare("UPDATE runs SET status = ?, ended_at = CASE WHEN ? = 'done' THEN ? ELSE ended_at END WHERE id = ?").run(
    status,
    status,
    now,
    id,
  );
}

/** Runs that were under way when the process ended are stopped; they can be gone on with or taken back. */
export function stopInterruptedRuns(db: Db): number {
  return db.prepare("UPDATE runs SET status = 'stopped' WHERE status = 'running'").run().changes;
}
