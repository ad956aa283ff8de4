import { Worker } from "node:worker_threads";
import { type Site } from "../../core/design/design";
import { type Kind, type TextName, TEXTS } from "../../core/design/kinds";
import { Cancelled, type SetProver, type Watch } from "../../core/proof/prove-set";
import { SILENT, waitForThread } from "../threads/wait-for-thread";
import { type LiveRequest } from "./live-proving";
import { LiveShare } from "./live-share";
import { settingsUsed } from "./settings-used";

/** Smaller kinds are proved before another thread has begun. */
const FEWEST = 10_000;

/** A kind's share of work with a thread that proves it. */
interface Begun {
  readonly share: LiveShare;
  readonly worker: Worker;
  /** Texts that were not asked for yet, with the stamps of what each rests on. */
  readonly stamps: Map<TextName, string>;
}

/**
 * Proves what a site has in a thread of its own while its pages are still being loaded and its drafts proved. What it has not
 * done when it is asked for is done by both.
 *
 * @param file the thread's bundle.
 * @param path the site's database.
 * @param options `fewest` pages of a kind for which it is worth it; `silent` after how many ms without a sign a thread is taken for dead.
 */
export class LiveAhead {
  private readonly begun = new Map<Kind, Begun>();
  private readonly fewest: number;
  private readonly silent: number;

  constructor(
    private readonly file: string,
    private readonly path: string,
    { fewest = FEWEST, silent = SILENT }: { readonly fewest?: number; readonly silent?: number } = {},
  ) {
    this.fewest = fewest;
    this.silent = silent;
  }

  /** Begins with a kind's pages, so many as they are at a revision. */
  begin(kind: Kind, { site, revision }: { readonly site: Site; readonly revision: number }, pages: number): void {
    this.forget(kind);
    if (pages < this.fewest) return;
    const share = LiveShare.blank(pages);
    const { path } = this;
    const request: LiveRequest = { path, site, kind, revision, memory: share.memory };
    const worker = new Worker(this.file, { workerData: request });
    worker.unref();
    worker.on("error", () => share.end());
    worker.on("exit", () => share.end());
    const items = `${settingsUsed.items(site, kind)} ${revision}`;
    const stamps = new Map(TEXTS.map((text) => [text, `${settingsUsed.proof(site, text)} ${items}`]));
    this.begun.set(kind, { share, worker, stamps });
  }

  /**
   * Fills a prover with what the thread found of a text, and does the rest with it. Nothing is filled where the text rests on
   * something else by now.
   *
   * @param stamp of what the text rests on: its proof's settings, its kind's pages.
   * @throws {Cancelled} where it is no longer wanted; it can be gone on with.
   */
  fill(kind: Kind, text: TextName, stamp: string, prover: SetProver, watch: Watch): void {
    const begun = this.begun.get(kind);
    if (begun?.stamps.get(text) === stamp) this.takeTogether(begun, text, prover, watch);
    begun?.stamps.delete(text);
    if (begun?.stamps.size === 0) this.forget(kind);
  }

  /** Does from the end what is still to be done, and takes over what the thread did. */
  private takeTogether(begun: Begun, text: TextName, prover: SetProver, watch: Watch): void {
    const { share } = begun;
    const told = (done: number) => {
      if (watch.cancelled?.()) throw new Cancelled();
      watch.progress?.(done, share.stretches);
    };
    let kept = 0;
    for (let stretch = share.stretches - 1; stretch >= 0; stretch--) {
      if (!share.keep(stretch)) continue;
      const { from, to } = share.rowsOf(stretch);
      prover.proveLive(from, to);
      told(++kept);
    }
    for (let stretch = 0; stretch < share.stretches; stretch++) {
      if (share.stateOf(stretch) === "begun") this.waitFor(begun, stretch, () => told(stretch));
      if (share.stateOf(stretch) !== "done") continue;
      const { from, to } = share.rowsOf(stretch);
      prover.takeLive(share.memory.texts[text], from, to);
    }
  }

  /** Waits until a stretch is done, or the thread is taken for dead: what it leaves is proved like all that was never begun. */
  private waitFor({ share, worker }: Begun, stretch: number, told: () => void): void {
    const awaited = {
      isOpen: () => share.stateOf(stretch) === "begun" && !share.hasEnded,
      beats: () => share.beats,
      wait: (ms: number) => share.wait(stretch, ms),
      looked: told,
    };
    if (waitForThread(awaited, this.silent)) return;
    share.end();
    void worker.terminate();
  }

  private forget(kind: Kind): void {
    const begun = this.begun.get(kind);
    if (!begun) return;
    begun.share.end();
    this.begun.delete(kind);
  }
}
