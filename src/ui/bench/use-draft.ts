"use client";
import { type Kind } from "../../core/design/kinds";
import { useCallback, useRef } from "react";
import { toast } from "sonner";
import type { KindDesign } from "../../core/design/design";
import type { SaveState } from "../shell/draft-saver";
import { useDraftSaver } from "../shell/use-draft-saver";
import { type DraftHistory, NO_HISTORY, noted, stepBack, stepForward } from "./draft-history";

type DesignChange = (design: KindDesign) => KindDesign;

export interface Draft {
  readonly design: KindDesign;
  /**
   * Changes the design; `label` says what was done, changes with the same `key` in quick succession are one step. What may come together with
   * another change, as letters do, says what becomes of the design as it is then.
   */
  readonly change: (next: KindDesign | DesignChange, label: string, key?: string) => void;
  /** Whether the server has it. */
  readonly saved: SaveState;
  /** Takes the last step back, or forward again. */
  readonly undo: () => void;
  readonly redo: () => void;
}

/** A kind's draft with the steps that it came by; changed at once and stored as it is typed. */
export function useDraft(kind: Kind): Draft {
  const { saver, view } = useDraftSaver(kind);
  const histories = useRef(new Map<Kind, DraftHistory>());
  const change = useCallback(
    (next: KindDesign | DesignChange, label: string, key?: string) => {
      const { design } = saver.current();
      const history = histories.current.get(kind) ?? NO_HISTORY;
      histories.current.set(kind, noted(history, design, label, key ?? null, Date.now()));
      saver.change(typeof next === "function" ? next(design) : next);
    },
    [kind, saver],
  );
  const step = useCallback(
    (take: typeof stepBack, words: string) => {
      const taken = take(histories.current.get(kind) ?? NO_HISTORY, saver.current().design);
      if (!taken) return;
      histories.current.set(kind, taken.history);
      saver.change(taken.design);
      toast(`${words}: ${taken.label}`, { id: "step", duration: 2500 });
    },
    [kind, saver],
  );
  const undo = useCallback(() => step(stepBack, "Undone"), [step]);
  const redo = useCallback(() => step(stepForward, "Redone"), [step]);
  return { design: view.design, change, saved: view.state, undo, redo };
}
