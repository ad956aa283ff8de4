"use client";
import { useCallback, useRef, useState } from "react";
import { toast } from "sonner";
import type { ReviewSummary } from "../../server/review/review-summary";
import { wordsOf } from "../shell/api";
import { InTurn } from "../shell/in-turn";
import { untilSent } from "../shell/unsent";

/** Says something of changes to the server, after all that was said before. @returns whether it was taken. */
export type SayOfChanges = (ask: () => Promise<ReviewSummary>) => Promise<boolean>;

/**
 * Ticks, and other words on changes. They are sent in their order, one at a time, and what the last of them gives is shown: an answer before it
 * knows nothing of those that wait.
 */
export function useTicks(onSummary: (summary: ReviewSummary) => void): {
  readonly say: SayOfChanges;
  /** Waits until all that was said has been answered and is shown. */
  readonly settled: () => Promise<void>;
} {
  const [turns] = useState(() => new InTurn());
  /** The last answer, with what it is shown by: one for a filter that was set before is none for that of now. */
  const answered = useRef<(() => void) | null>(null);
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const say = useCallback<SayOfChanges>(
    (ask) => {
      const work = async () => {
        try {
          const summary = await untilSent(turns.do(ask));
          answered.current = () => onSummary(summary);
          return true;
        } catch (error) {
          toast.error(wordsOf(error));
          return false;
        } finally {
          if (turns.isIdle) {
            answered.current?.();
            answered.current = null;
          }
        }
      };
      const said = work();
      last.current = said;
      return said;
    },
    [turns, onSummary],
  );
  const settled = useCallback(async () => {
    while (!turns.isIdle) await last.current;
  }, [turns]);
  return { say, settled };
}
