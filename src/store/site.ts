import { type Site, siteSchema } from "../core/design/design";
import { type Db } from "./open";

/** The site, or `null` where none was made yet. */
export function readSite(db: Db): Site | null {
  const row = db.prepare("SELECT settings FROM site WHERE id = 1").get() as { settings: string } | undefined;
  return row ? siteSchema.parse(JSON.parse(row.settings)) : null;
}

export function writeSite(db: Db, site: Site): void {
  db.prepare("INSERT INTO site (id, settings) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET settings = excluded.settings").run(JSON.stringify(site));
}

/** The number of the last change to items. */
export function revision(db: Db): number {
  return (db.prepare("SELECT revision FROM site WHERE id = 1").get() as { revision: number } | undefined)?.revision ?? 0;
}

/** A new revision for the items that this transaction changes. */
export function nextRevision(db: Db): number {
  return (db.prepare("UPDATE site SET revision = revision + 1 WHERE id = 1 RETURNING revision").get() as { revision: number }).revision;
}
