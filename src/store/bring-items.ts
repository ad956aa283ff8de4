import { type Kind } from "../core/design/kinds";
import { type Hands, NO_HANDS } from "../core/design/hands";
import { type HandChange, handChanges, handsReader, handWriter } from "./hands";
import { goneFinder, type GoneItem, goneReturner } from "./gone";
import { type ImportChange, importChange } from "./import-changes";
import { ITEM_COLUMNS, type ItemInput, type ItemRow } from "./items";
import { type Db } from "./open";

/** A row that cannot be brought in for what is there already, in words. */
export class ItemConflict extends Error {}

/** What became of an item that was brought in; one that returned was gone. */
export type Brought = "added" | "returned" | "updated" | "unchanged";

/** One field that a row would change of the page that it is about. */
export interface FieldChange {
  /** The column's name, an attribute's own, `body` (without its texts), or `by hand`. */
  readonly field: string;
  readonly before: string;
  readonly after: string;
}

type NewRow = Omit<ItemRow, "id" | "revision" | "content_revision">;

/** What a row makes of the page that it is about. */
interface ItemChange {
  /** The page as it is; `null` where there is none yet. */
  readonly old: ItemRow | null;
  /** Whether that page is gone, and would come back. */
  readonly isGone: boolean;
  readonly row: NewRow;
  /** `null` where the body stays as it is. */
  readonly body: string | null;
  readonly bodyBefore: string;
  readonly hands: readonly HandChange[];
  readonly handsBefore: Hands;
  /** Another page that is where this one would come to. */
  readonly occupant: ItemRow | null;
}

/** Where a row's page would come to. */
export interface Place {
  /** The page, `null` for one that is not there yet. */
  readonly page: number | null;
  readonly path: string | null;
  /** Another page that is there. */
  readonly occupant: { readonly id: number; readonly key: string | null; readonly name: string } | null;
}

/**
 * Of rows that would put pages where others are, those that may: each page in the way leaves its address by one of them, as where
 * two swap theirs.
 */
export function settleAddresses<T>(
  rows: readonly T[],
  placeOf: (row: T) => Place,
): { readonly free: readonly T[]; readonly taken: readonly { readonly row: T; readonly place: Place }[] } {
  let free = rows.map((row) => ({ row, place: placeOf(row) }));
  const taken: typeof free = [];
  for (;;) {
    const leaving = new Set(free.map(({ place }) => place.page));
    const isFree = ({ place }: (typeof free)[number]) => !place.occupant || leaving.has(place.occupant.id);
    const blocked = free.filter((own) => !isFree(own));
    if (blocked.length === 0) return { free: free.map(({ row }) => row), taken };
    taken.push(...blocked);
    free = free.filter(isFree);
  }
}

/** Pages as rows leave them that are not written: what tells them apart may be another thing by then. */
class PagesAhead {
  private readonly rows = new Map<number, ItemRow>();
  private readonly keys = new Map<string, number>();
  private readonly added = new Set<string>();

  private readonly back = new Set<number>();
  private readonly backPaths = new Map<string, ItemRow>();

  /** Notes that a page that was gone is back. */
  bringBack(row: ItemRow): void {
    this.back.add(row.id);
    if (row.path !== null) this.backPaths.set(row.path, row);
    this.put(row);
  }

  isBack(id: number): boolean {
    return this.back.has(id);
  }

  backAt(path: string): ItemRow | undefined {
    return this.backPaths.get(path);
  }

  add({ kind, key }: NewRow): void {
    if (key !== null) this.added.add(`${kind} ${key}`);
  }

  /** Whether a page that was added has the id. */
  isAdded(kind: Kind, key: string | null): boolean {
    return this.added.has(`${kind} ${key}`);
  }

  put(row: ItemRow): void {
    this.rows.set(row.id, row);
    if (row.key !== null) this.keys.set(`${row.kind} ${row.key}`, row.id);
  }

  withKey(kind: Kind, key: string | null): ItemRow | undefined {
    const row = this.rows.get(this.keys.get(`${kind} ${key}`) ?? -1);
    return row?.kind === kind && row.key === key ? row : undefined;
  }

