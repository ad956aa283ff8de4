import { type KindDesign } from "../../core/design/design";

interface Step {
  readonly design: KindDesign;
  readonly label: string;
  readonly key: string | null;
  readonly at: number;
}

/** The way that a draft came, step by step, and the steps that were taken back. A step holds the design on its other side. */
export interface DraftHistory {
  readonly past: readonly Step[];
  readonly future: readonly Step[];
}

export const NO_HISTORY: DraftHistory = { past: [], future: [] };

const MOST_STEPS = 300;
/** Typing goes on as one step as long as no pause is longer, in ms. */
const PAUSE = 1000;

/**
 * The history with a change noted.
 *
 * @param key changes with the same key soon after one another are one step: letters typed into one line.
 */
export function noted(
  history: DraftHistory,
  before: KindDesign,
  label: string,
  key: string | null,
  now: number,
): DraftHistory {
  const last = history.past.at(-1);
  if (last && key !== null && last.key === key && now - last.at < PAUSE && history.future.length === 0) {
    return { past: [...history.past.slice(0, -1), { ...last, at: now }], future: [] };
  }
  return { past: [...history.past.slice(1 - MOST_STEPS), { design: before, label, key, at: now }], future: [] };
}

/** One step back: the design before it, what the step was, and the history then; `null` at the beginning. */
export function stepBack(
  history: DraftHistory,
  present: KindDesign,
): { design: KindDesign; label: string; history: DraftHistory } | null {
  const step = history.past.at(-1);
  if (!step) return null;
  return {
    design: step.design,
    label: step.label,
    history: { past: history.past.slice(0, -1), future: [...history.future, { ...step, design: present }] },
  };
}

/** One step forward again; `null` where nothing was taken back. */
export function stepForward(
  history: DraftHistory,
  present: KindDesign,
): { design: KindDesign; label: string; history: DraftHistory } | null {
  const step = history.future.at(-1);
  if (!step) return null;
  return {
    design: step.design,
    label: step.label,
    history: { past: [...history.past, { ...step, design: present, key: null }], future: history.future.slice(0, -1) },
  };
}
