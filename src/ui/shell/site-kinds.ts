import { EMPTY_DESIGN } from "../../core/design/design";
import { type Kind, kindIds, TEXTS } from "../../core/design/kinds";
import type { SiteState } from "../../server/site/site-state";
import type { StoredDraft } from "../../store/drafts";

const NO_DRAFT: StoredDraft = { design: EMPTY_DESIGN, version: 0, savedAt: null };

/** A kind's draft; an empty one where nothing was drafted yet. */
export function draftOf({ drafts }: Pick<SiteState, "drafts">, kind: Kind): StoredDraft {
  return drafts[kind] ?? NO_DRAFT;
}

/** The kinds that are in front: those that have pages or lines, and the one that is looked at. A site without any has the three first. */
export function shownKinds(state: Pick<SiteState, "site" | "counts" | "drafts">, present?: Kind): readonly Kind[] {
  const kinds = kindIds(state.site);
  const own = kinds.filter((kind) => (state.counts[kind] ?? 0) > 0 || linesOfKind(state, kind) > 0);
  const shown = own.length === 0 ? kinds.slice(0, 3) : own;
  return present === undefined || shown.includes(present)
    ? shown
    : kinds.filter((kind) => kind === present || shown.includes(kind));
}

/** How many lines are drafted for a kind, those of its rules among them. */
export function linesOfKind(state: Pick<SiteState, "drafts">, kind: Kind): number {
  const { base, rules, address } = draftOf(state, kind).design;
  const lines = [base, ...rules].flatMap((own) => TEXTS.filter((text) => own[text]?.trim()));
  return lines.length + (address?.trim() ? 1 : 0);
}
