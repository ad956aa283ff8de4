import { existsSync, linkSync, readdirSync, renameSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import { Refusal } from "../../core/refusal";
import { dataFolder, isSiteId, makeFolder, siteFile, siteIds, sitesFolder } from "../../store/data-folder";
import { type Db, openStore, StoreError } from "../../store/open";
import { readSite } from "../../store/site";
import { removeSecret } from "../wire/secrets";

/** What a file beside a database is called that belongs to it. */
const BESIDE = ["-wal", "-shm", "-journal"];
/** Files that are being made; after a kill they are of no use to anybody. */
const MAKING = ".making";
/** A site that was removed is kept so many days. */
export const KEPT_DAYS = 30;
const DAY_MS = 24 * 3600 * 1000;

function removedFolder(): string {
  return join(dataFolder(), "removed");
}

/**
 * An id that no site has, made of a name.
 *
 * @example freeId("Fennick & Dray") // "fennick-dray", or "fennick-dray-2" where that is taken
 */
export function freeId(name: string): string {
  const words = name
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .slice(0, 50)
    .replace(/^-+|-+$/g, "");
  const plain = isSiteId(words) ? words : words === "" ? "site" : `${words}-site`;
  for (let n = 1; ; n++) {
    const id = n === 1 ? plain : `${plain}-${n}`;
    if (!existsSync(siteFile(id))) return id;
  }
}

/** A place for a file that is being made, in the folder of the sites; nobody else has it. */
export function makingPlace(): string {
  makeFolder(sitesFolder());
  return join(sitesFolder(), `${crypto.randomUUID()}${MAKING}`);
}

/**
 * Makes a site: it is there whole, or, whatever happens meanwhile, not at all.
 *
 * @param name what its id is made of. @returns its id.
 */
export function makeSite(name: string, fill: (db: Db) => void): string {
  const making = makingPlace();
  const db = openStore(making);
  try {
    fill(db);
    closeWhole(db);
    return putSite(making, name);
  } catch (error) {
    db.close();
    dropDatabase(making);
    throw error;
  }
}

/**
 * Writes a site as one file, while it is in use.
 *
 * @param change what is made otherwise in the copy. @returns the file, which is the caller's to remove.
 */
export function copyOf(db: Db, change?: (copy: Db) => void): string {
  const file = makingPlace();
  try {
    db.prepare("VACUUM INTO ?").run(file);
    if (!change) return file;
    const copy = openStore(file);
    try {
      change(copy);
      closeWhole(copy);
    } finally {
      if (copy.open) copy.close();
    }
    return file;
  } catch (error) {
    dropDatabase(file);
    throw error;
  }
}

/**
 * Puts a file that is a site's whole database in as a site; never in the place of another one, whoever makes one at the same time.
 *
 * @param name what its id is made of. @returns its id.
 */
export function putSite(file: string, name: string): string {
  makeFolder(sitesFolder());
  for (;;) {
    const id = freeId(name);
    try {
      linkSync(file, siteFile(id));
      rmSync(file);
      return id;
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code === "EEXIST") continue;
      // Some disks know no links.
      if (code !== "EPERM" && code !== "ENOTSUP" && code !== "ENOSYS") throw error;
      renameSync(file, siteFile(id));
      return id;
    }
  }
}

/**
 * Looks whether a file that came in is a site, whole and of no newer version, and brings it up to date.
 *
 * @returns the site's name. @throws {Refusal} in words where it is not.
 */
export function checkSiteFile(file: string): string {
  const db = openStore(file);
  try {
    const found = db.pragma("quick_check(1)", { simple: true }) as string;
    if (found !== "ok") throw new Refusal("invalid", `The file is damaged and was not imported: ${found}`);
    const site = readSite(db);
    if (!site) throw new Refusal("invalid", "The file holds no site.");
    closeWhole(db);
    return site.name;
  } finally {
    if (db.open) db.close();
  }
}

/** A site that was removed and is still kept. */
export interface RemovedSite {
  /** What it is brought back by. */
  readonly file: string;
  readonly id: string;
  readonly name: string;
  readonly removedAt: string;
  /** After so many days it is gone. */
  readonly daysLeft: number;
}

