import { Refusal } from "../core/refusal";
import Database from "better-sqlite3";
import { accessSync, constants, readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { dataFolder, makeFolder } from "./data-folder";

export type Db = Database.Database;

/** A database that cannot be used, said in words: what, where and what to do. */
export class StoreError extends Refusal {
  constructor(message: string, options?: ErrorOptions) {
    super("store", message, options);
  }
}

/** The log is written back into the file when it has so many pages (of 4 KB). */
const CHECKPOINT_PAGES = 16_384;
/** Memory for pages of a connection. */
const CACHE_KB = 32_768;

/** The folder of numbered migrations; the same in the sources and beside a built server. */
export function migrationsFolder(): string {
  return join(process.cwd(), "src", "store", "migrations");
}

/**
 * Opens the database and brings it up to date by the migrations it has not seen, each in a transaction.
 *
 * @throws {StoreError} when it cannot be opened, read or written.
 */
export function openStore(path: string, options: { readonly?: boolean } = {}): Db {
  let db: Db | undefined;
  try {
    if (path !== ":memory:") makeFolder(dirname(path));
    db = new Database(path, { timeout: 10_000, readonly: options.readonly ?? false });
    db.pragma("foreign_keys = ON");
    if (!options.readonly) {
      refuseForeign(db, path);
      db.pragma("journal_mode = WAL");
      db.pragma("synchronous = NORMAL");
      // Large runs touch pages all over the file: the more of them are written back together, the fewer are written twice.
      db.pragma(`wal_autocheckpoint = ${CHECKPOINT_PAGES}`);
      db.pragma(`cache_size = -${CACHE_KB}`);
      migrate(db);
    }
    return db;
  } catch (error) {
    db?.close();
    if (error instanceof StoreError) throw error;
    throw new StoreError(explain(error, path), { cause: error });
  }
}

/** Tells our files from those of other programs: “NLIN”. */
const APPLICATION_ID = 0x4e4c494e;

/**
 * @throws {StoreError} for a database of another program, or of a newer version of this one; nothing of it is changed.
 */
function refuseForeign(db: Db, path: string): void {
  const newest = migrations().at(-1)!.number;
  const id = db.pragma("application_id", { simple: true }) as number;
  const version = db.pragma("user_version", { simple: true }) as number;
  const tables = db.prepare("SELECT name FROM sqlite_master WHERE type = 'table'").pluck().all() as string[];
  // Files from before the mark was set are known by their tables.
  const isOwn =
    id === APPLICATION_ID ||
    (id === 0 && (tables.length === 0 || ["items", "site"].every((name) => tables.includes(name))));
  if (!isOwn)
    throw new StoreError(
      `The file ${path} is a database of another program. Nothing of it was changed; set NINE_LINES_DATA to another place.`,
    );
  if (version > newest)
    throw new StoreError(
      `The database ${path} was written by a newer version of Nine Lines (${version}; this one knows ${newest}). Nothing of it was changed; start the newer version, or set NINE_LINES_DATA to another place.`,
    );
}

interface Migration {
  readonly number: number;
  readonly file: string;
}

/** The migrations in their order. */
function migrations(): Migration[] {
  return readdirSync(migrationsFolder())
    .filter((file) => /^\d{3}-.*\.sql$/.test(file))
    .sort()
    .map((file) => ({ number: Number(file.slice(0, 3)), file }));
}

/** What a migration adds that databases of one version have already: that version made them with its own `018-live`. */
const HAD_BY_SOME: ReadonlyMap<number, { readonly table: string; readonly column: string }> = new Map([
  [19, { table: "live_taken", column: "surfaces" }],
]);

function isThereAlready(db: Db, migration: number): boolean {
  const had = HAD_BY_SOME.get(migration);
  if (!had) return false;
  const columns = db.prepare("SELECT name FROM pragma_table_info(?)").pluck().all(had.table);
  return columns.includes(had.column);
}

function migrate(db: Db): void {
  const done = db.pragma("user_version", { simple: true }) as number;
  if ((db.pragma("application_id", { simple: true }) as number) === 0) db.pragma(`application_id = ${APPLICATION_ID}`);
  for (const { number, file } of migrations()) {
    if (number <= done) continue;
    db.transaction(() => {
      if (!isThereAlready(db, number)) db.exec(readFileSync(join(migrationsFolder(), file), "utf8"));
      db.pragma(`user_version = ${number}`);
    }).immediate();
  }
}

/** Whether an error is the database's or the disk's, and no bug. */
export function isStoreFailure(error: unknown): boolean {
  const code = (error as { code?: unknown } | null)?.code;
  return typeof code === "string" && (code.startsWith("SQLITE_") || DISK_FAILURES.has(code));
}

const DISK_FAILURES = new Set(["ENOSPC", "EACCES", "EROFS", "EPERM", "ENOTDIR", "EDQUOT"]);

/** What a failure of the database means, where, and what to do about it. */
export function explain(error: unknown, path = dataFolder()): string {
  const code = (error as { code?: string }).code ?? "";
  const message = error instanceof Error ? error.message : String(error);
  if (code === "SQLITE_FULL" || code === "ENOSPC")
    return `The disk that holds ${path} is full. Nothing of this step was saved; free some space and try again.`;
  if (code === "EROFS" || isReadOnlyPlace(path))
    return `The database ${path} is on a file system that can only be read. Make it writable, or set NINE_LINES_DATA to another place.`;
  if (code.startsWith("SQLITE_READONLY") || code === "EACCES" || code === "EPERM")
    return `The database ${path} cannot be written. Give this user the right to write the file and its folder, or set NINE_LINES_DATA to another place.`;
  if (code === "SQLITE_CANTOPEN" || code === "ENOTDIR" || code === "ENOENT" || code === "EEXIST")
    return `The database ${path} cannot be opened. Look whether its folder exists and can be entered, or set NINE_LINES_DATA to another place.`;
  if (code.startsWith("SQLITE_CORRUPT"))
    return `The database ${path} is damaged: a part of it cannot be read. Stop the server, move the file aside and continue with a backup.`;
  if (code.startsWith("SQLITE_IOERR"))
    return `The disk that holds ${path} failed while it was read or written. Check the disk; everything before this step is kept.`;
  if (code === "SQLITE_NOTADB")
    return `The file ${path} is not a database of this application, or it is damaged. Move it aside, or set NINE_LINES_DATA to another place.`;
  if (code === "SQLITE_BUSY")
    return `The database ${path} is in use by another program for too long. Close that program and try again.`;
  return `The database ${path} failed: ${message}`;
}

/** Whether a database's folder is there, but on a file system that takes no writes. */
function isReadOnlyPlace(path: string): boolean {
  try {
    accessSync(dirname(path), constants.W_OK);
    return false;
  } catch (error) {
    return (error as { code?: string }).code === "EROFS";
  }
}

/**
 * Makes sure that this process is the only server of a database. The mark is a lock that the system lets go of when the process ends,
 * however it ends.
 *
 * @returns lets go of it.
 * @throws {StoreError} where another server has it.
 */
export function lockForServer(path: string): () => void {
  let lock: Db | undefined;
  try {
    makeFolder(dirname(path));
    lock = new Database(`${path}.server`, { timeout: 0 });
    lock.pragma("locking_mode = EXCLUSIVE");
    lock.exec("BEGIN EXCLUSIVE");
  } catch (error) {
    lock?.close();
    if ((error as { code?: string }).code !== "SQLITE_BUSY")
      throw new StoreError(explain(error, path), { cause: error });
    throw new StoreError(
      `Another server works on ${path}. Use that one, end it first, or set NINE_LINES_DATA to another folder.`,
    );
  }
  const held = lock;
  return () => held.close();
}
