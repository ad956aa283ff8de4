import { FOLDED_WORD, foldWord, isInnerApostrophe, wordOffsets } from "../text/fold";
import { stemBit } from "./stem-bit";
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

/** A keyword made ready to be looked for in many texts. Words and stems are numbers of its vocabulary. */
export interface Keyword {
  readonly text: string;
  /** Its words, folded. */
  readonly wordTexts: readonly string[];
  readonly words: readonly number[];
  readonly stems: readonly number[];
  /** The stems that `scattered` and `partial` ask for, each once: without stop words, unless there are no others. */
  readonly telling: readonly number[];
  /** A bit for each of its stems, as values have them. */
  readonly stemBits: number;
  /** How its words begin, by {@link beginning}: a word that begins otherwise has another stem and cannot match. */
  readonly initials: readonly number[];
}

const ABSENT: Place = { form: "absent", word: null, char: null, end: null, count: 0 };
const MOST_RAW = 500_000;

/** A vocabulary numbers the words it has seen and remembers their stems, so that a word is stemmed once. */
export class Vocabulary {
  private readonly raw = new Map<string, number>();
  private readonly numbers = new Map<string, number>();
  private readonly stemNumbers = new Map<string, number>();
  private readonly folded: string[] = [];
  private stems = new Int32Array(1024);
  private readonly keywords = new Map<string, Keyword | null>();

  constructor(readonly language: Language) {}

  /** The number of a word as written; words that differ in case and accents only have one number. */
  word(raw: string): number {
    let number = this.raw.get(raw);
    if (number !== undefined) return number;
    const folded = foldWord(raw);
    number = this.numbers.get(folded);
    if (number === undefined) {
      number = this.folded.length;
      this.numbers.set(folded, number);
      this.folded.push(folded);
      if (number === this.stems.length) {
        const wider = new Int32Array(number * 2);
        wider.set(this.stems);
        this.stems = wider;
      }
      const stem = this.language.stem(folded);
      let stemNumber = this.stemNumbers.get(stem);
      if (stemNumber === undefined) this.stemNumbers.set(stem, (stemNumber = this.stemNumbers.size));
      this.stems[number] = stemNumber;
    }
    if (this.raw.size > MOST_RAW) this.raw.clear();
    this.raw.set(raw, number);
    return number;
  }

  /** The stem's number by the word's. Ask for it again after new words were read. */
  get stemOf(): Int32Array {
    return this.stems;
  }

  /** A word's folded form by its number. */
  foldedWord(number: number): string {
    return this.folded[number]!;
  }

  /** The keyword made ready, or `null` for one without a word in it. */
  keyword(text: string): Keyword | null {
    let keyword = this.keywords.get(text);
    if (keyword === undefined) {
      keyword = this.ready(text);
      if (this.keywords.size > MOST_RAW) this.keywords.clear();
      this.keywords.set(text, keyword);
    }
    return keyword;
  }

