import Database from "better-sqlite3";
import { statSync } from "node:fs";
import { type Site } from "../../core/design/design";
import { siteFile } from "../../store/data-folder";
import { DEMO_SITE } from "../../demo/site";
import { kindIds } from "../../core/design/kinds";
import { readDraft } from "../../store/drafts";
import { countByKind } from "../../store/items";
import { type Db, explain, openStore } from "../../store/open";
import { listRuns } from "../../store/runs";
import { readSite } from "../../store/site";
import { sizeOf } from "./site-files";

/** A site as the list of sites shows it. */
export interface SiteCard {
  readonly id: string;
  readonly name: string;
  readonly address: string;
  readonly pages: number;
  /** How many lines are drafted, those of rules among them. */
  readonly lines: number;
  readonly lastRun: { readonly name: string; readonly at: string } | null;
  readonly bytes: number;
  /** Whether it is the made-up one, which can be made anew. */
  readonly isDemo: boolean;
  /** Why it cannot be opened, in words. */
  readonly trouble: string | null;
}

/** The cards of sites, read beside whoever works on one; each again only when its files are others. */
export class SiteCards {
  private readonly known = new Map<string, { readonly mark: string; readonly card: SiteCard }>();

  of(id: string): SiteCard {
    const mark = ["", "-wal"]
      .map((end) => statSync(siteFile(id) + end, { throwIfNoEntry: false }))
      .map((stat) => `${stat?.ino} ${stat?.mtimeMs} ${stat?.size}`)
      .join(" ");
    const known = this.known.get(id);
    if (known?.mark === mark) return known.card;
    const card = readCard(id);
    this.known.set(id, { mark, card });
    return card;
  }
}

function readCard(id: string): SiteCard {
  const blank = { id, name: id, address: "", pages: 0, lines: 0, lastRun: null, bytes: sizeOf(id), isDemo: false };
  let db: Db | undefined;
  try {
    db = openStore(siteFile(id), { readonly: true });
    const site = readSite(db);
    const run = listRuns(db, 1)[0];
    return {
      ...blank,
      name: site?.name || id,
      address: site?.baseUrl ?? "",
      isDemo: site?.baseUrl === DEMO_SITE.baseUrl,
      pages: Object.values(countByKind(db)).reduce((sum, count) => sum + count, 0),
      lines: linesOf(db, site),
      lastRun: run ? { name: run.name, at: run.created_at } : null,
      trouble: null,
    };
  } catch (error) {
    if (!(error instanceof Database.SqliteError) && !(error instanceof Error && "code" in error)) throw error;
    return { ...blank, trouble: error instanceof Database.SqliteError ? explain(error, siteFile(id)) : error.message };
  } finally {
    db?.close();
  }
}

function linesOf(db: Db, site: Site | null): number {
  return kindIds(site)
    .flatMap((kind) => {
      const { design } = readDraft(db, kind);
      return [design.base, ...design.rules].flatMap(({ title, description, slug }) => [title, description, slug]);
    })
    .filter((line) => line?.trim()).length;
}
