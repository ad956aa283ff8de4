import Database from "better-sqlite3";

/** The practice site’s own database: nothing of Nine Lines reads or writes it. */
export type PracticeDb = Database.Database;

/** A page as the practice site holds it. */
export interface PracticePage {
  /** What its interface names it by. */
  readonly id: string;
  readonly kind: string;
  /** Its address on the site, letters beyond ASCII as letters. */
  readonly path: string;
  /** Its heading, and what it is called in lists. */
  readonly name: string;
  readonly title: string;
  readonly description: string;
  /** As a robots `meta` has it; `""` where it has none. */
  readonly robots: string;
  /** `""` where it is the page’s own address. */
  readonly canonical: string;
  readonly intro: string;
  /** HTML. */
  readonly body: string;
  readonly category: string;
  /** From the top down, with ` › ` between. */
  readonly categoryPath: string;
  readonly author: string;
  /** `YYYY-MM-DD`, or `""`. */
  readonly published: string;
  readonly price: string;
  /** JSON: name → value. */
  readonly attributes: string;
  /** When it was changed last: ISO 8601, UTC. */
  readonly changedAt: string;
  /** Counts up with every change. */
  readonly version: number;
}

/** An old path that leads on. */
export interface PracticeRedirect {
  readonly from: string;
  /** `""` where it is gone for good. */
  readonly to: string;
  readonly status: number;
  /** Whether all below `from` is led on; both end in a slash then. */
  readonly isPrefix: boolean;
}

/** In their order. */
const COLUMNS = [
  ["id", "id"],
  ["kind", "kind"],
  ["path", "path"],
  ["name", "name"],
  ["title", "title"],
  ["description", "description"],
  ["robots", "robots"],
  ["canonical", "canonical"],
  ["intro", "intro"],
  ["body", "body"],
  ["category", "category"],
  ["categoryPath", "category_path"],
  ["author", "author"],
  ["published", "published"],
  ["price", "price"],
  ["attributes", "attributes"],
  ["changedAt", "changed_at"],
  ["version", "version"],
] as const satisfies readonly (readonly [keyof PracticePage, string])[];

const SELECTED = COLUMNS.map(([name, column]) => `${column} AS "${name}"`).join(", ");

const SCHEMA = `
CREATE TABLE IF NOT EXISTS pages (
  place INTEGER PRIMARY KEY,
  id TEXT NOT NULL UNIQUE,
  kind TEXT NOT NULL,
  path TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL,
  title TEXT NOT NULL,
  description TEXT NOT NULL,
  robots TEXT NOT NULL,
  canonical TEXT NOT NULL,
  intro TEXT NOT NULL,
  body TEXT NOT NULL,
  category TEXT NOT NULL,
  category_path TEXT NOT NULL,
  author TEXT NOT NULL,
  published TEXT NOT NULL,
  price TEXT NOT NULL,
  attributes TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  version INTEGER NOT NULL
) STRICT;
CREATE INDEX IF NOT EXISTS pages_by_kind ON pages (kind, place);
CREATE INDEX IF NOT EXISTS pages_by_category ON pages (category_path, place);
CREATE INDEX IF NOT EXISTS pages_by_author ON pages (author, place);
CREATE INDEX IF NOT EXISTS pages_by_day ON pages (published, place);
CREATE TABLE IF NOT EXISTS writes (
  number INTEGER PRIMARY KEY,
  page TEXT NOT NULL,
  at TEXT NOT NULL,
  -- program: over the interface; editor: on the site itself.
  writer TEXT NOT NULL,
  -- JSON: what changed, by name.
  before TEXT NOT NULL,
  after TEXT NOT NULL
) STRICT;
CREATE INDEX IF NOT EXISTS writes_by_page ON writes (page, number);
CREATE TABLE IF NOT EXISTS faults (name TEXT PRIMARY KEY, share REAL NOT NULL) STRICT, WITHOUT ROWID;
CREATE TABLE IF NOT EXISTS redirects (
  old_path TEXT NOT NULL,
  is_prefix INTEGER NOT NULL,
  target TEXT NOT NULL,
  status INTEGER NOT NULL,
  PRIMARY KEY (old_path, is_prefix)
) STRICT, WITHOUT ROWID;
`;

/** Counts up with the schema: a practice site of another one is filled anew. */
const VERSION = 2;
const DROP_ALL = ["pages", "writes", "redirects", "faults"].map((table) => `DROP TABLE IF EXISTS ${table};`).join("\n");

/** What of a page can be changed from outside. */
export const CHANGEABLE = ["path", "name", "title", "description", "robots", "canonical", "intro", "body"] as const;
export type PageChange = Partial<Pick<PracticePage, (typeof CHANGEABLE)[number]>>;

/** What became of a change that was asked for. */
export type Changed =
  | { readonly what: "done"; readonly page: PracticePage }
  | { readonly what: "missing" }
  /** Somebody else changed it meanwhile. */
  | { readonly what: "stale"; readonly page: PracticePage }
  /** Another page is at the address that it is to have. */
  | { readonly what: "taken"; readonly by: string };

