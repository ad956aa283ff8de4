import PQueue from "p-queue";
import { normalAddress } from "../../core/addresses/path-form";
import { type Connection } from "../../core/connection/schema";
import { checkOldAddress, checkPage, type PageMeant, type PageMet } from "../../core/live/findings";
import { Refusal } from "../../core/refusal";
import { livePageWriter } from "../../store/live";
import { type Db } from "../../store/open";
import { readSite } from "../../store/site";
import { watchForStop } from "../wire/paced";
import { CancelledCall } from "../threads/call";
import { Visitor } from "./visitor";

/** Which pages are looked at: those that a run changed, so many of all, spread over the site, or all. */
export type CheckScope = { readonly run: number } | { readonly sample: number } | { readonly all: true };

/** How far a check is. */
export interface CheckProgress {
  readonly done: number;
  readonly total: number;
  /** Pages on which something was found. */
  readonly found: number;
}

interface CheckOptions {
  readonly now: () => string;
  readonly stopped?: () => boolean;
  readonly progress?: (progress: CheckProgress) => void;
}

interface PageRow {
  readonly id: number;
  readonly path: string;
  readonly title: string;
  readonly description: string;
  readonly robots: string;
  readonly canonical: string;
}

/** Fetches pages as visitors get them, holds them against what they were meant to say, and writes down what was found. */
export async function checkLive(
  db: Db,
  connection: Connection | null,
  scope: CheckScope,
  { now, stopped, progress }: CheckOptions,
): Promise<CheckProgress & { readonly state: "done" | "stopped" }> {
  const bases = liveBases(db, connection);
  const ids = pagesOf(db, scope);
  const stop = new AbortController();
  const unwatch = watchForStop(stopped, () => stop.abort());
  const visitor = new Visitor(bases[0]!, stop.signal);
  const check = new PageCheck(db, visitor, bases, now);
  const flows = new PQueue({ concurrency: visitor.room });
  const counts = { done: 0, total: ids.length, found: 0 };
  let failure: unknown = null;
  try {
    for (const id of ids) {
      await flows.onSizeLessThan(visitor.room);
      if (failure !== null || stop.signal.aborted) break;
      void flows.add(async () => {
        try {
          if (await check.look(id)) counts.found++;
          counts.done++;
          progress?.({ ...counts });
        } catch (error) {
          failure ??= error;
        }
      });
    }
    await flows.onIdle();
    if (failure !== null && !(failure instanceof CancelledCall)) throw failure as Error;
    return { ...counts, state: failure !== null || stop.signal.aborted ? "stopped" : "done" };
  } finally {
    unwatch();
    await visitor.close();
  }
}

/** Where the site’s pages are, the place where they are fetched first. @throws {Refusal} where it has none. */
export function liveBases(db: Db, connection: Connection | null): string[] {
  const bases = [connection?.visitors, readSite(db)?.baseUrl].filter(
    (base) => base !== undefined && URL.canParse(base),
  );
  if (bases.length === 0)
    throw new Refusal(
      "invalid",
      "Where visitors get the site’s pages is not known. Type in its address under Settings, Site.",
    );
  return bases as string[];
}

function pagesOf(db: Db, scope: CheckScope): number[] {
  if ("run" in scope)
    return db
      .prepare(
        "SELECT DISTINCT item_id FROM run_changes JOIN items ON items.id = item_id WHERE run_id = ? AND status = 'applied' AND path IS NOT NULL ORDER BY item_id",
      )
      .pluck()
      .all(scope.run) as number[];
  const all = db.prepare("SELECT id FROM items WHERE path IS NOT NULL ORDER BY id").pluck().all() as number[];
  if ("all" in scope || all.length <= scope.sample) return all;
  // Spread evenly: every kind and folder has its share.
  return Array.from({ length: scope.sample }, (_, i) => all[Math.floor(((i + 0.5) * all.length) / scope.sample)]!);
}

/** Looks at single pages. */
class PageCheck {
  private readonly page;
  private readonly before;
  private readonly oldPath;
  private readonly put;

  constructor(
    private readonly db: Db,
    private readonly visitor: Visitor,
    private readonly bases: readonly string[],
    private readonly now: () => string,
  ) {
    this.page = db.prepare("SELECT id, path, title, description, robots, canonical FROM items WHERE id = ?");
    this.before = db
      .prepare(
        "SELECT before FROM run_changes WHERE item_id = ? AND text = ? AND status = 'applied' ORDER BY id DESC LIMIT 1",
      )
      .pluck();
    this.oldPath = db
      .prepare(
        "SELECT from_path FROM redirects WHERE item_id = ? AND to_path = ? AND retired_by IS NULL AND retired_at IS NULL ORDER BY id DESC LIMIT 1",
      )
      .pluck();
    this.put = livePageWriter(db);
  }

  /** @returns whether something was found. */
  async look(id: number): Promise<boolean> {
    const row = this.page.get(id) as PageRow | undefined;
    if (!row) return false;
    const met = await this.visitor.visit(this.urlOf(row.path));
    const checked = checkPage(this.meant(row), met, this.bases);
    const old = this.oldPath.get(id, row.path) as string | undefined;
    const way = old === undefined ? null : await this.visitor.visit(this.urlOf(old));
    const findings = [...checked.findings, ...(way ? checkOldAddress(row.path, hopsOf(way), this.bases) : [])];
    const { robotsHeader: _, ...kept } = met;
    this.db.transaction(() => this.put(id, { ...kept, ...checked, findings }, this.now())).immediate();
    return findings.length > 0;
  }

  private urlOf(path: string): string {
    return new URL(normalAddress(path), this.bases[0]).href;
  }

  private meant({ id, path, title, description, robots, canonical }: PageRow): PageMeant {
    const before = (text: string) => (this.before.get(id, text) as string | undefined) ?? null;
    return {
      path,
      title,
      description,
      before: { title: before("title"), description: before("description") },
      isHidden: /\b(?:noindex|none)\b/i.test(robots),
      canonical,
    };
  }
}

/** Of a way that ends in trouble its end is missing. */
function hopsOf({ hops, trouble }: PageMet): PageMet["hops"] {
  return trouble === null ? hops : [];
}
