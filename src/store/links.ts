import { linksOf } from "../core/links/body-links";
import { type Db } from "./open";
import { readSite } from "./site";

/** A link of a body as it is stored. */
export interface StoredLink {
  readonly item: number;
  readonly number: number;
  readonly href: string;
  /** Where it leads, in normal form. */
  readonly path: string;
  readonly text: string;
  readonly rel: string | null;
  readonly isRelative: boolean;
}

/** A link that is to say something else. */
export type MendedLink = StoredLink & { readonly after: string };

/** What a link of a page is to say instead of what it says. */
export interface LinkMend {
  readonly item: number;
  readonly href: string;
  readonly after: string;
}

/** How many bodies there are, and how many of them wait for their links to be read. */
export interface LinksRead {
  readonly bodies: number;
  readonly unread: number;
}

/** Bodies that are read in one transaction: few enough that others who write hardly wait. */
const CHUNK = 200;

/** Counts up with every link that is read. */
export function linksVersion(db: Db): number {
  return (db.prepare("SELECT links_version FROM site WHERE id = 1").pluck().get() as number | undefined) ?? 0;
}

/** Counts up with every link that is mended, or left as it is after all. */
export function mendsVersion(db: Db): number {
  return (db.prepare("SELECT mends_version FROM site WHERE id = 1").pluck().get() as number | undefined) ?? 0;
}

function countVersion(db: Db): void {
  db.prepare("UPDATE site SET links_version = links_version + 1").run();
}

function countMends(db: Db): void {
  db.prepare("UPDATE site SET mends_version = mends_version + 1").run();
}

/** Where the site has another address than links were read against, all wait. */
export function linksRead(db: Db): LinksRead {
  const row = db.prepare(
    `SELECT (SELECT count(*) FROM bodies WHERE body <> '') AS bodies, (SELECT count(*) FROM links_unread) AS unread,
       (SELECT links_read_for FROM site) AS readFor`,
  );
  const { bodies, unread, readFor } = row.get() as LinksRead & { readonly readFor: string | null };
  return { bodies, unread: readFor !== null && readFor === originOf(db) ? unread : bodies };
}

/** The address that links are read against; `null` where there is no site. */
function originOf(db: Db): string | null {
  const site = readSite(db);
  return site && URL.canParse(site.baseUrl) ? new URL(site.baseUrl).origin : null;
}

/**
 * Reads the links of the next bodies that wait for it. Where the site has another address than links were read against, all are read
 * again.
 *
 * @returns how many wait still.
 */
export function readNextLinks(db: Db): number {
  return db
    .transaction(() => {
      const base = originOf(db);
      if (base === null) return 0;
      unreadAllFor(db, base);
      const next = db
        .prepare(
          `SELECT links_unread.item_id AS item, coalesce(path, '/') AS path, body FROM links_unread JOIN bodies USING (item_id)
           JOIN items ON items.id = item_id ORDER BY item_id LIMIT ${CHUNK}`,
        )
        .all() as { item: number; path: string; body: string }[];
      const write = linkWriter(db);
      for (const { item, path, body } of next) write(item, linksOf(body, addressOf(base, path)));
      if (next.length > 0) countVersion(db);
      return db.prepare("SELECT count(*) FROM links_unread").pluck().get() as number;
    })
    .immediate();
}

/** A page’s whole address; what cannot be one counts as the site’s own. */
function addressOf(base: string, path: string): string {
  return URL.canParse(path, base) ? new URL(path, base).href : base;
}

function unreadAllFor(db: Db, base: string): void {
  const { changes } = db
    .prepare("UPDATE site SET links_read_for = @base WHERE links_read_for IS NOT @base")
    .run({ base });
  if (changes === 0) return;
  db.prepare("DELETE FROM links").run();
  db.prepare("INSERT OR IGNORE INTO links_unread SELECT item_id FROM bodies WHERE body <> ''").run();
  countVersion(db);
}

