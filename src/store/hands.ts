import { HAND_NAMES, type HandExtra, type HandName, type Hands } from "../core/design/hands";
import { type ExtraName } from "../core/design/kinds";
import { type Db } from "./open";

/** What a row sets by hand, or with `null` lets go of. */
export type HandChange =
  | { readonly text: HandName; readonly image: null; readonly value: string | null }
  | { readonly text: ExtraName; readonly image: string; readonly value: string };

/** Reads what a page has by hand. */
export function handsReader(db: Db): (id: number) => Hands {
  const texts = db.prepare("SELECT text, value FROM hand_texts WHERE item_id = ? ORDER BY text").raw();
  const extras = db.prepare("SELECT text, image, value FROM hand_extras WHERE item_id = ? ORDER BY text, image");
  return (id) => ({
    texts: Object.fromEntries(texts.all(id) as [HandName, string][]),
    extras: extras.all(id) as HandExtra[],
  });
}

/**
 * What becomes of what a page has by hand: a text that was not applied yet stays, whatever the site has by now, unless the row has
 * another; a robots setting and an extra text that the row does not speak of stay, too.
 *
 * @param byHand which of the row's texts are by hand; `null` where it does not say.
 * @param given what the row gives for by hand, whatever the site has.
 * @param row what the site has by the row. @param before what the site had.
 */
export function handChanges(
  { byHand, given }: { readonly byHand: readonly HandName[] | null; readonly given: Hands | null },
  row: Readonly<Record<HandName, string>>,
  now: Hands,
  before: Readonly<Record<HandName, string>>,
): HandChange[] {
  const texts = HAND_NAMES.flatMap((text): HandChange[] => {
    const own = now.texts[text];
    const put = (value: string | null): HandChange[] =>
      own === (value ?? undefined) ? [] : [{ text, image: null, value }];
    const waiting = given?.texts[text];
    if (waiting !== undefined) return put(waiting);
    if (byHand === null || (own !== undefined && own !== before[text])) return [];
    if (byHand.includes(text) && row[text] !== "") return put(row[text]);
    return text === "robots" ? [] : put(null);
  });
  const has = (one: HandExtra) =>
    now.extras.some((own) => own.text === one.text && own.image === one.image && own.value === one.value);
  return [...texts, ...(given?.extras ?? []).filter((one) => !has(one))];
}

/** Writes what becomes of what a page has by hand. */
export function handWriter(db: Db): (id: number, changes: readonly HandChange[]) => void {
  const put = db.prepare(
    "INSERT INTO hand_texts (item_id, text, value) VALUES (?, ?, ?) ON CONFLICT (item_id, text) DO UPDATE SET value = excluded.value",
  );
  const drop = db.prepare("DELETE FROM hand_texts WHERE item_id = ? AND text = ?");
  const putExtra = db.prepare(
    "INSERT INTO hand_extras (item_id, text, image, value) VALUES (?, ?, ?, ?) ON CONFLICT (item_id, text, image) DO UPDATE SET value = excluded.value",
  );
  return (id, changes) => {
    for (const { text, image, value } of changes) {
      if (image !== null) putExtra.run(id, text, image, value);
      else if (value === null) drop.run(id, text);
      else put.run(id, text, value);
    }
  };
}
