import { format, isValid, parseISO } from "date-fns";
import anyAscii from "any-ascii";
import { plainText } from "../text/plain";

/** A filter's arguments: how many there may be and what each is. */
export interface FilterSignature {
  readonly name: string;
  readonly args: readonly ("whole number" | "text" | "field" | "date pattern" | "currency")[];
  /** How many of the arguments, from the right, may be left out. */
  readonly optional: number;
  readonly meaning: string;
}

export const FILTERS: readonly FilterSignature[] = [
  { name: "lower", args: [], optional: 0, meaning: "in lower case" },
  { name: "upper", args: [], optional: 0, meaning: "in capitals" },
  { name: "title", args: [], optional: 0, meaning: "each word with a capital" },
  { name: "sentence", args: [], optional: 0, meaning: "a capital at the start, the rest in lower case" },
  { name: "words", args: ["whole number"], optional: 0, meaning: "at most so many words" },
  { name: "chars", args: ["whole number"], optional: 0, meaning: "at most so many characters, whole words only" },
  { name: "first", args: [], optional: 0, meaning: "the first sentence" },
  { name: "sentences", args: ["whole number"], optional: 0, meaning: "the first so many sentences" },
  { name: "number", args: ["whole number"], optional: 1, meaning: "as a number with so many decimals" },
  { name: "money", args: ["currency"], optional: 0, meaning: "as an amount of money" },
  { name: "date", args: ["date pattern"], optional: 0, meaning: "as a date" },
  { name: "plural", args: ["text", "text"], optional: 0, meaning: "the number and its noun" },
  { name: "replace", args: ["text", "text"], optional: 0, meaning: "with one text put for another" },
  { name: "without", args: ["field"], optional: 0, meaning: "less the words that a field already says" },
  { name: "ascii", args: [], optional: 0, meaning: "in plain Latin letters" },
  { name: "fit", args: [], optional: 0, meaning: "as many whole words as there is room for" },
];

const BY_NAME = new Map(FILTERS.map((filter) => [filter.name, filter]));

/** The filter's signature, or `undefined` for a name that is none. */
export function filterByName(name: string): FilterSignature | undefined {
  return BY_NAME.get(name);
}

/** What is wrong with a filter's arguments, in words, or `null`. */
export function argumentError(filter: FilterSignature, args: readonly string[]): string | null {
  const least = filter.args.length - filter.optional;
  if (args.length < least || args.length > filter.args.length) {
    const wanted = least === filter.args.length ? `${least}` : `${least} or ${filter.args.length}`;
    return `“${filter.name}” takes ${wanted === "0" ? "no arguments" : wanted === "1" ? "1 argument" : `${wanted} arguments`}, not ${args.length}`;
  }
  for (const [i, arg] of args.entries()) {
    const kind = filter.args[i]!;
    if (kind === "whole number" && !/^\d{1,6}$/.test(arg)) return `“${filter.name}” takes a whole number, not “${arg}”`;
    if (kind === "whole number" && filter.name === "number" && Number(arg) > 20)
      return "“number” takes at most 20 decimals";
    if (kind === "whole number" && filter.name !== "number" && Number(arg) === 0)
      return `“${filter.name}” takes a number from 1`;
    if (kind === "currency" && !/^[A-Za-z]{3}$/.test(arg))
      return `“money” takes a currency code such as GBP, not “${arg}”`;
    if (kind === "date pattern") {
      try {
        format(0, arg);
      } catch {
        return `“${arg}” is no date pattern; one such as “d MMMM yyyy” is`;
      }
    }
  }
  if (filter.name === "replace" && args[0] === "") return "“replace” needs a text to look for";
  return null;
}

/** What a filter needs to know besides the value. */
export interface FilterContext {
  /** The site's language as a BCP 47 tag. */
  readonly locale: string;
  /** The value of another field of the same item, as plain text. */
  readonly valueOf: (field: string) => string;
}

type Apply = (value: string, args: readonly string[], context: FilterContext) => string;

