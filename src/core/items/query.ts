import { type FindingId, type Side, type Subject } from "../checks/findings";
import { type Kind } from "../design/kinds";
import type { RawCondition } from "../rules/condition-shape";

/** Ways to put all pages in order besides by a field: as the site has them, by how wide a text is, by its words from A to Z, by how many findings they have. */
export const ITEM_SORTS = [
  "site",
  "title",
  "description",
  "slug",
  "title-words",
  "description-words",
  "slug-words",
  "findings",
] as const;

/** States of a page that it can be asked for by: a text by hand, a text by hand that the site does not have yet, any text that the drafts change, something that the last check of the live site found. */
export const ITEM_MARKS = ["by-hand", "waiting", "changes", "found-live"] as const;
export type ItemMark = (typeof ITEM_MARKS)[number];

/** What becomes of findings under the drafts: gone, there only then, there before and after. */
export const DIFFERENCES = ["mended", "new", "stays"] as const;
export type FindingDifference = (typeof DIFFERENCES)[number];

/** What pages can be put together by. */
export const ITEM_GROUPS = ["kind", "category", "rule", "finding", "same-title", "same-description"] as const;
export type ItemGroup = (typeof ITEM_GROUPS)[number];

export interface FindingRef {
  readonly subject: Subject;
  readonly id: FindingId;
}

/** Which pages are wanted, and in what order; all that is said has to hold. */
export interface ItemQuery {
  /** Only pages of one kind, or of all. */
  readonly kind: Kind | "all";
  /** Which side findings and widths are of. */
  readonly side: Side;
  readonly findings: readonly FindingRef[];
  /** Only pages of which the drafts do this to all those findings; whatever the side is then. */
  readonly difference: FindingDifference | null;
  /** A condition on their fields, as rules have it. */
  readonly where: RawCondition | null;
  readonly mark: ItemMark | null;
  /** Words that the page holds or that begin one it holds; in quotation marks as they are, in a row. */
  readonly search: string;
  /** One of {@link ITEM_SORTS}, or `field:` and a field's name. */
  readonly sort: string;
  readonly down: boolean;
  readonly group: ItemGroup | null;
}

/** Places in the order that a query gives, from and to (left out), rising: a choice of pages, however many. */
export type Ranges = readonly (readonly [from: number, to: number])[];

/** Pages that belong together, under what they share. */
export interface ItemSection {
  readonly label: string;
  readonly count: number;
}

/** Every page, as they come. */
export const ALL_PAGES = {
  kind: "all",
  side: "live",
  findings: [],
  difference: null,
  where: null,
  mark: null,
  search: "",
  sort: "site",
  down: false,
  group: null,
} as const satisfies ItemQuery;
