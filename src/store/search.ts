import { type Db } from "./open";

const STEP = 2000;

/**
 * Brings the full text index up to date with what changed since it was last asked.
 *
 * @param progress told how many items of how many are in.
 */
export function syncSearch(db: Db, revision: number, progress?: (done: number, total: number) => void): void {
  const seen = db.prepare("SELECT revision FROM item_search_state WHERE id = 1").pluck().get() as number;
  if (seen === revision) return;
  const total = db.prepare("SELECT count(*) FROM items WHERE revision > ?").pluck().get(seen) as number;
  const page = db.prepare(
    `SELECT items.id, name, path, category_path, keyword, title, description, summary || ' ' || intro || ' ' || attributes || ' ' || coalesce(key, '') AS fields, coalesce(body, '') AS body,
       (SELECT group_concat(value, ' ') FROM hand_texts WHERE item_id = items.id) AS hand
     FROM items LEFT JOIN bodies ON bodies.item_id = items.id WHERE revision > ? AND items.id > ? ORDER BY items.id LIMIT ?`,
  );
  const drop = db.prepare("DELETE FROM item_search WHERE rowid = ?");
  const put = db.prepare("INSERT INTO item_search (rowid, name, path, category, keyword, title, description, hand, fields, body) VALUES (@id, @name, @path, @category_path, @keyword, @title, @description, @hand, @fields, @body)");
  let done = 0;
  for (let after = 0; ; ) {
    const rows = page.all(seen, after, STEP) as { id: number }[];
    if (rows.length === 0) break;
    db.transaction(() => {
      for (const row of rows) {
        if (seen >= 0) drop.run(row.id);
        put.run(row);
      }
    }).immediate();
    after = rows.at(-1)!.id;
    progress?.((done += rows.length), total);
  }
  db.prepare("UPDATE item_search_state SET revision = ? WHERE id = 1").run(revision);
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
  return db.prepare("SELECT rowid FROM item_search WHERE item_search MATCH ? ORDER BY rowid").pluck().all(query) as number[];
}
