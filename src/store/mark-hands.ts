import { type TextName } from "../core/design/kinds";
import { type Db } from "./open";
import { nextRevision } from "./site";

/** Pages by their numbers in the database, by the text of theirs that is taken for one written by hand; each has that text. */
export type ItemsByText = ReadonlyMap<TextName, readonly number[]>;

/**
 * Marks texts of many pages by hand, in one transaction.
 *
 * @param importId the bringing in that what is done is written down for; of two steps with one text the first knows what was before.
 *   Of a page that it added nothing is: taken back, the page goes whole.
 */
export function handsMarker(db: Db, importId: number): (hands: ItemsByText) => void {
  const markers = new Map<TextName, ReturnType<typeof textMarker>>();
  const markerOf = (text: TextName) => {
    const marker = markers.get(text) ?? textMarker(db, importId, text);
    markers.set(text, marker);
    return marker;
  };
  const touch = db.prepare("UPDATE items SET revision = ? WHERE id IN (SELECT value FROM json_each(?))");
  return db.transaction((hands: ItemsByText) => {
    const revision = nextRevision(db);
    const changed = new Set<number>();
    for (const [text, items] of hands) for (const id of markerOf(text)(items)) changed.add(id);
    touch.run(revision, JSON.stringify([...changed]));
  }).immediate;
}

/** @returns marks a text of pages, and says of which it was not by hand before, or was another. */
function textMarker(db: Db, importId: number, text: TextName): (items: readonly number[]) => readonly number[] {
  const among = "json_each(?) AS one CROSS JOIN items ON items.id = one.value";
  const hand = `hand_texts ON hand_texts.item_id = items.id AND hand_texts.text = '${text}'`;
  const others = db
    .prepare(`SELECT items.id FROM ${among} LEFT JOIN ${hand} WHERE hand_texts.value IS NOT items.${text}`)
    .pluck();
  const note = db.prepare(
    `INSERT INTO import_hands (import_id, item_id, text, image, before, after)
     SELECT ${importId}, items.id, '${text}', '', hand_texts.value, items.${text}
     FROM ${among} LEFT JOIN ${hand}
     WHERE NOT EXISTS (SELECT 1 FROM import_changes WHERE import_id = ${importId} AND item_id = items.id AND what = 'added')
     ON CONFLICT (import_id, item_id, text, image) DO UPDATE SET after = excluded.after`,
  );
  const put = db.prepare(
    `INSERT INTO hand_texts (item_id, text, value) SELECT items.id, '${text}', items.${text} FROM ${among} WHERE true
     ON CONFLICT (item_id, text) DO UPDATE SET value = excluded.value`,
  );
  return (items) => {
    const changed = others.all(JSON.stringify(items)) as number[];
    if (changed.length === 0) return changed;
    const ids = JSON.stringify(changed);
    note.run(ids);
    put.run(ids);
    return changed;
  };
}
