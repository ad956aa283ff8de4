import { bothChanges, changedApart } from "../../core/design/both-changes";
import type { KindDesign } from "../../core/design/design";
import type { StoredDraft } from "../../store/drafts";

/** What became of a draft that was sent. */
export type SendResult = { readonly saved: StoredDraft } | { readonly conflict: StoredDraft };

/** What of a draft the server does not have yet, as the browser keeps it. */
export interface KeptDraft {
  readonly design: KindDesign;
  /** The version of the stored draft that it goes on from. */
  readonly seen: number;
  /** What was on its way when this was kept: it may have arrived without a word. */
  readonly sending: KindDesign | null;
}

/** Where a draft is kept until the server has it. */
export interface DraftKeeper {
  put(kept: KeptDraft): void;
  forget(): void;
}

export interface SaverOptions {
  readonly send: (design: KindDesign, seen: number, keepalive: boolean) => Promise<SendResult>;
  readonly keeper: DraftKeeper;
  /** Whether an error only says that the server cannot be reached now: it is tried again then. */
  readonly isPassing: (error: unknown) => boolean;
  /** Told of each draft that the server has now. */
  readonly onStored: (stored: StoredDraft) => void;
  /** Told where another window changed other things of the draft, and both changes stand together now. */
  readonly onBoth: () => void;
}

/**
 * `stored`: the server has what is shown. `saving`: it is on its way, or will be when typing pauses. `offline`: it could not be sent, and is
 * tried again. `refused`: the server does not take it as it is. `conflict`: another window stored another one since.
 */
export type SaveState = "stored" | "saving" | "offline" | "refused" | "conflict";

/** A draft with where it stands. It is another object where any of it is another. */
export interface SaverView {
  readonly design: KindDesign;
  readonly state: SaveState;
  /** What the server said, where it refused. */
  readonly message: string | null;
  /** What the other window stored. */
  readonly theirs: StoredDraft | null;
}

/** Typing has paused for so long when a draft is sent, in ms. */
const PAUSE = 400;
/** After so many ms it is tried again, the last of them again and again. */
const AGAIN = [1000, 2000, 5000];

/**
 * Stores a draft as it is typed: one save is under way at a time, the newest waits behind it, and what the browser keeps is
 * forgotten only when what the server acknowledged is what is there.
 */
export class DraftSaver {
  private view: SaverView;
  private seen: number;
  /** What that version is, which the changes made here go on from; `null` where it is not known. */
  private agreed: KindDesign | null;
  /** What is on its way. */
  private sending: KindDesign | null = null;
  private isWaiting = false;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private failures = 0;
  private isTouched = false;
  /** What a window that is gone may have sent: where the server has it, it is nobody else's. */
  private ours: readonly KindDesign[] = [];
  private readonly listeners = new Set<() => void>();

  constructor(
    /** What the server had when this window opened. */
    private readonly first: StoredDraft,
    private readonly options: SaverOptions,
  ) {
    this.view = { design: first.design, state: "stored", message: null, theirs: null };
    this.seen = first.version;
    this.agreed = first.design;
  }

  readonly current = (): SaverView => this.view;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Shows another design; it is sent when typing pauses. */
  change(design: KindDesign): void {
    this.isTouched = true;
    this.isWaiting = true;
    const { state, theirs } = this.view;
    if (state === "conflict") this.show({ design, state, theirs });
    else this.show({ design, state: "saving" });
    this.keep();
    if (state !== "conflict") this.schedule(PAUSE);
  }

  /**
   * Whether what a window that is gone had not stored can be taken up, and nothing of it or of here is lost: nothing was typed here, or
   * both went on from one draft and changed other things of it.
   */
  canTakeUp({ design, seen, sending }: KeptDraft): boolean {
    if (!this.isTouched) return true;
    const { first, view } = this;
    const isOfOne = seen === first.version || (sending !== null && same(sending, first.design));
    return isOfOne && changedApart(first.design, design, view.design);
  }

  /** Takes up what a window that is gone had not stored, with what was typed here since. */
  takeUp(kept: KeptDraft): void {
    if (this.isTouched) this.putOnTop(kept);
    else this.goOnFrom(kept);
  }

  private putOnTop({ design, sending }: KeptDraft): void {
    this.ours = [design, ...(sending ? [sending] : [])];
    const { state, theirs, design: mine } = this.view;
    const both = bothChanges(this.first.design, design, mine);
    if (theirs && !this.isOurs(theirs)) {
      this.show({ design: both, state, theirs });
      this.keep();
      return;
    }
    if (theirs) this.agreeOn(theirs);
    this.isWaiting = true;
    this.show({ design: both, state: "saving" });
    this.keep();
    void this.pump(false);
  }

