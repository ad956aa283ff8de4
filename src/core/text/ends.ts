import { isLeadingAbbreviation } from "./abbreviations";

const TRAILING = /[\s.,;:!?·•|/–—&+-]+$/u;
const LEADING = /^[\s,;:|/·•–—&+-]+/u;
const CLOSING_OF: Readonly<Record<string, string>> = {
  "(": ")",
  "[": "]",
  "{": "}",
  "（": "）",
  "【": "】",
  "「": "」",
};
const OPENING_OF = Object.fromEntries(Object.entries(CLOSING_OF).map(([open, close]) => [close, open]));
/** Quotation marks that say which side they are on. */
const QUOTES = /[“”„«»]/gu;

/**
 * A text that was cut at its end, less what the cut left hanging: punctuation, `&` and `+`, a bracket that was opened and what
 * stands in it, an abbreviation that leads to what is gone.
 *
 * @example endOfCut("Fennick &") // "Fennick"
 * @example endOfCut("Rope (8") // "Rope"
 * @example endOfCut("A gift for Mr.") // "A gift for"
 */
export function endOfCut(text: string): string {
  for (let rest = text; ;) {
    const open = unclosedBracket(rest);
    if (open > 0) {
      rest = rest.slice(0, open);
      continue;
    }
    const bare = rest.replace(TRAILING, "");
    const space = bare.lastIndexOf(" ");
    const hangs = rest.charAt(bare.length) === "." && space > 0 && isLeadingAbbreviation(bare.slice(space + 1));
    if (!hangs) return withoutHalves(bare).replace(TRAILING, "");
    rest = bare.slice(0, space);
  }
}

/**
 * A text that words were taken out of, less what they left hanging at its ends, and halves of brackets.
 *
 * @example endsOfRest("– cleat)") // "cleat"
 */
export function endsOfRest(text: string): string {
  return withoutHalves(text).replace(LEADING, "").replace(TRAILING, "");
}

/**
 * The text without the full stop at its end; an ellipsis stays, in either spelling.
 *
 * @example withoutFullStop("Soft in the hand.") // "Soft in the hand"
 */
export function withoutFullStop(text: string): string {
  return text.endsWith(".") && !text.endsWith("..") ? text.slice(0, -1) : text;
}

/** Where the first bracket stands that is never closed, -1 where there is none. */
function unclosedBracket(text: string): number {
  return unmatched(text).find((at) => CLOSING_OF[text[at]!] !== undefined) ?? -1;
}

/** Without brackets that lack their other half, and without the only quotation mark. */
function withoutHalves(text: string): string {
  const halves = new Set(unmatched(text));
  const whole =
    halves.size === 0
      ? text
      : text
          .split("")
          .filter((_, at) => !halves.has(at))
          .join("");
  return (whole.match(QUOTES)?.length === 1 ? whole.replace(QUOTES, "") : whole).replace(/ {2,}/g, " ").trim();
}

/** Where brackets stand that have no other half. */
function unmatched(text: string): number[] {
  const open: number[] = [];
  const alone: number[] = [];
  for (let i = 0; i < text.length; i++) {
    const char = text[i]!;
    if (CLOSING_OF[char] !== undefined) open.push(i);
    else if (OPENING_OF[char] !== undefined) {
      if (open.length > 0 && text[open.at(-1)!] === OPENING_OF[char]) open.pop();
      else alone.push(i);
    }
  }
  return [...alone, ...open].sort((a, b) => a - b);
}
