import { siteSchema } from "../core/design/schema";
import { type Site } from "../core/design/design";
import { type Statement } from "better-sqlite3";
import { type Db } from "./open";

interface Prepared {
  readonly settings: Statement;
  readonly revision: Statement;
  readonly version: Statement;
  /** The settings as they were read last, checked. */
  last: { readonly text: string; readonly site: Site } | null;
}

const prepared = new WeakMap<Db, Prepared>();

/** The statements that are asked at every turn, prepared once a connection. */
function statements(db: Db): Prepared {
  let own = prepared.get(db);
  if (!own) {
    own = {
      settings: db.prepare("SELECT settings FROM site WHERE id = 1"),
      revision: db.prepare("SELECT revision FROM site WHERE id = 1"),
      version: db.prepare("SELECT settings_version FROM site WHERE id = 1").pluck(),
      last: null,
    };
    prepared.set(db, own);
  }
  return own;
}

/** The site, or `null` where none was made yet. */
export function readSite(db: Db): Site | null {
  const own = statements(db);
  const row = own.settings.get() as { settings: string } | undefined;
  if (!row) return null;
  if (own.last?.text !== row.settings)
    own.last = { text: row.settings, site: siteSchema.parse(JSON.parse(row.settings)) };
  return own.last.site;
}

/** Stores the settings; where they are what is stored already, nothing changes. */
export function writeSite(db: Db, site: Site): void {
  db.prepare(
    `INSERT INTO site (id, settings) VALUES (1, @settings) ON CONFLICT (id) DO UPDATE SET
       settings_version = settings_version + (settings <> excluded.settings), settings = excluded.settings`,
  ).run({ settings: JSON.stringify(site) });
}

/** Counts up with every change of the settings. */
export function settingsVersion(db: Db): number {
  return (statements(db).version.get() as number | undefined) ?? 0;
}

/** The number of the last change to items. */
export function revision(db: Db): number {
  return (statements(db).revision.get() as { revision: number } | undefined)?.revision ?? 0;
}

/** A new revision for the items that this transaction changes. */
export function nextRevision(db: Db): number {
  return (
    db.prepare("UPDATE site SET revision = revision + 1 WHERE id = 1 RETURNING revision").get() as { revision: number }
  ).revision;
}
