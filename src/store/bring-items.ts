import { type TextName, TEXTS } from "../core/design/kinds";
import { ITEM_COLUMNS, type ItemInput, type ItemRow } from "./items";
import { type Db } from "./open";

/** What became of an item that was brought in. */
export type Brought = "added" | "updated" | "unchanged";

/** One field that a row would change of the page that it is about. */
export interface FieldChange {
  /** The column's name, an attribute's own, `body` (without its texts), or `by hand`. */
  readonly field: string;
  readonly before: string;
  readonly after: string;
}

/** A text by hand that a row sets, or with `null` lets go of. */
interface HandChange {
  readonly text: TextName;
  readonly value: string | null;
}

type NewRow = Omit<ItemRow, "id" | "revision" | "content_revision">;

/** What a row makes of the page that it is about. */
interface ItemChange {
  /** The page as it is; `null` where there is none yet. */
  readonly old: ItemRow | null;
  readonly row: NewRow;
  /** `null` where the body stays as it is. */
  readonly body: string | null;
  readonly hands: readonly HandChange[];
}

const BLANK = Object.fromEntries(ITEM_COLUMNS.map((column) => [column, ""])) as Record<
  (typeof ITEM_COLUMNS)[number],
  string
>;

/** Compares what is brought in with what is there; nothing is written. */
function itemComparer(db: Db): (input: ItemInput) => ItemChange {
  const byKey = db.prepare("SELECT * FROM items WHERE kind = ? AND key = ?");
  const byPath = db.prepare("SELECT * FROM items WHERE path = ?");
  const bodyOf = db.prepare("SELECT body FROM bodies WHERE item_id = ?").pluck();
  const handsOf = db.prepare("SELECT text, value FROM hand_texts WHERE item_id = ?").raw();

  /** The page that a row is about: by its id; one that came without an id before, and a row without one, by the address. */
  const known = ({ kind, key, path }: ItemInput): ItemRow | undefined => {
    const own = key === null ? undefined : (byKey.get(kind, key) as ItemRow | undefined);
    if (own || path === null) return own;
    const there = byPath.get(path) as ItemRow | undefined;
    return key === null || there?.key === null ? there : undefined;
  };

  return (input) => {
    const old = known(input) ?? null;
    const row: NewRow = {
      ...(old ?? BLANK),
      ...input.columns,
      key: input.key ?? old?.key ?? null,
      kind: input.kind,
      path: input.path ?? old?.path ?? null,
      attributes: mergedAttributes(old?.attributes ?? "{}", input.attributes),
    };
    const isBodyNew = old === null ? Boolean(input.body) : input.body !== null && bodyOf.get(old.id) !== input.body;
    const hasHands = input.byHand !== null || input.handTexts;
    const now = old && hasHands ? new Map(handsOf.all(old.id) as [TextName, string][]) : new Map<TextName, string>();
    return {
      old,
      row,
      body: isBodyNew ? input.body : null,
      hands: hasHands ? handChanges(input, row, now, old ?? row) : [],
    };
  };
}

function mergedAttributes(before: string, attributes: ItemInput["attributes"]): string {
  return attributes === null ? before : JSON.stringify({ ...(JSON.parse(before) as object), ...attributes });
}

/** What becomes of a page's texts by hand: one that was not applied yet stays, whatever the site has by now, unless the row has another. */
function handChanges(
  { byHand, handTexts }: ItemInput,
  row: Readonly<Record<TextName, string>>,
  now: ReadonlyMap<TextName, string>,
  before: Readonly<Record<TextName, string>>,
): HandChange[] {
  return TEXTS.flatMap((text): HandChange[] => {
    const own = now.get(text);
    const waiting = handTexts?.[text];
    if (waiting !== undefined) return own === waiting ? [] : [{ text, value: waiting }];
    if (byHand === null || (own !== undefined && own !== before[text])) return [];
    if (byHand.includes(text) && row[text] !== "") return own === row[text] ? [] : [{ text, value: row[text] }];
    return own === undefined ? [] : [{ text, value: null }];
  });
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

/**
 * Brings items in: one whose key (or, without a key, whose path) is known updates it, others are added.
 * Call it inside a transaction, with a revision of that transaction.
 */
export function itemWriter(db: Db): (input: ItemInput, revision: number) => Brought {
  const compare = itemComparer(db);
  const insert = db.prepare(
    `INSERT INTO items (key, kind, path, ${ITEM_COLUMNS.join(", ")}, attributes, revision, content_revision) VALUES (@key, @kind, @path, ${ITEM_COLUMNS.map((c) => `@${c}`).join(", ")}, @attributes, @revision, @revision)`,
  );
  const update = db.prepare(
    `UPDATE items SET key = @key, kind = @kind, path = @path, ${ITEM_COLUMNS.map((c) => `${c} = @${c}`).join(", ")}, attributes = @attributes, revision = @revision, content_revision = @revision WHERE id = @id`,
  );
  const putBody = db.prepare(
    "INSERT INTO bodies (item_id, body) VALUES (?, ?) ON CONFLICT (item_id) DO UPDATE SET body = excluded.body",
  );
  const putHand = db.prepare(
    "INSERT INTO hand_texts (item_id, text, value) VALUES (?, ?, ?) ON CONFLICT (item_id, text) DO UPDATE SET value = excluded.value",
  );
  const dropHand = db.prepare("DELETE FROM hand_texts WHERE item_id = ? AND text = ?");
  return (input, revision) => {
    const change = compare(input);
    const { old, row, body, hands } = change;
    if (old && !isChanged({ ...change, old })) return "unchanged";
    const id = old ? old.id : Number(insert.run({ ...row, revision }).lastInsertRowid);
    if (old) update.run({ ...row, id, revision });
    if (body !== null) putBody.run(id, body);
    for (const { text, value } of hands) {
      if (value === null) dropHand.run(id, text);
      else putHand.run(id, text, value);
    }
    return old ? "updated" : "added";
  };
}

/** What a row would do, before it does: to which page, and which of its fields. */
export interface ForeseenRow {
  readonly brought: Brought;
  /** The page's id in the database; `null` for one that is not there yet. */
  readonly item: number | null;
  readonly changes: readonly FieldChange[];
}

/** Says what {@link itemWriter} would do; nothing is written. */
export function itemForeseer(db: Db): (input: ItemInput) => ForeseenRow {
  const compare = itemComparer(db);
  return (input) => {
    const change = compare(input);
    const { old } = change;
    if (!old) return { brought: "added", item: null, changes: [] };
    return isChanged({ ...change, old })
      ? { brought: "updated", item: old.id, changes: fieldChanges({ ...change, old }) }
      : { brought: "unchanged", item: old.id, changes: [] };
  };
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
  for (const { text, value } of hands) changes.push({ field: `${text} by hand`, before: "", after: value ?? "" });
  return changes;
}

const FIELD_OF: Partial<Record<string, string>> = { category_path: "category.path", meta_keywords: "meta keywords" };
