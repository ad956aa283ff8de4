import { siteFile, siteIds } from "../../store/data-folder";
import { type Db, openStore } from "../../store/open";
import { dueRuns } from "../../store/runs";
import { Api } from "../api/api";
import { log } from "../log";
import { goOnWithRun } from "../runs/run-work";
import { type OpenedSite } from "../workspace/opened-site";
import { SiteCards } from "./site-card";
import { requireSite } from "./site-files";

/** A site that nobody asked anything for so many ms gives its memory back. */
const IDLE_MS = 10 * 60 * 1000;
/** So many sites are open at a time, unless more are at work. */
const MOST_OPEN = 2;
const SWEEP_MS = 30_000;

/** Runs of a site whose time has come. A file that cannot be read is told to who opens it. */
function dueIn(file: string, now: string): number[] {
  let db: Db | null = null;
  try {
    db = openStore(file, { readonly: true });
    return dueRuns(db, now);
  } catch {
    return [];
  } finally {
    db?.close();
  }
}

interface Opened {
  readonly site: OpenedSite;
  readonly api: Api;
  usedAt: number;
}

/** The sites that are open, each with its threads. They open when somebody asks, and close when nobody does any more. */
export class Sites {
  readonly cards = new SiteCards();
  private readonly opened = new Map<string, Opened>();
  private readonly closing = new Map<string, Promise<void>>();
  private readonly sweeping: ReturnType<typeof setInterval>;

  constructor(
    private readonly open: (path: string) => OpenedSite,
    private readonly now: () => number = Date.now,
  ) {
    this.sweeping = setInterval(() => this.sweep(), SWEEP_MS).unref();
  }

  /**
   * What answers for a site.
   *
   * @throws {Refusal} where there is no such site; {StoreError} where it cannot be opened.
   */
  async api(id: string): Promise<Api> {
    await this.closing.get(id);
    let own = this.opened.get(id);
    if (!own) {
      requireSite(id);
      const site = this.open(siteFile(id));
      own = { site, api: new Api(site), usedAt: 0 };
      this.opened.set(id, own);
      log.info({ event: "site-opened", site: id });
      this.sweep();
    }
    own.usedAt = this.now();
    return own.api;
  }

  /** Opens a site before anybody asks for it. One that cannot be opened is told to who asks. */
  async warm(id: string): Promise<void> {
    await this.api(id).catch(() => null);
    await this.opened.get(id)?.site.warm();
  }

  /** Begins runs whose time has come, on sites that nobody has open, too. */
  async beginDue(): Promise<void> {
    const now = new Date(this.now()).toISOString();
    for (const id of siteIds()) {
      const runs = dueIn(siteFile(id), now);
      if (runs.length === 0) continue;
      await this.api(id).catch(() => null);
      const site = this.opened.get(id)?.site;
      try {
        for (const run of runs) if (site) goOnWithRun(site, run, "its time");
        log.info({ event: "runs-due", site: id, runs });
      } catch (error) {
        log.error({ event: "runs-due", site: id, runs, error: error instanceof Error ? error.message : String(error) });
      }
    }
  }

  /** Whether a run, a file that comes in or an edit is under way on a site, or waits. */
  hasOpenJobs(id: string): boolean {
    return (this.opened.get(id)?.site.jobs.open().length ?? 0) > 0;
  }

  openIds(): string[] {
    return [...this.opened.keys()];
  }

  /** Closes a site, at once: what its threads are at ends. */
  close(id: string): Promise<void> {
    const own = this.opened.get(id);
    if (!own) return this.closing.get(id) ?? Promise.resolve();
    this.opened.delete(id);
    const closed = own.site.close().finally(() => this.closing.delete(id));
    this.closing.set(id, closed);
    log.info({ event: "site-closed", site: id });
    return closed;
  }

  async closeAll(): Promise<void> {
    clearInterval(this.sweeping);
    await Promise.all(this.openIds().map((id) => this.close(id)));
  }

  /** Closes sites that nobody uses: those idle for long, and where more are open than should be, those used longest ago. */
  sweep(): void {
    const now = this.now();
    const idle = [...this.opened]
      .filter(([, { site, usedAt }]) => !site.isAtWork && usedAt > 0 && usedAt < now)
      .sort(([, a], [, b]) => a.usedAt - b.usedAt);
    let over = this.opened.size - MOST_OPEN;
    for (const [id, { usedAt }] of idle) if (over-- > 0 || now - usedAt > IDLE_MS) void this.close(id);
  }
}
