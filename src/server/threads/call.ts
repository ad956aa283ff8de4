import { type Refusal, type TroubleCode } from "../../core/refusal";

/** Methods that a worker answers; each takes one value and gives one back, both structured-cloneable. */
export type Methods = Record<string, (params: never, call: Call) => unknown>;

/** What a method sees of the call that it answers. */
export interface Call {
  /** Whether the caller no longer wants the answer. */
  readonly cancelled: () => boolean;
  readonly progress: (value: unknown) => void;
}

/** An error on its way from a thread: its words, and what it was. */
export interface SentError {
  readonly message: string;
  readonly name: string;
  readonly code: TroubleCode | null;
  /** What the system or the database calls it, such as `SQLITE_CORRUPT`; `null` for what has no such name. */
  readonly systemCode: string | null;
  readonly stack: string | null;
}

export type Request = { readonly id: number; readonly method: string; readonly params: unknown };
export type Reply = { readonly id: number } & (
  { readonly progress: unknown } | { readonly result: unknown } | { readonly error: SentError }
);

/** Where a thread reads which calls are no longer wanted. */
export const STOP_CELLS = 1024;

/** Thrown to the caller of a call that was cancelled or made needless by a newer one. */
export class CancelledCall extends Error {
  constructor() {
    super("A newer request took this one's place");
    this.name = "Cancelled";
  }
}

export function isRefusal(error: unknown): error is Refusal {
  return error instanceof Error && error.name === "Refusal";
}
