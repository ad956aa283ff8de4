import { wordOffsets } from "../text/fold";
import { type Keyword, placeKeyword, type Vocabulary } from "./place";

/** A page as far as a keyword is suggested for it. */
export interface SuggestPage {
  readonly name: string;
  readonly category: string;
  readonly intro: string;
  /** The values of its attributes. */
  readonly attributes: readonly string[];
  readonly body: string;
}

/** Where the words of a suggested keyword stand on the page. */
export const EVIDENCE = ["name", "category", "intro", "attributes", "body"] as const;
export type Evidence = (typeof EVIDENCE)[number];

export interface SuggestedKeyword {
  readonly keyword: string;
  readonly evidence: readonly Evidence[];
  /** The higher the better; only to be compared with others of the same set. */
  readonly weight: number;
}

/** How much a keyword's standing in a place counts beside its standing in the name. */
const PLACE_WEIGHT: Record<Evidence, number> = { name: 1, category: 0.5, intro: 0.35, attributes: 0.25, body: 0.35 };
/** A keyword taken from a name has so many words at most; one word alone says little. */
const MOST_WORDS = 6;
const LONE_WORD = 0.45;
/** Beyond so many words a whole name is no keyword. */
const MOST_NAME_WORDS = 7;
/** So many phrases of a name are looked for in the rest of the page. */
const LOOKED_AT = 6;

/** How telling the words of a set of pages are: the rarer, the more. */
export class TermWeights {
  private counts = new Int32Array(1024);
  private pages = 0;

  constructor(private readonly vocabulary: Vocabulary) {}

  /** Counts a page's words, each once. */
  count(text: string): void {
    this.pages++;
    for (const stem of new Set(stemsOf(this.vocabulary, text))) {
      if (stem >= this.counts.length) {
        const wider = new Int32Array(Math.max(stem + 1, this.counts.length * 2));
        wider.set(this.counts);
        this.counts = wider;
      }
      this.counts[stem]!++;
    }
  }

  /** A stem's weight, ln(1 + pages ⁄ pages that have it) (inverse document frequency: Spärck Jones, 1972). */
  of(stem: number): number {
    return Math.log(1 + this.pages / Math.max(1, stem < this.counts.length ? this.counts[stem]! : 0));
  }
}

export function stemsOf(vocabulary: Vocabulary, text: string): number[] {
  const offsets = wordOffsets(text);
  const stems: number[] = [];
  for (let o = 0; o < offsets.length; o += 2) {
    const word = vocabulary.word(text.slice(offsets[o], offsets[o + 1]));
    stems.push(vocabulary.stemOf[word]!);
  }
  return stems;
}

/** A keyword by which it is told whether two are the same: its stems in their order, stop words aside. */
export function keywordKey(vocabulary: Vocabulary, text: string): string {
  const keyword = vocabulary.keyword(text);
  return keyword ? keyword.stems.filter((stem) => keyword.telling.includes(stem)).join(" ") : "";
}

/**
 * Suggests a keyword from a page's own name: the phrase of it whose words tell most of the set's pages apart and that the
 * rest of the page speaks of, too. Where a phrase is another page's keyword, what is only a part of it would compete with that;
 * where none is left a short name is taken whole.
 *
 * @param isTaken whether a keyword (by {@link keywordKey}) is another page's already.
 * @returns the best, or `null` where every phrase is taken or says nothing.
 */
export function suggestFromName(
  vocabulary: Vocabulary,
  weights: TermWeights,
  page: SuggestPage,
  isTaken: (key: string) => boolean,
): SuggestedKeyword | null {
  const all = phrasesOf(vocabulary, page.name).map((phrase) => ({ phrase, key: keywordKey(vocabulary, phrase) }));
  const taken = all.filter(({ key }) => isTaken(key)).map(({ key }) => ` ${key} `);
  const phrases = all
    .filter(({ key }) => !taken.some((other) => other.includes(` ${key} `)))
    .map(({ phrase }) => ({ phrase, weight: ownWeight(vocabulary, weights, phrase) }))
    .sort((a, b) => b.weight - a.weight)
    .slice(0, LOOKED_AT);
  let best: SuggestedKeyword | null = null;
  for (const { phrase, weight } of phrases) {
    const evidence = evidenceOf(vocabulary, vocabulary.keyword(phrase)!, page);
    const whole = weight * evidence.reduce((sum, place) => sum + PLACE_WEIGHT[place], 0);
    if (!best || whole > best.weight) best = { keyword: phrase, evidence, weight: whole };
  }
  if (best) return best;
  const whole = wholeName(vocabulary, page.name);
  if (whole === null || isTaken(keywordKey(vocabulary, whole))) return null;
  return {
    keyword: whole,
    evidence: evidenceOf(vocabulary, vocabulary.keyword(whole)!, page),
    weight: ownWeight(vocabulary, weights, whole),
  };
}

