"use client";
import { useDeferredValue, useEffect, useSyncExternalStore } from "react";
import { toast } from "sonner";

/** A part of the program that is not in the first load. What failed to come is asked for again the next time. */
export class Later<T> {
  private part: T | null = null;
  private coming: Promise<T> | null = null;
  private readonly listeners = new Set<() => void>();

  constructor(private readonly load: () => Promise<T>) {}

  readonly current = (): T | null => this.part;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  get(): Promise<T> {
    this.coming ??= this.load().then(
      (part) => {
        this.part = part;
        for (const listener of this.listeners) listener();
        return part;
      },
      (error: unknown) => {
        this.coming = null;
        throw error;
      },
    );
    return this.coming;
  }
}

const absent = () => null;

function tellMissing(again: () => void): void {
  toast.error(
    "A part of this screen did not load. Check the connection; if the program was updated, reload the page.",
    {
      id: "part-missing",
      duration: Infinity,
      action: { label: "Try again", onClick: again },
    },
  );
}

/**
 * A part that comes later, `null` until it is there.
 *
 * @param isWanted whether it is shown now; otherwise it is brought in when somebody is there and the browser has nothing else to do.
 */
export function useLater<T>(later: Later<T>, isWanted: boolean): T | null {
  useEffect(() => {
    // Without a connection it comes when there is one again. Whoever waits for it is told.
    const bring = () => void later.get().catch(() => isWanted && tellMissing(bring));
    const cancel = isWanted ? (bring(), () => {}) : whenIdle(bring);
    window.addEventListener("online", bring);
    return () => {
      cancel();
      window.removeEventListener("online", bring);
    };
  }, [later, isWanted]);
  // What comes with it is drawn piece by piece, so that whoever types meanwhile notices nothing.
  return useDeferredValue(useSyncExternalStore<T | null>(later.subscribe, later.current, absent));
}

/** At the latest after so many ms, however busy the browser is. */
const LATEST = 3000;
/** What shows that somebody is there. */
const SIGNS = ["pointermove", "pointerdown", "touchstart", "wheel", "keydown"] as const;
let isSomebodyThere = false;

/**
 * Does what nobody waits for once somebody is there and the browser has nothing else to do. A page that only opens, in a tab behind others
 * for one, has no work but that of being drawn.
 */
function whenIdle(work: () => void): () => void {
  if (isSomebodyThere) return soon(work);
  let cancel = () => {};
  const begin = () => {
    isSomebodyThere = true;
    stop();
    cancel = soon(work);
  };
  const stop = () => SIGNS.forEach((sign) => window.removeEventListener(sign, begin));
  SIGNS.forEach((sign) => window.addEventListener(sign, begin, { passive: true }));
  return () => {
    stop();
    cancel();
  };
}

function soon(work: () => void): () => void {
  // Not every browser has it.
  if (typeof requestIdleCallback !== "function") {
    const timer = setTimeout(work, 200);
    return () => clearTimeout(timer);
  }
  const request = requestIdleCallback(work, { timeout: LATEST });
  return () => cancelIdleCallback(request);
}
