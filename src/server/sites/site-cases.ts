import { siteSchema } from "../../core/design/schema";
import { type Site } from "../../core/design/design";
import { Refusal } from "../../core/refusal";
import { siteIds } from "../../store/data-folder";
import { writeSite } from "../../store/site";
import { forgetFile, receiveFile, uploadedFile } from "../exchange/uploads";
import { log } from "../log";
import { type Backup, listBackups, sitesDue } from "./backups";
import { inFileThread } from "./file-thread";
import { type SiteCard } from "./site-card";
import { KEPT_DAYS, makeSite, removedSites, type RemovedSite, removeSite, requireSite } from "./site-files";
import { type Sites } from "./sites";

/** All sites, and those that were removed and can be brought back. */
export interface SiteList {
  readonly sites: readonly SiteCard[];
  readonly removed: readonly RemovedSite[];
  readonly backups: readonly Backup[];
  /** For so many days a site that was removed can be brought back. */
  readonly keptDays: number;
}

export function listSites({ cards }: Sites): SiteList {
  return {
    sites: siteIds().map((id) => cards.of(id)),
    removed: removedSites(),
    backups: listBackups(),
    keptDays: KEPT_DAYS,
  };
}

/** Makes a site without pages. @returns its id. */
export function makeEmpty(settings: Pick<Site, "name" | "baseUrl" | "language">): string {
  return makeSite(settings.name, (db) => writeSite(db, siteSchema.parse(settings)));
}

export function makeDemo(): Promise<string> {
  return inFileThread((files) => files.call("makeDemo", undefined));
}

export async function duplicateSite(id: string): Promise<string> {
  requireSite(id);
  return inFileThread((files) => files.call("duplicate", { id }));
}

/** Writes a site as one file. @returns the file, which is the caller's to remove. */
export async function takeOutSite(id: string): Promise<string> {
  requireSite(id);
  return inFileThread((files) => files.call("takeOut", { id }));
}

/** Takes a site's file in. @returns the site's id. @throws {Refusal} where it is none. */
export async function takeInSite(body: ReadableStream<Uint8Array> | null): Promise<{ id: string }> {
  if (!body) throw new Refusal("invalid", "The file is empty. Choose an exported site file.");
  const token = await receiveFile(body);
  try {
    return { id: await inFileThread((files) => files.call("takeIn", { file: uploadedFile(token) })) };
  } finally {
    forgetFile(token);
  }
}

/** Closes a site and moves it aside; who only looks at it does not hold it. @throws {Refusal} while something is done on it. */
export async function removeOpened(sites: Sites, id: string): Promise<SiteList> {
  requireSite(id);
  if (sites.hasOpenJobs(id))
    throw new Refusal(
      "busy",
      "Something is being done on this site. Wait until it is done, or stop it, then remove it.",
    );
  await sites.close(id);
  removeSite(id);
  return listSites(sites);
}

/** Moves the demo site aside, and makes it anew. @returns the new one's id. @throws {Refusal} for any other site. */
export async function renewDemo(sites: Sites, id: string): Promise<string> {
  requireSite(id);
  if (!sites.cards.of(id).isDemo)
    throw new Refusal("invalid", "Only the demo site can be reset; this site has pages of its own");
  await removeOpened(sites, id);
  return makeDemo();
}

/** Backs a site up now. */
export async function backUpNow(id: string): Promise<void> {
  requireSite(id);
  await inFileThread((files) => files.call("backUp", { id }));
}

/** Backs up the sites that are due, one after another; one that cannot be is told in the log, and tried again the next time. */
export async function backUpDue(): Promise<void> {
  for (const id of sitesDue()) {
    try {
      await backUpNow(id);
      log.info({ event: "backed-up", site: id });
    } catch (error) {
      log.error({ event: "not-backed-up", site: id, error: error instanceof Error ? error.message : String(error) });
    }
  }
}

/** Makes a site of a back-up. @returns its id. */
export function siteOfBackup(file: string): Promise<string> {
  return inFileThread((files) => files.call("siteOfBackup", { file }));
}
