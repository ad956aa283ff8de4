import type { RawCondition } from "../rules/condition-shape";
import { fieldNoun } from "../lines/fields";
import { capital } from "../text/capital";

/** A rule that an item suggests: what it would be called, and what it would take. */
export interface SuggestedRule {
  readonly name: string;
  readonly when: RawCondition;
}

const NEVER = new Set([
  "name",
  "category",
  "category.path",
  "category.parent",
  "keyword",
  "summary",
  "intro",
  "body",
  "id",
  "slug",
  "site",
  "tagline",
  "sep",
  "published",
  "updated",
  "price",
  "count",
  "author",
]);
const LONGEST = 40;

/**
 * Rules that an item's fields suggest: its category, each category above it, and each attribute of few words.
 *
 * @param fields the item's fields by name.
 */
export function rulesFromItem(fields: Readonly<Record<string, string>>): SuggestedRule[] {
  const path = fields["category.path"] || fields["category"] || "";
  const parts = path === "" ? [] : path.split(" › ");
  const categories = parts
    .map((_, i) => parts.slice(0, i + 1))
    .reverse()
    .map((own) => ({ name: own.at(-1)!, when: { field: "category", "is under": own.join(" › ") } }));
  const attributes = Object.entries(fields)
    .filter(([name, value]) => !NEVER.has(name) && value.length <= LONGEST)
    .map(([field, value]) => ({ name: `${capital(fieldNoun(field))}: ${value}`, when: { field, is: value } }));
  return [...categories, ...attributes];
}
