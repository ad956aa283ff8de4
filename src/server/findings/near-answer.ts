import { type NearAsked, type NearFound } from "./near-finder";

/** What the thread is asked, and shared memory for the answer. */
export interface NearRequest {
  readonly asked: NearAsked;
  readonly memory: SharedArrayBuffer;
}

/** The states of an answer: being worked on, there, given up by the thread, no longer wanted. */
const STATES = { open: 0, there: 1, failed: 2, unwanted: 3 } as const;
export type AnswerState = (typeof STATES)[keyof typeof STATES];
const STATE = 0;
/** Counts up as the thread goes on. */
const BEATS = 1;
const HEAD = 2;

/** An answer in memory shared by the thread that searches and the one that waits. */
export class NearAnswer {
  private readonly cells: Int32Array;

  constructor(
    readonly memory: SharedArrayBuffer,
    private readonly texts: number,
  ) {
    this.cells = new Int32Array(memory);
  }

  static blank(texts: number, wording: boolean): NearAnswer {
    return new NearAnswer(new SharedArrayBuffer(4 * (HEAD + texts * (wording ? 2 : 1))), texts);
  }

  get state(): keyof typeof STATES {
    const state = Atomics.load(this.cells, STATE) as AnswerState;
    return (Object.keys(STATES) as (keyof typeof STATES)[]).find((name) => STATES[name] === state)!;
  }

  /** How far the thread is: it is alive as long as this goes up. */
  get beats(): number {
    return Atomics.load(this.cells, BEATS);
  }

  /** Says that the thread goes on. */
  beat(): void {
    Atomics.add(this.cells, BEATS, 1);
  }

  /** Waits until the state is another one, or so many ms. */
  wait(ms: number): void {
    Atomics.wait(this.cells, STATE, STATES.open, ms);
  }

  put({ partners, wording }: NearFound): void {
    this.cells.set(partners, HEAD);
    if (wording) this.cells.set(wording, HEAD + this.texts);
    this.settle("there");
  }

  settle(state: "there" | "failed" | "unwanted"): void {
    Atomics.store(this.cells, STATE, STATES[state]);
    Atomics.notify(this.cells, STATE);
  }

  /** What was found, once it is there. */
  read(wording: boolean): NearFound {
    const from = HEAD + this.texts;
    return { partners: this.cells.slice(HEAD, from), wording: wording ? this.cells.slice(from) : null };
  }
}
