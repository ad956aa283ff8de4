import PQueue from "p-queue";
import { type Connection } from "../../core/connection/schema";
import { FieldError } from "../../core/connection/record";
import { Refusal } from "../../core/refusal";
import { type Db } from "../../store/open";
import { readRun, setRunStatus } from "../../store/runs";
import { readSite } from "../../store/site";
import { forgetSent, noteSent, sentPages, wirePageWriter } from "../../store/wire";
import { Applier, type PageOutcome } from "../runs/applier";
import { type RunProgress } from "../runs/apply-run";
import { settleMoves } from "../runs/settle-moves";
import { CancelledCall } from "../threads/call";
import { MoveRedirects } from "./move-redirects";
import { watchForStop } from "./paced";
import { PageExchange, type SeenPage, type SentPage } from "./page-exchange";
import { reasonOf } from "./reason";
import { pageReader } from "./sent-pages";
import { SiteClient, troubleOf } from "./site-client";
import { WireError } from "./wire-error";

/** So many pages are looked up at once. */
const CHUNK = 500;
/** A page that is another version each time it is sent, and yet reads as before, is given up then. */
const MOST_TRIES = 5;
/** So many refusals one behind another are no matter of the pages: the run stops. */
const MOST_REFUSALS = 20;
/** What is on its way when the run is stopped may come to its end for so long; what does not is read when the run goes on. */
const GRACE_MS = 3000;
/** The one status that says that nothing was done, and that it may be later. */
const TOO_MANY = 429;

/** How a run is sent. */
export interface SendOptions {
  readonly now: () => string;
  readonly stopped?: () => boolean;
  readonly progress?: (progress: RunProgress) => void;
  /** How long the first wait is before something is tried again, in ms. */
  readonly firstWait?: number;
}

/** What became of a page. */
type Verdict =
  | { readonly what: "confirmed"; readonly etag: string | null }
  | { readonly what: "refused"; readonly words: string }
  | { readonly what: "changed"; readonly words: string; readonly isMoved: boolean };

/** A page on its way, and what is known of it. */
interface OnItsWay extends SentPage, Pick<PageOutcome, "move"> {
  readonly seen: SeenPage;
  /** Whether it may have been written already: it is read before it is sent again. */
  isInDoubt: boolean;
}

/**
 * Sends what waits in a run to the site, and applies here what the site has confirmed. Ended at any moment, it goes on where it was:
 * a page whose change was sent and not confirmed is read before anything is sent again.
 *
 * @throws {WireError} where the site does not answer for longer than the connection says, or does not take the secret.
 */
export async function sendRun(
  db: Db,
  id: number,
  { connection, secret }: { readonly connection: Connection; readonly secret: string | null },
  options: SendOptions,
): Promise<"done" | "stopped"> {
  const run = readRun(db, id);
  if (!run) throw new Refusal("not-found", `There is no run ${id}`);
  const stop = new AbortController();
  setRunStatus(db, id, "running", options.now());
  const client = new SiteClient(connection, {
    secret,
    signal: stop.signal,
    ...(options.firstWait !== undefined && { firstWait: options.firstWait }),
  });
  const end = (status: "done" | "stopped") => {
    setRunStatus(db, id, status, options.now());
    return status;
  };
  const sender = new RunSender(db, id, client, connection, stop, options);
  const unwatch = watchForStop(options.stopped, () => sender.stopSoon());
  try {
    await sender.send();
    return end("done");
  } catch (error) {
    await sender.ended();
    end("stopped");
    if (error instanceof CancelledCall) return "stopped";
    throw error;
  } finally {
    unwatch();
    await client.close();
  }
}

/** Sends one run. */
class RunSender {
  private readonly applier: Applier;
  private readonly exchange: PageExchange;
  private readonly redirects: MoveRedirects;
  private readonly flows: PQueue;
  private readonly pageOf;
  private readonly noteEtag;
  private readonly total: number;
  private failure: unknown = null;
  private grace: ReturnType<typeof setTimeout> | null = null;
  private refusals = 0;
  /** Why pages are left on their way: what became of them could not be learned while the site answered others. */
  private readonly unsettled: string[] = [];

