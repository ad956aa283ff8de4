/** What a column of a file can become. `attribute`: a field under its own name. `skip`: left behind. */
export const TARGETS = [
  "id", "kind", "address", "name", "category", "category.path", "keyword", "title", "description", "slug", "summary", "intro", "body",
  "author", "published", "updated", "price", "count", "robots", "by-hand", "attribute", "skip",
] as const;
export type Target = (typeof TARGETS)[number];