/**
 * How well a given keyword fits a page; `null` where some of its telling words are nowhere in the page's name, category or
 * attributes.
 */
export function fitOf(
  vocabulary: Vocabulary,
  weights: TermWeights,
  keyword: Keyword,
  page: SuggestPage,
): SuggestedKeyword | null {
  const there = new Set([page.name, page.category, ...page.attributes].flatMap((text) => stemsOf(vocabulary, text)));
  if (!keyword.telling.every((stem) => there.has(stem))) return null;
  const named = new Set(stemsOf(vocabulary, page.name));
  const evidence = evidenceOf(vocabulary, keyword, page);
  const weight = keyword.telling.reduce((sum, stem) => sum + weights.of(stem) * (named.has(stem) ? 2 : 1), 0);
  // A page whose name says little else is what the keyword is about.
  const covered = named.size === 0 ? 0 : keyword.telling.filter((stem) => named.has(stem)).length / named.size;
  return {
    keyword: keyword.text,
    evidence,
    weight: weight * (1 + covered) * (1 + evidence.reduce((sum, place) => sum + PLACE_WEIGHT[place], 0)),
  };
}

/** Where the keyword stands, its words in a row or apart. */
function evidenceOf(vocabulary: Vocabulary, keyword: Keyword, page: SuggestPage): Evidence[] {
  const stands = (text: string) => {
    if (text === "") return false;
    const { form } = placeKeyword(vocabulary, keyword, text);
    return form !== "absent" && form !== "partial";
  };
  return EVIDENCE.filter((place) => (place === "attributes" ? stands(page.attributes.join(" ")) : stands(page[place])));
}

function ownWeight(vocabulary: Vocabulary, weights: TermWeights, phrase: string): number {
  const stems = stemsOf(vocabulary, phrase);
  const sum = stems.reduce((all, stem) => all + weights.of(stem), 0);
  return (sum / Math.sqrt(stems.length)) * (stems.length === 1 ? LONE_WORD : 1);
}

/**
 * The phrases of a name that could be searched for: words in a row of what stands before its first punctuation, none of them a
 * number or a size, no stop word at either end.
 *
 * @example phrasesOf(vocabulary, "Nylon halyard, 4 mm") // ["nylon", "nylon halyard", "halyard"]
 */
export function phrasesOf(vocabulary: Vocabulary, name: string): string[] {
  const found = new Set<string>();
  const subject = name.split(/[,;:|()–—/]|\s-\s/u).find((part) => /\p{L}/u.test(part)) ?? "";
  const offsets = wordOffsets(subject);
  const words: string[] = [];
  for (let o = 0; o < offsets.length; o += 2) words.push(subject.slice(offsets[o], offsets[o + 1]).toLowerCase());
  for (let from = 0; from < words.length; from++) {
    if (!isTelling(vocabulary, words[from]!)) continue;
    for (let to = from + 1; to <= words.length && to - from <= MOST_WORDS; to++) {
      if (/\p{N}/u.test(words[to - 1]!)) break;
      if (!isTelling(vocabulary, words[to - 1]!)) continue;
      found.add(
        subject
          .slice(offsets[from * 2], offsets[to * 2 - 1])
          .toLowerCase()
          .replace(/\s+/g, " "),
      );
    }
  }
  return [...found];
}

/** A short name as a whole, where it is more than its subject; `null` for one with numbers, or that ends in a stop word. */
function wholeName(vocabulary: Vocabulary, name: string): string | null {
  const offsets = wordOffsets(name);
  const words = Array.from({ length: offsets.length / 2 }, (_, i) =>
    name.slice(offsets[i * 2], offsets[i * 2 + 1]).toLowerCase(),
  );
  const fits = words.length > 1 && words.length <= MOST_NAME_WORDS && words.every((word) => !/\p{N}/u.test(word));
  return fits && isTelling(vocabulary, words[0]!) && isTelling(vocabulary, words.at(-1)!) ? words.join(" ") : null;
}

function isTelling(vocabulary: Vocabulary, word: string): boolean {
  return word.length > 1 && !/\p{N}/u.test(word) && !vocabulary.language.stopWords.has(word);
}