  constructor(
    private readonly db: Db,
    private readonly run: number,
    private readonly client: SiteClient,
    private readonly connection: Connection,
    private readonly stop: AbortController,
    private readonly options: SendOptions,
  ) {
    const site = readSite(db);
    if (!site) throw new Refusal("not-found", "There is no site");
    this.applier = new Applier(db, run);
    this.exchange = new PageExchange(client, connection, site);
    this.redirects = new MoveRedirects(db, client, connection, this.applier);
    // Each has one request under way at a time; some more are ready, so that none of those is missed.
    this.flows = new PQueue({ concurrency: connection.limits.atOnce * 2 });
    this.pageOf = pageReader(db);
    this.noteEtag = wirePageWriter(db);
    const { waiting, applied, skipped } = readRun(db, run)!;
    this.total = waiting + applied + skipped;
  }

  async send(): Promise<void> {
    await this.recover();
    const { together } = settleMoves(this.db, this.run);
    for (const items of together) await this.sendChain(items);
    for (const moving of [true, false]) await this.sendAll(moving);
    this.tell();
    const [first] = this.unsettled;
    if (first !== undefined)
      throw new WireError(
        "late",
        `Of ${this.unsettled.length.toLocaleString("en")} pages it is not known yet whether the site has their change: it did not answer about them. Continue the run later. The first: ${first}`,
      );
  }

  /** Begins no page any more; what is on its way comes to its end, or is left when that takes too long. */
  stopSoon(): void {
    this.grace ??= setTimeout(() => this.stop.abort(), GRACE_MS);
  }

  /** Waits until nothing is on its way any more. */
  async ended(): Promise<void> {
    await this.flows.onIdle();
    if (this.grace) clearTimeout(this.grace);
  }

  /** What was sent before and not confirmed is read, and sent again where it did not get there. */
  private async recover(): Promise<void> {
    const sent = sentPages(this.db, this.run);
    for (let from = 0; from < sent.length; from += CHUNK) {
      const items = sent.slice(from, from + CHUNK);
      const pages = this.pages(items, true);
      // What can no longer be made here was skipped with its reason: the next look says what the site has.
      const onTheirWay = new Set(pages.map(({ item }) => item));
      forgetSent(
        this.db,
        this.run,
        items.filter((item) => !onTheirWay.has(item)),
      );
      for (const page of pages) await this.begin(() => this.sendOne(page));
    }
    await this.settled();
  }

  private async sendAll(moving: boolean): Promise<void> {
    const { batch } = this.exchange.write;
    for (let after = 0; ;) {
      const items = this.applier.waiting(after, moving, CHUNK);
      if (items.length === 0) break;
      after = items.at(-1)!;
      const pages = this.pages(items, false);
      const together = batch ? Math.min(batch.most, CHUNK) : 1;
      for (let from = 0; from < pages.length; from += together) {
        const some = pages.slice(from, from + together);
        await this.begin(() => (batch && some.length > 1 ? this.sendBatch(some) : this.sendOne(some[0]!)));
      }
    }
    await this.settled();
  }

  /** Pages of which each goes where another of them is: first the one whose new address is free. */
  private async sendChain(items: readonly number[]): Promise<void> {
    let pages = this.pages(items, false);
    while (pages.length > 0) {
      const taken = new Set(pages.map(({ move }) => move?.from));
      const next = pages.find(({ move }) => !taken.has(move?.to ?? null) || move?.to === move?.from);
      if (!next) break;
      await this.begin(() => this.sendOne(next));
      await this.settled();
      pages = pages.filter((page) => page !== next);
    }
    const words =
      "These pages change places with each other; a site over an interface takes one page at a time. Move one of them elsewhere first.";
    for (const { item } of pages) this.applier.refuse(item, "refused", words);
  }

  private pages(items: readonly number[], isInDoubt: boolean): OnItsWay[] {
    return this.applier.ready(items).flatMap((outcome) => {
      const page = this.pageOf(outcome);
      if (page?.after.size === 0) {
        this.applier.applyItems([outcome.item]);
        return [];
      }
      const wrong = page && this.exchange.unwritable(page);
      if (page && wrong === null)
        return [{ ...page, move: outcome.move, seen: { etag: page.etag, record: null }, isInDoubt }];
      this.applier.refuse(
        outcome.item,
        "refused",
        wrong ?? "The interface has no id for this page; look at the live site again",
      );
      return [];
    });
  }

