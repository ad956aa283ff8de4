import { type Kind } from "../core/design/kinds";
import { type Hands, NO_HANDS } from "../core/design/hands";
import { AbsentPlaces } from "./absent-places";
import { goneFinder, type GoneItem } from "./gone";
import { type HandChange, handChanges, handsReader } from "./hands";
import { ITEM_COLUMNS, type ItemColumn, type ItemInput, type ItemRow, type NewRow } from "./items";
import { type Db } from "./open";
import { PagesAhead } from "./pages-ahead";

/** A row that cannot be brought in for what is there already, in words. */
export class ItemConflict extends Error {}

/** What a row makes of the page that it is about. */
export interface ItemChange {
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

const BLANK: NewRow = {
  key: null,
  kind: "",
  path: null,
  ...(Object.fromEntries(ITEM_COLUMNS.map((column) => [column, ""])) as Record<ItemColumn, string>),
  attributes: "{}",
};

/** What a comparison goes by beside the database. */
interface BesideDatabase {
  /** Pages as earlier rows leave them, where those are not written. */
  readonly ahead?: PagesAhead;
  /** Ids and addresses that no page has. */
  readonly absent?: AbsentPlaces;
}

/** Compares what is brought in with what is there; nothing is written. */
export function itemComparer(
  db: Db,
  { ahead = new PagesAhead(), absent = new AbsentPlaces(db) }: BesideDatabase = {},
): (input: ItemInput) => ItemChange {
  const byKey = db.prepare("SELECT * FROM items WHERE kind = ? AND key = ?");
  const byPath = db.prepare("SELECT * FROM items WHERE path = ?");
  const othersAt = db.prepare("SELECT * FROM items WHERE path = ? AND id <> ?");
  const bodyOf = db.prepare("SELECT body FROM bodies WHERE item_id = ?").pluck();
  const handsOf = handsReader(db);
  const gone = goneFinder(db);

  const storedWithKey = (kind: Kind, key: string | null) =>
    key === null || absent.hasKey(kind, key) ? undefined : (byKey.get(kind, key) as ItemRow | undefined);
  const storedAt = (path: string) => (absent.hasPath(path) ? undefined : (byPath.get(path) as ItemRow | undefined));

  const withKey = (kind: Kind, key: string | null): ItemRow | undefined =>
    ahead.withKey(kind, key) ?? ahead.now(storedWithKey(kind, key), (row) => row.kind === kind && row.key === key);

  /** The page that a row is about: by its id; one that came without an id before, and a row without one, by the address. */
  const known = ({ kind, key, path }: ItemInput): ItemRow | undefined => {
    const own = key === null ? undefined : withKey(kind, key);
    if (own || path === null) return own;
    const there = ahead.backAt(path) ?? ahead.now(storedAt(path), (row) => row.path === path);
    return key === null || there?.key === null ? there : undefined;
  };

  /** A page that is gone which a row brings back: told as one that is there. */
  const goneOf = ({ kind, key, path }: ItemInput): GoneItem | undefined => {
    const own = key === null || absent.hasKey(kind, key) ? undefined : gone.withKey(kind, key);
    const found = own ?? (path === null || absent.hasPath(path) ? undefined : gone.at(path));
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
    const row = rowOf(input, old);
    const bodyBefore = input.body === null ? "" : (back?.body ?? (((old && bodyOf.get(old.id)) ?? "") as string));
    const isBodyNew = input.body !== null && input.body !== bodyBefore;
    const { byHand, hands: given = null } = input;
    const hasHands = byHand !== null || given !== null;
    const now = old && hasHands ? (back?.hands ?? handsOf(old.id)) : NO_HANDS;
    const stays = row.path === null || (!back && row.path === old?.path);
    const others = stays || absent.hasPath(row.path!) ? [] : othersAt.all(row.path, old?.id ?? -1);
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

function rowOf(input: ItemInput, old: ItemRow | null): NewRow {
  const { key, kind, path, columns } = input;
  const row: NewRow = { ...(old ?? BLANK) };
  for (const column of ITEM_COLUMNS) {
    const value = columns[column];
    if (value !== undefined) row[column] = value;
  }
  row.key = key ?? row.key;
  row.kind = kind;
  row.path = path ?? row.path;
  row.attributes = mergedAttributes(row.attributes, input);
  return row;
}

/** What an item has and the file does not speak of stays; of what the file has a column for, it has what stands there. */
function mergedAttributes(before: string, { attributes, spokenOf = [] }: ItemInput): string {
  if (before === "{}") return attributes === null ? before : JSON.stringify(attributes);
  if (attributes === null && spokenOf.length === 0) return before;
  const merged: Record<string, string> = { ...(JSON.parse(before) as Record<string, string>), ...attributes };
  for (const name of spokenOf) if (!Object.hasOwn(attributes ?? {}, name)) delete merged[name];
  return JSON.stringify(merged);
}

export function isChanged({ old, row, body, hands }: ItemChange & { old: ItemRow }): boolean {
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

export function placeOf({ old, row, occupant }: ItemChange): Place {
  return { page: old?.id ?? null, path: row.path, occupant };
}
