import { FOLDED_WORD, wordOffsets } from "../text/fold";

/** What can be wrong with a text's wording, whatever it is for. */
export type WordingFinding =
  | "repeated-words"
  | "shouting"
  | "dangling-separator"
  | "double-space"
  | "entities-or-tags"
  | "straight-quotes"
  | "control-characters"
  | "unfilled-field"
  | "past-year"
  | "broken-unicode";

/** Told of each thing found, with where it stands: offsets in the text. */
export type Tell = (id: WordingFinding, from: number, to: number) => void;

const SPACE = 1;
const CONTROL = 2;
const SURROGATE = 4;
const QUOTE = 8;
const CODE = 16;
const BRACE = 32;
const SEPARATOR = 64;
const UPPER = 128;
const LETTER = 256;
const DIGIT = 512;
/** What texts that were read in the wrong encoding hold. */
const ODD = 1024;

const CLASS = buildClasses();

function buildClasses(): Uint16Array {
  const table = new Uint16Array(65536);
  for (let code = 0; code < 65536; code++) {
    const char = String.fromCharCode(code);
    let own = 0;
    if (code === 32) own |= SPACE;
    if (
      code < 32 ||
      (code >= 0x7f && code < 0xa0) ||
      /[\u00ad\u061c\u200b\u200e\u200f\u202a-\u202e\u2060-\u2069\ufeff]/.test(char)
    )
      own |= CONTROL;
    if ((code >= 0xd800 && code < 0xe000) || code === 0xfffd) own |= SURROGATE;
    if (char === '"' || char === "'") own |= QUOTE;
    if (char === "&" || char === "<") own |= CODE;
    if ("{[(“‘".includes(char)) own |= BRACE;
    if ("|–—-·•:,;/".includes(char)) own |= SEPARATOR;
    if (code < 0xd800 && /\p{L}/u.test(char)) own |= LETTER | (/\p{Lu}/u.test(char) ? UPPER : 0);
    if (char >= "0" && char <= "9") own |= DIGIT;
    if ("ÃâÂ".includes(char)) own |= ODD;
    table[code] = own;
  }
  return table;
}

/** At least so many letters, and this share of them in capitals, is shouting; so are so many words in a row that are capitals only. */
const SHOUT_LETTERS = 10;
const SHOUT_SHARE = 0.6;
const SHOUT_WORDS = 4;
/** So many capitals make so many loud words at the least. */
const SHOUT_CAPITALS = SHOUT_WORDS * 2;
const CODES = /&(?:#\d{1,7}|#x[\da-f]{1,6}|[a-z][a-z\d]{1,30});|<\/?[a-z][^<>]*>/gi;
const EMPTY_PLACES = /\{[\p{L}\p{N}_.]*\}|\[\s*\]|\(\s*\)|“\s*”|‘\s*’/gu;
const GARBLED = /Ã[\u0080-\u00bf]|â€[\u0080-\u2122]|Â[\u00a0-\u00bf]/g;
const EARLIEST_YEAR = 2000;

/** What a glance at a text asks a closer look for, besides the classes of its characters. */
const LONE_SPACE = 1 << 16;
const LONE_SEPARATOR = 1 << 17;
const SAME_WORDS = 1 << 18;
const FOUR_DIGITS = 1 << 19;
const LOUD = 1 << 20;

/**
 * Looks a text's wording over: a glance at the whole, and a closer look for what that asks for.
 *
 * @param year the present year: an earlier one, from 2000 on, has passed.
 */
export function checkWording(text: string, year: number, tell: Tell): void {
  const seen = glance(text);
  if (seen & (CONTROL | QUOTE | SURROGATE)) findCharacters(text, tell);
  if (seen & LONE_SPACE) findSpaces(text, tell);
  if (seen & LONE_SEPARATOR) findSeparators(text, tell);
  if (seen & SAME_WORDS) findRepeatedWords(text, tell);
  if (seen & FOUR_DIGITS) findYears(text, year, tell);
  if (seen & LOUD) findShouting(text, tell);
  if (seen & CODE) findAll(text, CODES, "entities-or-tags", tell);
  if (seen & BRACE) findAll(text, EMPTY_PLACES, "unfilled-field", tell);
  if (seen & ODD) findAll(text, GARBLED, "broken-unicode", tell);
}

/**
 * The classes of a text's characters, and what of the rest asks for a closer look. Most texts ask for none; it may ask for
 * one where nothing is found, never not ask where something is.
 */
function glance(text: string): number {
  const size = text.length;
  let seen = 0;
  let letters = 0;
  let capitals = 0;
  let digits = 0;
  let hash = 0;
  let last = 0;
  let before = 32;
  for (let i = 0; i < size; i++) {
    const code = text.charCodeAt(i);
    const own = CLASS[code]!;
    seen |= own;
    const folded = FOLDED_WORD[code]!;
    if (folded !== 0) {
      if (own & LETTER) letters++;
      if (own & UPPER) capitals++;
      digits = own & DIGIT ? digits + 1 : 0;
      if (digits === 4) seen |= FOUR_DIGITS;
      hash = (Math.imul(hash ^ folded, 0x01000193) + 1) | 0;
    } else {
      if (own & SPACE && before === 32) seen |= LONE_SPACE;
      if (own & SEPARATOR && (before === 32 || i === size - 1)) seen |= LONE_SEPARATOR;
      if (hash !== 0) {
        if (hash === last) seen |= SAME_WORDS;
        last = hash;
        hash = 0;
        digits = 0;
      }
    }
    before = code;
  }
  if (hash !== 0 && hash === last) seen |= SAME_WORDS;
  if (before === 32) seen |= LONE_SPACE | LONE_SEPARATOR;
  if (capitals >= SHOUT_CAPITALS || (letters >= SHOUT_LETTERS && capitals > letters * SHOUT_SHARE)) seen |= LOUD;
  return seen;
}

function findAll(text: string, pattern: RegExp, id: WordingFinding, tell: Tell): void {
  for (const match of text.matchAll(pattern)) tell(id, match.index, match.index + match[0].length);
}

function findCharacters(text: string, tell: Tell): void {
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    const own = CLASS[code]!;
    if (own & CONTROL) tell("control-characters", i, i + 1);
    else if (own & QUOTE) tell("straight-quotes", i, i + 1);
    else if (own & SURROGATE) i = checkSurrogate(text, i, code, tell);
  }
}

