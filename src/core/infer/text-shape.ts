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

/** The fields of a page, in the order in which they are looked for in its texts. */
export class ShapeFields {
  private readonly filled: readonly ShapeField[];
  /** Those that stand in no text by chance, the longest values first. */
  private readonly known: readonly ShapeField[];

  constructor(fields: readonly ShapeField[]) {
    this.filled = fields.filter(({ value }) => value !== "");
    this.known = this.filled
      .filter(({ value }) => value.length >= SHORTEST_VALUE)
      .sort((a, b) => b.value.length - a.value.length);
  }

  /** The first field that is a text, or goes on as it does. */
  longerThan(text: string): ShapeField | undefined {
    const start = withoutEnd(text);
    if (start.length < SHORTEST_START) return undefined;
    return this.filled.find(({ value }) => value.startsWith(start));
  }

  /** A text with a field's name in braces wherever its value stands. */
  takeOut(text: string): string {
    let marked = text;
    for (const [i, { value }] of this.known.entries())
      if (marked.includes(value)) marked = marked.replaceAll(value, String.fromCharCode(FIRST_MARK + i));
    const shape = marked.replace(/\d+/g, "#");
    if (marked === text && !ANY_MARK.test(text)) return shape;
    return shape.replace(EACH_MARK, (mark) => `{${this.known[mark.charCodeAt(0) - FIRST_MARK]?.name ?? ""}}`);
  }
}

const ANY_MARK = /[\ue000-\uf8ff]/;
const EACH_MARK = /[\ue000-\uf8ff]/g;

/** Without the dots and spaces at the end that a cut leaves. */
function withoutEnd(text: string): string {
  let end = text.length;
  while (end > 0 && /[\s.…]/.test(text[end - 1]!)) end--;
  return text.slice(0, end);
}

/**
 * What a text looks like with the page's own fields taken out of it: texts that one template made have the same shape.
 *
 * @param fields of the page and the site; the longest values are looked for first.
 * @example
 * textShape("Waxed twine | Fennick & Dray", new ShapeFields([
 *   { name: "name", value: "Waxed twine" }, { name: "site", value: "Fennick & Dray" },
 * ])) // "{name} | {site}"
 */
export function textShape(text: string, fields: ShapeFields): string {
  const longer = fields.longerThan(text);
  if (longer) return longer.value.length === text.length ? `{${longer.name}}` : `{start of ${longer.name}}`;
  return fields.takeOut(text);
}
