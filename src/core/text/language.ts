import snowball from "snowball-stemmers";
import * as stopword from "stopword";

/** A language that keywords and slugs can be read in. */
export interface Language {
  /** BCP 47 tag. */
  readonly tag: string;
  readonly label: string;
  /** The word's stem: equal for a noun and its plural, a verb and its -ing. Takes folded words. */
  readonly stem: (word: string) => string;
  readonly stopWords: ReadonlySet<string>;
}

const KNOWN: readonly (readonly [tag: string, label: string, stemmer: string, stopWords: keyof typeof stopword])[] = [
  ["en", "English", "english", "eng"],
  ["de", "German", "german", "deu"],
  ["fr", "French", "french", "fra"],
  ["es", "Spanish", "spanish", "spa"],
  ["it", "Italian", "italian", "ita"],
  ["nl", "Dutch", "dutch", "nld"],
  ["pt", "Portuguese", "portuguese", "por"],
  ["da", "Danish", "danish", "dan"],
  ["sv", "Swedish", "swedish", "swe"],
  ["nb", "Norwegian", "norwegian", "nob"],
  ["fi", "Finnish", "finnish", "fin"],
];

export const LANGUAGES: readonly { readonly tag: string; readonly label: string }[] = KNOWN.map(([tag, label]) => ({
  tag,
  label,
}));

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
    language = {
      tag: row[0],
      label: row[1],
      stem: (word) => (isNumber(word) ? word : stemmer.stem(word)),
      stopWords: new Set(words),
    };
    made.set(row[0], language);
  }
  return language;
}
