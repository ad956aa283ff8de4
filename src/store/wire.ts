import { type Db } from "./open";

/** A site’s description as it was saved. */
export interface StoredConnection {
  readonly description: string;
  readonly savedAt: string;
}

export function readStoredConnection(db: Db): StoredConnection | null {
  const row = db.prepare("SELECT description, saved_at AS savedAt FROM connection").get();
  return (row as StoredConnection | undefined) ?? null;
}

/** Where a site’s interface is. */
export interface ConnectionFigures {
  readonly name: string;
  readonly base: string;
  /** Whether changes go out over it. */
  readonly writes: boolean;
  /** Whether redirects do. */
  readonly redirects: boolean;
}

export function connectionFigures(db: Db): ConnectionFigures | null {
  const row = db
    .prepare(
      `SELECT description ->> 'name' AS name, description ->> 'base' AS base, writes, json_type(description, '$.redirects') IS NOT NULL AS redirects
       FROM connection`,
    )
    .get() as { name: string; base: string; writes: number; redirects: number } | undefined;
  return row ? { ...row, writes: row.writes === 1, redirects: row.redirects === 1 } : null;
}

/**
 * Keeps a site’s description. With another one the next look asks for everything again; at another address pages may be called otherwise.
 *
 * @param writes whether changes go out over it.
 */
export function writeConnection(db: Db, description: string, writes: boolean, now: string): void {
  const before = connectionFigures(db);
  const stale = [
    ...(readStoredConnection(db)?.description === description ? [] : ["looks"]),
    ...(before?.base === (JSON.parse(description) as { base?: unknown }).base ? [] : ["wire_pages", "wire_forms"]),
  ];
  for (const table of stale) db.prepare(`DELETE FROM ${table}`).run();
  const put = db.prepare("INSERT OR REPLACE INTO connection (id, description, writes, saved_at) VALUES (1, ?, ?, ?)");
  put.run(description, writes ? 1 : 0, now);
}

/** Forgets the description, and what the interface calls pages. */
export function removeConnection(db: Db): void {
  db.transaction(() => {
    for (const table of ["connection", "looks", "wire_pages", "wire_forms"]) db.prepare(`DELETE FROM ${table}`).run();
  })();
}

/** A look at the live site that came to its end. */
export interface Look {
  /** The import that it was. */
  readonly import: number;
  /** Whether everything was asked for, not only what had changed. */
  readonly isFull: boolean;
  /** When the site was asked, by its own clock. */
  readonly askedAt: string;
  readonly endedAt: string;
}

export function writeLook(db: Db, { import: id, isFull, askedAt, endedAt }: Look): void {
  const insert = "INSERT INTO looks (import_id, is_full, asked_at, ended_at) VALUES (?, ?, ?, ?)";
  db.prepare(insert).run(id, isFull ? 1 : 0, askedAt, endedAt);
}

/** The last look; `null` before the first. */
export function lastLook(db: Db): Look | null {
  const row = db
    .prepare(
      `SELECT import_id AS import, is_full AS isFull, asked_at AS askedAt, ended_at AS endedAt FROM looks ORDER BY import_id DESC LIMIT 1`,
    )
    .get() as (Omit<Look, "isFull"> & { isFull: number }) | undefined;
  return row ? { ...row, isFull: row.isFull === 1 } : null;
}

/** What the interface calls a page, and the version of it that was seen last. */
export interface WirePage {
  readonly remote: string;
  readonly etag: string | null;
}

export function wirePage(db: Db, item: number): WirePage | null {
  return (
    (db.prepare("SELECT remote, etag FROM wire_pages WHERE item_id = ?").get(item) as WirePage | undefined) ?? null
  );
}

/** How many pages the interface knows. */
export function countWirePages(db: Db): number {
  return db.prepare("SELECT count(*) FROM wire_pages").pluck().get() as number;
}

/** Writes down what the interface calls pages. */
export function wirePageWriter(db: Db): (item: number, page: WirePage) => void {
  const put = db.prepare("INSERT OR REPLACE INTO wire_pages (item_id, remote, etag) VALUES (?, ?, ?)");
  return (item, { remote, etag }) => void put.run(item, remote, etag);
}

/** Writes down in which form a value stood, where it is another than the one that it would be written in. */
export function wireFormWriter(db: Db): (item: number, field: string, reading: string, form: string) => void {
  const put = db.prepare("INSERT OR REPLACE INTO wire_forms (item_id, field, reading, form) VALUES (?, ?, ?, ?)");
  return (item, field, reading, form) => void put.run(item, field, reading, form);
}

/** In which form a value of a page stood once; `null` for the usual one. */
export function wireForm(db: Db, item: number, field: string, reading: string): string | null {
  const found = db
    .prepare("SELECT form FROM wire_forms WHERE item_id = ? AND field = ? AND reading = ?")
    .pluck()
    .get(item, field, reading);
  return (found as string | undefined) ?? null;
}

/** Pages whose change a run sent and that are not confirmed yet, in order. */
export function sentPages(db: Db, run: number): number[] {
  return db.prepare("SELECT item_id FROM wire_sent WHERE run_id = ? ORDER BY item_id").pluck().all(run) as number[];
}

/** Writes down that changes of pages are sent; before they are. */
export function noteSent(db: Db, run: number, items: readonly number[], now: string): void {
  const insert = db.prepare("INSERT OR IGNORE INTO wire_sent (run_id, item_id, sent_at) VALUES (?, ?, ?)");
  db.transaction(() => {
    for (const item of items) insert.run(run, item, now);
  }).immediate();
}

/** Writes down that changes of pages are known not to have been made, or what became of them is. */
export function forgetSent(db: Db, run: number, items: readonly number[]): void {
  const remove = db.prepare("DELETE FROM wire_sent WHERE run_id = ? AND item_id = ?");
  for (const item of items) remove.run(run, item);
}

/** How far a run over the interface is, beside its changes that are confirmed and that wait. */
export interface WireFigures {
  /** Pages that were sent and are not confirmed yet. */
  readonly sent: number;
  /** Changes that the site refused. */
  readonly refused: number;
  /** Changes whose page was changed on the site meanwhile. */
  readonly changed: number;
}

export function wireFigures(db: Db, run: number): WireFigures {
  const count = db.prepare("SELECT count(*) FROM run_changes WHERE run_id = ? AND trouble = ?").pluck();
  const sent = db.prepare("SELECT count(*) FROM wire_sent WHERE run_id = ?").pluck().get(run) as number;
  return { sent, refused: count.get(run, "refused") as number, changed: count.get(run, "changed") as number };
}
