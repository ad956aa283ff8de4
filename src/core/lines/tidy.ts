/** A part of a settled line: literal text, or the number of a field whose value stands there. */
export type Part = string | number;

const SEPARATORS = new Set("|–—-·•:,;/&+");
const CLINGING = new Set(",;:");
/** What joins two things: beside another separator it has lost one of them. */
const JOINING = new Set("&+");

type Element = { readonly word: Part[] } | { readonly separator: string };

/**
 * The parts of a line tidied after its pieces are settled: white space folded, separators that lost a neighbour dropped,
 * of several in a row the first kept, `, ; :` drawn to the word before them, brackets and quotation marks dropped that hold
 * nothing any more. Values are opaque: what an item's own value brought along stays as it is. Fields without a value must
 * already be left out; two texts side by side are where one was.
 *
 * @example tidyParts([0, " – ", " | ", 1]) // [0, " – ", 1]
 * @example tidyParts([0, " (", ")"]) // [0]
 */
export function tidyParts(parts: readonly Part[]): Part[] {
  const kept: Element[] = [];
  for (const element of elements(withoutEmptyBrackets(parts))) {
    if ("separator" in element) {
      const last = kept.at(-1);
      if (!last) continue;
      if ("separator" in last) {
        // `, ; :` dangle before another separator, `&` and `+` beside one; otherwise the first of two stays.
        const dangles = CLINGING.has(last.separator) && !CLINGING.has(element.separator);
        const joins = JOINING.has(last.separator) && !JOINING.has(element.separator);
        if ((dangles && !JOINING.has(element.separator)) || joins) kept[kept.length - 1] = element;
        continue;
      }
    }
    kept.push(element);
  }
  while (kept.length > 0 && "separator" in kept.at(-1)!) kept.pop();
  return joined(kept);
}

/** Stands in the line's own text where a field or a piece left nothing. */
const GONE = "\u0000";
const PAIRS = ["()", "[]", "{}", "“”", "„“", "«»", "‹›", "‘’", "「」", "『』", "（）", "【】", '""', "''"];
const escaped = (char: string) => char.replace(/[()[\]{}]/g, "\\$&");
const VOID = `[\\s${GONE}|–—\\-·•:,;/&+]*`;
const EMPTY_PAIR = new RegExp(
  PAIRS.map(([open, close]) => `${escaped(open!)}${VOID}${GONE}${VOID}${escaped(close!)}`).join("|"),
  "g",
);
const SEPARATED = `[\\s${GONE}]*(?:[|–—\\-·•:,;/&+](?=[\\s${GONE}]))?[\\s${GONE}]*`;
const AFTER_OPENING = new RegExp(`([([{“„«‹「『（【])(?=[\\s|–—\\-·•:,;/&+]*${GONE})${SEPARATED}`, "g");
const BEFORE_CLOSING = new RegExp(
  `(?:[\\s${GONE}]+[|–—\\-·•:,;/&+]|[:,;])?[\\s${GONE}]*${GONE}[\\s${GONE}]*([)\\]}”»›」』）】])`,
  "g",
);

/** Without brackets and quotation marks in which nothing is left, and without separators that have nothing beside them but a bracket. */
function withoutEmptyBrackets(parts: readonly Part[]): Part[] {
  const merged: Part[] = [];
  for (const part of parts) {
    const last = merged.at(-1);
    if (typeof part === "string" && typeof last === "string") merged[merged.length - 1] = last + GONE + part;
    else merged.push(part);
  }
  return merged.map((part) => {
    if (typeof part === "number" || !part.includes(GONE)) return part;
    let text = part;
    for (let before = ""; before !== text;) {
      before = text;
      text = text.replace(EMPTY_PAIR, GONE);
    }
    return text.replace(AFTER_OPENING, "$1").replace(BEFORE_CLOSING, "$1").replaceAll(GONE, "");
  });
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
