import { type TextName } from "../core/design/kinds";
import { type Db } from "./open";
import { nextRevision } from "./site";

/** Takes a text that pages have as one written by hand. @returns how many of the pages have it, and so have it by hand by now. */
export type MarkHands = (text: TextName, items: readonly number[]) => number;

/**
 * Marks texts by hand, those of many pages in one transaction.
 *
 * @param importId the bringing in that what is done is written down for; of two steps with one text the first knows what was before.
 */
export function handsMarker(db: Db, importId: number): MarkHands {
  const mark = db.transaction((text: TextName, items: readonly number[]) => {
    const pages = `FROM json_each(@items) AS one JOIN items ON items.id = one.value
      LEFT JOIN hand_texts ON hand_texts.item_id = items.id AND hand_texts.text = @text WHERE items.${text} <> ''`;
    const having = db.prepare(`SELECT count(*) ${pages}`).pluck();
    const others = db.prepare(`SELECT items.id ${pages} AND hand_texts.value IS NOT items.${text}`).pluck();
    const note = db.prepare(
      `INSERT INTO import_hands (import_id, item_id, text, image, before, after)
       SELECT @importId, items.id, @text, '', hand_texts.value, items.${text} ${pages}
       ON CONFLICT (import_id, item_id, text, image) DO UPDATE SET after = excluded.after`,
    );
    const put = db.prepare(
      `INSERT INTO hand_texts (item_id, text, value) SELECT items.id, @text, items.${text} ${pages}
       ON CONFLICT (item_id, text) DO UPDATE SET value = excluded.value`,
    );
    const touch = db.prepare("UPDATE items SET revision = ? WHERE id IN (SELECT value FROM json_each(?))");
    const asked = { text, items: JSON.stringify(items) };
    const marked = having.get(asked) as number;
    const changed = { text, items: JSON.stringify(others.all(asked)) };
    const revision = nextRevision(db);
    note.run({ ...changed, importId });
    put.run(changed);
    touch.run(revision, changed.items);
    return marked;
  });
  return (text, items) => (items.length === 0 ? 0 : mark.immediate(text, items));
}
