/** A field of a page as a text may use it. */
export interface ShapeField {
  readonly name: string;
  readonly value: string;
}

/** Shorter values stand in a text by chance. */
const SHORTEST_VALUE = 3;
/** A text is the start of a longer field only if it has so many characters. */
const SHORTEST_START = 20;
/** Stands for a field within a shape while others are looked for: private use, in no text. */
const FIRST_MARK = 0xe000;

/**
 * What a text looks like with the page's own fields taken out of it: texts that one template made have the same shape.
 *
 * @param fields of the page and the site; the longest values are looked for first.
 * @example
 * textShape("Waxed twine | Fennick & Dray", [
 *   { name: "name", value: "Waxed twine" }, { name: "site", value: "Fennick & Dray" },
 * ]) // "{name} | {site}"
 */
export function textShape(text: string, fields: readonly ShapeField[]): string {
  const start = text.replace(/[\s.…]+$/u, "");
  const longer = fields.find(({ value }) => start.length >= SHORTEST_START && value.startsWith(start));
  if (longer) return longer.value.length === text.length ? `{${longer.name}}` : `{start of ${longer.name}}`;
  const known = fields.filter(({ value }) => value.length >= SHORTEST_VALUE);
  const order = known.map((_, i) => i).sort((a, b) => known[b]!.value.length - known[a]!.value.length);
  let shape = text;
  for (const i of order)
    if (shape.includes(known[i]!.value)) shape = shape.replaceAll(known[i]!.value, String.fromCharCode(FIRST_MARK + i));
  shape = shape.replace(/\d+/g, "#");
  return shape.replace(/[\ue000-\uf8ff]/g, (mark) => `{${known[mark.charCodeAt(0) - FIRST_MARK]?.name ?? ""}}`);
}