  private ready(text: string): Keyword | null {
    const offsets = wordOffsets(text);
    const words: number[] = [];
    for (let i = 0; i < offsets.length; i += 2) words.push(this.word(text.slice(offsets[i], offsets[i + 1])));
    if (words.length === 0) return null;
    const stems = words.map((word) => this.stems[word]!);
    const wordTexts = words.map((word) => this.folded[word]!);
    const telling = stems.filter((_, i) => !this.language.stopWords.has(wordTexts[i]!));
    return {
      text,
      wordTexts,
      words,
      stems,
      telling: [...new Set(telling.length > 0 ? telling : stems)],
      stemBits: stems.reduce((bits, stem) => bits | stemBit(stem), 0),
      initials: [
        ...new Set(wordTexts.map((word) => beginning(word.charCodeAt(0), secondLetter(word, 0, word.length)))),
      ],
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
  const { wordTexts, words, stems, initials } = keyword;
  // Words that begin like one of the keyword's: their numbers, offsets and which words they are.
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
    if (!isAmong(initials, beginning(first, secondLetter(text, start, i)))) continue;
    if (found === MOST_CANDIDATES) break;
    const same = wordIn(wordTexts, text, start, i);
    const word = same >= 0 ? words[same]! : vocabulary.word(text.slice(start, i));
    const stem = vocabulary.stemOf[word]!;
    if (same < 0 && !stems.includes(stem)) continue;
    startsAt[found] = start;
    endsAt[found] = i;
    found = candidate(found, number, word, stem);
  }
  if (found === 0) return ABSENT;
  const { form, count, first, last } = matchCandidates(keyword, found);
  if (first < 0) return ABSENT;
  return { form, word: candidateNumbers[first]!, char: startsAt[first]! + 1, end: endsAt[last]!, count };
}

/** Notes a word of a text that has one of the keyword's stems; says how many there are then. */
export function candidate(found: number, number: number, word: number, stem: number): number {
  candidateNumbers[found] = number;
  candidateWords[found] = word;
  candidateStems[found] = stem;
  return found + 1;
}

/** How a keyword stands among the candidates noted of one text. */
export interface CandidateMatch {
  readonly form: Form;
  readonly count: number;
  /** The numbers of the first and the last candidate of the first match, -1 where the keyword is absent. */
  readonly first: number;
  readonly last: number;
  /** Whether that match itself is exact. */
  readonly exactFirst: boolean;
}

/** How a keyword stands among the candidates just noted of one text. */
export function matchCandidates(keyword: Keyword, found: number): CandidateMatch {
  const { words, stems } = keyword;
  const length = words.length;
  let exact = false;
  let count = 0;
  let first = -1;
  let last = -1;
  let exactFirst = false;
  for (let i = 0; i + length <= found; i++) {
    let sameWords = true;
    let k = 0;
    while (k < length && candidateNumbers[i + k] === candidateNumbers[i]! + k && candidateStems[i + k] === stems[k]) {
      if (candidateWords[i + k] !== words[k]) sameWords = false;
      k++;
    }
    if (k < length) continue;
    count++;
    exact ||= sameWords;
    if (first < 0) {
      first = i;
      last = i + length - 1;
      exactFirst = sameWords;
    }
    i += length - 1;
  }
  if (first < 0) return looseMatch(keyword, found);
  return { form: exact ? "exact" : "variant", count, first, last, exactFirst };
}

/**
 * A word's first two folded characters as a number, y taken as i: stemmers of the Snowball family keep a word's
 * beginning but for that (dying, die).
 */
function beginning(first: number, second: number): number {
  return first * 65536 + (second === 121 ? 105 : second | 0);
}

/** The folded second letter of a word, 0 where there is none or an apostrophe; marks that belong to the first are passed over. */
function secondLetter(text: string, start: number, end: number): number {
  for (let i = start + 1; i < end; i++) {
    const code = FOLDED_WORD[text.charCodeAt(i)]!;
    if (code < 0x300 || code >= 0x370) return code;
  }
  return 0;
}

function isAmong(numbers: readonly number[], number: number): boolean {
  for (let i = 0; i < numbers.length; i++) if (numbers[i] === number) return true;
  return false;
}

/** `scattered`, `partial` or `absent`: how many of the telling stems stand among the words found. */
function looseMatch({ telling }: Keyword, found: number): CandidateMatch {
  const seen = new Uint8Array(telling.length);
  let met = 0;
  let first = -1;
  let last = -1;
  for (let i = 0; i < found && met < telling.length; i++) {
    const at = telling.indexOf(candidateStems[i]!);
    if (at < 0) continue;
    if (first < 0) first = i;
    if (seen[at] === 1) continue;
    seen[at] = 1;
    met++;
    last = i;
  }
  const form = first < 0 ? "absent" : met === telling.length ? "scattered" : "partial";
  return { form, count: 0, first, last, exactFirst: false };
}

/** Which of the folded words a stretch of the text is, or -1. */
function wordIn(words: readonly string[], text: string, start: number, end: number): number {
  next: for (let w = 0; w < words.length; w++) {
    const word = words[w]!;
    if (word.length !== end - start) continue;
    for (let k = 0; k < word.length; k++)
      if (FOLDED_WORD[text.charCodeAt(start + k)] !== word.charCodeAt(k)) continue next;
    return w;
  }
  return -1;
}

// Scratch memory of one search, so that nothing is allocated for each of millions: nothing in it outlives the search.
export const MOST_CANDIDATES = 10_000;
const candidateNumbers = new Int32Array(MOST_CANDIDATES);
const candidateWords = new Int32Array(MOST_CANDIDATES);
const candidateStems = new Int32Array(MOST_CANDIDATES);
const startsAt = new Int32Array(MOST_CANDIDATES);
const endsAt = new Int32Array(MOST_CANDIDATES);
