import snowball from "snowball-stemmers";
import { dan, deu, eng, fin, fra, ita, nld, nob, por, spa, swe } from "stopword";
import anyAscii from "any-ascii";
import { foldWord } from "./fold";
import { LANGUAGES, type LanguageTag } from "./languages";

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

interface Source {
  /** As the stemmers call the language. */
  readonly stemmer: string;
  readonly stopWords: readonly string[];
  readonly and: string;
}

const SOURCES: Readonly<Record<LanguageTag, Source>> = {
  en: { stemmer: "english", stopWords: eng, and: "and" },
  de: { stemmer: "german", stopWords: deu, and: "und" },
  fr: { stemmer: "french", stopWords: fra, and: "et" },
  es: { stemmer: "spanish", stopWords: spa, and: "y" },
  it: { stemmer: "italian", stopWords: ita, and: "e" },
  nl: { stemmer: "dutch", stopWords: nld, and: "en" },
  pt: { stemmer: "portuguese", stopWords: por, and: "e" },
  da: { stemmer: "danish", stopWords: dan, and: "og" },
  sv: { stemmer: "swedish", stopWords: swe, and: "och" },
  nb: { stemmer: "norwegian", stopWords: nob, and: "og" },
  fi: { stemmer: "finnish", stopWords: fin, and: "ja" },
};

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
  const { tag: known, label } = LANGUAGES.find((one) => one.tag === tag.toLowerCase().split("-")[0]) ?? LANGUAGES[0];
  let language = made.get(known);
  if (!language) {
    const { stemmer: name, stopWords, and } = SOURCES[known];
    const stemmer = snowball.newStemmer(name);
    const spelling = SPELLINGS[known] ?? {};
    const letters = Object.keys(spelling).join("");
    const respelled = letters === "" ? NONE : new RegExp(`[${letters}]`, "g");
    const spellings = (word: string) => [
      word,
      foldWord(word),
      anyAscii(word.replace(respelled, (letter) => spelling[letter]!).replace(/['’]/g, "")).toLowerCase(),
    ];
    language = {
      tag: known,
      label,
      stem: (word) => (isNumber(word) ? word : stemmer.stem(word)),
      stopWords: new Set(stopWords.flatMap(spellings)),
      and,
      spelling,
      respelled,
    };
    made.set(known, language);
  }
  return language;
}
