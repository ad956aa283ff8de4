import anyAscii from "any-ascii";

/** How texts become slugs; each is a setting of a site. */
export interface SlugOptions {
  readonly dropStopWords: boolean;
  readonly dropNumbers: boolean;
  /** Keeps letters outside ASCII instead of transliterating them. */
  readonly keepUnicode: boolean;
  /** The most characters. */
  readonly max: number;
}

export const SLUG_DEFAULTS: SlugOptions = { dropStopWords: false, dropNumbers: false, keepUnicode: false, max: 60 };

const SIMPLE = /^[a-z0-9]+(?:[ -][a-z0-9]+)*$/;
const ASCII = /^[\x00-\x7f]*$/;

/**
 * The words of a text as a slug has them: transliterated unless Unicode is kept, `&` said as `and`, lower case,
 * apostrophes dropped, joined by hyphens. Nothing is dropped or cut yet.
 *
 * @example slugWords("Fennick & Dray's ropes", false) // "fennick-and-drays-ropes"
 */
export function slugWords(text: string, keepUnicode: boolean): string {
  const lower = text.toLowerCase();
  if (SIMPLE.test(lower)) return lower.replaceAll(" ", "-");
  let words = lower
    .replace(/['’ʼ`´]/g, "")
    .replace(/&/g, " and ")
    .replace(/×/g, " x ");
  if (!keepUnicode && !ASCII.test(words)) words = anyAscii(words.normalize("NFC")).toLowerCase().replace(/['`]/g, "");
  const parts = words
    .normalize(keepUnicode ? "NFC" : "NFKD")
    .match(keepUnicode ? /[\p{L}\p{N}\p{M}]+/gu : /[a-z0-9]+/g);
  return parts ? parts.join("-") : "";
}

/**
 * The words less stop words and numbers where the site says so, never to nothing.
 *
 * @param words words joined by hyphens, as {@link slugWords} gives them.
 */
export function dropWords(words: string, options: SlugOptions, stopWords: ReadonlySet<string>): string {
  if (!options.dropStopWords && !options.dropNumbers) return words;
  const all = words.split("-");
  let kept = all;
  if (options.dropStopWords)
    kept = orAll(
      kept.filter((word) => !stopWords.has(word)),
      kept,
    );
  if (options.dropNumbers)
    kept = orAll(
      kept.filter((word) => !/^\p{N}+$/u.test(word)),
      kept,
    );
  return kept.join("-");
}

function orAll(some: string[], all: string[]): string[] {
  return some.length > 0 ? some : all;
}

/**
 * At most so many characters: whole words go from the right; a single longer word is cut.
 *
 * @example cutSlug("bronze-mooring-cleat", 19) // "bronze-mooring"
 */
export function cutSlug(slug: string, max: number): string {
  if (slug.length <= max) return slug;
  const end = slug.lastIndexOf("-", max);
  if (end > 0) return slug.slice(0, end);
  return Array.from(slug.slice(0, max))
    .filter((char) => !/^[\ud800-\udbff]$/.test(char))
    .join("");
}

/**
 * A text as a slug.
 *
 * @example slugOf("How to splice a rope to an eye", { ...SLUG_DEFAULTS, dropStopWords: true }, stopWords) // "splice-rope-eye"
 */
export function slugOf(text: string, options: SlugOptions, stopWords: ReadonlySet<string>): string {
  return cutSlug(dropWords(slugWords(text, options.keepUnicode), options, stopWords), options.max);
}