/** A line of the site’s own log: what was written to which page. */
export interface Write {
  readonly number: number;
  readonly page: string;
  readonly at: string;
  /** A program over the interface, or somebody on the site itself. */
  readonly writer: "program" | "editor";
  readonly before: PageChange;
  readonly after: PageChange;
}

type WriteRow = Omit<Write, "before" | "after"> & { readonly before: string; readonly after: string };

function writeOf({ before, after, ...row }: WriteRow): Write {
  return { ...row, before: JSON.parse(before) as PageChange, after: JSON.parse(after) as PageChange };
}

/** Which pages of a list are wanted: from a place on, so many. */
export interface Stretch {
  readonly from: number;
  readonly count: number;
}

/** A condition on pages, and what it is about. */
export interface PagesWhere {
  /** SQL over the table’s columns, with one parameter. */
  readonly sql:
    | "kind = ?"
    | "category_path = ?"
    | "category_path = ? AND kind <> 'category'"
    | "author = ?"
    | "published LIKE ? || '-%'"
    | "name LIKE '%' || ? || '%'";
  readonly value: string;
}

/** The practice site’s pages and redirects. */
export class PracticeStore {
  constructor(readonly db: PracticeDb) {
    db.pragma("journal_mode = WAL");
    if (db.pragma("user_version", { simple: true }) !== VERSION) db.exec(DROP_ALL);
    db.exec(SCHEMA);
    db.pragma(`user_version = ${VERSION}`);
  }

  count(): number {
    return this.db.prepare("SELECT count(*) FROM pages").pluck().get() as number;
  }

  /** Puts a page in as it is. */
  put(page: PracticePage): void {
    const names = COLUMNS.map(([name]) => name);
    this.db
      .prepare(
        `INSERT INTO pages (${COLUMNS.map(([, column]) => column).join(", ")}) VALUES (${names.map(() => "?").join(", ")})`,
      )
      .run(names.map((name) => page[name]));
  }

  putRedirect({ from, to, status, isPrefix }: PracticeRedirect): void {
    this.db
      .prepare("INSERT OR REPLACE INTO redirects (old_path, is_prefix, target, status) VALUES (?, ?, ?, ?)")
      .run(from, isPrefix ? 1 : 0, to, status);
  }

  pageAt(path: string): PracticePage | null {
    return (
      (this.db.prepare(`SELECT ${SELECTED} FROM pages WHERE path = ?`).get(path) as PracticePage | undefined) ?? null
    );
  }

  /** The redirect that decides at a path where no page is: an exact one, else that of the longest folder. */
  redirectAt(path: string): PracticeRedirect | null {
    const exact = this.exactRedirect(path);
    if (exact) return exact;
    for (let at = path.lastIndexOf("/"); at >= 0; at = at === 0 ? -1 : path.lastIndexOf("/", at - 1)) {
      const found = this.redirect(path.slice(0, at + 1), true);
      if (found) return found;
    }
    return null;
  }

  /** The redirect of a path itself, with its query where it has one. */
  exactRedirect(path: string): PracticeRedirect | null {
    return this.redirect(path, false);
  }

  private redirect(from: string, isPrefix: boolean): PracticeRedirect | null {
    const row = this.db
      .prepare('SELECT target AS "to", status FROM redirects WHERE old_path = ? AND is_prefix = ?')
      .get(from, isPrefix ? 1 : 0) as Pick<PracticeRedirect, "to" | "status"> | undefined;
    return row ? { from, isPrefix, ...row } : null;
  }

  /** Pages that are so, in the site’s order. */
  pages({ sql, value }: PagesWhere, { from, count }: Stretch): PracticePage[] {
    return this.db
      .prepare(`SELECT ${SELECTED} FROM pages WHERE ${sql} ORDER BY place LIMIT ? OFFSET ?`)
      .all(value, count, from) as PracticePage[];
  }

  countOf({ sql, value }: PagesWhere): number {
    return this.db.prepare(`SELECT count(*) FROM pages WHERE ${sql}`).pluck().get(value) as number;
  }

  pageOf(id: string): PracticePage | null {
    return (this.db.prepare(`SELECT ${SELECTED} FROM pages WHERE id = ?`).get(id) as PracticePage | undefined) ?? null;
  }

  /** A page by its place in the site’s order. */
  pageAtPlace(place: number): (PracticePage & { readonly place: number }) | null {
    const found = this.db.prepare(`SELECT place, ${SELECTED} FROM pages WHERE place = ?`).get(place);
    return (found as (PracticePage & { readonly place: number }) | undefined) ?? null;
  }

