/** The groups that a change can be in, in the order in which a review shows them. */
export const CHANGE_GROUPS = [
  "shorter",
  "filled",
  "told-apart",
  "written",
  "robots",
  "gets-address",
  "reworded",
  "links",
  "moves",
  "still-wide",
  "worse",
  "clash",
  "reserved",
  "by-hand",
] as const;
export type ChangeGroup = (typeof CHANGE_GROUPS)[number];

/** What becomes of a group's changes until a person says otherwise: taken in, left out, or never applied whatever is said. */
const AT_FIRST = {
  shorter: "in",
  filled: "in",
  "told-apart": "in",
  written: "in",
  robots: "in",
  "gets-address": "in",
  reworded: "in",
  links: "in",
  // Links and people know the old address: moving one is worth a word.
  moves: "out",
  "still-wide": "out",
  worse: "out",
  // Two pages cannot have one address, the site itself answers at a reserved one, and a text by hand stays.
  clash: "never",
  reserved: "never",
  "by-hand": "never",
} as const satisfies Record<ChangeGroup, "in" | "out" | "never">;

const groupsThat = (is: (typeof AT_FIRST)[ChangeGroup]) =>
  new Set(CHANGE_GROUPS.filter((group) => AT_FIRST[group] === is));

/** Groups that are left out until a person says otherwise. */
export const LEFT_OUT_AT_FIRST: ReadonlySet<ChangeGroup> = groupsThat("out");

/** Groups whose changes can never be applied. */
export const NEVER_APPLIED: ReadonlySet<ChangeGroup> = groupsThat("never");

/** The groups in which a slug can be applied. */
export const SLUG_GROUPS: readonly ChangeGroup[] = ["written", "gets-address", "moves", "worse"];

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
  /** Of a slug: another page would have the same address. */
  readonly clashes: boolean;
  /** Of a slug: the site itself answers there. */
  readonly reserved: boolean;
  /** Of a slug: the page has no address yet. */
  readonly withoutAddress: boolean;
}

/**
 * The group of a change: what matters most about it. A change for the worse is worse whatever else it does.
 */
export function changeGroup(facts: ChangeFacts): ChangeGroup {
  if (facts.byHand) return "by-hand";
  if (facts.slug && facts.reserved) return "reserved";
  if (facts.slug && facts.clashes) return "clash";
  if (facts.written) return "written";
  if (facts.slug && facts.withoutAddress) return "gets-address";
  if (worseReasons(facts).length > 0) return "worse";
  if (facts.slug) return "moves";
  if (!facts.fits) return "still-wide";
  if (facts.liveEmpty) return "filled";
  if (!facts.liveFits) return "shorter";
  if (facts.liveDuplicate && !facts.duplicate) return "told-apart";
  return "reworded";
}

/** What makes a change one for the worse: the text is too wide by now, has lost its keyword, or reads like another page's. */
export type WorseReason = "too-wide" | "keyword" | "duplicate";

/** All that makes a change one for the worse; none where nothing does. */
export function worseReasons(
  facts: Pick<
    ChangeFacts,
    "slug" | "liveEmpty" | "liveFits" | "fits" | "liveDuplicate" | "duplicate" | "liveHasKeyword" | "hasKeyword"
  >,
): readonly WorseReason[] {
  const reasons: WorseReason[] = [];
  if (!facts.liveEmpty && facts.liveFits && !facts.fits) reasons.push("too-wide");
  if (facts.liveHasKeyword && !facts.hasKeyword) reasons.push("keyword");
  if (!facts.slug && !facts.liveDuplicate && facts.duplicate) reasons.push("duplicate");
  return reasons;
}
