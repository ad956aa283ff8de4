import {
  candidate,
  type Form,
  type Keyword,
  matchCandidates,
  MOST_CANDIDATES,
  type Vocabulary,
} from "../keywords/place";
import { advanceUnits, jointUnits } from "../measure/advance";
import { type Font } from "../measure/font";
import { FOLDED_WORD, isInnerApostrophe } from "../text/fold";
import { emptyHash, hashText, POWER1, POWER2, powerOf, POWERS, type TextHash } from "../text/hash";
import { type ReadyPart } from "./ready-shape";
import {
  EDGES,
  EXACT1,
  EXACT2,
  FACTS,
  FOLDED1,
  FOLDED2,
  LENGTH,
  SPECIAL_EDGE,
  STEM_BITS,
  UNITS,
  type ValueWords,
} from "./values";

/** The parts of an item's text written out. */
export function composeText(parts: readonly ReadyPart[], row: number): string {
  let text = "";
  for (let i = 0; i < parts.length; i++) {
    const { codes, code, table } = parts[i]!;
    text += table.values[codes === null ? code : codes[row]!]!;
  }
  return text;
}

/**
 * The width of an item's text in font units, summed of its parts' widths and the kerning where they meet; exact, since all
 * are whole font units. -1 where a part cannot be measured apart from its neighbours.
 */
export function composeUnits(parts: readonly ReadyPart[], row: number, font: Font, f: number): number {
  const { rightCount, kern } = font;
  let units = 0;
  let last = 0;
  for (let i = 0; i < parts.length; i++) {
    const part = parts[i]!;
    const code = part.codes === null ? part.code : part.codes[row]!;
    const facts = part.facts[f]!;
    const at = code * FACTS;
    const own = facts[at + UNITS]!;
    if (own < 0) return -1;
    units += own;
    const edges = facts[at + EDGES]!;
    const first = edges & 0xffff;
    if (i > 0)
      units +=
        last === SPECIAL_EDGE || first === SPECIAL_EDGE ? joint(parts, i, row, font) : kern[last * rightCount + first]!;
    last = edges >>> 16;
  }
  return units;
}

function joint(parts: readonly ReadyPart[], i: number, row: number, font: Font): number {
  const value = ({ table, codes, code }: ReadyPart) => table.values[codes === null ? code : codes[row]!]!;
  return jointUnits(font, value(parts[i - 1]!), value(parts[i]!));
}

/** The hashes of an item's text put together from its parts'; gives the text's length in UTF-16 code units. */
export function composeHash(parts: readonly ReadyPart[], row: number, out: TextHash): number {
  let e1 = 0;
  let e2 = 0;
  let f1 = 0;
  let f2 = 0;
  let length = 0;
  for (let i = 0; i < parts.length; i++) {
    const part = parts[i]!;
    const facts = part.facts[0]!;
    const at = (part.codes === null ? part.code : part.codes[row]!) * FACTS;
    const own = facts[at + LENGTH]!;
    const power1 = own < POWERS ? POWER1[own]! : powerOf(POWER1, own);
    const power2 = own < POWERS ? POWER2[own]! : powerOf(POWER2, own);
    e1 = (Math.imul(e1, power1) + facts[at + EXACT1]!) | 0;
    e2 = (Math.imul(e2, power2) + facts[at + EXACT2]!) | 0;
    f1 = (Math.imul(f1, power1) + facts[at + FOLDED1]!) | 0;
    f2 = (Math.imul(f2, power2) + facts[at + FOLDED2]!) | 0;
    length += own;
  }
  out.exact1 = e1;
  out.exact2 = e2;
  out.folded1 = f1;
  out.folded2 = f2;
  return length;
}

/** The length of an item's text in UTF-16 code units. */
export function composeLength(parts: readonly ReadyPart[], row: number): number {
  let length = 0;
  for (let i = 0; i < parts.length; i++) {
    const { codes, code, table } = parts[i]!;
    length += table.values[codes === null ? code : codes[row]!]!.length;
  }
  return length;
}

/** The length of an item's slug: its parts' slugs joined by hyphens. */
export function composeSlugLength(parts: readonly ReadyPart[], row: number): number {
  let length = 0;
  for (let i = 0; i < parts.length; i++) {
    const part = parts[i]!;
    const own = part.facts[0]![(part.codes === null ? part.code : part.codes[row]!) * FACTS + LENGTH]!;
    if (own > 0) length += length > 0 ? own + 1 : own;
  }
  return length;
}

/** An item's slug, its parts' slugs joined by hyphens. */
export function composeSlug(parts: readonly ReadyPart[], row: number): string {
  let slug = "";
  for (let i = 0; i < parts.length; i++) {
    const { codes, code, table } = parts[i]!;
    const own = table.values[codes === null ? code : codes[row]!]!;
    if (own !== "") slug = slug === "" ? own : `${slug}-${own}`;
  }
  return slug;
}

const HYPHEN = emptyHash();
hashText("-", HYPHEN);

