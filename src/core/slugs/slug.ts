import anyAscii from "any-ascii";
import { type Language } from "../text/language";
import { type SlugOptions } from "./options";

/** How a site makes slugs: its settings and its language. */
export interface SlugRules {
  readonly options: SlugOptions;
  readonly language: Language;
}

/** What of it the spelling of words goes by. */
export interface SlugSpelling {
  readonly options: Pick<SlugOptions, "keepUnicode">;
  readonly language: Language;
}

const SIMPLE = /^[a-z0-9]+(?:[ -][a-z0-9]+)*$/;
const ASCII = /^[\x00-\x7f]*$/;
/** Symbols and emoji; not `№`, which is a word, nor `×`, which is said. */
const SYMBOLS = /(?!№)[\p{So}\p{Sk}\p{Extended_Pictographic}\u200d\u20e3\ufe0e\ufe0f]|(?![\x00-\x7f×])\p{Sm}/gu;
const WORDS = /[a-z0-9]+(?:-[a-z0-9]+)*/g;
const UNICODE_WORDS = /[\p{L}\p{N}\p{M}]+(?:-[\p{L}\p{N}\p{M}]+)*/gu;

/** The words of a text as a slug has them, a hyphenated one as one word. */
function wordsOfSlug(text: string, { options: { keepUnicode }, language }: SlugSpelling): readonly string[] {
  const lower = text.toLowerCase();
  if (SIMPLE.test(lower)) return lower.split(" ");
  let words = lower
    .replace(/['’ʼ`´]/g, "")
    .replace(/&/g, ` ${language.and} `)
    .replace(/×/g, " x ")
    .replace(/[‐‑]/g, "-")
    .replace(/[‒–—―−]/g, " ")
    .replace(SYMBOLS, " ");
  if (!keepUnicode && !ASCII.test(words)) {
    const spelled = words.normalize("NFC").replace(language.respelled, (letter) => language.spelling[letter]!);
    words = anyAscii(spelled).toLowerCase().replace(/['`]/g, "");
  }
  return words.normalize(keepUnicode ? "NFC" : "NFKD").match(keepUnicode ? UNICODE_WORDS : WORDS) ?? [];
}

/**
 * The words of a text as a slug has them: transliterated as the language does unless Unicode is kept, `&` said in the language, symbols
 * and emoji dropped, lower case, apostrophes dropped, joined by hyphens. No word is dropped or cut yet.
 *
 * @example slugWords("Fennick & Dray's ropes", english) // "fennick-and-drays-ropes"
 */
export function slugWords(text: string, spelling: SlugSpelling): string {
  return wordsOfSlug(text, spelling).join("-");
}

/**
 * A text as a slug before it is cut: the words less stop words and numbers where the site says so, never to nothing, and
 * never out of a hyphenated word.
 */
export function keptWords(text: string, rules: SlugRules): string {
  const { options, language } = rules;
  let kept = wordsOfSlug(text, rules);
  if (options.dropStopWords)
    kept = orAll(
      kept.filter((word) => !language.stopWords.has(word)),
      kept,
    );
  if (options.dropNumbers)
    kept = orAll(
      kept.filter((word) => !/^\p{N}+$/u.test(word)),
      kept,
    );
  return kept.join("-");
}

function orAll(some: readonly string[], all: readonly string[]): readonly string[] {
  return some.length > 0 ? some : all;
}

/**
 * At most so many characters: whole words go from the right, and stop words that are at the end then; a single longer word is cut.
 *
 * @example cutSlug("bronze-mooring-cleat", 19, english) // "bronze-mooring"
 * @example cutSlug("rope-for-the-deck", 13, english) // "rope"
 */
export function cutSlug(slug: string, max: number, language: Language): string {
  if (slug.length <= max) return slug;
  let end = slug.lastIndexOf("-", max);
  if (end <= 0) {
    return Array.from(slug.slice(0, max))
      .filter((char) => !/^[\ud800-\udbff]$/.test(char))
      .join("");
  }
  const whole = end;
  for (;;) {
    const start = slug.lastIndexOf("-", end - 1);
    if (!language.stopWords.has(slug.slice(start + 1, end))) return slug.slice(0, end);
    // Nothing but stop words: they are all that there is.
    if (start < 0) return slug.slice(0, whole);
    end = start;
  }
}

/**
 * A text as a slug.
 *
 * @example slugOf("How to splice a rope to an eye", { options: { ...SLUG_DEFAULTS, dropStopWords: true }, language }) // "splice-rope-eye"
 */
export function slugOf(text: string, rules: SlugRules): string {
  return cutSlug(keptWords(text, rules), rules.options.max, rules.language);
}
