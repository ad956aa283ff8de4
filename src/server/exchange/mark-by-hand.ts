import { type Site, siteConstants } from "../../core/design/design";
import { type Kind, type TextName, TEXTS } from "../../core/design/kinds";
import { type ByHandChoice, SharedShapes } from "../../core/infer/by-hand";
import { type ShapeField, textShape } from "../../core/infer/text-shape";
import { textValue } from "../../core/proof/items";
import { type MarkHands } from "../../store/mark-hands";
import { type Db } from "../../store/open";

/** Only these are judged by their shape: a slug is made of a few words whoever wrote it. */
const JUDGED = ["title", "description"] as const;
/** Items to a transaction. */
const BATCH = 1000;
const COLUMNS = ["name", "category", "keyword", "summary", "intro", "author", "price"] as const;

interface Texts {
  readonly id: number;
  readonly revision: number;
  readonly title: string;
  readonly description: string;
  readonly attributes: string;
  readonly fields: readonly string[];
}

/**
 * Marks which of the texts that just came in are by hand.
 *
 * @param since the items' revision before they came in. @param texts those that the file had.
 * @returns how many texts were marked.
 */
export function markByHand(
  db: Db,
  site: Site,
  { choice, since, texts }: { choice: ByHandChoice; since: number; texts: ReadonlySet<TextName> },
  mark: MarkHands,
): number {
  if (choice === "none" || texts.size === 0) return 0;
  const kinds = db.prepare("SELECT DISTINCT kind FROM items WHERE revision > ?").pluck().all(since) as Kind[];
  let marked = 0;
  for (const kind of kinds) {
    const ids = choice === "all" ? allOf(db, kind, since, texts) : unexplained(db, site, kind, since, texts);
    for (const [text, items] of ids)
      for (let from = 0; from < items.length; from += BATCH) marked += mark(text, items.slice(from, from + BATCH));
  }
  return marked;
}

type ItemsByText = readonly (readonly [text: TextName, items: readonly number[]])[];

function allOf(db: Db, kind: Kind, since: number, texts: ReadonlySet<TextName>): ItemsByText {
  const ids = db.prepare("SELECT id FROM items WHERE kind = ? AND revision > ? ORDER BY id").pluck();
  const items = ids.all(kind, since) as number[];
  return TEXTS.filter((text) => texts.has(text)).map((text) => [text, items]);
}

/** Of the pages of a kind that changed since a revision those whose texts no template explains, by the shapes of all pages of the kind. */
function unexplained(db: Db, site: Site, kind: Kind, since: number, texts: ReadonlySet<TextName>): ItemsByText {
  const constants = [...siteConstants(site)].map(([name, value]) => ({ name, value }));
  const judged = JUDGED.filter((text) => texts.has(text)).map((text) => ({
    text,
    shapes: new SharedShapes(),
    items: [] as number[],
    shapeOf: [] as number[],
  }));
  if (judged.length === 0) return [];
  for (const item of itemsOf(db, kind)) {
    const fields = fieldsOf(item, constants);
    for (const { text, shapes, items, shapeOf } of judged) {
      if (item[text] === "") continue;
      const shape = shapes.see(textShape(item[text], fields));
      if (item.revision <= since) continue;
      items.push(item.id);
      shapeOf.push(shape);
    }
  }
  return judged.map(({ text, shapes, items, shapeOf }) => [
    text,
    items.filter((_, i) => shapes.isUnexplained(shapeOf[i]!)),
  ]);
}

/** A kind's items, so many of them at a time: others may write between two. */
function* itemsOf(db: Db, kind: Kind): Generator<Texts> {
  const page = db
    .prepare(
      `SELECT id, revision, title, description, attributes, ${COLUMNS.join(", ")} FROM items
       WHERE kind = ? AND id > ? ORDER BY id LIMIT ${BATCH}`,
    )
    .raw();
  for (let after = 0; ;) {
    const rows = page.all(kind, after) as [number, number, string, string, string, ...string[]][];
    for (const [id, revision, title, description, attributes, ...fields] of rows)
      yield { id, revision, title, description, attributes, fields };
    if (rows.length < BATCH) return;
    after = rows.at(-1)![0];
  }
}

function fieldsOf({ fields, attributes }: Texts, constants: readonly ShapeField[]): ShapeField[] {
  const own = COLUMNS.map((name, i) => ({ name: name as string, value: textValue(fields[i]) }));
  const more = attributes === "{}" ? [] : Object.entries(JSON.parse(attributes) as Record<string, unknown>);
  return [...own, ...more.map(([name, value]) => ({ name, value: textValue(value) })), ...constants];
}
