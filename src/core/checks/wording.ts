import { FOLDED_WORD, isInnerApostrophe } from "../text/fold";

/** What can be wrong with a text's wording, whatever it is for. */
export type WordingFinding = "repeated-words" | "shouting" | "dangling-separator" | "double-space" | "entities-or-tags" | "straight-quotes" | "control-characters" | "unfilled-field" | "past-year" | "broken-unicode";

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
const LOOK = CONTROL | SURROGATE | QUOTE | CODE | BRACE | DIGIT;

const CLASS = buildClasses();

function buildClasses(): Uint16Array {
  const table = new Uint16Array(65536);
  for (let code = 0; code < 65536; code++) {
    const char = String.fromCharCode(code);
    let own = 0;
    if (code === 32) own |= SPACE;
    if (code < 32 || (code >= 0x7f && code < 0xa0) || /[\u00ad\u061c\u200b\u200e\u200f\u202a-\u202e\u2060-\u2069\ufeff]/.test(char)) own |= CONTROL;
    if ((code >= 0xd800 && code < 0xe000) || code === 0xfffd) own |= SURROGATE;
    if (char === '"' || char === "'") own |= QUOTE;
    if (char === "&" || char === "<") own |= CODE;
    if ("{[(“‘".includes(char)) own |= BRACE;
    if ("|–—-·•:,;/".includes(char)) own |= SEPARATOR;
    if (code < 0xd800 && /\p{L}/u.test(char)) own |= LETTER | (/\p{Lu}/u.test(char) ? UPPER : 0);
    if (char >= "0" && char <= "9") own |= DIGIT;
    table[code] = own;
  }
  return table;
}

/** At least so many letters, and this share of them in capitals, is shouting; so are so many words in a row that are capitals only. */
const SHOUT_LETTERS = 10;
const SHOUT_SHARE = 0.6;
const SHOUT_WORDS = 4;
const CODES = /&(?:#\d{1,7}|#x[\da-f]{1,6}|[a-z][a-z\d]{1,30});|<\/?[a-z][^<>]*>/gi;
const EMPTY_PLACES = /\{[\p{L}\p{N}_.]*\}|\[\s*\]|\(\s*\)|“\s*”|‘\s*’/gu;
const GARBLED = /Ã[\u0080-\u00bf]|â€[\u0080-\u2122]|Â[\u00a0-\u00bf]/g;
const EARLIEST_YEAR = 2000;

/**
 * Looks a text's wording over in one walk.
 *
 * @param year the present year: an earlier one, from 2000 on, has passed.
 */
export function checkWording(text: string, year: number, tell: Tell): void {
  const size = text.length;
  let letters = 0;
  let capitals = 0;
  let seen = 0;
  let wordFrom = -1;
  let wordTo = -1;
  let lastSeparator = -1;
  let loudFrom = -1;
  let loud = 0;
  let first = 0;
  while (first < size && text.charCodeAt(first) === 32) first++;
  let end = size - 1;
  while (end > first && text.charCodeAt(end) === 32) end--;
  for (let i = 0; i < size; i++) {
    const code = text.charCodeAt(i);
    const own = CLASS[code]!;
    seen |= own;
    if (own & LETTER) {
      letters++;
      if (own & UPPER) capitals++;
    }
    if (own & LOOK) {
      if (own & CONTROL) tell("control-characters", i, i + 1);
      else if (own & QUOTE) tell("straight-quotes", i, i + 1);
      else if (own & SURROGATE) i = checkSurrogate(text, i, code, tell);
    }
    if (own & SPACE && (i === 0 || i === size - 1 || text.charCodeAt(i + 1) === 32)) tell("double-space", i, i + 1);
    if (own & SEPARATOR && standsAlone(text, i)) {
      if (i === first || i === end || (lastSeparator >= 0 && lastSeparator === i - 2)) tell("dangling-separator", i, i + 1);
      lastSeparator = i;
    }
    if (FOLDED_WORD[code] !== 0 && (i === 0 || FOLDED_WORD[text.charCodeAt(i - 1)] === 0) && !(own & SURROGATE)) {
      let to = i + 1;
      let capital = own & UPPER;
      for (; to < size && (FOLDED_WORD[text.charCodeAt(to)] !== 0 || isInnerApostrophe(text, to)); to++) if (!(CLASS[text.charCodeAt(to)]! & UPPER)) capital = 0;
      if (wordFrom >= 0 && wordTo === i - 1 && own & LETTER && sameWord(text, wordFrom, wordTo, i, to)) tell("repeated-words", wordFrom, to);
      if (own & DIGIT && to - i === 4) {
        const value = Number(text.slice(i, to));
        if (value >= EARLIEST_YEAR && value < year) tell("past-year", i, to);
      }
      if (!capital || to - i < 2) loud = 0;
      else if (loud++ === 0) loudFrom = i;
      if (loud === SHOUT_WORDS) tell("shouting", loudFrom, to);
      wordFrom = i;
      wordTo = to;
    }
  }
  const last = size > 0 ? text.charCodeAt(size - 1) : 0;
  if (last === 44 || last === 58 || last === 59) tell("dangling-separator", size - 1, size);
  if (loud < SHOUT_WORDS && letters >= SHOUT_LETTERS && capitals > letters * SHOUT_SHARE) tell("shouting", 0, size);
  if (seen & CODE) for (const match of text.matchAll(CODES)) tell("entities-or-tags", match.index, match.index + match[0].length);
  if (seen & BRACE) for (const match of text.matchAll(EMPTY_PLACES)) tell("unfilled-field", match.index, match.index + match[0].length);
  if (/[ÃâÂ]/.test(text)) for (const match of text.matchAll(GARBLED)) tell("broken-unicode", match.index, match.index + match[0].length);
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
  for (let i = 0; i < to - from; i++) if (FOLDED_WORD[text.charCodeAt(from + i)] !== FOLDED_WORD[text.charCodeAt(otherFrom + i)]) return false;
  return true;
}