  /** Begins a page, or some, as soon as there is room. */
  private async begin(flow: () => Promise<void>): Promise<void> {
    await this.flows.onSizeLessThan(this.connection.limits.atOnce * 2);
    this.throwFailure();
    this.enqueue(flow);
  }

  private enqueue(flow: () => Promise<void>): void {
    void this.flows.add(async () => {
      if (this.failure !== null || this.grace !== null) return;
      try {
        await flow();
      } catch (error) {
        if (error instanceof WireError && error.isPassing && !this.client.isDead) {
          this.unsettled.push(error.message);
          return;
        }
        // The first trouble is the one that is told; it ends all that is under way.
        this.failure ??= error;
        this.stop.abort();
      }
    });
  }

  private async settled(): Promise<void> {
    await this.flows.onIdle();
    this.throwFailure();
  }

  private throwFailure(): void {
    if (this.failure !== null) throw this.failure as Error;
    if (this.grace !== null || this.stop.signal.aborted) throw new CancelledCall();
  }

  private async sendOne(page: OnItsWay): Promise<void> {
    const refused = await this.redirects.make(page);
    const verdict = refused === null ? await this.verdict(page) : ({ what: "refused", words: refused } as const);
    // A page that is where it was to go keeps its redirects, whoever changed it since.
    const isThere = verdict.what === "confirmed" || (verdict.what === "changed" && verdict.isMoved);
    if (isThere) await this.redirects.removeAt(page);
    else await this.redirects.takeBack(page);
    this.conclude(page, verdict);
  }

  /** What becomes of a page, whatever the site does meanwhile. @throws {WireError} where that cannot be known. */
  private async verdict(page: OnItsWay): Promise<Verdict> {
    let seen = page.seen;
    let tries = 0;
    page.isInDoubt ||= this.exchange.needsReading(page, seen.etag);
    return this.client.persist(async (): Promise<Verdict> => {
      for (;;) {
        if (page.isInDoubt) {
          const found = await this.seePage(page);
          if ("what" in found) return found;
          seen = found;
          page.isInDoubt = false;
        }
        noteSent(this.db, this.run, [page.item], this.options.now());
        try {
          const { etag, reading } = await this.exchange.send(page, seen);
          if (reading === null || reading.reads === "after") return { what: "confirmed", etag };
          const words =
            reading.reads === "other"
              ? reading.words
              : "The site says that it took the change, and gives back the page without it";
          return { what: "changed", words, isMoved: reading.isMoved };
        } catch (error) {
          const refused = this.refusal(error, page);
          if (refused === null && ++tries < MOST_TRIES) continue;
          return refused ?? { what: "refused", words: (error as WireError).message };
        }
      }
    });
  }

  /** What a page says by now: a verdict where that is clear, else the version to be changed. */
  private async seePage(page: OnItsWay): Promise<Verdict | SeenPage> {
    try {
      const seen = await this.exchange.see(page);
      if (seen.reads === "after") return { what: "confirmed", etag: seen.etag };
      return seen.reads === "before" ? seen : { what: "changed", words: seen.words, isMoved: seen.isMoved };
    } catch (error) {
      if (error instanceof WireError && error.trouble === "missing")
        return { what: "refused", words: `The site has no such page any more (${error.message})` };
      throw error;
    }
  }

  /** What trouble with sending means: a verdict, or `null` where the page is to be read and sent again. @throws what ends the run, or may pass. */
  private refusal(error: unknown, page: OnItsWay): Verdict | null {
    if (error instanceof FieldError) return { what: "refused", words: error.message };
    if (!(error instanceof WireError)) throw error;
    const { trouble, message } = error;
    if (trouble === "refused") return { what: "refused", words: message };
    if (trouble === "missing") return { what: "refused", words: `The site has no such page any more (${message})` };
    if (trouble === "changed") {
      page.isInDoubt = true;
      return null;
    }
    // Too many requests, or a secret that is not taken: nothing was done. After anything else that may be.
    const isUndone = trouble === "shut" || trouble === "elsewhere" || statusOf(error) === TOO_MANY;
    if (isUndone && !page.isInDoubt) forgetSent(this.db, this.run, [page.item]);
    else page.isInDoubt = true;
    throw error;
  }

