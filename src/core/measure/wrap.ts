import LineBreaker from "linebreak";
import { advanceUnits, positions, unitsToPx } from "./advance";
import { type Font, fontById } from "./font";
import { type Surface } from "./surface";

/**
 * The offsets at which Chromium may break the text, the end included: UAX #14 with the differences that Chromium 156
 * shows for every ASCII mark between letters, digits and spaces (`wrap.test.ts` lists them): it always breaks after a
 * space; inside a word never between `/ ! | }` and an ASCII character, nor after a dash that begins the word; and it
 * breaks after a hyphen between an ASCII word character and a digit.
 */
export function breakOffsets(text: string): number[] {
  const breaker = new LineBreaker(text);
  const offsets: number[] = [];
  let from = 1;
  for (let next = breaker.nextBreak(); next; next = breaker.nextBreak()) {
    for (let i = from; i < next.position; i++) if (isOwnBreak(text, i)) offsets.push(i);
    from = next.position + 1;
    if (next.position === text.length || isTaken(text, next.position)) offsets.push(next.position);
  }
  return offsets;
}

function isOwnBreak(text: string, at: number): boolean {
  if (text[at - 1] === " ") return text[at] !== " ";
  return text[at - 1] === "-" && /[A-Za-z0-9]/.test(text[at - 2] ?? "") && /\d/.test(text[at]!);
}

function isTaken(text: string, at: number): boolean {
  const before = text[at - 1]!;
  if (before === " ") return true;
  if (NO_BREAK_AFTER.has(before) && text.charCodeAt(at) < 0x80) return false;
  // UAX #14, LB25: a sign of money, degrees or per mille belongs to the figure before the mark.
  if ("/}".includes(before) && /\d/.test(text[at - 2] ?? "") && /[\p{Sc}°‰]/u.test(text[at]!)) return false;
  return !(before === "–" && (at === 1 || text[at - 2] === " "));
}

const NO_BREAK_AFTER = new Set(["/", "!", "|", "}"]);

const SIMPLE = buildSimple();

/**
 * 1: never the place of a break but after a space; 2: space; 3: hyphen or en dash, a break between two word characters;
 * 4: word character; 5: as 1, but for a break before a letter beyond ASCII.
 */
function buildSimple(): Uint8Array {
  const table = new Uint8Array(0x2100);
  for (const char of " ") table[char.charCodeAt(0)] = 2;
  for (const char of "-–") table[char.charCodeAt(0)] = 3;
  for (let code = 0x21; code < 0x180; code++) if (/[\p{L}0-9]/u.test(String.fromCharCode(code))) table[code] = 4;
  for (const char of ".,:;'’\"“”&") table[char.charCodeAt(0)] = 1;
  for (const char of "/!") table[char.charCodeAt(0)] = 5;
  return table;
}

/**
 * {@link breakOffsets} for the texts that most pages have, without walking the line breaking classes: Latin letters,
 * digits, spaces and plain punctuation. `null` for any other text. Ends are not included.
 */
export function simpleBreakOffsets(text: string): number[] | null {
  const offsets: number[] = [];
  let before = 2;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    const own = code < 0x2100 ? SIMPLE[code]! : 0;
    if (own === 0) return null;
    if (i > 0 && ((before === 2 && own !== 2) || (before === 5 && own === 4 && code >= 0x80))) offsets.push(i);
    if (own === 3) {
      const next = text.charCodeAt(i + 1);
      const after = next < 0x2100 ? SIMPLE[next]! : i + 1 === text.length ? 2 : 0;
      if (before === 4 && after === 4) {
        if (code !== HYPHEN || !isDigit(next) || text.charCodeAt(i - 1) < 0x80) offsets.push(i + 1);
      } else if (before !== 2 || after !== 2) return null;
    }
    before = own;
  }
  return offsets;
}

const HYPHEN = 45;

function isDigit(code: number): boolean {
  return code >= 48 && code <= 57;
}

const starts = new Int32Array(4096);
const ends = new Int32Array(4096);

/** The text as it wraps at a width in px: greedy, spaces at a line's end hang and are not part of it. */
export function wrapText(font: Font, size: number, width: number, text: string): string[] {
  const offsets = simpleBreakOffsets(text) ?? breakOffsets(text).slice(0, -1);
  const known = text.length < starts.length && positions(font, text, starts, ends);
  const most = Math.floor(((width + TOLERANCE) * font.unitsPerEm) / size);
  const isWide = (start: number, end: number) =>
    (known ? ends[end - 1]! - starts[start]! : advanceUnits(font, text.slice(start, end))) > most;
  const trimmed = (end: number) => {
    while (end > 0 && text.charCodeAt(end - 1) === 32) end--;
    return end;
  };
  const lines: string[] = [];
  let start = 0;
  let end = 0;
  for (let i = 0; i <= offsets.length; i++) {
    const offset = i < offsets.length ? offsets[i]! : text.length;
    if (end > start && trimmed(offset) > start && isWide(start, trimmed(offset))) {
      lines.push(text.slice(start, trimmed(end)));
      start = end;
    }
    end = offset;
  }
  if (end > start) lines.push(text.slice(start, trimmed(end)));
  return lines;
}

/** The text's lines on a surface. */
export function wrapOnSurface(surface: Surface, text: string): string[] {
  return wrapText(fontById(surface.font), surface.size, surface.width, text);
}

/**
 * Whether the text has room on the surface: wrapped, in as many lines as it has, none wider than it is, and within
 * its total running width.
 */
export function fitsSurface(surface: Surface, text: string): boolean {
  const font = fontById(surface.font);
  const px = unitsToPx(font, advanceUnits(font, text), surface.size);
  if (surface.total !== null && px > surface.total + TOLERANCE) return false;
  if (px <= surface.width + TOLERANCE) return true;
  if (surface.lines === 1) return false;
  const lines = wrapText(font, surface.size, surface.width, text);
  return lines.length <= surface.lines && lines.every((line) => fitsWidth(font, surface.size, surface.width, line));
}

/** Layout counts in 1/64 px (Chromium's LayoutUnit); less than that beyond the edge is not beyond it. */
export const TOLERANCE = 1 / 64;

function fitsWidth(font: Font, size: number, width: number, text: string): boolean {
  return unitsToPx(font, advanceUnits(font, text), size) <= width + TOLERANCE;
}
