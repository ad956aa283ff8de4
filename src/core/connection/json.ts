/** What JSON can say (RFC 8259). */
export type Json = string | number | boolean | null | Json[] | { [name: string]: Json };

/**
 * How deep the arrays and objects of a text in JSON go, before it is parsed: what is too deep brings down whoever walks through it.
 *
 * @returns the depth, but never more than one beyond `most`.
 */
export function jsonDepth(text: string, most: number): number {
  let depth = 0;
  let deepest = 0;
  let isString = false;
  for (let i = 0; i < text.length && deepest <= most; i++) {
    const code = text.charCodeAt(i);
    if (isString) {
      if (code === 0x5c) i++;
      else if (code === 0x22) isString = false;
    } else if (code === 0x22) isString = true;
    else if (code === 0x5b || code === 0x7b) deepest = Math.max(deepest, ++depth);
    else if (code === 0x5d || code === 0x7d) depth--;
  }
  return deepest;
}