  private async sendBatch(pages: readonly OnItsWay[]): Promise<void> {
    // What moves goes alone, since its redirects go before it.
    const isAlone = (page: OnItsWay) => page.move !== null || this.exchange.needsReading(page, page.seen.etag);
    const alone = pages.filter(isAlone);
    const together = pages.filter((page) => !isAlone(page));
    if (together.length > 0) alone.push(...(await this.batchLeft(together)));
    for (const page of alone) this.enqueue(() => this.sendOne(page));
  }

  /** Sends changes together; gives those of which it is not known what became of them. */
  private async batchLeft(pages: readonly OnItsWay[]): Promise<OnItsWay[]> {
    const { batch } = this.exchange.write;
    noteSent(
      this.db,
      this.run,
      pages.map(({ item }) => item),
      this.options.now(),
    );
    const all = pages.map((page) => ({ page, seen: page.seen }));
    const results = await this.client.persist(() =>
      this.exchange.sendTogether(batch!, all).catch((error: unknown) => {
        const isKnown = error instanceof WireError && error.trouble !== "shut" && statusOf(error) !== TOO_MANY;
        if (!isKnown) throw error;
        return null;
      }),
    );
    const left: OnItsWay[] = [];
    const confirmed: { page: OnItsWay; etag: string | null }[] = [];
    const refused: { page: OnItsWay; words: string }[] = [];
    pages.forEach((page, i) => {
      const result = results?.[i];
      const isDone = result !== undefined && result.status >= 200 && result.status < 300;
      const trouble = result === undefined || isDone ? null : troubleOf(result.status);
      if (isDone) confirmed.push({ page, etag: result.etag });
      else if (trouble === "refused" || trouble === "missing")
        refused.push({ page, words: `${result!.status}: ${reasonOf(result!.said) ?? "no reason is given"}` });
      else {
        page.isInDoubt = true;
        left.push(page);
      }
    });
    for (const { page, words } of refused) this.refuse(page, { what: "refused", words });
    this.confirm(confirmed);
    // One after another only where the site takes none of those that were sent with it.
    if (confirmed.length === 0) for (const { words } of refused) this.countRefusal(words);
    return left;
  }

  private conclude(page: OnItsWay, verdict: Verdict): void {
    if (verdict.what === "confirmed") return this.confirm([{ page, etag: verdict.etag }]);
    this.refuse(page, verdict);
    if (verdict.what === "refused") this.countRefusal(verdict.words);
    else this.refusals = 0;
  }

  /** Writes down that the site does not have a page’s change, and why. */
  private refuse(
    page: OnItsWay,
    { what, words }: Pick<Exclude<Verdict, { what: "confirmed" }>, "what" | "words">,
  ): void {
    this.db.transaction(() => {
      this.applier.refuse(page.item, what, words);
      forgetSent(this.db, this.run, [page.item]);
    })();
    this.tell();
  }

  private countRefusal(words: string): void {
    if (++this.refusals < MOST_REFUSALS) return;
    throw new WireError(
      "refused",
      `The site refused ${MOST_REFUSALS} pages one after another, so the run was stopped. The last time it said: ${words}`,
    );
  }

  /** Applies here what the site has. */
  private confirm(pages: readonly { readonly page: OnItsWay; readonly etag: string | null }[]): void {
    if (pages.length === 0) return;
    this.db.transaction(() => {
      for (const { page, etag } of pages) this.noteEtag(page.item, { remote: page.remote, etag });
      const items = pages.map(({ page }) => page.item);
      this.applier.applyItems(items);
      forgetSent(this.db, this.run, items);
    })();
    this.refusals = 0;
    this.tell();
  }

  private tell(): void {
    const { waiting } = readRun(this.db, this.run)!;
    this.options.progress?.({ run: this.run, done: this.total - waiting, total: this.total });
  }
}

function statusOf(error: WireError): number | null {
  return (error.cause as { status?: number } | undefined)?.status ?? null;
}
