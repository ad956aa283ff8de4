import { EXTRAS, type ExtraName, type Kind, type TextName, TEXTS } from "../design/kinds";

/** What of a page a run can change; of a body where its links lead. */
export type ReviewedText = TextName | "robots" | ExtraName | "body";
export const REVIEWED_TEXTS = [...TEXTS, "robots", ...EXTRAS, "body"] as const satisfies readonly ReviewedText[];

/** Of each text none, to count from. */
export const noTexts = (): Record<ReviewedText, number> =>
  Object.fromEntries(REVIEWED_TEXTS.map((text) => [text, 0])) as Record<ReviewedText, number>;

/** Which changes of a review are looked at; `null` and the empty text for all. */
export interface ReviewFilter {
  readonly kind: Kind | null;
  readonly text: ReviewedText | null;
  /** They stand in the page's name or address, or in the text before or after, in capitals or not. */
  readonly words: string;
  /** Whose line makes the text: {@link ownerKey}. */
  readonly rule: string | null;
  /** The page is in this category or below it: a path such as `Rope › Twine`. */
  readonly category: string | null;
  /** The page has this finding now: {@link findingKey}. */
  readonly finding: string | null;
}

/** Names the base or a rule of a kind, or what is written by hand, in a filter. */
export function ownerKey(kind: Kind, owner: string | null): string {
  return `${kind}/${owner ?? "base"}`;
}

/** Whether a filter asks for more than texts of kinds: what it leaves is named change by change then. */
export function isOfSingleChanges({ words, rule, category, finding }: ReviewFilter): boolean {
  return words.trim() !== "" || rule !== null || category !== null || finding !== null;
}

/** In what order a group's changes are shown: as the site has its pages, those that change the most characters first, or those of pages that most links lead to. */
export const REVIEW_ORDERS = ["site", "changed", "linked"] as const;
export type ReviewOrder = (typeof REVIEW_ORDERS)[number];

export const ALL_CHANGES: ReviewFilter = {
  kind: null,
  text: null,
  words: "",
  rule: null,
  category: null,
  finding: null,
};
