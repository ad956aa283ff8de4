import { type Site, siteConstants } from "../../core/design/design";
import { type Kind, type TextName, TEXTS } from "../../core/design/kinds";
import { type ByHandChoice, SharedShapes } from "../../core/infer/by-hand";
import { type ShapeField, ShapeFields, textShape } from "../../core/infer/text-shape";
import { textValue } from "../../core/proof/items";
import { arePlain } from "../../core/text/plain";
import { type ColumnChunk, iterateColumns } from "../../store/items";
import { type ItemsByText } from "../../store/mark-hands";
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
  /** Of {@link COLUMNS}, as plain text. */
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
  mark: (hands: ItemsByText) => void,
): number {
  if (choice === "none" || texts.size === 0) return 0;
  const kinds = db.prepare("SELECT DISTINCT kind FROM items WHERE revision > ?").pluck().all(since) as Kind[];
  let marked = 0;
  for (const kind of kinds) {
    const hands = choice === "all" ? allOf(db, kind, since, texts) : unexplained(db, site, kind, since, texts);
    for (const batch of batches(hands)) mark(batch);
    for (const items of hands.values()) marked += items.length;
  }
  return marked;
}

/** Stretches of pages, each with all the texts of theirs. */
function* batches(hands: ItemsByText): Generator<ItemsByText> {
  const ids = [...new Set([...hands.values()].flat())].sort((a, b) => a - b);
  const from = new Map([...hands.keys()].map((text) => [text, 0]));
  for (let end = BATCH; end < ids.length + BATCH; end += BATCH) {
    const last = ids[Math.min(end, ids.length) - 1]!;
    yield new Map(
      [...hands].map(([text, items]) => {
        const start = from.get(text)!;
        let stop = start;
        while (stop < items.length && items[stop]! <= last) stop++;
        from.set(text, stop);
        return [text, items.slice(start, stop)];
      }),
    );
  }
}

function allOf(db: Db, kind: Kind, since: number, texts: ReadonlySet<TextName>): ItemsByText {
  const having = (text: TextName) =>
    db
      .prepare(`SELECT id FROM items WHERE kind = ? AND revision > ? AND ${text} <> '' ORDER BY id`)
      .pluck()
      .all(kind, since) as number[];
  return new Map(TEXTS.filter((text) => texts.has(text)).map((text) => [text, having(text)]));
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
  if (judged.length === 0) return new Map();
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
  return new Map(
    judged.map(({ text, shapes, items, shapeOf }) => [text, items.filter((_, i) => shapes.isUnexplained(shapeOf[i]!))]),
  );
}

/** A kind's items, so many of them at a time and column by column: others may write between two. */
function* itemsOf(db: Db, kind: Kind): Generator<Texts> {
  const columns = ["id", "revision", ...JUDGED, "attributes", ...COLUMNS];
  for (const { size, column } of iterateColumns(db, kind, columns)) {
    const [ids, revisions, titles, descriptions, attributes] = columns
      .slice(0, -COLUMNS.length)
      .map((_, i) => column(i).values);
    const fields = COLUMNS.map((_, i) => plainValues(column(i + columns.length - COLUMNS.length)));
    for (let row = 0; row < size; row++)
      yield {
        id: Number(ids![row]),
        revision: Number(revisions![row]),
        title: titles![row]!,
        description: descriptions![row]!,
        attributes: attributes![row]!,
        fields: fields.map((values) => values[row]!),
      };
  }
}

function plainValues({ values, together }: ReturnType<ColumnChunk["column"]>): readonly string[] {
  return arePlain(together) ? values : values.map(textValue);
}

function fieldsOf({ fields, attributes }: Texts, constants: readonly ShapeField[]): ShapeFields {
  const own: ShapeField[] = COLUMNS.map((name, i) => ({ name, value: fields[i]! }));
  if (attributes !== "{}")
    for (const [name, value] of Object.entries(JSON.parse(attributes) as Record<string, unknown>))
      own.push({ name, value: textValue(value) });
  return new ShapeFields([...own, ...constants]);
}
