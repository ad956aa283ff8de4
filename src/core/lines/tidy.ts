/** A part of a settled line: literal text, or the number of a field whose value stands there. */
export type Part = string | number;

const SEPARATORS = new Set("|–—-·•:,;/");
const CLINGING = new Set(",;:");

type Element = { readonly word: Part[] } | { readonly separator: string };

/**
 * The parts of a line tidied after its pieces are settled: white space folded, separators that lost a neighbour dropped,
 * of several in a row the first kept, `, ; :` drawn to the word before them. Values are opaque: what an item's own value
 * brought along stays as it is. Fields without a value must already be left out.
 *
 * @example tidyParts([0, " – ", " | ", 1]) // [0, " – ", 1]
 */
export function tidyParts(parts: readonly Part[]): Part[] {
  const kept: Element[] = [];
  for (const element of elements(parts)) {
    if ("separator" in element) {
      const last = kept.at(-1);
      if (!last) continue;
      if ("separator" in last) {
        // `, ; :` dangle before another separator; otherwise the first of two stays.
        if (CLINGING.has(last.separator) && !CLINGING.has(element.separator)) kept[kept.length - 1] = element;
        continue;
      }
    }
    kept.push(element);
  }
  while (kept.length > 0 && "separator" in kept.at(-1)!) kept.pop();
  return joined(kept);
}

function elements(parts: readonly Part[]): Element[] {
  const found: Element[] = [];
  let word: Part[] = [];
  const endWord = () => {
    if (word.length > 0) found.push(...splitClinging(word));
    word = [];
  };
  for (const part of parts) {
    if (typeof part === "number") {
      word.push(part);
      continue;
    }
    const pieces = part.split(/\s+/);
    pieces.forEach((piece, i) => {
      if (i > 0) endWord();
      if (piece) {
        const last = word.at(-1);
        if (typeof last === "string") word[word.length - 1] = last + piece;
        else word.push(piece);
      }
    });
  }
  endWord();
  return found;
}

/** A word without the `, ; :` at its end, which follow as separators; a word of one separator is one. */
function splitClinging(word: Part[]): Element[] {
  const only = word.length === 1 ? word[0]! : null;
  if (typeof only === "string" && only.length === 1 && SEPARATORS.has(only)) return [{ separator: only }];
  const last = word.at(-1)!;
  if (typeof last !== "string" || !CLINGING.has(last.at(-1)!)) return [{ word }];
  const rest = last.slice(0, -1);
  const head = rest ? [...word.slice(0, -1), rest] : word.slice(0, -1);
  return [...(head.length > 0 ? splitClinging(head) : []), { separator: last.at(-1)! }];
}

function joined(elements: readonly Element[]): Part[] {
  const out: Part[] = [];
  const add = (part: Part) => {
    const last = out.at(-1);
    if (typeof part === "string" && typeof last === "string") out[out.length - 1] = last + part;
    else if (part !== "") out.push(part);
  };
  elements.forEach((element, i) => {
    const clings = "separator" in element && CLINGING.has(element.separator);
    if (i > 0 && !clings) add(" ");
    if ("separator" in element) add(element.separator);
    else element.word.forEach(add);
  });
  return out;
}
