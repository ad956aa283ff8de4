import { FOLDED_WORD, foldWord, isInnerApostrophe, wordOffsets } from "../text/fold";
import { type Language } from "../text/language";

/** How a keyword stands in a text, the best first. */
export const FORMS = ["exact", "variant", "scattered", "partial", "absent"] as const;
export type Form = (typeof FORMS)[number];

/** Where a keyword stands in a text. Words and characters count from 1; `null` where nothing of it stands. */
export interface Place {
  readonly form: Form;
  /** Number of the first word matched. */
  readonly word: number | null;
  /** Number of the first character matched, in UTF-16 code units. */
  readonly char: number | null;
  /** Offset behind the last character of the first match, from 0: what has to be seen for the keyword to be seen. */
  readonly end: number | null;
  /** How often the keyword stands as exact or variant. */
  readonly count: number;
}

/** A keyword made ready to be looked for in many texts. */
export interface Keyword {
  readonly text: string;
  readonly words: readonly string[];
  readonly stems: readonly string[];
  /** The stems that `scattered` and `partial` ask for: without stop words, unless there are no others. */
  readonly telling: ReadonlySet<string>;
  /** How its words begin, by {@link beginning}: a word that begins otherwise has another stem and cannot match. */
  readonly initials: readonly number[];
}

const ABSENT: Place = { form: "absent", word: null, char: null, end: null, count: 0 };

interface SeenWord {
  readonly word: string;
  readonly stem: string;
}

/** A vocabulary remembers the stems of the words it has seen, so that a word is stemmed once. */
export class Vocabulary {
  private readonly seen = new Map<string, SeenWord>();
  private readonly keywords = new Map<string, Keyword | null>();

  constructor(readonly language: Language) {}

  /** A word as written, with its folded form and its stem. */
  read(raw: string): SeenWord {
    let seen = this.seen.get(raw);
    if (seen === undefined) {
      const word = foldWord(raw);
      seen = { word, stem: this.language.stem(word) };
      if (this.seen.size > 500_000) this.seen.clear();
      this.seen.set(raw, seen);
    }
    return seen;
  }

  /** The keyword made ready, or `null` for one without a word in it. */
  keyword(text: string): Keyword | null {
    let keyword = this.keywords.get(text);
    if (keyword === undefined) {
      keyword = this.ready(text);
      if (this.keywords.size > 500_000) this.keywords.clear();
      this.keywords.set(text, keyword);
    }
    return keyword;
  }

  private ready(text: string): Keyword | null {
    const offsets = wordOffsets(text);
    const read: SeenWord[] = [];
    for (let i = 0; i < offsets.length; i += 2) read.push(this.read(text.slice(offsets[i], offsets[i + 1])));
    if (read.length === 0) return null;
    const words = read.map(({ word }) => word);
    const stems = read.map(({ stem }) => stem);
    const telling = stems.filter((_, i) => !this.language.stopWords.has(words[i]!));
    return {
      text,
      words,
      stems,
      telling: new Set(telling.length > 0 ? telling : stems),
      initials: [...new Set(words.map((word) => beginning(word.charCodeAt(0), word.charCodeAt(1))))],
    };
  }
}

/**
 * Finds a keyword in a text: `exact` its words in a row, case and accents aside; `variant` the same by stems;
 * `scattered` all its stems anywhere; `partial` some of them. The place is that of the first exact or variant match,
 * else of the first word matched.
 *
 * @example placeKeyword(vocabulary, vocabulary.keyword("mooring cleat")!, "Bronze mooring cleats").form // "variant"
 */
export function placeKeyword(vocabulary: Vocabulary, keyword: Keyword, text: string): Place {
  const { words, stems, initials } = keyword;
  const length = words.length;
  // Words that begin like one of the keyword's: their numbers, offsets and which of the keyword's words they are.
  let found = 0;
  let number = 0;
  const size = text.length;
  for (let i = 0; i < size; i++) {
    const first = FOLDED_WORD[text.charCodeAt(i)]!;
    if (first === 0) continue;
    const start = i;
    for (i++; i < size; i++) {
      const code = text.charCodeAt(i);
      if (FOLDED_WORD[code] === 0 && !((code === 39 || code === 0x2019) && isInnerApostrophe(text, i))) break;
    }
    number++;
    if (!isAmong(initials, beginning(first, i - start > 1 ? FOLDED_WORD[text.charCodeAt(start + 1)]! : 0))) continue;
    if (found === MOST_CANDIDATES) break;
    const same = wordIn(words, text, start, i);
    const stem = same >= 0 ? stems[same]! : vocabulary.read(text.slice(start, i)).stem;
    if (same < 0 && !stems.includes(stem)) continue;
    numbers[found] = number;
    startsAt[found] = start;
    endsAt[found] = i;
    wordAt[found] = same;
    stemAt[found++] = stem;
  }
  if (found === 0) return ABSENT;
  let exact = false;
  let count = 0;
  let match = -1;
  for (let i = 0; i + length <= found; i++) {
    let sameWords = true;
    let k = 0;
    while (k < length && numbers[i + k] === numbers[i]! + k && stemAt[i + k] === stems[k]) {
      if (wordAt[i + k]! < 0 || words[wordAt[i + k]!] !== words[k]) sameWords = false;
      k++;
    }
    if (k < length) continue;
    count++;
    exact ||= sameWords;
    if (match < 0) match = i;
    i += length - 1;
  }
  if (match >= 0) return { form: exact ? "exact" : "variant", word: numbers[match]!, char: startsAt[match]! + 1, end: endsAt[match + length - 1]!, count };
  return looseMatch(keyword, found);
}

/**
 * A word's first two folded characters as a number, y taken as i: stemmers of the Snowball family keep a word's
 * beginning but for that (dying, die).
 */
function beginning(first: number, second: number): number {
  return first * 65536 + (second === 121 ? 105 : second | 0);
}

function isAmong(numbers: readonly number[], number: number): boolean {
  for (let i = 0; i < numbers.length; i++) if (numbers[i] === number) return true;
  return false;
}

/** `scattered`, `partial` or `absent`: how many of the telling stems stand among the words found. */
function looseMatch({ telling }: Keyword, found: number): Place {
  const met = new Set<string>();
  let first = -1;
  let end = 0;
  for (let i = 0; i < found; i++) {
    if (!telling.has(stemAt[i]!)) continue;
    if (first < 0) first = i;
    if (!met.has(stemAt[i]!)) end = endsAt[i]!;
    met.add(stemAt[i]!);
  }
  if (first < 0) return ABSENT;
  return { form: met.size === telling.size ? "scattered" : "partial", word: numbers[first]!, char: startsAt[first]! + 1, end, count: 0 };
}

/** Which of the folded words a stretch of the text is, or -1. */
function wordIn(words: readonly string[], text: string, start: number, end: number): number {
  next: for (let w = 0; w < words.length; w++) {
    const word = words[w]!;
    if (word.length !== end - start) continue;
    for (let k = 0; k < word.length; k++) if (FOLDED_WORD[text.charCodeAt(start + k)] !== word.charCodeAt(k)) continue next;
    return w;
  }
  return -1;
}

// One text at a time is searched: what is found stands here, so that nothing is allocated for it.
const MOST_CANDIDATES = 10_000;
const numbers = new Int32Array(MOST_CANDIDATES);
const startsAt = new Int32Array(MOST_CANDIDATES);
const endsAt = new Int32Array(MOST_CANDIDATES);
const wordAt = new Int32Array(MOST_CANDIDATES);
const stemAt: string[] = [];
