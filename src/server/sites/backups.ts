import { copyFileSync, existsSync, readdirSync, renameSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import { Refusal } from "../../core/refusal";
import { dataFolder, makeFolder, siteFile, siteIds } from "../../store/data-folder";
import { openStore } from "../../store/open";
import { readSite, writeSite } from "../../store/site";
import { checkSiteFile, closeWhole, copyOf, makingPlace, putSite } from "./site-files";

/** A site is backed up when the last back-up is so old and something changed since. */
const EVERY_MS = 24 * 3600 * 1000;
const DEFAULT_KEPT = 7;

/** A copy of a site as it was. */
export interface Backup {
  readonly file: string;
  /** The site's id. */
  readonly id: string;
  readonly at: string;
  readonly bytes: number;
}

/** So many back-ups of a site are kept: `NINE_LINES_BACKUPS`, or 7; with 0 none are made. */
export function backupsKept(): number {
  const own = process.env["NINE_LINES_BACKUPS"];
  return own !== undefined && /^\d+$/.test(own) ? Number(own) : DEFAULT_KEPT;
}

function backupsFolder(): string {
  return join(dataFolder(), "backups");
}

/** All back-ups, a site's behind one another, the newest first. */
export function listBackups(): Backup[] {
  if (!existsSync(backupsFolder())) return [];
  return readdirSync(backupsFolder())
    .flatMap((file) => {
      const [, id, at] = /^(.+)@(\d+)\.db$/.exec(file) ?? [];
      const bytes = statSync(join(backupsFolder(), file), { throwIfNoEntry: false })?.size;
      return id === undefined || bytes === undefined ? [] : [{ file, id, at: Number(at), bytes }];
    })
    .sort((a, b) => (a.id < b.id ? -1 : a.id > b.id ? 1 : b.at - a.at))
    .map((own) => ({ ...own, at: new Date(own.at).toISOString() }));
}

/** The sites that are to be backed up: those that changed since they were, if that is a day ago. */
export function sitesDue(now = Date.now()): string[] {
  if (backupsKept() === 0) return [];
  const backups = listBackups();
  return siteIds().filter((id) => {
    const last = Date.parse(backups.find((own) => own.id === id)?.at ?? "") || 0;
    return changedAt(id) > last && now - last >= EVERY_MS;
  });
}

function changedAt(id: string): number {
  return Math.max(...["", "-wal"].map((end) => statSync(siteFile(id) + end, { throwIfNoEntry: false })?.mtimeMs ?? 0));
}

/** Backs a site up while it is in use, and lets its oldest back-ups go. */
export function backUp(id: string, now = Date.now()): void {
  const db = openStore(siteFile(id), { readonly: true });
  let made: string;
  try {
    made = copyOf(db);
  } finally {
    db.close();
  }
  makeFolder(backupsFolder());
  renameSync(made, join(backupsFolder(), `${id}@${now}.db`));
  const own = listBackups().filter((backup) => backup.id === id);
  for (const { file } of own.slice(Math.max(1, backupsKept()))) rmSync(join(backupsFolder(), file), { force: true });
}

/**
 * Makes a site of a back-up, beside the one that it is of.
 *
 * @returns its id. @throws {Refusal} where there is none, or it is damaged.
 */
export function siteOfBackup(file: string): string {
  const backup = listBackups().find((own) => own.file === file);
  if (!backup) throw new Refusal("not-found", "That backup no longer exists.");
  const making = makingPlace();
  try {
    copyFileSync(join(backupsFolder(), file), making);
    const name = `${checkSiteFile(making)} – as on ${backup.at.slice(0, 10)}`;
    const db = openStore(making);
    writeSite(db, { ...readSite(db)!, name });
    closeWhole(db);
    return putSite(making, name);
  } finally {
    rmSync(making, { force: true });
  }
}
