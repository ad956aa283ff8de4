import { formatDistanceStrict } from "date-fns";
import { useRef } from "react";

/** How far something was at a moment, in ms. */
export interface Mark {
  readonly at: number;
  readonly done: number;
}

/** Before so many ms have been watched nothing can be said. */
const WATCHED = 2000;

/**
 * How long something takes yet at the pace that was watched; `null` where that cannot be told.
 *
 * @example timeLeft({ at: 0, done: 0 }, { at: 10_000, done: 5000 }, 20_000) // "30 seconds left"
 */
export function timeLeft(first: Mark, now: Mark, total: number | null): string | null {
  const [ms, done] = [now.at - first.at, now.done - first.done];
  if (total === null || total <= now.done || ms < WATCHED || done <= 0) return null;
  return `${formatDistanceStrict(0, Math.max(1000, ((total - now.done) * ms) / done))} left`;
}

/** The same of what is on the screen, from when it was first seen there. */
export function useTimeLeft(done: number, total: number | null): string | null {
  const first = useRef<Mark | null>(null);
  const now = { at: Date.now(), done };
  if (first.current === null || done < first.current.done) first.current = now;
  return timeLeft(first.current, now, total);
}