  /**
   * Changes a page, and writes down that it did. What is as it was already is no change: the page keeps its version.
   *
   * @param version the one that the change was made for; `null` where whatever is there is changed.
   */
  change(
    id: string,
    change: PageChange,
    version: number | null,
    now: string,
    writer: Write["writer"] = "program",
  ): Changed {
    return this.db
      .transaction((): Changed => {
        const page = this.pageOf(id);
        if (!page) return { what: "missing" };
        if (version !== null && version !== page.version) return { what: "stale", page };
        const names = CHANGEABLE.filter((name) => change[name] !== undefined && change[name] !== page[name]);
        if (names.length === 0) return { what: "done", page };
        const other = names.includes("path") ? this.pageAt(change.path!) : null;
        if (other) return { what: "taken", by: other.id };
        const only = (of: PageChange) => JSON.stringify(Object.fromEntries(names.map((name) => [name, of[name]])));
        this.db
          .prepare(
            `UPDATE pages SET ${names.map((name) => `${name} = ?`).join(", ")}, changed_at = ?, version = version + 1 WHERE id = ?`,
          )
          .run(...names.map((name) => change[name]), now, id);
        this.db
          .prepare("INSERT INTO writes (page, at, writer, before, after) VALUES (?, ?, ?, ?, ?)")
          .run(id, now, writer, only(page), only(change));
        return { what: "done", page: this.pageOf(id)! };
      })
      .immediate();
  }

  /** What was written, in order. */
  writes(): Write[] {
    return (this.db.prepare("SELECT * FROM writes ORDER BY number").all() as WriteRow[]).map(writeOf);
  }

  /** What a page says to who last saw it at a moment, ISO 8601; its address is the one that it has now. */
  asOf(page: PracticePage, moment: string): PracticePage {
    const later = this.db
      .prepare("SELECT * FROM writes WHERE page = ? AND at > ? ORDER BY number DESC")
      .all(page.id, moment) as WriteRow[];
    const before = later.map(writeOf).reduce<PageChange>((all, write) => ({ ...all, ...write.before }), {});
    return { ...page, ...before, path: page.path };
  }

  /** Faults that are switched on, and of how many requests out of 100 each befalls. */
  faults(): { readonly name: string; readonly share: number }[] {
    return this.db.prepare("SELECT name, share FROM faults ORDER BY name").all() as { name: string; share: number }[];
  }

  shareOf(fault: string): number {
    return (this.db.prepare("SELECT share FROM faults WHERE name = ?").pluck().get(fault) as number | undefined) ?? 0;
  }

  /** @param share 0 for a fault that is off. */
  setFault(name: string, share: number): void {
    if (share === 0) this.db.prepare("DELETE FROM faults WHERE name = ?").run(name);
    else this.db.prepare("INSERT OR REPLACE INTO faults (name, share) VALUES (?, ?)").run(name, share);
  }

  /**
   * Pages in the site’s order, behind a place.
   *
   * @param since only what was changed after that, ISO 8601; `""` for all.
   */
  pagesAfter({
    place,
    kind,
    since,
    count,
    skip = 0,
  }: {
    place: number;
    kind: string | null;
    since: string;
    count: number;
    skip?: number;
  }) {
    return this.db
      .prepare(
        `SELECT place, ${SELECTED} FROM pages WHERE place > ? AND (? IS NULL OR kind = ?) AND changed_at > ? ORDER BY place LIMIT ? OFFSET ?`,
      )
      .all(place, kind, kind, since, count, skip) as (PracticePage & { readonly place: number })[];
  }

  /** How many there are. */
  countAfter({ kind, since }: { kind: string | null; since: string }): number {
    return this.db
      .prepare("SELECT count(*) FROM pages WHERE (? IS NULL OR kind = ?) AND changed_at > ?")
      .pluck()
      .get(kind, kind, since) as number;
  }

  /** What pages have of a column, each value once, in order; empty ones left out. */
  valuesOf(column: "kind" | "author"): string[] {
    return this.db
      .prepare(`SELECT DISTINCT ${column} FROM pages WHERE ${column} <> '' ORDER BY ${column}`)
      .pluck()
      .all() as string[];
  }

  /** Months in which something was published, `YYYY-MM`, the newest first. */
  months(): string[] {
    return this.db
      .prepare(
        "SELECT DISTINCT substr(published, 1, 7) FROM pages WHERE kind = 'post' AND published <> '' ORDER BY 1 DESC",
      )
      .pluck()
      .all() as string[];
  }

  /** All redirects, by their old paths. */
  redirects(): PracticeRedirect[] {
    const rows = this.db
      .prepare(
        'SELECT old_path AS "from", target AS "to", status, is_prefix AS prefix FROM redirects ORDER BY old_path, is_prefix',
      )
      .all() as (Omit<PracticeRedirect, "isPrefix"> & { prefix: number })[];
    return rows.map(({ prefix, ...row }) => ({ ...row, isPrefix: prefix === 1 }));
  }

  /** @returns whether there was one. */
  removeRedirect(from: string, isPrefix: boolean): boolean {
    const gone = this.db
      .prepare("DELETE FROM redirects WHERE old_path = ? AND is_prefix = ?")
      .run(from, isPrefix ? 1 : 0);
    return gone.changes > 0;
  }

  /** Old paths of exact redirects, in order. */
  oldPaths(count: number): string[] {
    return this.db
      .prepare("SELECT old_path FROM redirects WHERE is_prefix = 0 ORDER BY old_path LIMIT ?")
      .pluck()
      .all(count) as string[];
  }
}
