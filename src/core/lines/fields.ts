/** The fields that every item has, whatever was brought in, with what each means in a few words. */
export const BUILT_IN_FIELDS: readonly { readonly name: string; readonly meaning: string }[] = [
  { name: "name", meaning: "the page's own name, its H1" },
  { name: "category", meaning: "the category it is in" },
  { name: "category.path", meaning: "its categories from the top, with › between" },
  { name: "category.parent", meaning: "the category above its own" },
  { name: "keyword", meaning: "its focus keyword" },
  { name: "summary", meaning: "the excerpt" },
  { name: "intro", meaning: "the first paragraph" },
  { name: "body", meaning: "the whole text of the page" },
  { name: "author", meaning: "who wrote it" },
  { name: "published", meaning: "the day it was published" },
  { name: "updated", meaning: "the day it was last changed" },
  { name: "price", meaning: "the price" },
  { name: "count", meaning: "how many pages a category holds" },
  { name: "slug", meaning: "the slug that the site has now" },
  { name: "id", meaning: "its number or key on the site" },
  { name: "site", meaning: "the site's name" },
  { name: "tagline", meaning: "the site's tagline" },
  { name: "sep", meaning: "the site's separator" },
];

/** Fields that an image has beside its page's: for lines of image descriptions only. */
export const IMAGE_FIELDS: readonly { readonly name: string; readonly meaning: string }[] = [
  { name: "image.file", meaning: "name of the image’s file, as words" },
  { name: "image.number", meaning: "which of the page’s images it is, from 1" },
];

export const BUILT_IN_NAMES: ReadonlySet<string> = new Set(BUILT_IN_FIELDS.map((field) => field.name));

/**
 * A column's heading as a field name: lower case, letters, digits, `_` and `.`.
 *
 * @example fieldName("Sold by (unit)") // "sold_by_unit"
 */
export function fieldName(heading: string): string {
  return heading
    .normalize("NFC")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}_.]+/gu, "_")
    .replace(/^[_.]+|[_.]+$/g, "");
}

/** What a built-in field is called in a sentence; any other goes by its own name. */
const NOUNS: Readonly<Record<string, string>> = {
  "category.path": "category path",
  "category.parent": "parent category",
  summary: "excerpt",
  intro: "first paragraph",
  body: "whole text",
  published: "day of publication",
  updated: "day of the last change",
  count: "number of pages",
  id: "number",
  site: "site name",
  sep: "separator",
};

/** @example fieldNoun("sold_by") // "sold by" */
export function fieldNoun(name: string): string {
  return Object.hasOwn(NOUNS, name) ? NOUNS[name]! : name.replaceAll("_", " ").replaceAll(".", " ");
}
