/**
 * What a column of a file can become. `attribute`: a field under its own name. `attributes`: several, as a JSON object. `hand-texts`: texts by hand that the
 * site does not have yet, as a JSON object. `made-harmless`:
 * says in which columns an apostrophe was put before what a spreadsheet would run. `skip`: left behind.
 */
export const TARGETS = [
  "id",
  "kind",
  "address",
  "name",
  "category",
  "category.path",
  "keyword",
  "title",
  "description",
  "slug",
  "summary",
  "intro",
  "body",
  "author",
  "published",
  "updated",
  "price",
  "count",
  "robots",
  "meta-keywords",
  "canonical",
  "by-hand",
  "hand-texts",
  "attribute",
  "attributes",
  "made-harmless",
  "skip",
] as const;
export type Target = (typeof TARGETS)[number];
