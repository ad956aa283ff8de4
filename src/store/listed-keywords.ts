import { type Db } from "./open";

/** A keyword of the list; `columns` is what else it was brought in with. */
export interface ListedKeyword {
  readonly id: number;
  readonly keyword: string;
  readonly folded: string;
  readonly volume: number | null;
  readonly columns: Readonly<Record<string, string>>;
}

/** Case and white space aside. */
export function foldKeyword(keyword: string): string {
  return keyword.normalize("NFC").toLowerCase().replace(/\s+/g, " ").trim();
}

/** Puts keywords on the list; one that is on it already gets the new figures. Call it inside a transaction. */
export function keywordWriter(
  db: Db,
): (keyword: string, volume: number | null, columns: Readonly<Record<string, string>>) => "added" | "updated" {
  const find = db.prepare("SELECT id FROM listed_keywords WHERE folded = ?").pluck();
  const insert = db.prepare("INSERT INTO listed_keywords (keyword, folded, volume, columns) VALUES (?, ?, ?, ?)");
  const update = db.prepare("UPDATE listed_keywords SET volume = ?, columns = ? WHERE id = ?");
  return (keyword, volume, columns) => {
    const folded = foldKeyword(keyword);
    const id = find.get(folded) as number | undefined;
    if (id === undefined) {
      insert.run(keyword, folded, volume, JSON.stringify(columns));
      return "added";
    }
    update.run(volume, JSON.stringify(columns), id);
    return "updated";
  };
}

/** The whole list, those most searched for first. */
export function listedKeywords(db: Db): ListedKeyword[] {
  const rows = db
    .prepare(
      "SELECT id, keyword, folded, volume, columns FROM listed_keywords ORDER BY volume IS NULL, volume DESC, folded",
    )
    .all() as (Omit<ListedKeyword, "columns"> & { columns: string })[];
  return rows.map((row) => ({ ...row, columns: JSON.parse(row.columns) as Record<string, string> }));
}

/** Counts up with every change of the list. */
export function keywordListVersion(db: Db): number {
  return (db.prepare("SELECT keywords_version FROM site WHERE id = 1").pluck().get() as number | undefined) ?? 0;
}

/** Notes that the list changed; in the transaction that changes it. */
export function noteKeywordListChange(db: Db): void {
  db.prepare("UPDATE site SET keywords_version = keywords_version + 1").run();
}

/** Takes every keyword off the list; says how many there were. */
export function clearKeywordList(db: Db): number {
  return db
    .transaction(() => {
      noteKeywordListChange(db);
      return db.prepare("DELETE FROM listed_keywords").run().changes;
    })
    .immediate();
}
