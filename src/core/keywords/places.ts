import { type FindingId, type Subject } from "../checks/findings";

/** The places in which a keyword belongs, from the title's front to the body. */
export const PLACES = [
  "title",
  "first third",
  "visible",
  "description",
  "slug",
  "H1",
  "first paragraph",
  "body",
] as const;
export type Place = (typeof PLACES)[number];

/** The finding that says of a page that its keyword is not in a place. `first third` and `visible` are told of titles that have it. */
export const PLACE_FINDINGS: Readonly<Record<Place, { readonly subject: Subject; readonly id: FindingId }>> = {
  title: { subject: "title", id: "keyword-absent" },
  "first third": { subject: "title", id: "keyword-late" },
  visible: { subject: "title", id: "keyword-cut" },
  description: { subject: "description", id: "keyword-absent" },
  slug: { subject: "slug", id: "keyword-absent" },
  H1: { subject: "page", id: "keyword-not-in-h1" },
  "first paragraph": { subject: "page", id: "keyword-not-in-intro" },
  body: { subject: "page", id: "keyword-not-in-body" },
};

/** Which keywords are wanted: all, those no page has, those one has, those that several share, those that are not on the list. */
export const COVERAGE = ["all", "none", "one", "shared", "unlisted"] as const;
export type Coverage = (typeof COVERAGE)[number];
