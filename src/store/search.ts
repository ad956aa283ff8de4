import { type Db } from "./open";

const STEP = 2000;

/** How far the index is: all changes up to a revision are in it; on the way to another one, those of items up to an id are, too. */
interface SearchState {
  readonly revision: number;
  readonly target: number | null;
  readonly after: number;
}

/**
 * Brings the full text index up to date with what changed since it was last asked, a few items to a transaction: ended at any
 * moment it goes on where it was, and two connections that do so at a time share the work.
 */
export function syncSearch(db: Db, revision: number): void {
  const read = db.prepare("SELECT revision, target, after FROM item_search_state WHERE id = 1");
  if ((read.get() as SearchState).revision >= revision) return;
  const write = db.prepare("UPDATE item_search_state SET revision = ?, target = ?, after = ? WHERE id = 1");
  const page = db.prepare(
    `SELECT items.id, name, path, category_path, keyword, title, description, summary || ' ' || intro || ' ' || attributes || ' ' || coalesce(key, '') AS fields, coalesce(body, '') AS body,
       concat_ws(' ', (SELECT group_concat(value, ' ') FROM hand_texts WHERE item_id = items.id),
         (SELECT group_concat(value, ' ') FROM hand_extras WHERE item_id = items.id)) AS hand
     FROM items LEFT JOIN bodies ON bodies.item_id = items.id WHERE revision > ? AND items.id > ? ORDER BY items.id LIMIT ?`,
  );
  const drop = db.prepare("DELETE FROM item_search WHERE rowid = ?");
  const put = db.prepare(
    "INSERT INTO item_search (rowid, name, path, category, keyword, title, description, hand, fields, body) VALUES (@id, @name, @path, @category_path, @keyword, @title, @description, @hand, @fields, @body)",
  );
  const step = db.transaction((): boolean => {
    const state = read.get() as SearchState;
    if (state.revision >= revision) return false;
    const rows = page.all(state.revision, state.after, STEP) as { id: number }[];
    for (const row of rows) {
      // Into an index that was empty each item comes once.
      if (state.revision >= 0) drop.run(row.id);
      put.run(row);
    }
    const target = state.target ?? revision;
    if (rows.length < STEP) write.run(target, null, 0);
    else write.run(state.revision, target, rows.at(-1)!.id);
    return true;
  });
  while (step.immediate());
}

/** What an answer of the index rests on: how far it was brought up to date. */
export function searchStamp(db: Db): string {
  const { revision, target, after } = db
    .prepare("SELECT revision, target, after FROM item_search_state")
    .get() as SearchState;
  return `${revision} ${target} ${after}`;
}

/**
 * What was typed as a query of the index: every word has to be there or begin one that is; words in quotation marks stand
 * as they are, in a row. `null` where nothing can be searched for.
 *
 * @example searchQuery("bronze cle") // "\"bronze\"* \"cle\"*"
 */
export function searchQuery(typed: string): string | null {
  const parts: string[] = [];
  for (const [, phrase, word] of typed.matchAll(/["“”]([^"“”]+)["“”]|(\S+)/gu)) {
    const words = (phrase ?? word!).match(/[\p{L}\p{N}\p{M}]+/gu);
    if (!words) continue;
    if (phrase !== undefined) parts.push(`"${words.join(" ")}"`);
    else parts.push(`"${words.join(" ")}"*`);
  }
  return parts.length === 0 ? null : parts.join(" ");
}

/** The ids of the items that hold what was typed, rising. */
export function searchItems(db: Db, query: string): number[] {
  return db
    .prepare("SELECT rowid FROM item_search WHERE item_search MATCH ? ORDER BY rowid")
    .pluck()
    .all(query) as number[];
}