const APPLY: Record<string, Apply> = {
  lower: (v, _, c) => v.toLocaleLowerCase(c.locale),
  upper: (v, _, c) => v.toLocaleUpperCase(c.locale),
  title: (v, _, c) =>
    v.replace(
      /(^|[\s(“"‘/–—])(\p{L})/gu,
      (_all, before: string, letter: string) => before + letter.toLocaleUpperCase(c.locale),
    ),
  sentence: (v, _, c) =>
    v.toLocaleLowerCase(c.locale).replace(/\p{L}/u, (letter) => letter.toLocaleUpperCase(c.locale)),
  words: (v, [n]) => firstWords(v, Number(n)),
  chars: (v, [n]) => firstChars(v, Number(n)),
  first: (v, _, c) => firstSentences(v, 1, c.locale),
  sentences: (v, [n], c) => firstSentences(v, Number(n), c.locale),
  number: (v, [decimals], c) => {
    const number = asNumber(v);
    if (number === null) return v;
    const digits = decimals === undefined ? undefined : Number(decimals);
    return numberFormat(c.locale, { minimumFractionDigits: digits, maximumFractionDigits: digits ?? 6 }).format(number);
  },
  money: (v, [currency], c) => {
    const number = asNumber(v);
    if (number === null) return v;
    return numberFormat(c.locale, { style: "currency", currency: currency!.toUpperCase() }).format(number);
  },
  date: (v, [pattern]) => {
    const date = parseISO(v);
    return isValid(date) ? format(date, pattern!) : v;
  },
  plural: (v, [one, many], c) => {
    const number = asNumber(v);
    return `${v} ${number !== null && new Intl.PluralRules(c.locale).select(number) === "one" ? one : many}`;
  },
  replace: (v, [from, to]) => v.replaceAll(from!, () => to!),
  without: (v, [field], c) => withoutWordsOf(v, c.valueOf(field!)),
  ascii: (v) => anyAscii(v),
};

const formats = new Map<string, Intl.NumberFormat>();

function numberFormat(locale: string, options: Intl.NumberFormatOptions): Intl.NumberFormat {
  const key = locale + JSON.stringify(options);
  let known = formats.get(key);
  if (!known) formats.set(key, (known = new Intl.NumberFormat(locale, options)));
  return known;
}

/** The value after one filter, as plain text again. `fit` is not among them: it needs the room and is done by the line. */
export function applyFilter(name: string, value: string, args: readonly string[], context: FilterContext): string {
  const apply = Object.hasOwn(APPLY, name) ? APPLY[name] : undefined;
  return apply && value !== "" ? plainText(apply(value, args, context)) : value;
}

/** Whether the filter reads other fields of the item, so that it cannot be applied once for equal values. */
export function readsOtherFields(name: string): boolean {
  return name === "without";
}

/** @example asNumber("1,850.50") // 1850.5 */
export function asNumber(value: string): number | null {
  const match = /^[^\d+-]{0,4}([+-]?\d{1,3}(?:,\d{3})+(?:\.\d+)?|[+-]?\d+(?:\.\d+)?|[+-]?\.\d+)/.exec(value);
  return match ? Number(match[1]!.replaceAll(",", "")) : null;
}

const TRAILING = /[\s.,;:!?·•|/–—-]+$/u;

/** The text less the punctuation at its end that a cut would leave hanging. */
export function dropTrailing(text: string): string {
  return text.replace(TRAILING, "");
}

function firstWords(text: string, count: number): string {
  const words = text.split(" ");
  return words.length <= count ? text : dropTrailing(words.slice(0, count).join(" "));
}

function firstChars(text: string, count: number): string {
  if (text.length <= count) return text;
  const chars = Array.from(text);
  if (chars.length <= count) return text;
  const head = chars.slice(0, count).join("");
  const whole = chars[count] === " " ? head : head.slice(0, Math.max(0, head.lastIndexOf(" ")));
  return dropTrailing(whole);
}

const segmenters = new Map<string, Intl.Segmenter>();

function firstSentences(text: string, count: number, locale: string): string {
  let segmenter = segmenters.get(locale);
  if (!segmenter) segmenters.set(locale, (segmenter = new Intl.Segmenter(locale, { granularity: "sentence" })));
  let seen = 0;
  for (const { index, segment } of segmenter.segment(text)) {
    if (++seen === count) return text.slice(0, index + segment.length).trimEnd();
  }
  return text;
}

function withoutWordsOf(text: string, said: string): string {
  if (said === "") return text;
  const wordsOf = (t: string) => t.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  const known = new Set(wordsOf(said));
  const kept = text.split(" ").filter((word) => {
    const parts = wordsOf(word);
    return parts.length === 0 || !parts.every((part) => known.has(part));
  });
  return dropTrailing(kept.join(" ").replace(/^[\s,;:|/·•–—-]+/u, ""));
}