  /** A page that the database has as it is by now, if it still is what it was looked for as. */
  now(row: ItemRow | undefined, is: (row: ItemRow) => boolean): ItemRow | undefined {
    const later = row && (this.rows.get(row.id) ?? row);
    return later && is(later) ? later : undefined;
  }
}

/** The pages that a file's rows were about. */
class PagesSeen {
  private readonly lines = new Map<number, number>();

  /** @throws {ItemConflict} where an earlier row was about the page, told by its id there and by its address here, or the other way round. */
  see({ id, name, key, path }: ItemRow, line: number): void {
    const before = this.lines.get(id);
    if (before !== undefined)
      throw new ItemConflict(
        `Line ${before} is about the same page already: “${name || (key ?? path ?? "")}”; a page comes once in a file`,
      );
    this.note(id, line);
  }

  note(id: number, line: number): void {
    this.lines.set(id, line);
  }

  has(id: number): boolean {
    return this.lines.has(id);
  }
}

const BLANK = Object.fromEntries(ITEM_COLUMNS.map((column) => [column, ""])) as Record<
  (typeof ITEM_COLUMNS)[number],
  string
>;

/**
 * Compares what is brought in with what is there; nothing is written.
 *
 * @param ahead pages as earlier rows leave them, where those are not written.
 */
function itemComparer(db: Db, ahead = new PagesAhead()): (input: ItemInput) => ItemChange {
  const byKey = db.prepare("SELECT * FROM items WHERE kind = ? AND key = ?");
  const byPath = db.prepare("SELECT * FROM items WHERE path = ?");
  const othersAt = db.prepare("SELECT * FROM items WHERE path = ? AND id <> ?");
  const bodyOf = db.prepare("SELECT body FROM bodies WHERE item_id = ?").pluck();
  const handsOf = handsReader(db);
  const gone = goneFinder(db);

  const withKey = (kind: Kind, key: string | null): ItemRow | undefined =>
    ahead.withKey(kind, key) ??
    ahead.now(byKey.get(kind, key) as ItemRow | undefined, (row) => row.kind === kind && row.key === key);

  /** The page that a row is about: by its id; one that came without an id before, and a row without one, by the address. */
  const known = ({ kind, key, path }: ItemInput): ItemRow | undefined => {
    const own = key === null ? undefined : withKey(kind, key);
    if (own || path === null) return own;
    const there = ahead.backAt(path) ?? ahead.now(byPath.get(path) as ItemRow | undefined, (row) => row.path === path);
    return key === null || there?.key === null ? there : undefined;
  };

  /** A page that is gone which a row brings back: told as one that is there. */
  const goneOf = ({ kind, key, path }: ItemInput): GoneItem | undefined => {
    const own = key === null ? undefined : gone.withKey(kind, key);
    const found = own ?? (path === null ? undefined : gone.at(path));
    if (!found || (found !== own && key !== null && found.row.key !== null)) return undefined;
    // Another page has its id by now.
    if (found !== own && withKey(found.row.kind, found.row.key)) return undefined;
    // What an earlier row brought back is there by now.
    return ahead.isBack(found.row.id) ? undefined : found;
  };

  /** @throws {ItemConflict} where a page of another kind has the id that this one would bring along. */
  const refuseTaken = ({ key, path }: ItemRow, kind: Kind) => {
    if (!ahead.isAdded(kind, key) && withKey(kind, key) === undefined) return;
    throw new ItemConflict(
      `The page at ${path} has the id “${key}”, and another page of the kind “${kind}” has that id: the row cannot make it one of that kind`,
    );
  };

  return (input) => {
    const present = known(input);
    const back = present ? undefined : goneOf(input);
    const old = present ?? back?.row ?? null;
    if (old && old.key !== null && old.kind !== input.kind && input.key === null) refuseTaken(old, input.kind);
    const row: NewRow = {
      ...(old ?? BLANK),
      ...input.columns,
      key: input.key ?? old?.key ?? null,
      kind: input.kind,
      path: input.path ?? old?.path ?? null,
      attributes: mergedAttributes(old?.attributes ?? "{}", input.attributes),
    };
    const bodyBefore = input.body === null ? "" : (back?.body ?? (((old && bodyOf.get(old.id)) ?? "") as string));
    const isBodyNew = input.body !== null && input.body !== bodyBefore;
    const { byHand, hands: given = null } = input;
    const hasHands = byHand !== null || given !== null;
    const now = old && hasHands ? (back?.hands ?? handsOf(old.id)) : NO_HANDS;
    const stays = row.path === null || (!back && row.path === old?.path);
    const others = stays ? [] : othersAt.all(row.path, old?.id ?? -1);
    const returned = stays ? undefined : ahead.backAt(row.path!);
    const occupant =
      (others as ItemRow[]).find((own) => ahead.now(own, ({ path }) => path === row.path)) ??
      (returned?.id === old?.id ? undefined : returned);
    return {
      old,
      isGone: back !== undefined,
      row,
      occupant: occupant ?? null,
      bodyBefore,
      handsBefore: now,
      body: isBodyNew ? input.body : null,
      hands: hasHands ? handChanges({ byHand, given }, row, now, old ?? row) : [],
    };
  };
}

