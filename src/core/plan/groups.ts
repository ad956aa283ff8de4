/** The groups that a change can be in, in the order in which a review shows them. */
export const CHANGE_GROUPS = [
  "shorter",
  "filled",
  "told-apart",
  "written",
  "robots",
  "moves",
  "reworded",
  "still-wide",
  "worse",
  "clash",
  "by-hand",
] as const;
export type ChangeGroup = (typeof CHANGE_GROUPS)[number];

/** Groups that are left out until a person says otherwise. */
export const LEFT_OUT_AT_FIRST: ReadonlySet<ChangeGroup> = new Set(["still-wide", "worse", "clash", "by-hand"]);

/** Groups whose changes can never be applied: a text by hand stays, two pages cannot have one address. */
export const NEVER_APPLIED: ReadonlySet<ChangeGroup> = new Set(["by-hand", "clash"]);

/** The groups in which a slug can be applied; its page moves then. */
export const SLUG_GROUPS: readonly ChangeGroup[] = ["written", "moves", "worse"];

/** What is known of one change when it is put in a group. */
export interface ChangeFacts {
  readonly slug: boolean;
  /** A text by hand that the site has already. */
  readonly byHand: boolean;
  /** A text by hand that the site does not have yet: a person chose it, whatever it does. */
  readonly written: boolean;
  readonly liveEmpty: boolean;
  readonly liveFits: boolean;
  readonly fits: boolean;
  readonly liveDuplicate: boolean;
  readonly duplicate: boolean;
  /** The keyword was seen in the live text in exact or variant form. */
  readonly liveHasKeyword: boolean;
  readonly hasKeyword: boolean;
}

/**
 * The group of a change: what matters most about it. A change for the worse is worse whatever else it does.
 */
export function changeGroup(facts: ChangeFacts): ChangeGroup {
  if (facts.byHand) return "by-hand";
  if (facts.slug && facts.duplicate) return "clash";
  if (facts.written) return "written";
  const becomesWide = !facts.liveEmpty && facts.liveFits && !facts.fits;
  const losesKeyword = facts.liveHasKeyword && !facts.hasKeyword;
  const becomesDuplicate = !facts.liveEmpty && !facts.liveDuplicate && facts.duplicate;
  if (becomesWide || losesKeyword || becomesDuplicate) return "worse";
  if (facts.slug) return "moves";
  if (!facts.fits) return "still-wide";
  if (facts.liveEmpty) return "filled";
  if (!facts.liveFits) return "shorter";
  if (facts.liveDuplicate && !facts.duplicate) return "told-apart";
  return "reworded";
}