/** The hashes of an item's slug put together from its parts'. */
export function composeSlugHash(parts: readonly ReadyPart[], row: number, out: TextHash): void {
  out.exact1 = out.exact2 = out.folded1 = out.folded2 = 0;
  let some = false;
  for (let i = 0; i < parts.length; i++) {
    const { facts, codes, code } = parts[i]!;
    const own0 = facts[0]!;
    const at = (codes === null ? code : codes[row]!) * FACTS;
    const own = own0[at + LENGTH]!;
    if (own === 0) continue;
    if (some) append(out, HYPHEN.exact1, HYPHEN.exact2, HYPHEN.folded1, HYPHEN.folded2, 1);
    append(out, own0[at + EXACT1]!, own0[at + EXACT2]!, own0[at + FOLDED1]!, own0[at + FOLDED2]!, own);
    some = true;
  }
}

/** The hashes of a text with another, of a length in code units, behind it. */
export function append(
  out: TextHash,
  exact1: number,
  exact2: number,
  folded1: number,
  folded2: number,
  length: number,
): void {
  const power1 = powerOf(POWER1, length);
  const power2 = powerOf(POWER2, length);
  out.exact1 = (Math.imul(out.exact1, power1) + exact1) | 0;
  out.exact2 = (Math.imul(out.exact2, power2) + exact2) | 0;
  out.folded1 = (Math.imul(out.folded1, power1) + folded1) | 0;
  out.folded2 = (Math.imul(out.folded2, power2) + folded2) | 0;
}

// Scratch memory of one search, as in `keywords/place`: nothing in it outlives the search.
const partOf = new Int32Array(MOST_CANDIDATES);
const tokenOf = new Int32Array(MOST_CANDIDATES);

/** Where a keyword stands in an item's text, as {@link composePlace} found it: of the first match, the first and the last word. */
export interface ComposedPlace {
  readonly form: Form;
  /** The part of the text, -1 where the keyword is absent, and the word among those of the part's values. */
  readonly firstPart: number;
  readonly firstToken: number;
  readonly lastPart: number;
  readonly lastToken: number;
  /** Whether the first match is exact. */
  readonly exactFirst: boolean;
}

const ABSENT: ComposedPlace = {
  form: "absent",
  firstPart: -1,
  firstToken: 0,
  lastPart: -1,
  lastToken: 0,
  exactFirst: false,
};

/**
 * Where a keyword stands in an item's text, found among the words of its parts; the same as looking through the text, as
 * long as no word runs over a joint.
 */
export function composePlace(
  parts: readonly ReadyPart[],
  words: readonly ValueWords[],
  row: number,
  keyword: Keyword,
  vocabulary: Vocabulary,
): ComposedPlace {
  const { stems, stemBits: wanted } = keyword;
  const count = stems.length;
  const first = stems[0]!;
  let found = 0;
  let number = 0;
  for (let i = 0; i < parts.length; i++) {
    const part = parts[i]!;
    const code = part.codes === null ? part.code : part.codes[row]!;
    const own = words[i]!;
    if (own.starts[code]! < 0) own.read(code);
    const from = own.starts[code]!;
    const to = from + own.counts[code]!;
    if ((part.facts[0]![code * FACTS + STEM_BITS]! & wanted) !== 0) {
      const numbers = own.words;
      const { stemOf } = vocabulary;
      for (let t = from; t < to; t++) {
        const word = numbers[t]!;
        const stem = stemOf[word]!;
        if (stem !== first && (count === 1 || !isAmong(stems, stem))) continue;
        if (found === MOST_CANDIDATES) break;
        partOf[found] = i;
        tokenOf[found] = t;
        found = candidate(found, number + t - from + 1, word, stem);
      }
    }
    number += to - from;
  }
  if (found === 0) return ABSENT;
  const match = matchCandidates(keyword, found);
  if (match.first < 0) return ABSENT;
  return {
    form: match.form,
    firstPart: partOf[match.first]!,
    firstToken: tokenOf[match.first]!,
    lastPart: partOf[match.last]!,
    lastToken: tokenOf[match.last]!,
    exactFirst: match.exactFirst,
  };
}

function isAmong(numbers: readonly number[], number: number): boolean {
  for (let i = 1; i < numbers.length; i++) if (numbers[i] === number) return true;
  return false;
}

/** Where a part begins in an item's text. `hyphens`: the parts are joined by hyphens, and empty ones are left out. */
export function partStart(parts: readonly ReadyPart[], row: number, part: number, hyphens: boolean): number {
  let start = 0;
  for (let i = 0; i < part; i++) {
    const { facts, codes, code } = parts[i]!;
    const length = facts[0]![(codes === null ? code : codes[row]!) * FACTS + LENGTH]!;
    start += length + (hyphens && length > 0 ? 1 : 0);
  }
  return start;
}

/** Where the word at an offset of a text ends. */
export function wordEnd(text: string, start: number): number {
  let end = start;
  while (end < text.length && (FOLDED_WORD[text.charCodeAt(end)] !== 0 || isInnerApostrophe(text, end))) end++;
  return end;
}

/** The width in font units of the beginning of a text, with the kerning to what follows. */
export function unitsBefore(font: Font, text: string, end: number): number {
  const head = text.slice(0, end);
  return advanceUnits(font, head) + jointUnits(font, head, text.slice(end, end + 1));
}
