import PQueue from "p-queue";
import { CancelledCall } from "../threads/call";

/** How fast a site is asked. */
export interface Pace {
  readonly perSecond: number;
  readonly atOnce: number;
}

/** Timers are no finer than a millisecond, and late rather than early: faster than that, some begin together. */
const BEGIN_PER_SECOND = 20;

/** A queue that begins no more in a second, and has no more at once, than a pace allows. */
export function pacedQueue({ perSecond, atOnce }: Pace): PQueue {
  const together = Math.max(1, Math.round(perSecond / BEGIN_PER_SECOND));
  const interval = Math.max(1, Math.floor((together * 1000) / perSecond));
  return new PQueue({ concurrency: atOnce, interval, intervalCap: together });
}

/**
 * Work that is given up after a while, or when all is stopped.
 *
 * @param late what is thrown when it took too long. @throws {CancelledCall} when all is stopped.
 */
export async function inTime<T>(
  ms: number,
  stopped: AbortSignal | undefined,
  work: (signal: AbortSignal) => Promise<T>,
  late: () => Error,
): Promise<T> {
  if (stopped?.aborted) throw new CancelledCall();
  const own = new AbortController();
  const end = () => own.abort();
  const timer = setTimeout(end, ms);
  stopped?.addEventListener("abort", end);
  try {
    return await work(own.signal);
  } catch (error) {
    if (stopped?.aborted) throw new CancelledCall();
    throw own.signal.aborted ? late() : error;
  } finally {
    clearTimeout(timer);
    stopped?.removeEventListener("abort", end);
  }
}

/** How often it is asked whether work is still wanted. */
const LOOK_FOR_STOP_MS = 100;

/** Asks again and again whether work is still wanted, until what this gives is called; tells once when it is not. */
export function watchForStop(stopped: (() => boolean) | undefined, tell: () => void): () => void {
  const watch = setInterval(() => {
    if (!stopped?.()) return;
    clearInterval(watch);
    tell();
  }, LOOK_FOR_STOP_MS);
  return () => clearInterval(watch);
}
