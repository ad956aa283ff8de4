import { createHash } from "node:crypto";
import { type HandExtra, type HandName, type Hands } from "../core/design/hands";
import { type Kind } from "../core/design/kinds";
import { type HandChange } from "./hands";
import { ITEM_COLUMNS, type ItemRow } from "./items";
import { type Db } from "./open";

/** The columns that a bringing in can change. */
export const CHANGED_COLUMNS = ["key", "kind", "path", ...ITEM_COLUMNS, "attributes"] as const;
export type ChangedColumn = (typeof CHANGED_COLUMNS)[number];

/** What a bringing in changed of a page: columns before and after, the body before with the hash of the one after. */
export interface PageChange {
  readonly columns?: Readonly<Partial<Record<ChangedColumn, readonly [before: string | null, after: string | null]>>>;
  readonly body?: readonly [before: string, hashAfter: string];
}

/** What it set by hand, or let go of. */
export interface HandsChange {
  readonly text: string;
  /** `""` for what is no image's. */
  readonly image: string;
  readonly before: string | null;
  readonly after: string | null;
}

/** What a bringing in did to a page. */
export interface ImportChange {
  readonly item: number;
  readonly what: "added" | "returned" | "updated" | "gone";
  readonly change: PageChange | null;
  readonly hands: readonly HandsChange[];
}

/** A body's hash, to tell whether it still is what a bringing in left. */
export function bodyHash(body: string): string {
  return createHash("sha256").update(body).digest("base64url").slice(0, 22);
}

type Comparable = Pick<ItemRow, ChangedColumn>;

/** The change from one state of a page to another. */
export function importChange(
  { id }: { readonly id: number },
  what: ImportChange["what"],
  rows: { readonly before: Comparable; readonly after: Comparable },
  body: { readonly before: string; readonly after: string | null },
  hands: { readonly before: Hands; readonly changes: readonly HandChange[] },
): ImportChange {
  const columns = Object.fromEntries(
    CHANGED_COLUMNS.filter((column) => rows.before[column] !== rows.after[column]).map((column) => [
      column,
      [rows.before[column], rows.after[column]] as const,
    ]),
  );
  return {
    item: id,
    what,
    change: {
      ...(Object.keys(columns).length > 0 && { columns }),
      ...(body.after !== null && { body: [body.before, bodyHash(body.after)] as const }),
    },
    hands: hands.changes.map(({ text, image, value }) => ({
      text,
      image: image ?? "",
      before: handOf(hands.before, text, image) ?? null,
      after: value,
    })),
  };
}

function handOf({ texts, extras }: Hands, text: HandChange["text"], image: string | null): string | undefined {
  return image === null
    ? texts[text as HandName]
    : extras.find((own: HandExtra) => own.text === text && own.image === image)?.value;
}

/** Writes down what a bringing in does. Call it inside the transaction that does it. */
export interface ImportNotes {
  readonly changed: (change: ImportChange) => void;
  /** Pages that were added: all whose ids are from the first to the last. */
  readonly added: (first: number, last: number) => void;
}

export function importNotes(db: Db, importId: number): ImportNotes {
  const put = db.prepare("INSERT INTO import_changes (import_id, item_id, what, change) VALUES (?, ?, ?, ?)");
  const putAdded = db.prepare(
    "INSERT INTO import_changes (import_id, item_id, what) SELECT ?, id, 'added' FROM items WHERE id BETWEEN ? AND ? ORDER BY id",
  );
  const putHands = handsChangeWriter(db, importId);
  return {
    changed({ item, what, change, hands }) {
      const isAny = change !== null && Object.keys(change).length > 0;
      put.run(importId, item, what, isAny ? JSON.stringify(change) : null);
      for (const hand of hands) putHands(item, hand);
    },
    added: (first, last) => void putAdded.run(importId, first, last),
  };
}

/** Writes down what a bringing in does with texts by hand; of two steps with one text the first knows what was before. */
function handsChangeWriter(db: Db, importId: number): (item: number, change: HandsChange) => void {
  const put = db.prepare(
    `INSERT INTO import_hands (import_id, item_id, text, image, before, after) VALUES (?, ?, ?, ?, ?, ?)
     ON CONFLICT (import_id, item_id, text, image) DO UPDATE SET after = excluded.after`,
  );
  return (item, { text, image, before, after }) => void put.run(importId, item, text, image, before, after);
}

