import { type Surface } from "./surface";
import { breakOffsets, fitsSurface } from "./wrap";

/**
 * What is seen of a text on a surface: the text itself when it fits, otherwise its longest run of whole words that
 * fits with the surface's mark after it. A first word that is wider than the room leaves the mark alone; scripts without
 * spaces are cut between the characters at which a line may end.
 *
 * @example shownOnSurface(surfaceById("tab")!, "Mooring cleats in bronze and brass") // "Mooring cleats in bronze and…"
 */
export function shownOnSurface(surface: Surface, text: string): string {
  if (fitsSurface(surface, text)) return text;
  const ends = wordEnds(text);
  let low = 0;
  let high = ends.length;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (fitsSurface(surface, text.slice(0, ends[middle - 1]) + surface.mark)) low = middle;
    else high = middle - 1;
  }
  return low === 0 ? surface.mark.trimStart() : text.slice(0, ends[low - 1]) + surface.mark;
}

/**
 * Whether the text up to an offset is seen on the surface: all of a text that fits, else the whole words that stay when
 * the rest is cut. A text can fit while its start with the mark does not: the mark may be wider than the last word.
 */
export function isSeen(surface: Surface, text: string, end: number): boolean {
  const cut = isCutInside(text) ? (wordEnds(text).find((at) => at >= end) ?? text.length) : text.indexOf(" ", end);
  const isCut = cut >= 0 && cut < text.length;
  return (isCut && fitsSurface(surface, text.slice(0, cut) + surface.mark)) || fitsSurface(surface, text);
}

/** Scripts that put no spaces between words: their texts are cut where a line of them may end. */
const UNSPACED =
  /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Bopomofo}\p{Script=Thai}\p{Script=Lao}\p{Script=Khmer}\p{Script=Myanmar}]/u;
/** Where those scripts stand and some others, told without a table of scripts. */
const MAY_BE_UNSPACED = /[\u02ea\u02eb\u0e00-\u1fff\u2e80-\uffff]/;

/** Whether a text can be cut where no space is. */
export function isCutInside(text: string): boolean {
  return MAY_BE_UNSPACED.test(text) && UNSPACED.test(text);
}

/** Of those the ones whose lines end between words only. */
const BY_WORDS = /[\p{Script=Thai}\p{Script=Lao}\p{Script=Khmer}\p{Script=Myanmar}]/u;

let segmenter: Intl.Segmenter | undefined;

/** Where a text can be cut: behind its words. */
function wordEnds(text: string): number[] {
  const ends: number[] = [];
  for (let i = 1; i <= text.length; i++)
    if (text[i - 1] !== " " && (i === text.length || text[i] === " ")) ends.push(i);
  if (!isCutInside(text)) return ends;
  const all = new Set(ends);
  for (const at of breakOffsets(text))
    if (at < text.length && text[at - 1] !== " " && isBesideUnspaced(text, at)) all.add(at);
  if (BY_WORDS.test(text)) {
    segmenter ??= new Intl.Segmenter("th", { granularity: "word" });
    for (const { index, segment } of segmenter.segment(text))
      if (BY_WORDS.test(segment) && text[index + segment.length] !== " ") all.add(index + segment.length);
  }
  return [...all].sort((a, b) => a - b);
}

function isBesideUnspaced(text: string, at: number): boolean {
  return UNSPACED.test(text.slice(Math.max(0, at - 2), at)) || UNSPACED.test(text.slice(at, at + 2));
}