function mergedAttributes(before: string, attributes: ItemInput["attributes"]): string {
  return attributes === null ? before : JSON.stringify({ ...(JSON.parse(before) as object), ...attributes });
}

function isChanged({ old, row, body, hands }: ItemChange & { old: ItemRow }): boolean {
  return (
    body !== null ||
    hands.length > 0 ||
    row.key !== old.key ||
    row.kind !== old.kind ||
    row.path !== old.path ||
    row.attributes !== old.attributes ||
    ITEM_COLUMNS.some((column) => row[column] !== old[column])
  );
}

function placeOf({ old, row, occupant }: ItemChange): Place {
  return { page: old?.id ?? null, path: row.path, occupant };
}

/** Brings items in. Call it inside a transaction, with a revision of that transaction. */
export interface ItemBringer {
  /**
   * Brings one in: one whose key (or, without a key, whose path) is known updates it, others are added.
   *
   * @param isFree whether its address is known to be free when all rows are in.
   * @param line of the file that it stands on: a page comes once in a file. `null`: it is of no file.
   * @returns `taken` where another page is at its address; nothing is written then.
   * @throws {ItemConflict}
   */
  readonly bring: (input: ItemInput, revision: number, isFree: boolean, line: number | null) => Brought | "taken";
  /** The pages that were brought in so far, those among them that stayed as they were. */
  readonly seen: { readonly has: (id: number) => boolean };
  readonly placeOf: (input: ItemInput) => Place;
}

/** {@link ItemBringer.bring} for items whose addresses are known to be free. */
export function itemWriter(db: Db): (input: ItemInput, revision: number) => Brought {
  const { bring } = itemBringer(db);
  return (input, revision) => bring(input, revision, true, null) as Brought;
}

/** @param note told of each page that is changed, what is done to it. */
export function itemBringer(db: Db, note: (change: ImportChange) => void = () => {}): ItemBringer {
  const compare = itemComparer(db);
  // No page gets the id of one that is gone.
  const insert = db.prepare(
    `INSERT INTO items (id, key, kind, path, ${ITEM_COLUMNS.join(", ")}, attributes, revision, content_revision) VALUES (1 + max(coalesce((SELECT max(id) FROM items), 0), coalesce((SELECT last_item FROM site), 0)), @key, @kind, @path, ${ITEM_COLUMNS.map((c) => `@${c}`).join(", ")}, @attributes, @revision, @revision)`,
  );
  const update = db.prepare(
    `UPDATE items SET key = @key, kind = @kind, path = @path, ${ITEM_COLUMNS.map((c) => `${c} = @${c}`).join(", ")}, attributes = @attributes, revision = @revision, content_revision = @revision WHERE id = @id`,
  );
  const putBody = db.prepare(
    "INSERT INTO bodies (item_id, body) VALUES (?, ?) ON CONFLICT (item_id) DO UPDATE SET body = excluded.body",
  );
  const writeHands = handWriter(db);
  const bringBack = goneReturner(db);
  const seen = new PagesSeen();
  const bring: ItemBringer["bring"] = (input, revision, isFree, line) => {
    const change = compare(input);
    const { old, isGone, row, body, hands } = change;
    if (change.occupant && !isFree) return "taken";
    if (old && line !== null) seen.see(old, line);
    if (old && isGone) bringBack(old.id, revision);
    const isOther = !old || isChanged({ ...change, old });
    if (old && !isOther && !isGone) return "unchanged";
    const id = old ? old.id : Number(insert.run({ ...row, revision }).lastInsertRowid);
    if (!old && line !== null) seen.note(id, line);
    if (old && isOther) update.run({ ...row, id, revision });
    if (body !== null) putBody.run(id, body);
    writeHands(id, hands);
    if (!old) {
      note({ item: id, what: "added", change: null, hands: [] });
      return "added";
    }
    const what = isGone ? "returned" : "updated";
    const bodies = { before: change.bodyBefore, after: body };
    note(importChange(old, what, { before: old, after: row }, bodies, { before: change.handsBefore, changes: hands }));
    return what;
  };
  return { bring, seen, placeOf: (input) => placeOf(compare(input)) };
}

