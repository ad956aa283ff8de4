import type { WorkProgress } from "../../server/workspace/watch";
import type { WithKinds } from "../../core/design/kinds";
import { create } from "./store";
import { progressLine } from "./progress-words";

/** Calls that are late though they are quick by themselves: how far the server is with what is before them, `null` where it does not say. */
export type Waiting = ReadonlyMap<symbol, WorkProgress | null>;

/** A call that waits. */
export interface Wait {
  /** Takes how far the server is with what is before it. */
  readonly told: (progress: WorkProgress) => void;
  readonly end: () => void;
}

const waits = create<Waiting>(new Map());

export function useWaits(): Waiting {
  return waits.use();
}

export function beginWait(): Wait {
  const own = Symbol("wait");
  const put = (progress: WorkProgress | null) => waits.set(new Map(waits.get()).set(own, progress));
  put(null);
  return {
    told: put,
    end: () => waits.set(new Map([...waits.get()].filter(([other]) => other !== own))),
  };
}

/** What is waited for, in words; `null` where nothing is late. */
export function waitWords(site: WithKinds, waiting: Waiting = waits.get()): string | null {
  if (waiting.size === 0) return null;
  const progress = [...waiting.values()].findLast((own) => own !== null);
  return progress ? `Waiting for the server. ${progressLine(site, progress)}` : "Waiting for the server";
}
