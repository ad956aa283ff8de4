/** Ways to put a set's items in order. */
export const SORTS = ["widest", "shortest", "changed", "keyword", "site"] as const;
export type Sort = (typeof SORTS)[number];

/** Ways to look at a part of a set. */
export const FILTERS = [
  "all",
  "too-wide",
  "duplicate",
  "missing",
  "by-hand",
  "changed",
  "keyword-absent",
  "keyword-late",
  "keyword-cut",
  "empty-field",
] as const;
export type Filter = (typeof FILTERS)[number];
