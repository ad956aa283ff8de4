import { decodeHTML } from "entities";

/** What a site makes of a text that it was given. */
export type TextHow =
  | { readonly how: "as-meant" | "cut" | "escaped-twice" | "old" | "other" | "missing" }
  /** The text is there, with something of the theme’s before or behind it. */
  | { readonly how: "adds"; readonly before: string; readonly behind: string };

/** Of a text that is cut at least so many letters are left. */
const FEWEST_LEFT = 20;

/**
 * Holds what a visitor gets against what was meant.
 *
 * @param met `null` where the page has none. @param before what stood there before the last run; `null` where no run changed it.
 */
export function compareText(meant: string, met: string | null, before: string | null): TextHow {
  const [wanted, found] = [folded(meant), met === null ? "" : folded(met)];
  if (found === wanted) return { how: "as-meant" };
  if (found === "") return { how: "missing" };
  if (before !== null && found === folded(before)) return { how: "old" };
  if (/&(?:[a-z]+|#\d+|#x[\da-f]+);/i.test(found) && folded(decodeHTML(found)) === wanted)
    return { how: "escaped-twice" };
  const at = wanted === "" ? -1 : found.indexOf(wanted);
  const [front, behind] = [found.slice(0, Math.max(0, at)), found.slice(at + wanted.length)];
  // A word that merely has it in the middle is another text.
  const isWhole = !/[\p{L}\p{N}]$/u.test(front) && !/^[\p{L}\p{N}]/u.test(behind);
  if (at >= 0 && isWhole) return { how: "adds", before: front, behind };
  const kept = found.replace(/\s*(?:…|\.\.\.)$/, "");
  if (kept.length >= FEWEST_LEFT && wanted.startsWith(kept)) return { how: "cut" };
  return { how: "other" };
}

function folded(text: string): string {
  return text.replace(/\s+/g, " ").trim();
}