/** What a row would do, before it does: to which page, and which of its fields. */
export interface ForeseenRow {
  readonly brought: Brought;
  /** The page's id in the database; `null` for one that is not there yet. */
  readonly item: number | null;
  /** What the page is called now, and its kind; `null` for one that is not there yet, or gone. */
  readonly name: string;
  readonly kind: Kind | null;
  readonly changes: readonly FieldChange[];
}

/** Says what {@link itemBringer} would do; nothing is written. */
export interface ItemForeseer {
  readonly look: (input: ItemInput, isFree: boolean, line: number) => ForeseenRow | "taken";
  readonly placeOf: (input: ItemInput) => Place;
}

export function itemForeseer(db: Db): ItemForeseer {
  const ahead = new PagesAhead();
  const compare = itemComparer(db, ahead);
  const seen = new PagesSeen();
  const look: ItemForeseer["look"] = (input, isFree, line) => {
    const change = compare(input);
    const { old, isGone, row } = change;
    if (change.occupant && !isFree) return "taken";
    if (!old) {
      ahead.add(row);
      return { brought: "added", item: null, name: row.name, kind: null, changes: [] };
    }
    seen.see(old, line);
    const page = { item: old.id, kind: isGone ? null : old.kind, name: old.name || (old.key ?? old.path ?? "") };
    if (isGone) {
      ahead.bringBack({ ...old, ...row });
      return { ...page, brought: "returned", changes: fieldChanges({ ...change, old }) };
    }
    if (!isChanged({ ...change, old })) return { ...page, brought: "unchanged", changes: [] };
    // A later row finds a page again where this one told it by its address, or made it be told otherwise.
    if (input.key === null || row.key !== old.key || row.kind !== old.kind || row.path !== old.path)
      ahead.put({ ...old, ...row });
    return { ...page, brought: "updated", changes: fieldChanges({ ...change, old }) };
  };
  return { look, placeOf: (input) => placeOf(compare(input)) };
}

function fieldChanges({ old, row, body, hands }: ItemChange & { old: ItemRow }): FieldChange[] {
  const changes: FieldChange[] = [];
  const compare = (field: string, before: string, after: string) => {
    if (before !== after) changes.push({ field, before, after });
  };
  compare("id", old.key ?? "", row.key ?? "");
  compare("kind", old.kind, row.kind);
  compare("address", old.path ?? "", row.path ?? "");
  for (const column of ITEM_COLUMNS) compare(FIELD_OF[column] ?? column, old[column], row[column]);
  if (row.attributes !== old.attributes) {
    const [before, after] = [old.attributes, row.attributes].map((own) => JSON.parse(own) as Record<string, string>);
    for (const [name, value] of Object.entries(after!)) compare(name, before![name] ?? "", value);
  }
  if (body !== null) changes.push({ field: "body", before: "", after: "" });
  for (const { text, value } of hands)
    changes.push({ field: `${EXTRA_WORDS[text] ?? text} by hand`, before: "", after: value ?? "" });
  return changes;
}

const EXTRA_WORDS: Partial<Record<string, string>> = { alt: "image description", keywords: "meta keywords" };
const FIELD_OF: Partial<Record<string, string>> = { category_path: "category.path", meta_keywords: "meta keywords" };
