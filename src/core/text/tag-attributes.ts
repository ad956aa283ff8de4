/** A name and, where it has one, a value of a tag, as HTML's tokenizer tells them apart. */
const ATTRIBUTE = /([^\s/>=][^\s/>=]*|=[^\s/>=]*)(?:(\s*=\s*)("[^"]*"|'[^']*'|[^\s"'>][^\s>]*))?/g;

/** Where an attribute stands in a tag. */
export interface AttributeSpan {
  readonly from: number;
  readonly to: number;
  /** Its value as it is written, quotes included; `null` where it has none. */
  readonly value: { readonly from: number; readonly to: number } | null;
}

/**
 * Where the first attribute of a name stands in a start tag; `null` where it has none.
 *
 * @param tag from its `<` to its `>`.
 * @example attributeSpan('<a href="/x">', "href") // { from: 3, to: 12, value: { from: 8, to: 12 } }
 */
export function attributeSpan(tag: string, name: string): AttributeSpan | null {
  ATTRIBUTE.lastIndex = /^<[^\s/>]*/.exec(tag)![0].length;
  for (let found = ATTRIBUTE.exec(tag); found; found = ATTRIBUTE.exec(tag)) {
    if (found[1]!.toLowerCase() !== name) continue;
    const to = found.index + found[0].length;
    return { from: found.index, to, value: found[3] === undefined ? null : { from: to - found[3].length, to } };
  }
  return null;
}

/** A text as it is written in an attribute with double quotes around it. */
export function escapedAttribute(text: string): string {
  return text.replaceAll("&", "&amp;").replaceAll('"', "&quot;").replaceAll("<", "&lt;");
}