function linkWriter(db: Db): (item: number, links: ReturnType<typeof linksOf>) => void {
  const drop = db.prepare("DELETE FROM links WHERE item_id = ?");
  const insert = db.prepare(
    "INSERT INTO links (item_id, number, href, path, text, rel, is_relative) VALUES (?, ?, ?, ?, ?, ?, ?)",
  );
  const settle = db.prepare("DELETE FROM links_unread WHERE item_id = ?");
  return (item, links) => {
    drop.run(item);
    for (const { number, href, path, text, rel, isRelative } of links)
      insert.run(item, number, href, path, text, rel, isRelative ? 1 : 0);
    settle.run(item);
  };
}

type Row = [number, number, string, string, string, string | null, number];

/** All links, page by page in the order of their ids. */
export function* iterateLinks(db: Db): Generator<StoredLink> {
  const rows = db
    .prepare(
      "SELECT item_id, number, href, path, text, rel, is_relative FROM links WHERE EXISTS (SELECT 1 FROM items WHERE id = item_id) ORDER BY item_id, number",
    )
    .raw()
    .iterate() as IterableIterator<Row>;
  for (const [item, number, href, path, text, rel, isRelative] of rows)
    yield { item, number, href, path, text, rel, isRelative: isRelative === 1 };
}

/** Whether a page’s body has a link that says so. */
export function hasLink(db: Db, item: number, href: string): boolean {
  return db.prepare("SELECT 1 FROM links WHERE item_id = ? AND href = ? LIMIT 1").get(item, href) !== undefined;
}

/** The links of bodies that are to say something else, with what. Mends are few beside links: they are gone through, in this order. */
export function mendedLinks(db: Db): readonly MendedLink[] {
  const rows = db
    .prepare(
      `SELECT item_id, number, href, path, text, rel, is_relative, after FROM link_mends CROSS JOIN links USING (item_id, href)
       WHERE EXISTS (SELECT 1 FROM items WHERE id = item_id) AND after <> href ORDER BY item_id, number`,
    )
    .raw()
    .all() as [...Row, string][];
  return rows.map(([item, number, href, path, text, rel, isRelative, after]) => ({
    ...{ item, number, href, path, text, rel },
    isRelative: isRelative === 1,
    after,
  }));
}

export function iterateMends(db: Db): IterableIterator<LinkMend> {
  return db.prepare("SELECT item_id AS item, href, after FROM link_mends").iterate() as IterableIterator<LinkMend>;
}

/**
 * Says what links are to say from now on: they wait in the review. What a link is to become is not mended on, so that undoing one mend
 * by another is none.
 */
export function mendLinks(db: Db, mends: Iterable<LinkMend>): number {
  const put = db.prepare(
    `INSERT INTO link_mends (item_id, href, after) VALUES (@item, @href, @after)
     ON CONFLICT (item_id, href) DO UPDATE SET after = excluded.after`,
  );
  const drop = db.prepare("DELETE FROM link_mends WHERE item_id = @item AND href = @after");
  return db
    .transaction(() => {
      let count = 0;
      for (const mend of mends) {
        drop.run(mend);
        count += put.run(mend).changes;
      }
      if (count > 0) countMends(db);
      return count;
    })
    .immediate();
}

/** Takes what links were to say back; `null` for all of them. @returns how many there were. */
export function dropMends(db: Db, links: Iterable<Pick<LinkMend, "item" | "href">> | null): number {
  const one = db.prepare("DELETE FROM link_mends WHERE item_id = @item AND href = @href");
  return db
    .transaction(() => {
      let dropped = 0;
      if (links === null) dropped = db.prepare("DELETE FROM link_mends").run().changes;
      else for (const { item, href } of links) dropped += one.run({ item, href }).changes;
      if (dropped > 0) countMends(db);
      return dropped;
    })
    .immediate();
}
