import { VALUE_END } from "../core/text/plain";
import { type HandName, type Hands } from "../core/design/hands";
import { type ExtraName, type Kind, PAGE_EXTRAS, type PageExtra, type TextName } from "../core/design/kinds";
import { type Statement } from "better-sqlite3";
import { type TreePage } from "../core/items/category-tree";
import { type Db } from "./open";

/** An item as the database holds it, without its body. `attributes` is JSON: name → value. */
export interface ItemRow {
  id: number;
  key: string | null;
  kind: Kind;
  path: string | null;
  name: string;
  category: string;
  category_path: string;
  keyword: string;
  title: string;
  description: string;
  slug: string;
  summary: string;
  intro: string;
  author: string;
  published: string;
  updated: string;
  price: string;
  count: string;
  robots: string;
  /** The meta keywords that the site has. */
  meta_keywords: string;
  /** The canonical that the site has, `""` where it is the page's own address. */
  canonical: string;
  attributes: string;
  revision: number;
  /** The revision of the last change that brought in more than texts, keyword and robots setting. */
  content_revision: number;
}

/** A page as it is written; its number and its revisions come from the database. */
export type NewRow = Omit<ItemRow, "id" | "revision" | "content_revision">;

/** What can be brought in for an item: texts by column, attributes, body, and which of its texts are by hand. */
export interface ItemInput {
  key: string | null;
  kind: Kind;
  path: string | null;
  /** Columns of the table; one left out keeps what the item has. */
  columns: Partial<Record<ItemColumn, string>>;
  attributes: Readonly<Record<string, string>> | null;
  /** Attributes that the file has a column for: the item's own that are empty there go. */
  spokenOf?: readonly string[];
  body: string | null;
  byHand: readonly HandName[] | null;
  /** What is by hand whatever the site has. */
  hands?: Hands | null;
}

export const ITEM_COLUMNS = [
  "name",
  "category",
  "category_path",
  "keyword",
  "title",
  "description",
  "slug",
  "summary",
  "intro",
  "author",
  "published",
  "updated",
  "price",
  "count",
  "robots",
  "meta_keywords",
  "canonical",
] as const;
export type ItemColumn = (typeof ITEM_COLUMNS)[number];

export function countByKind(db: Db): Readonly<Record<Kind, number>> {
  const rows = db.prepare("SELECT kind, count(*) AS count FROM items GROUP BY kind").all() as {
    kind: Kind;
    count: number;
  }[];
  return Object.fromEntries(rows.map((row) => [row.kind, row.count]));
}

/** The pages of a kind by where they stand below one another, as they came. */
export function treePages(db: Db, kind: Kind): TreePage[] {
  return db
    .prepare("SELECT id, key, name, category, category_path AS path FROM items WHERE kind = ? ORDER BY id")
    .all(kind) as TreePage[];
}

/** Where a page is; `null` where it has no address, `undefined` where it is not there. */
export function addressOfPage(db: Db, id: number): string | null | undefined {
  return db.prepare("SELECT path FROM items WHERE id = ?").pluck().get(id) as string | null | undefined;
}

/** What an item says of its category, as it came: it may be the id of a page that lines read the name of. */
export function categoryReader(db: Db): (id: number) => string {
  const read = db.prepare("SELECT category FROM items WHERE id = ?").pluck();
  return (id) => (read.get(id) as string | undefined) ?? "";
}

/** Another text where the pages of a kind, or what they are apart from their texts, are other ones. */
export function contentStamp(db: Db, kind: Kind): string {
  const row = db.prepare("SELECT count(*), max(content_revision) FROM items WHERE kind = ?").raw().get(kind);
  return (row as unknown[]).join(" ");
}

export function countOfKind(db: Db, kind: Kind): number {
  return db.prepare("SELECT count(*) FROM items WHERE kind = ?").pluck().get(kind) as number;
}

/** Rows whose columns are read together. */
export const CHUNK = 2048;

/** A stretch of a kind's items, column by column: of each column the values of all rows. */
export interface ColumnChunk {
  readonly size: number;
  /** Of a column the values, and as they came: put together with {@link VALUE_END} between them. */
  readonly column: (place: number) => { readonly values: readonly string[]; readonly together: string };
}

/**
 * All items of a kind in the order of their ids, many rows at a time and column by column, `NULL` as the empty text. Putting a column's values
 * together in the database and taking them apart here is several times quicker than to fetch each one.
 */
export function* iterateColumns(db: Db, kind: Kind, columns: readonly string[]): Generator<ColumnChunk> {
  const together = columns.map((column) => `group_concat(coalesce(${column}, ''), char(31))`);
  const chunk = db
    .prepare(
      `SELECT count(*), max(id), ${together.join(", ")} FROM
         (SELECT ${[...new Set(["id", ...columns])].join(", ")} FROM items WHERE kind = ? AND id > ? ORDER BY id LIMIT ${CHUNK})`,
    )
    .raw();
  const oneByOne = (column: string, after: number) =>
    db
      .prepare(`SELECT coalesce(${column}, '') FROM items WHERE kind = ? AND id > ? ORDER BY id LIMIT ${CHUNK}`)
      .pluck()
      .all(kind, after)
      .map(String);
  for (let after = -1; ;) {
    const [size, last, ...joined] = chunk.get(kind, after) as [number, number, ...string[]];
    if (size === 0) return;
    const from = after;
    yield {
      size,
      column: (place) => {
        const own = String(joined[place]!);
        const values = own.split(VALUE_END);
        // A value that holds the very character between them is a rare thing: those rows are fetched one by one.
        return values.length === size
          ? { values, together: own }
          : { values: oneByOne(columns[place]!, from), together: VALUE_END };
      },
    };
    after = last;
  }
}