function findSpaces(text: string, tell: Tell): void {
  const size = text.length;
  for (let i = 0; i < size; i++)
    if (text.charCodeAt(i) === 32 && (i === 0 || i === size - 1 || text.charCodeAt(i + 1) === 32))
      tell("double-space", i, i + 1);
}

function findSeparators(text: string, tell: Tell): void {
  let first = 0;
  while (first < text.length && text.charCodeAt(first) === 32) first++;
  let end = text.length - 1;
  while (end > first && text.charCodeAt(end) === 32) end--;
  let last = -1;
  for (let i = 0; i < text.length; i++) {
    if (!(CLASS[text.charCodeAt(i)]! & SEPARATOR) || !standsAlone(text, i)) continue;
    if (i === first || i === end || (last >= 0 && last === i - 2)) tell("dangling-separator", i, i + 1);
    last = i;
  }
  const clinging = text.charCodeAt(text.length - 1);
  if ((clinging === 44 || clinging === 58 || clinging === 59) && !standsAlone(text, text.length - 1))
    tell("dangling-separator", text.length - 1, text.length);
}

function findRepeatedWords(text: string, tell: Tell): void {
  const offsets = wordOffsets(text);
  for (let o = 2; o < offsets.length; o += 2) {
    const [from, to, next, end] = [offsets[o - 2]!, offsets[o - 1]!, offsets[o]!, offsets[o + 1]!];
    if (to === next - 1 && (CLASS[text.charCodeAt(next)]! & LETTER) !== 0 && sameWord(text, from, to, next, end))
      tell("repeated-words", from, end);
  }
}

function findYears(text: string, year: number, tell: Tell): void {
  for (const match of text.matchAll(/(?<![\p{L}\p{N}\p{M}])\d{4}(?![\p{L}\p{N}\p{M}])/gu)) {
    const value = Number(match[0]);
    if (value >= EARLIEST_YEAR && value < year) tell("past-year", match.index, match.index + 4);
  }
}

function findShouting(text: string, tell: Tell): void {
  let letters = 0;
  let capitals = 0;
  for (let i = 0; i < text.length; i++) {
    const own = CLASS[text.charCodeAt(i)]!;
    if (own & LETTER) letters++;
    if (own & UPPER) capitals++;
  }
  const offsets = wordOffsets(text);
  let loud = 0;
  for (let o = 0; o < offsets.length; o += 2) {
    const [from, to] = [offsets[o]!, offsets[o + 1]!];
    loud = to - from >= 2 && isLoud(text, from, to) ? loud + 1 : 0;
    if (loud === SHOUT_WORDS) tell("shouting", offsets[o - (SHOUT_WORDS - 1) * 2]!, to);
  }
  if (loud < SHOUT_WORDS && letters >= SHOUT_LETTERS && capitals > letters * SHOUT_SHARE)
    tell("shouting", 0, text.length);
}

/** Whether a word is of capitals only. */
function isLoud(text: string, from: number, to: number): boolean {
  for (let i = from; i < to; i++) if ((CLASS[text.charCodeAt(i)]! & UPPER) === 0) return false;
  return true;
}

/** A separator with space or an edge on each side. */
function standsAlone(text: string, at: number): boolean {
  return (at === 0 || text.charCodeAt(at - 1) === 32) && (at === text.length - 1 || text.charCodeAt(at + 1) === 32);
}

/** Goes over a pair of surrogates; one alone, or the character that stands for what could not be read, is broken. */
function checkSurrogate(text: string, at: number, code: number, tell: Tell): number {
  const next = text.charCodeAt(at + 1);
  if (code >= 0xd800 && code < 0xdc00 && next >= 0xdc00 && next < 0xe000) return at + 1;
  tell("broken-unicode", at, at + 1);
  return at;
}

function sameWord(text: string, from: number, to: number, otherFrom: number, otherTo: number): boolean {
  if (to - from !== otherTo - otherFrom || to - from < 2) return false;
  for (let i = 0; i < to - from; i++)
    if (FOLDED_WORD[text.charCodeAt(from + i)] !== FOLDED_WORD[text.charCodeAt(otherFrom + i)]) return false;
  return true;
}
