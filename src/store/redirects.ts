import { type Redirect, type RedirectStatus } from "../core/addresses/redirect";
import { type Db } from "./open";

/** Where a redirect came from. */
export type RedirectOrigin = "run" | "hand" | "file";

/** A redirect as it is stored; paths as people read them. */
export interface StoredRedirect {
  readonly id: number;
  readonly run: number | null;
  readonly from: string;
  /** `""` where it is gone for good. */
  readonly to: string;
  readonly status: RedirectStatus;
  readonly prefix: boolean;
  readonly origin: RedirectOrigin;
  readonly createdAt: string | null;
  /** When a person retired it, `null` where it holds. */
  readonly retiredAt: string | null;
}

type Row = Omit<StoredRedirect, "prefix"> & { prefix: number };
const COLUMNS = `id, run_id AS run, from_path AS "from", to_path AS "to", status, prefix, origin, created_at AS createdAt, retired_at AS retiredAt`;
const storedOf = (row: Row): StoredRedirect => ({ ...row, prefix: row.prefix === 1 });

/** Those that hold, and those that a person retired, in the order in which they were made. What a run retired is not among them. */
export function* iterateRedirects(db: Db): Generator<StoredRedirect> {
  const rows = db.prepare(`SELECT ${COLUMNS} FROM redirects WHERE retired_by IS NULL ORDER BY id`).iterate();
  for (const row of rows as IterableIterator<Row>) yield storedOf(row);
}

/** Another one where a person or a file changed the redirects; what runs do counts among the changes of pages. */
export function redirectsVersion(db: Db): number {
  return (db.prepare("SELECT redirects_version FROM site WHERE id = 1").pluck().get() as number | undefined) ?? 0;
}

function countVersion(db: Db): void {
  db.prepare("UPDATE site SET redirects_version = redirects_version + 1").run();
}

/**
 * Puts redirects in that a person or a file gives. One of the same path that a person or a file gave before is retired by it.
 *
 * @returns how many were put in; those that are there already, just so, are not.
 */
export function addRedirects(
  db: Db,
  redirects: Iterable<Redirect>,
  origin: Exclude<RedirectOrigin, "run">,
  now: string,
): number {
  const given =
    "retired_by IS NULL AND retired_at IS NULL AND from_path = @from AND prefix = @prefix AND origin <> 'run'";
  const same = db.prepare(`SELECT 1 FROM redirects WHERE ${given} AND to_path = @to AND status = @status LIMIT 1`);
  const retire = db.prepare(`UPDATE redirects SET retired_at = @now WHERE ${given}`);
  const insert = db.prepare(
    "INSERT INTO redirects (from_path, to_path, status, prefix, origin, created_at) VALUES (@from, @to, @status, @prefix, @origin, @now)",
  );
  return db
    .transaction(() => {
      let added = 0;
      for (const redirect of redirects) {
        const row = { ...redirect, prefix: redirect.prefix ? 1 : 0, origin, now };
        if (same.get(row)) continue;
        retire.run(row);
        insert.run(row);
        added++;
      }
      if (added > 0) countVersion(db);
      return added;
    })
    .immediate();
}

/** Retires what says of a path that it is gone for good: a page is there again. Call it inside a transaction. */
export function pathRestorer(db: Db): (path: string) => void {
  const retire = db.prepare(
    `UPDATE redirects SET retired_at = strftime('%Y-%m-%dT%H:%M:%fZ', 'now') WHERE from_path = ? AND status = 410 AND prefix = 0
       AND origin <> 'run' AND retired_at IS NULL AND retired_by IS NULL`,
  );
  return (path) => {
    if (retire.run(path).changes > 0) countVersion(db);
  };
}

/** Retires redirects by a person’s word, or lets them hold again. @returns how many changed. */
export function setRetired(db: Db, ids: readonly number[], retiredAt: string | null): number {
  const set = db.prepare(
    "UPDATE redirects SET retired_at = @retiredAt WHERE id = @id AND retired_by IS NULL AND (retired_at IS NULL) <> (@retiredAt IS NULL)",
  );
  // What is used again takes the place of what a person or a file gave for its path meanwhile.
  const retireOther = db.prepare(
    `UPDATE redirects SET retired_at = strftime('%Y-%m-%dT%H:%M:%fZ', 'now') WHERE id <> @id AND origin <> 'run' AND retired_by IS NULL AND retired_at IS NULL
       AND (from_path, prefix) = (SELECT from_path, prefix FROM redirects WHERE id = @id)`,
  );
  return db
    .transaction(() => {
      let changed = 0;
      for (const id of ids) {
        if (retiredAt === null) retireOther.run({ id });
        changed += set.run({ id, retiredAt }).changes;
      }
      if (changed > 0) countVersion(db);
      return changed;
    })
    .immediate();
}
