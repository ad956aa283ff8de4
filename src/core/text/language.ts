import snowball from "snowball-stemmers";
import * as stopword from "stopword";
import anyAscii from "any-ascii";
import { foldWord } from "./fold";

/** A language that keywords and slugs can be read in. */
export interface Language {
  /** BCP 47 tag. */
  readonly tag: string;
  readonly label: string;
  /** The word's stem: equal for a noun and its plural, a verb and its -ing. Takes folded words. */
  readonly stem: (word: string) => string;
  /** In every spelling that they are met in: as written, without accents, and as slugs have them. */
  readonly stopWords: ReadonlySet<string>;
  /** What `&` is called. */
  readonly and: string;
  /** Letters that ASCII has another spelling for than that without their marks, and a pattern for them. */
  readonly spelling: Readonly<Record<string, string>>;
  readonly respelled: RegExp;
}

type Known = readonly [tag: string, label: string, stemmer: string, stopWords: keyof typeof stopword, and: string];
const KNOWN: readonly Known[] = [
  ["en", "English", "english", "eng", "and"],
  ["de", "German", "german", "deu", "und"],
  ["fr", "French", "french", "fra", "et"],
  ["es", "Spanish", "spanish", "spa", "y"],
  ["it", "Italian", "italian", "ita", "e"],
  ["nl", "Dutch", "dutch", "nld", "en"],
  ["pt", "Portuguese", "portuguese", "por", "e"],
  ["da", "Danish", "danish", "dan", "og"],
  ["sv", "Swedish", "swedish", "swe", "och"],
  ["nb", "Norwegian", "norwegian", "nob", "og"],
  ["fi", "Finnish", "finnish", "fin", "ja"],
];

export const LANGUAGES: readonly { readonly tag: string; readonly label: string }[] = KNOWN.map(([tag, label]) => ({
  tag,
  label,
}));

const NORDIC = { å: "aa", æ: "ae", ø: "oe" };
/** Swedish and Finnish drop the marks, as all other languages do. */
const SPELLINGS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  de: { ä: "ae", ö: "oe", ü: "ue", ß: "ss" },
  da: NORDIC,
  nb: NORDIC,
};
/** Matches nothing. */
const NONE = /(?!)/g;

const made = new Map<string, Language>();

/** Whether a word is digits only: no language has another stem for it, and there are as many of them as pages have ids. */
function isNumber(word: string): boolean {
  for (let i = 0; i < word.length; i++) if (word.charCodeAt(i) < 48 || word.charCodeAt(i) > 57) return false;
  return true;
}

/** The language for a BCP 47 tag such as `en` or `en-GB`; English for one that is not known. */
export function languageByTag(tag: string): Language {
  const row = KNOWN.find(([known]) => known === tag.toLowerCase().split("-")[0]) ?? KNOWN[0]!;
  let language = made.get(row[0]);
  if (!language) {
    const stemmer = snowball.newStemmer(row[2]);
    const words = stopword[row[3]] as string[];
    const spelling = SPELLINGS[row[0]] ?? {};
    const letters = Object.keys(spelling).join("");
    const respelled = letters === "" ? NONE : new RegExp(`[${letters}]`, "g");
    const spellings = (word: string) => [
      word,
      foldWord(word),
      anyAscii(word.replace(respelled, (letter) => spelling[letter]!).replace(/['’]/g, "")).toLowerCase(),
    ];
    language = {
      tag: row[0],
      label: row[1],
      stem: (word) => (isNumber(word) ? word : stemmer.stem(word)),
      stopWords: new Set(words.flatMap(spellings)),
      and: row[4],
      spelling,
      respelled,
    };
    made.set(row[0], language);
  }
  return language;
}
