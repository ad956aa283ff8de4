import { type Font, LATIN } from "./font";

/** A running width in font units, and whether any part of it is estimated because no shipped font covers it. */
export interface Advance {
  units: number;
  estimated: boolean;
}

const IDEOGRAPH =
  /\p{Script=Han}|\p{Script=Hiragana}|\p{Script=Katakana}|\p{Script=Hangul}|[\u3000-\u303f\uff01-\uff60]/u;
const EMOJI = /\p{Extended_Pictographic}|\p{Regional_Indicator}/u;
const EMOJI_PRESENTATION = /\p{Emoji_Presentation}|\ufe0f/u;
const MARKS_ONLY = /^[\p{M}\u200b-\u200f\u2060\ufe00-\ufe0f]+$/u;

/** Class widths in em for what no shipped font covers: DESIGN.md, Measuring. */
const EM_IDEOGRAPH = 1;
const EM_EMOJI = 1.25;
const EM_OTHER = 0.6;

let segmenter: Intl.Segmenter | undefined;

/**
 * The width in font units of the text set as one line: advances, pair kerning, ligatures.
 * Font units are whole numbers, so widths of parts add up exactly.
 *
 * @example advanceUnits(fontById("arimo-400"), "ii") // 910
 */
export function advanceUnits(font: Font, text: string): number {
  const { glyphOf, advance, script, leftClass, rightClass, rightCount, kern, ligatures } = font;
  let units = 0;
  let running = 0;
  let left = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    let glyph = glyphOf[code]!;
    if (glyph === 0) return advanceByGrapheme(font, text).units;
    if (code === 102 && ligatures.length > 0) {
      for (const ligature of ligatures) {
        if (text.startsWith(ligature.rest, i + 1)) {
          glyph = ligature.glyph;
          i += ligature.rest.length;
          break;
        }
      }
    }
    const own = script[glyph]!;
    if (own !== 0 && own !== running) {
      // A browser shapes a run of one script at a time; what all scripts share belongs to the run before it.
      if (running !== 0) left = 0;
      running = own;
    }
    units += advance[glyph]! + kern[left * rightCount + rightClass[glyph]!]!;
    left = leftClass[glyph]!;
  }
  return units;
}

/**
 * Where each character of a text begins and ends in font units, kerning in place, so that the width of any stretch is
 * one subtraction. Only for texts without ligatures or characters outside the font; says whether this is one.
 */
export function positions(font: Font, text: string, starts: Int32Array, ends: Int32Array): boolean {
  const { glyphOf, advance, script, leftClass, rightClass, rightCount, kern, ligatures } = font;
  let units = 0;
  let left = 0;
  let running = 0;
  let before = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    const glyph = glyphOf[code]!;
    if (glyph === 0 || (before === 102 && ligatures.length > 0 && (code === 102 || code === 105 || code === 108)))
      return false;
    const own = script[glyph]!;
    if (own !== 0 && own !== running) {
      if (running !== 0) left = 0;
      running = own;
    }
    units += kern[left * rightCount + rightClass[glyph]!]!;
    starts[i] = units;
    units += advance[glyph]!;
    ends[i] = units;
    left = leftClass[glyph]!;
    before = code;
  }
  return true;
}

/**
 * What kerning adds in font units where one text ends and the next begins. Both are set in the same font and can be
 * measured apart ({@link isPlain}).
 */
export function jointUnits(font: Font, before: string, after: string): number {
  if (before === "" || after === "") return 0;
  const a = before.charCodeAt(before.length - 1);
  const b = after.charCodeAt(0);
  const left = font.glyphOf[a]!;
  const right = font.glyphOf[b]!;
  if (left === 0 || right === 0) {
    // Next to what the font lacks nothing kerns; two such characters, or a mark, may make one grapheme.
    const alone = left === right || JOINS.test(after[0]!) || JOINS.test(before.at(-1)!);
    return alone ? advanceUnits(font, before + after) - advanceUnits(font, before) - advanceUnits(font, after) : 0;
  }
  // Where a ligature may stand at the joint or straddle it (f, fi, fl), only the joined text knows.
  if (font.ligatures.length > 0 && (a === 102 || a === 105 || a === 108 || b === 102)) {
    const tail = before.slice(-16);
    const head = after.slice(0, 16);
    return advanceUnits(font, tail + head) - advanceUnits(font, tail) - advanceUnits(font, head);
  }
  return font.kern[font.leftClass[left]! * font.rightCount + font.rightClass[right]!]!;
}

/** What can make one grapheme of several characters; in a text without it each character is one. Widths do not mind line breaks. */
const CLUSTERS =
  /[\p{M}\p{Cf}\p{Emoji_Modifier}\p{Regional_Indicator}\u0e33\u0eb3\u1100-\u11ff\ua960-\ua97f\ud7b0-\ud7ff]/u;

function* graphemes(by: Intl.Segmenter, text: string): Generator<string> {
  for (const { segment } of by.segment(text)) yield segment;
}

/** The width of text that holds characters outside the font, walked by grapheme. */
export function advanceByGrapheme(font: Font, text: string): Advance {
  segmenter ??= new Intl.Segmenter("en", { granularity: "grapheme" });
  let units = 0;
  let estimated = false;
  let covered = "";
  const flush = () => {
    if (covered) units += advanceUnits(font, covered);
    covered = "";
  };
  for (const segment of CLUSTERS.test(text) ? graphemes(segmenter, text) : text) {
    if (isCovered(font, segment)) {
      covered += segment;
      continue;
    }
    const emoji = EMOJI.test(segment);
    if (emoji && segment.length > 1 && EMOJI_PRESENTATION.test(segment)) {
      flush();
      units += Math.round(EM_EMOJI * font.unitsPerEm);
      estimated = true;
      continue;
    }
    // A base the font has, with marks it lacks: the base keeps its width, the marks have none.
    let base = "";
    for (const char of segment) {
      const symbol = font.symbols.get(char.charCodeAt(0));
      if (isCovered(font, char)) base += char;
      else if (symbol !== undefined && segment.length === 1) {
        flush();
        units += symbol;
      } else if (MARKS_ONLY.test(char)) estimated = true;
      else {
        flush();
        const em = EMOJI.test(char) ? EM_EMOJI : IDEOGRAPH.test(char) ? EM_IDEOGRAPH : EM_OTHER;
        units += Math.round(em * font.unitsPerEm);
        estimated = true;
      }
    }
    covered += base;
  }
  flush();
  return { units, estimated };
}

/** Whether every character of the text has a glyph in the font, so that its width is exact. */
export function isCovered(font: Font, text: string): boolean {
  for (let i = 0; i < text.length; i++) if (font.glyphOf[text.charCodeAt(i)] === 0) return false;
  return true;
}

const JOINS = /[\p{M}\u200c\u200d\ufe00-\ufe0f]/u;

/** Whether the text can be measured apart from its neighbours: nothing in it is of a script other than Latin. */
export function isPlain(font: Font, text: string): boolean {
  for (let i = 0; i < text.length; i++) {
    const glyph = font.glyphOf[text.charCodeAt(i)]!;
    if (font.script[glyph]! > LATIN) return false;
  }
  return true;
}

/** Font units as CSS pixels at a font size in px. */
export function unitsToPx(font: Font, units: number, size: number): number {
  return (units * size) / font.unitsPerEm;
}
