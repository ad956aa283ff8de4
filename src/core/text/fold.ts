/**
 * Folded characters by UTF-16 code unit: lower case, without accents. One unit stays one unit, so offsets hold.
 * 0 marks what is no part of a word.
 */
export const FOLDED_WORD: Uint16Array = buildTable();

const isApostrophe = (code: number) => code === 0x27 || code === 0x2019;

function buildTable(): Uint16Array {
  const table = new Uint16Array(65536);
  const word = /[\p{L}\p{N}\p{M}]/u;
  for (let code = 0; code < 65536; code++) {
    if (isIdeograph(code) || (code >= 0xd800 && code < 0xe000)) {
      table[code] = code;
      continue;
    }
    if (code >= 0xac00 && code <= 0xd7a3) {
      // Its first letter: The Unicode Standard, 3.12.2.
      table[code] = 0x1100 + Math.floor((code - 0xac00) / 588);
      continue;
    }
    if (code >= 0xe000 && code < 0xf900) continue;
    const char = String.fromCharCode(code);
    if (!word.test(char)) continue;
    const lower = char.toLowerCase();
    // Where the lower case is longer, as İ's is, the letter without its marks has one that is not.
    const base = (lower.length === 1 ? lower : char).normalize("NFD").charAt(0).toLowerCase();
    table[code] = base.charCodeAt(0);
  }
  return table;
}

/** Letters that have neither case nor accents and fill most of the table: it is made where a page opens. */
function isIdeograph(code: number): boolean {
  return (code >= 0x3400 && code < 0x4dc0) || (code >= 0x4e00 && code < 0xa000);
}

/** Whether the character at an offset is an apostrophe between two letters, which does not end a word. */
export function isInnerApostrophe(text: string, at: number): boolean {
  return (
    isApostrophe(text.charCodeAt(at)) &&
    at > 0 &&
    FOLDED_WORD[text.charCodeAt(at - 1)] !== 0 &&
    FOLDED_WORD[text.charCodeAt(at + 1)] !== 0 &&
    at + 1 < text.length
  );
}

/**
 * A word without case and accents.
 *
 * @example foldWord("Café") // "cafe"
 */
export function foldWord(word: string): string {
  let folded = "";
  for (let i = 0; i < word.length; i++) {
    const code = FOLDED_WORD[word.charCodeAt(i)]!;
    if (code !== 0 && !(code >= 0x300 && code < 0x370)) folded += String.fromCharCode(code);
    else if (isApostrophe(word.charCodeAt(i))) folded += "'";
  }
  return folded;
}

/** How many words a text has. */
export function countWords(text: string): number {
  let count = 0;
  let inside = false;
  for (let i = 0; i < text.length; i++) {
    const own: boolean = FOLDED_WORD[text.charCodeAt(i)] !== 0 || (inside && isInnerApostrophe(text, i));
    if (own && !inside) count++;
    inside = own;
  }
  return count;
}

/** The words of a text as offsets: starts at even places, ends at odd ones. Hyphens part words, inner apostrophes do not. */
export function wordOffsets(text: string): number[] {
  const offsets: number[] = [];
  let start = -1;
  for (let i = 0; i < text.length; i++) {
    if (FOLDED_WORD[text.charCodeAt(i)] !== 0 || (start >= 0 && isInnerApostrophe(text, i))) {
      if (start < 0) start = i;
    } else if (start >= 0) {
      offsets.push(start, i);
      start = -1;
    }
  }
  if (start >= 0) offsets.push(start, text.length);
  return offsets;
}