  private isOurs({ design }: StoredDraft): boolean {
    return this.ours.some((own) => same(own, design));
  }

  private goOnFrom({ design, seen, sending }: KeptDraft): void {
    const stored = this.view.design;
    if (same(design, stored)) {
      this.options.keeper.forget();
      return;
    }
    // What was on its way then has arrived: what came after it goes on from there.
    if ((sending === null || !same(sending, stored)) && seen !== this.seen) {
      this.seen = seen;
      this.agreed = null;
    }
    this.isWaiting = true;
    this.show({ design, state: "saving" });
    this.keep();
    void this.pump(false);
  }

  /** Takes in that the stored draft is another one now, where nothing of this window waits. */
  adopt(stored: StoredDraft): void {
    if (this.view.state !== "stored" || stored.version <= this.seen) return;
    this.agreeOn(stored);
    this.show({ design: stored.design, state: "stored" });
  }

  /** Sends what waits now: the page is left, or the server can be reached again. */
  flush(keepalive: boolean): void {
    void this.pump(keepalive);
  }

  /** Takes what the other window stored in place of what is shown. */
  takeTheirs(): void {
    const { theirs } = this.view;
    if (!theirs) return;
    this.isWaiting = false;
    this.agreeOn(theirs);
    this.options.keeper.forget();
    this.show({ design: theirs.design, state: "stored" });
    this.options.onStored(theirs);
  }

  /** Stores what is shown over what the other window stored. */
  keepMine(): void {
    const { theirs } = this.view;
    if (!theirs) return;
    this.agreeOn(theirs);
    this.isWaiting = true;
    this.show({ state: "saving" });
    this.keep();
    void this.pump(false);
  }

  /** Sends nothing any more of itself. What waits stays in the browser. */
  dispose(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
  }

  private async pump(keepalive: boolean): Promise<void> {
    if (!this.isWaiting || this.sending || this.view.state === "conflict") return;
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    const design = this.view.design;
    this.sending = design;
    this.isWaiting = false;
    this.keep();
    try {
      const result = await this.options.send(design, this.seen, keepalive);
      this.sending = null;
      this.failures = 0;
      if ("conflict" in result) this.meet(result.conflict);
      else this.acknowledge(result.saved);
    } catch (error) {
      this.sending = null;
      this.isWaiting = true;
      this.fail(error);
    }
  }

  private acknowledge(stored: StoredDraft): void {
    this.agreeOn(stored);
    this.options.onStored(stored);
    if (this.isWaiting) {
      this.keep();
      void this.pump(false);
      return;
    }
    this.ours = [];
    this.options.keeper.forget();
    this.show({ state: "stored" });
  }

  private meet(theirs: StoredDraft): void {
    // What is shown may be the very thing by now.
    if (same(theirs.design, this.view.design)) {
      this.isWaiting = false;
      this.acknowledge(theirs);
      return;
    }
    this.isWaiting = true;
    if (this.isOurs(theirs)) {
      this.agreeOn(theirs);
      void this.pump(false);
      return;
    }
    const mine = this.view.design;
    if (this.agreed && changedApart(this.agreed, theirs.design, mine)) {
      const both = bothChanges(this.agreed, theirs.design, mine);
      this.agreeOn(theirs);
      this.show({ design: both, state: "saving" });
      this.options.onBoth();
      void this.pump(false);
      return;
    }
    this.show({ state: "conflict", theirs });
    this.keep();
  }

  /** What is shown goes on from what the server has. */
  private agreeOn({ design, version }: StoredDraft): void {
    this.agreed = design;
    this.seen = version;
  }

  private fail(error: unknown): void {
    this.keep();
    if (!this.options.isPassing(error)) {
      this.show({ state: "refused", message: error instanceof Error ? error.message : String(error) });
      return;
    }
    this.show({ state: "offline" });
    this.schedule(AGAIN[Math.min(this.failures++, AGAIN.length - 1)]!);
  }

  private schedule(ms: number): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.pump(false), ms);
  }

  private keep(): void {
    this.options.keeper.put({ design: this.view.design, seen: this.seen, sending: this.sending });
  }

  private show(change: Partial<SaverView>): void {
    this.view = { ...this.view, message: null, theirs: null, ...change };
    for (const listener of this.listeners) listener();
  }
}

function same(a: KindDesign, b: KindDesign): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}
