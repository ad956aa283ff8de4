import { EXTRAS, type ExtraName, type Kind, type TextName, TEXTS } from "../design/kinds";

/** What of a page a run can change. */
export type ReviewedText = TextName | "robots" | ExtraName;
export const REVIEWED_TEXTS = [...TEXTS, "robots", ...EXTRAS] as const satisfies readonly ReviewedText[];

/** Which changes of a review are looked at; `null` and the empty text for all. */
export interface ReviewFilter {
  readonly kind: Kind | null;
  readonly text: ReviewedText | null;
  /** They stand in the page's name or address, or in the text before or after, in capitals or not. */
  readonly words: string;
}

/** In what order a group's changes are shown: as the site has its pages, or those that change the most characters first. */
export const REVIEW_ORDERS = ["site", "changed"] as const;
export type ReviewOrder = (typeof REVIEW_ORDERS)[number];

export const ALL_CHANGES: ReviewFilter = { kind: null, text: null, words: "" };
