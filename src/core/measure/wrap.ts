import LineBreaker from "linebreak";
import { advanceUnits, unitsToPx } from "./advance";
import { type Font, fontById } from "./font";
import { type Surface } from "./surface";

/**
 * The offsets at which Chromium may break the text, the end included: UAX #14 with the differences that Chromium 156
 * shows for every ASCII mark between letters, digits and spaces (`wrap.test.ts` lists them): it always breaks after a
 * space; inside a word never after `/ ! | }`, nor after a dash that begins the word; and it breaks after a hyphen
 * between a word character and a digit.
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
  return text[at - 1] === "-" && /[\p{L}\p{N}]/u.test(text[at - 2] ?? "") && /\d/.test(text[at]!);
}

function isTaken(text: string, at: number): boolean {
  const before = text[at - 1]!;
  if (before === " ") return true;
  if (NO_BREAK_AFTER.has(before)) return false;
  return !(before === "–" && (at === 1 || text[at - 2] === " "));
}

const NO_BREAK_AFTER = new Set(["/", "!", "|", "}"]);

/** The text as it wraps at a width in px: greedy, spaces at a line's end hang and are not part of it. */
export function wrapText(font: Font, size: number, width: number, text: string): string[] {
  const offsets = breakOffsets(text);
  const lines: string[] = [];
  let start = 0;
  let end = 0;
  for (const offset of offsets) {
    const candidate = text.slice(start, offset).trimEnd();
    if (end > start && !fitsWidth(font, size, width, candidate)) {
      lines.push(text.slice(start, end).trimEnd());
      start = end;
    }
    end = offset;
  }
  if (end > start) lines.push(text.slice(start, end).trimEnd());
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
