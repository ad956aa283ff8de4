import { type LiveFinding } from "../core/live/finding-words";
import { type CheckedPage, type PageMet } from "../core/live/findings";
import { type Surface } from "../core/measure/surface";
import { type Db } from "./open";

/** A page as it was met, and what was found on it. */
export type LivePage = Omit<PageMet, "robotsHeader"> & CheckedPage;

/** Writes down what pages are like on the site. Call it inside a transaction. */
export function livePageWriter(db: Db): (item: number, page: LivePage, now: string) => void {
  const put = db.prepare("INSERT OR REPLACE INTO live_pages (item_id, checked_at, met) VALUES (?, ?, ?)");
  const clear = db.prepare("DELETE FROM live_findings WHERE item_id = ?");
  const add = db.prepare("INSERT OR IGNORE INTO live_findings (finding, item_id) VALUES (?, ?)");
  const count = db.prepare("UPDATE site SET live_version = live_version + 1");
  return (item, page, now) => {
    count.run();
    clear.run(item);
    put.run(item, now, JSON.stringify(page));
    for (const finding of page.findings) add.run(finding, item);
  };
}

/** How many pages were looked at, and when last. */
export function liveFigures(db: Db): { readonly pages: number; readonly lastAt: string | null } {
  return db.prepare("SELECT count(*) AS pages, max(checked_at) AS lastAt FROM live_pages").get() as {
    pages: number;
    lastAt: string | null;
  };
}

/** Counts up with every page that is looked at. */
export function liveVersion(db: Db): number {
  return (db.prepare("SELECT live_version FROM site").pluck().get() as number | undefined) ?? 0;
}

/** Pages on which the last look found something. */
export function foundLive(db: Db): ReadonlySet<number> {
  return new Set(db.prepare("SELECT DISTINCT item_id FROM live_findings").pluck().all() as number[]);
}

/** On how many pages each finding is. */
export function liveFindingCounts(db: Db): ReadonlyMap<LiveFinding, number> {
  const rows = db.prepare("SELECT finding, count(*) AS count FROM live_findings GROUP BY finding").all();
  return new Map((rows as { finding: LiveFinding; count: number }[]).map(({ finding, count }) => [finding, count]));
}

/** A page of the list of those that were looked at. */
export interface ListedLivePage {
  readonly id: number;
  readonly kind: string;
  readonly name: string;
  readonly path: string | null;
  readonly title: string;
  readonly description: string;
  readonly checkedAt: string;
  readonly page: LivePage;
}

/** Pages with a finding, or all; behind a page's number. */
export function livePagesAfter(db: Db, finding: LiveFinding | null, after: number, most: number): ListedLivePage[] {
  const rows = db
    .prepare(
      `SELECT items.id, kind, name, path, title, description, checked_at AS checkedAt, met FROM live_pages JOIN items ON items.id = item_id
       WHERE items.id > @after AND (@finding IS NULL OR EXISTS (SELECT 1 FROM live_findings WHERE finding = @finding AND item_id = items.id))
       ORDER BY items.id LIMIT @most`,
    )
    .all({ finding, after, most }) as (Omit<ListedLivePage, "page"> & { met: string })[];
  return rows.map(({ met, ...row }) => ({ ...row, page: JSON.parse(met) as LivePage }));
}

/** What a theme puts around a text, and on how many of the pages that were looked at. */
export interface AddedText {
  readonly text: "title" | "description";
  readonly before: string;
  readonly behind: string;
  readonly pages: number;
}

/** What is added to texts, the most frequent first; on one page alone it is no theme's doing. */
export function addedTexts(db: Db): AddedText[] {
  return (["title", "description"] as const).flatMap((text) => {
    const rows = db
      .prepare(
        `SELECT coalesce(met ->> '$.${text}.before', '') AS before, coalesce(met ->> '$.${text}.behind', '') AS behind, count(*) AS pages
         FROM live_pages WHERE met ->> '$.${text}.how' = 'adds' GROUP BY 1, 2 HAVING pages > 1 ORDER BY pages DESC LIMIT 5`,
      )
      .all() as Omit<AddedText, "text">[];
    return rows.map((row) => ({ text, ...row }));
  });
}

/** What surfaces were made narrower for, by its sign, and how those surfaces were made. */
export function takenTexts(db: Db): ReadonlyMap<string, readonly Surface[]> {
  const rows = db.prepare("SELECT text || ' ' || added AS sign, surfaces FROM live_taken").all();
  return new Map(
    (rows as { sign: string; surfaces: string }[]).map(({ sign, surfaces }) => [
      sign,
      JSON.parse(surfaces) as Surface[],
    ]),
  );
}

export function noteTaken(db: Db, text: string, added: string, surfaces: readonly Surface[]): void {
  const put = db.prepare("INSERT OR REPLACE INTO live_taken (text, added, surfaces) VALUES (?, ?, ?)");
  put.run(text, added, JSON.stringify(surfaces));
}