/** Moves a site that is closed aside: one file, moved in one step. */
export function removeSite(id: string, now = Date.now()): void {
  makeFolder(removedFolder());
  intoOneFile(siteFile(id));
  const aside = join(removedFolder(), `${id}@${now}.db`);
  renameSync(siteFile(id), aside);
  removeSecret(siteFile(id));
  // Beside one that cannot be opened any more something may be left.
  for (const end of BESIDE) if (existsSync(siteFile(id) + end)) renameSync(siteFile(id) + end, aside + end);
}

/** Writes what stands in a database's log into its file. One that cannot be opened stays as it is. */
function intoOneFile(file: string): void {
  let db: Db | undefined;
  try {
    db = openStore(file);
    closeWhole(db);
  } catch (error) {
    db?.close();
    if (!(error instanceof StoreError)) throw error;
  }
}

/** Closes a database so that its one file holds everything. */
export function closeWhole(db: Db): void {
  db.pragma("wal_checkpoint(TRUNCATE)");
  db.pragma("journal_mode = DELETE");
  db.close();
}

export function removedSites(now = Date.now()): RemovedSite[] {
  if (!existsSync(removedFolder())) return [];
  return readdirSync(removedFolder()).flatMap((file) => {
    const [, id, at] = /^(.+)@(\d+)\.db$/.exec(file) ?? [];
    if (id === undefined) return [];
    const daysLeft = Math.ceil((Number(at) + KEPT_DAYS * DAY_MS - now) / DAY_MS);
    return [
      {
        file,
        id,
        name: nameIn(join(removedFolder(), file)) || id,
        removedAt: new Date(Number(at)).toISOString(),
        daysLeft,
      },
    ];
  });
}

/** The name of the site in a file, `""` where it has none or cannot be read. */
function nameIn(file: string): string {
  try {
    const db = openStore(file, { readonly: true });
    try {
      return readSite(db)?.name ?? "";
    } finally {
      db.close();
    }
  } catch {
    return "";
  }
}

/** Puts a site that was removed back. @returns its id, another one where there is a site of that id by now. */
export function bringBack(file: string): string {
  const removed = removedSites().find((own) => own.file === file);
  if (!removed) throw new Refusal("not-found", "That site no longer exists.");
  const aside = join(removedFolder(), file);
  intoOneFile(aside);
  const id = putSite(aside, removed.id);
  for (const end of BESIDE) if (existsSync(aside + end)) renameSync(aside + end, siteFile(id) + end);
  return id;
}

/** Removes for good what was removed long ago. */
export function dropOldSites(now = Date.now()): void {
  for (const { file, daysLeft } of removedSites(now)) if (daysLeft <= 0) dropDatabase(join(removedFolder(), file));
}

/** Removes what was being made when the server ended. Only at its start: later somebody may be at it. */
export function dropHalfMade(): void {
  if (!existsSync(sitesFolder())) return;
  for (const name of readdirSync(sitesFolder()))
    if (name.includes(MAKING)) rmSync(join(sitesFolder(), name), { force: true });
}

/**
 * Moves the one database that an older version kept to the sites. The file itself is moved last: ended at any moment, it is in one
 * of the two places, and the next start goes on.
 */
export function moveOldDatabase(): void {
  const old = join(dataFolder(), "nine-lines.db");
  if (!existsSync(old)) return;
  makeFolder(sitesFolder());
  const db = openStore(old);
  const name = readSite(db)?.name ?? "";
  closeWhole(db);
  putSite(old, name);
  for (const end of BESIDE) rmSync(old + end, { force: true });
  rmSync(`${old}.server`, { force: true });
}

/** The site that was written last; `null` where there is none. */
export function lastUsed(): string | null {
  const at = (id: string) => Math.max(...["", "-wal"].map((end) => modifiedAt(siteFile(id) + end)));
  return siteIds().sort((a, b) => at(b) - at(a))[0] ?? null;
}

function modifiedAt(file: string): number {
  return statSync(file, { throwIfNoEntry: false })?.mtimeMs ?? 0;
}

/** How large a site's files are, in bytes. */
export function sizeOf(id: string): number {
  return ["", "-wal"]
    .map((end) => statSync(siteFile(id) + end, { throwIfNoEntry: false })?.size ?? 0)
    .reduce((sum, size) => sum + size, 0);
}

/** @throws {Refusal} where there is no such site. */
export function requireSite(id: string): void {
  if (!isSiteId(id) || !siteIds().includes(id)) throw new Refusal("not-found", `There is no site “${id}” here.`);
}

function dropDatabase(file: string): void {
  for (const end of ["", ...BESIDE]) rmSync(file + end, { force: true });
}
