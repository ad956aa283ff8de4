import { type Site, siteConstants } from "../../core/design/design";
import { type Kind, type TextName, TEXTS } from "../../core/design/kinds";
import { type ByHandChoice, SharedShapes } from "../../core/infer/by-hand";
import { type ShapeField, textShape } from "../../core/infer/text-shape";
import { textValue } from "../../core/proof/items";
import { type HandsChange } from "../../store/import-changes";
import { type Db } from "../../store/open";
import { nextRevision } from "../../store/site";

/** Only these are judged by their shape: a slug is made of a few words whoever wrote it. */
const JUDGED = ["title", "description"] as const;
/** Items to a transaction. */
const BATCH = 1000;
const COLUMNS = ["name", "category", "keyword", "summary", "intro", "author", "price"] as const;

type NoteHand = (item: number, change: HandsChange) => void;

interface Texts {
  readonly id: number;
  readonly title: string;
  readonly description: string;
  readonly slug: string;
  readonly attributes: string;
  readonly fields: readonly string[];
}

/**
 * Marks which of the texts that just came in are by hand.
 *
 * @param since the items' revision before they came in. @param texts those that the file had. @param note told of each text that
 *   is marked, inside the transaction.
 * @returns how many texts were marked.
 */
export function markByHand(
  db: Db,
  site: Site,
  choice: ByHandChoice,
  since: number,
  texts: ReadonlySet<TextName>,
  note: NoteHand = () => {},
  pause: () => void = () => {},
): number {
  if (choice === "none" || texts.size === 0) return 0;
  const kinds = db.prepare("SELECT DISTINCT kind FROM items WHERE revision > ?").pluck().all(since) as Kind[];
  return kinds.reduce((sum, kind) => sum + markKind(db, site, kind, choice, since, texts, note, pause), 0);
}

function markKind(
  db: Db,
  site: Site,
  kind: Kind,
  choice: Exclude<ByHandChoice, "none">,
  since: number,
  texts: ReadonlySet<TextName>,
  note: NoteHand,
  pause: () => void,
): number {
  const constants = [...siteConstants(site)].map(([name, value]) => ({ name, value }));
  const shapes = { title: new SharedShapes(), description: new SharedShapes() };
  const judged = JUDGED.filter((text) => texts.has(text));
  if (choice === "unexplained")
    for (const item of itemsOf(db, kind, 0)) {
      const fields = fieldsOf(item, constants);
      for (const text of judged) if (item[text] !== "") shapes[text].see(textShape(item[text], fields));
    }
  const isByHand = (item: Texts, text: TextName, fields: readonly ShapeField[]) =>
    item[text] !== "" &&
    (choice === "all" || (text !== "slug" && shapes[text].isUnexplained(textShape(item[text], fields))));
  const wanted = choice === "all" ? TEXTS.filter((text) => texts.has(text)) : judged;
  let marked = 0;
  let batch: { id: number; text: TextName; value: string }[] = [];
  const flush = () => {
    marked += writeHands(db, batch, note);
    batch = [];
    pause();
  };
  for (const item of itemsOf(db, kind, since)) {
    const fields = fieldsOf(item, constants);
    for (const text of wanted) if (isByHand(item, text, fields)) batch.push({ id: item.id, text, value: item[text] });
    if (batch.length >= BATCH) flush();
  }
  flush();
  return marked;
}

/** A kind's items that changed since a revision, a page of them at a time: others may write between two. */
function* itemsOf(db: Db, kind: Kind, since: number): Generator<Texts> {
  const page = db
    .prepare(
      `SELECT id, title, description, slug, attributes, ${COLUMNS.join(", ")} FROM items
       WHERE kind = ? AND revision > ? AND id > ? ORDER BY id LIMIT ${BATCH}`,
    )
    .raw();
  for (let after = 0; ;) {
    const rows = page.all(kind, since, after) as [number, string, string, string, string, ...string[]][];
    for (const [id, title, description, slug, attributes, ...fields] of rows)
      yield { id, title, description, slug, attributes, fields };
    if (rows.length < BATCH) return;
    after = rows.at(-1)![0];
  }
}

function fieldsOf({ fields, attributes }: Texts, constants: readonly ShapeField[]): ShapeField[] {
  const own = COLUMNS.map((name, i) => ({ name: name as string, value: textValue(fields[i]) }));
  const more = attributes === "{}" ? [] : Object.entries(JSON.parse(attributes) as Record<string, unknown>);
  return [...own, ...more.map(([name, value]) => ({ name, value: textValue(value) })), ...constants];
}

function writeHands(db: Db, hands: readonly { id: number; text: TextName; value: string }[], note: NoteHand): number {
  if (hands.length === 0) return 0;
  const put = db.prepare(
    "INSERT INTO hand_texts (item_id, text, value) VALUES (?, ?, ?) ON CONFLICT (item_id, text) DO UPDATE SET value = excluded.value",
  );
  const present = db.prepare("SELECT value FROM hand_texts WHERE item_id = ? AND text = ?").pluck();
  const touch = db.prepare("UPDATE items SET revision = ? WHERE id = ?");
  db.transaction(() => {
    const revision = nextRevision(db);
    for (const { id, text, value } of hands) {
      const before = (present.get(id, text) as string | undefined) ?? null;
      if (before === value) continue;
      put.run(id, text, value);
      note(id, { text, image: "", before, after: value });
      touch.run(revision, id);
    }
  }).immediate();
  return hands.length;
}
