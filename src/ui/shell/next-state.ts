import type { SiteState } from "../../server/site/site-state";

/**
 * The state of the site once the server was asked for it. A draft that was stored while the answer was on its way is newer than what the
 * answer has of it. The same object where nothing is another, so that nothing is drawn anew.
 */
export function nextState(known: SiteState, fresh: SiteState): SiteState {
  const drafts = Object.fromEntries(
    Object.entries(fresh.drafts).map(([kind, draft]) => {
      const own = known.drafts[kind];
      return [kind, own && own.version > draft.version ? own : draft];
    }),
  );
  const next = { ...fresh, drafts };
  return JSON.stringify(next) === JSON.stringify(known) ? known : next;
}
