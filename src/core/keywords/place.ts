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
  /** Folded first characters of its words: a word that begins otherwise cannot match. */
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
      initials: [...new Set(words.map((word) => word.charCodeAt(0)))],
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
  const { words, stems, telling, initials } = keyword;
  const length = words.length;
  // Words that begin like one of the keyword's, each with its number, offsets and folded form.
  let found: Candidate[] | null = null;
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
    if (!initials.includes(first)) continue;
    const { word, stem } = vocabulary.read(text.slice(start, i));
    (found ??= []).push({ number, start, end: i, word, stem });
  }
  if (found === null) return ABSENT;
  let exact = false;
  let count = 0;
  let match: Candidate | null = null;
  let matchEnd = 0;
  for (let i = 0; i + length <= found.length; i++) {
    let sameWords = true;
    let matches = true;
    for (let k = 0; k < length && matches; k++) {
      const candidate = found[i + k]!;
      if (candidate.number !== found[i]!.number + k || candidate.stem !== stems[k]) matches = false;
      else if (candidate.word !== words[k]) sameWords = false;
    }
    if (!matches) continue;
    count++;
    exact ||= sameWords;
    if (!match) {
      match = found[i]!;
      matchEnd = found[i + length - 1]!.end;
    }
    i += length - 1;
  }
  if (match) return { form: exact ? "exact" : "variant", word: match.number, char: match.start + 1, end: matchEnd, count };
  const met = new Set<string>();
  let firstMet: Candidate | null = null;
  let end = 0;
  for (const candidate of found) {
    if (!telling.has(candidate.stem)) continue;
    firstMet ??= candidate;
    if (!met.has(candidate.stem)) end = candidate.end;
    met.add(candidate.stem);
  }
  if (!firstMet) return ABSENT;
  return { form: met.size === telling.size ? "scattered" : "partial", word: firstMet.number, char: firstMet.start + 1, end, count: 0 };
}

interface Candidate {
  readonly number: number;
  readonly start: number;
  readonly end: number;
  readonly word: string;
  readonly stem: string;
}
