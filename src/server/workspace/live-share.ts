import { TEXTS, type TextName } from "../../core/design/kinds";
import { type GivenColumns, sharedColumns } from "../../core/proof/given-prover";
import { CHUNK } from "../../store/items";

/** The states of a stretch: nobody is at it, the other thread is, the other has done it, who asked does it. */
export type StretchState = "free" | "begun" | "done" | "kept";
const STATES: readonly StretchState[] = ["free", "begun", "done", "kept"];
const [FREE, BEGUN, DONE, KEPT] = [0, 1, 2, 3] as const;
/** Whether the work goes on: 1 where the other thread gave it up, or nobody wants it any more. */
const ENDED = 0;
/** Counts up as the other thread goes on. */
const BEATS = 1;
const HEAD = 2;

/** What goes from thread to thread of a {@link LiveShare}: all of it is shared memory. */
export interface LiveShareMemory {
  readonly size: number;
  readonly cells: Int32Array;
  readonly texts: Readonly<Record<TextName, GivenColumns>>;
}

/**
 * The proof of what a site has of a kind's texts, in memory that two threads share: one goes through the rows from the start, the
 * other does from the end what is still to be done when it needs it. Each stretch of rows is one's or the other's.
 */
export class LiveShare {
  /** How many stretches there are. */
  readonly stretches: number;

  constructor(readonly memory: LiveShareMemory) {
    this.stretches = memory.cells.length - HEAD;
  }

  /** @param size how many rows there are. */
  static blank(size: number): LiveShare {
    const cells = new Int32Array(new SharedArrayBuffer(4 * (HEAD + Math.ceil(size / CHUNK))));
    const texts = Object.fromEntries(TEXTS.map((text) => [text, sharedColumns(size)])) as LiveShareMemory["texts"];
    return new LiveShare({ size, cells, texts });
  }

  /** The rows of a stretch: the first, and the one behind the last. */
  rowsOf(stretch: number): { readonly from: number; readonly to: number } {
    const from = stretch * CHUNK;
    return { from, to: Math.min(this.memory.size, from + CHUNK) };
  }

  stateOf(stretch: number): StretchState {
    return STATES[Atomics.load(this.memory.cells, HEAD + stretch)]!;
  }

  /** Takes a stretch that nobody is at; says whether it was free. */
  begin(stretch: number): boolean {
    return Atomics.compareExchange(this.memory.cells, HEAD + stretch, FREE, BEGUN) === FREE;
  }

  /** The same for who asked: the other thread leaves it alone. */
  keep(stretch: number): boolean {
    return Atomics.compareExchange(this.memory.cells, HEAD + stretch, FREE, KEPT) === FREE;
  }

  finish(stretch: number): void {
    Atomics.store(this.memory.cells, HEAD + stretch, DONE);
    Atomics.notify(this.memory.cells, HEAD + stretch);
    Atomics.add(this.memory.cells, BEATS, 1);
  }

  /** Waits until a stretch that is begun is done, or so many ms. */
  wait(stretch: number, ms: number): void {
    Atomics.wait(this.memory.cells, HEAD + stretch, BEGUN, ms);
  }

  /** How far the other thread is: it is alive as long as this goes up. */
  get beats(): number {
    return Atomics.load(this.memory.cells, BEATS);
  }

  get hasEnded(): boolean {
    return Atomics.load(this.memory.cells, ENDED) === 1;
  }

  /** Ends the work: what is begun will not be done. */
  end(): void {
    Atomics.store(this.memory.cells, ENDED, 1);
  }
}