/** What pages of a kind say of an extra text, by their ids; those that say nothing are left out. */
export function pageExtras(db: Db, kind: Kind, extra: PageExtra): IterableIterator<[id: number, value: string]> {
  const column = PAGE_EXTRAS[extra];
  return db
    .prepare(`SELECT id, ${column} FROM items WHERE kind = ? AND ${column} <> ''`)
    .raw()
    .iterate(kind) as IterableIterator<[number, string]>;
}

const byId = new WeakMap<Db, { item: Statement; body: Statement }>();

function statements(db: Db): { item: Statement; body: Statement } {
  let own = byId.get(db);
  if (!own)
    byId.set(
      db,
      (own = {
        item: db.prepare(
          "SELECT id, key, summary, slug, author, published, updated, price, count FROM items WHERE id = ?",
        ),
        body: db.prepare("SELECT body FROM bodies WHERE item_id = ?").pluck(),
      }),
    );
  return own;
}

/** What of an item is seldom held in memory. */
export function readItem(
  db: Db,
  id: number,
):
  | Pick<ItemRow, "id" | "key" | "summary" | "slug" | "author" | "published" | "updated" | "price" | "count">
  | undefined {
  return statements(db).item.get(id) as ReturnType<typeof readItem>;
}

/** An item's body, `""` where it has none. */
export function readBody(db: Db, id: number): string {
  return (statements(db).body.get(id) as string | undefined) ?? "";
}

/** The ids of a kind's items that have a body. */
export function idsWithBody(db: Db, kind: Kind): ReadonlySet<number> {
  const ids = db
    .prepare("SELECT items.id FROM items JOIN bodies ON bodies.item_id = items.id WHERE kind = ? AND body <> ''")
    .pluck()
    .all(kind) as number[];
  return new Set(ids);
}

/** Bodies of a kind's items that have one, in the order of their ids. */
export function iterateBodies(db: Db, kind: Kind): IterableIterator<{ id: number; body: string }> {
  return db
    .prepare(
      "SELECT items.id AS id, body FROM items JOIN bodies ON bodies.item_id = items.id WHERE kind = ? ORDER BY items.id",
    )
    .iterate(kind) as IterableIterator<{ id: number; body: string }>;
}

/** A text, or the robots setting, that a person set for an item. */
export interface HandText {
  readonly id: number;
  readonly text: TextName | "robots";
  readonly value: string;
}

export function iterateHandTexts(db: Db, kind: Kind): IterableIterator<HandText> {
  return db
    .prepare(
      "SELECT items.id AS id, text, value FROM hand_texts CROSS JOIN items ON items.id = hand_texts.item_id WHERE kind = ? ORDER BY items.id",
    )
    .iterate(kind) as IterableIterator<HandText>;
}

/** An extra text that a person wrote. */
export interface HandExtra {
  readonly id: number;
  readonly text: ExtraName;
  /** The address of the image as it stands in the body, `""` for what is no image's. */
  readonly image: string;
  readonly value: string;
}

/** @param since only of items that changed after that revision. */
export function handExtras(db: Db, kind: Kind, since = -1): HandExtra[] {
  // Of all items few have one: the database is told to begin with those (SQLite, “Manual Control Of Query Plans Using CROSS JOIN”).
  const join = since < 0 ? "CROSS JOIN" : "JOIN";
  return db
    .prepare(
      `SELECT items.id AS id, text, image, value FROM hand_extras ${join} items ON items.id = hand_extras.item_id WHERE kind = ? AND revision > ? ORDER BY items.id`,
    )
    .all(kind, since) as HandExtra[];
}

/** What can change of an item without anything being brought in. */
export interface TouchedItem extends Pick<
  ItemRow,
  "id" | "path" | "title" | "description" | "slug" | "keyword" | "robots" | "meta_keywords" | "canonical"
> {
  readonly hands: readonly HandText[];
  readonly handExtras: readonly HandExtra[];
}

/**
 * A kind's items that changed since a revision, where no more changed than texts, keyword, robots setting and address; `null`
 * where more did, or items came or went.
 *
 * @param held how many items of the kind there were.
 */
export function touchedSince(db: Db, kind: Kind, revision: number, held: number): TouchedItem[] | null {
  if (
    db
      .prepare("SELECT 1 FROM items WHERE kind = ? AND revision > ? AND content_revision > ? LIMIT 1")
      .get(kind, revision, revision) !== undefined
  )
    return null;
  if (countOfKind(db, kind) !== held) return null;
  const items = db
    .prepare(
      "SELECT id, path, title, description, slug, keyword, robots, meta_keywords, canonical FROM items WHERE revision > ? AND kind = ? ORDER BY id",
    )
    .all(revision, kind) as TouchedItem[];
  const hands = new Map<number, HandText[]>();
  const all = db
    .prepare(
      "SELECT items.id AS id, text, value FROM items JOIN hand_texts ON hand_texts.item_id = items.id WHERE revision > ? AND kind = ?",
    )
    .all(revision, kind) as HandText[];
  for (const hand of all) hands.set(hand.id, [...(hands.get(hand.id) ?? []), hand]);
  const extras = new Map<number, HandExtra[]>();
  for (const hand of handExtras(db, kind, revision)) extras.set(hand.id, [...(extras.get(hand.id) ?? []), hand]);
  return items.map((item) => ({
    ...item,
    hands: hands.get(item.id) ?? [],
    handExtras: extras.get(item.id) ?? [],
  }));
}