/** How a change of a page stands: taken back, or kept where it was changed again since. */
export type ImportChangeState = "in" | "back" | "kept";

/** A stored change, with what the page is called. */
export interface StoredImportChange extends ImportChange {
  readonly state: ImportChangeState;
  readonly name: string;
  readonly kind: string;
}

/** What a bringing in did, in the order of the pages' ids: those behind an id. */
export function importChangesAfter(db: Db, importId: number, after: number, most: number): StoredImportChange[] {
  return changesOf(
    db,
    importId,
    db
      .prepare(`${CHANGES} WHERE import_changes.import_id = ? AND item_id > ? ORDER BY item_id LIMIT ?`)
      .all(importId, after, most) as ChangeRow[],
  );
}

/** The next so many of what a bringing in did of a kind, behind a page's id, that still are to be taken back. */
export function openChanges(
  db: Db,
  importId: number,
  what: readonly ImportChange["what"][],
  after: number,
  most: number,
): StoredImportChange[] {
  const rows = db
    .prepare(
      `${CHANGES} WHERE import_changes.import_id = ? AND item_id > ? AND state = 'in' AND what IN (${what.map(() => "?").join(", ")}) ORDER BY item_id LIMIT ?`,
    )
    .all(importId, after, ...what, most);
  return changesOf(db, importId, rows as ChangeRow[]);
}

const CHANGES = `SELECT item_id AS item, what, change, state, coalesce(items.name, gone_items.name, '') AS name, coalesce(items.kind, gone_items.kind, '') AS kind
  FROM import_changes LEFT JOIN items ON items.id = item_id LEFT JOIN gone_items ON gone_items.id = item_id`;

type ChangeRow = Omit<StoredImportChange, "change" | "hands"> & { change: string | null };

function changesOf(db: Db, importId: number, rows: readonly ChangeRow[]): StoredImportChange[] {
  const hands = db.prepare(
    "SELECT text, image, before, after FROM import_hands WHERE import_id = ? AND item_id = ? ORDER BY text, image",
  );
  return rows.map((row) => ({
    ...row,
    change: row.change === null ? null : (JSON.parse(row.change) as PageChange),
    hands: hands.all(importId, row.item) as HandsChange[],
  }));
}

/** Where a page was before a bringing in, and what it was told by. */
export interface PlaceBefore {
  readonly item: number;
  readonly path: string | null;
  readonly kind: Kind;
  readonly key: string | null;
}

/** The pages whose address, id or kind a bringing in changed and that still have what it gave them: as they were before. */
export function placesBefore(
  db: Db,
  importId: number,
): { readonly moved: PlaceBefore[]; readonly renamed: PlaceBefore[] } {
  const before = (column: string) =>
    `CASE json_type(change, '$.columns.${column}') WHEN 'array' THEN json_extract(change, '$.columns.${column}[0]') ELSE items.${column} END AS ${column}`;
  const isChanged = (column: string) => `json_type(change, '$.columns.${column}') = 'array'`;
  const isStill = (column: string) =>
    `(json_type(change, '$.columns.${column}') IS NULL OR items.${column} IS json_extract(change, '$.columns.${column}[1]'))`;
  const rows = (where: string) =>
    db
      .prepare(
        `SELECT item_id AS item, ${["path", "kind", "key"].map(before).join(", ")} FROM import_changes JOIN items ON items.id = item_id
         WHERE import_id = ? AND state = 'in' AND what = 'updated' AND ${where} ORDER BY item_id`,
      )
      .all(importId) as PlaceBefore[];
  return {
    moved: rows(`${isChanged("path")} AND ${isStill("path")}`),
    renamed: rows(`(${isChanged("kind")} OR ${isChanged("key")}) AND ${isStill("kind")} AND ${isStill("key")}`),
  };
}

/** Of so many bringings in it is kept what they did; older ones cannot be taken back. */
const KEPT = 20;

/** Forgets what bringings in long ago did to each page. */
export function forgetOldChanges(db: Db): void {
  const old = db
    .prepare("SELECT id FROM imports WHERE tracked = 1 ORDER BY id DESC LIMIT -1 OFFSET ?")
    .pluck()
    .all(KEPT) as number[];
  for (const id of old) {
    db.prepare("DELETE FROM import_changes WHERE import_id = ?").run(id);
    db.prepare("DELETE FROM import_hands WHERE import_id = ?").run(id);
    db.prepare("UPDATE imports SET tracked = 0 WHERE id = ?").run(id);
  }
}
