import { type Activity, type Doing, fingerprintOf } from "./activity";

/** Why a line or condition that ended the thread before is not tried again, by its fingerprint. */
export type RefusedLines = ReadonlyMap<string, string>;

/** A condition that is at it for so many ms is ended: everybody waits for it meanwhile. */
const MOST_MATCHING = 30_000;

/** Notes what a thread is at, so that it can be told if it ends there, and knows what ended it before. */
export class LineGuard {
  constructor(
    private readonly activity: Activity | null = null,
    private readonly refused: RefusedLines = new Map(),
    /** How many ms a condition may take before it is ended. */
    readonly patience = MOST_MATCHING,
  ) {}

  /** Why something is not tried, `null` where it is. */
  refusal(of: Pick<Doing, "what" | "source">): string | null {
    return this.refused.size === 0 ? null : (this.refused.get(fingerprintOf(of)) ?? null);
  }

  /** Notes what will be worked on, nothing of it yet. */
  begin(list: readonly Doing[]): void {
    this.activity?.begin(list);
  }

  /** Notes which of it is being worked on now. */
  at(place: number): void {
    this.activity?.at(place);
  }

  clear(): void {
    this.activity?.clear();
  }
}
