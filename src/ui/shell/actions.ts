/** The one main action of a screen. */
export const MAIN_ACTION =
  "shrink-0 whitespace-nowrap rounded-sm bg-yellow px-3 py-1.5 font-bold text-[var(--on-yellow)] hover:brightness-95 disabled:bg-bar-raised disabled:text-bar-soft";
export const BAR_ACTION =
  "shrink-0 whitespace-nowrap rounded-sm bg-bar-raised px-3 py-1.5 font-semibold text-bar-text hover:brightness-125 disabled:text-bar-soft";
export const PLAIN_ACTION =
  "whitespace-nowrap rounded-sm border border-edge bg-sheet px-3 py-1 font-semibold text-key hover:border-key disabled:text-faint disabled:hover:border-edge";
