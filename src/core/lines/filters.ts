import { format } from "date-fns";
import anyAscii from "any-ascii";
import { dateLocale } from "../text/date-locales";
import { goesOn } from "../text/abbreviations";
import { type FieldFormat, readMoment, readNumber } from "../text/figures";
import { endOfCut, endsOfRest } from "../text/ends";
import { foldedSpaces } from "../text/plain";
import { fieldNoun } from "./fields";

/** How a site writes: what filters go by. */
export interface Writing {
  /** The site's language as a BCP 47 tag. */
  readonly locale: string;
  /** Words that keep their spelling when the case of the text around them changes. */
  readonly fixedWords: readonly string[];
}

/** What a filter needs to know besides the value. */
export interface FilterContext extends Writing {
  /** How the value's field writes figures. */
  readonly format: FieldFormat;
  /** The value of another field of the same item, as plain text. */
  readonly valueOf: (field: string) => string;
}

/** A filter of the line language: what it takes, what it means and what it does. */
export interface Filter {
  readonly name: string;
  /** What each argument is. */
  readonly args: readonly ("whole number" | "text" | "field" | "date pattern" | "currency")[];
  /** How many of the arguments, from the right, may be left out. */
  readonly optional?: number;
  /** For the list of filters. */
  readonly meaning: string;
  /** What it says in the reading of a line, behind the field's name. */
  readonly inWords: (args: readonly string[]) => string;
  /** The value after it; `null` for the one that the line itself does, since it needs the room. */
  readonly apply: ((value: string, args: readonly string[], context: FilterContext) => string) | null;
  /** Whether it reads a number or a day: then a value that is none gives nothing. */
  readonly reads?: "number" | "day";
  /** How long a value gets, of those that can make it much longer. */
  readonly grows?: (value: string, args: readonly string[]) => number;
  /** Whether it reads other fields of the item, so that it cannot be applied once for equal values. */
  readonly readsOthers?: boolean;
}

export const FILTERS: readonly Filter[] = [
  {
    name: "lower",
    args: [],
    meaning: "in lower case",
    inWords: () => "in lower case",
    apply: (v, _, c) => v.toLocaleLowerCase(c.locale),
  },
  {
    name: "upper",
    args: [],
    meaning: "in capitals",
    inWords: () => "in capitals",
    apply: (v, _, c) => v.toLocaleUpperCase(c.locale),
  },
  {
    name: "title",
    args: [],
    meaning: "each word with a capital",
    inWords: () => "each word with a capital",
    apply: (v, _, c) =>
      v.replace(
        /(^|[\s(“"‘/–—])(\p{L})/gu,
        (_all, before: string, letter: string) => before + letter.toLocaleUpperCase(c.locale),
      ),
  },
  {
    name: "sentence",
    args: [],
    meaning: "a capital at the start, the rest in lower case",
    inWords: () => "with one capital, at its start",
    apply: (v, _, c) => inSentenceCase(v, c),
  },
  {
    name: "calm",
    args: [],
    meaning: "in sentence case where it is all in capitals",
    inWords: () => "in sentence case where it is all in capitals",
    apply: (v, _, c) => (isShouted(v) ? inSentenceCase(v, c) : v),
  },
  {
    name: "words",
    args: ["whole number"],
    meaning: "at most so many words",
    inWords: ([n]) => `at most ${n} ${n === "1" ? "word" : "words"}`,
    apply: (v, [n]) => firstWords(v, Number(n)),
  },
  {
    name: "chars",
    args: ["whole number"],
    meaning: "at most so many characters, whole words only",
    inWords: ([n]) => `at most ${n} ${n === "1" ? "character" : "characters"}`,
    apply: (v, [n]) => firstChars(v, Number(n)),
  },
  {
    name: "first",
    args: [],
    meaning: "the first sentence",
    inWords: () => "its first sentence",
    apply: (v, _, c) => firstSentences(v, 1, c.locale),
  },
  {
    name: "sentences",
    args: ["whole number"],
    meaning: "the first so many sentences",
    inWords: ([n]) => (n === "1" ? "its first sentence" : `its first ${n} sentences`),
    apply: (v, [n], c) => firstSentences(v, Number(n), c.locale),
  },
  {
    name: "number",
    args: ["whole number"],
    optional: 1,
    meaning: "as a number with so many decimals",
    inWords: ([n]) => (n === undefined ? "as a number" : `as a number with ${n} ${n === "1" ? "decimal" : "decimals"}`),
    apply: (v, [decimals], c) => {
      const digits = decimals === undefined ? undefined : Number(decimals);
      const options = { minimumFractionDigits: digits, maximumFractionDigits: digits ?? 6 };
      return numberWritten(v, c, options);
    },
    reads: "number",
  },
  {
    name: "money",
    args: ["currency"],
    meaning: "as an amount of money",
    inWords: ([currency]) => `as money in ${currency!.toUpperCase()}`,
    apply: (v, [currency], c) => numberWritten(v, c, { style: "currency", currency: currency!.toUpperCase() }),
    reads: "number",
  },
  {
    name: "date",
    args: ["date pattern"],
    meaning: "as a date",
    inWords: ([pattern]) => `as a date, “${pattern}”`,
    apply: (v, [pattern], c) => {
      const moment = readMoment(v, c.format.day);
      return moment ? format(localTime(moment.from), pattern!, { locale: dateLocale(c.locale) }) : "";
    },
    reads: "day",
  },
  {
    name: "plural",
    args: ["text", "text"],
    meaning: "the number and its noun",
    inWords: ([one, many]) => `counted: “${one}” or “${many}”`,
    apply: (v, [one, many], c) => {
      const number = readNumber(v, c.format.number);
      if (number === null) return "";
      return `${v} ${pluralRules(c.locale).select(number) === "one" ? one : many}`;
    },
    reads: "number",
  },
  {
    name: "replace",
    args: ["text", "text"],
    meaning: "with one text put for another",
    inWords: ([from, to]) => `“${to}” put for “${from}”`,
    apply: (v, [from, to]) => v.replaceAll(from!, () => to!),
    grows: (v, [from, to]) => v.length + (v.split(from!).length - 1) * (to!.length - from!.length),
  },
  {
    name: "without",
    args: ["field"],
    meaning: "less the words that a field already says",
    inWords: ([field]) => `less what the ${fieldNoun(field!)} says`,
    apply: (v, [field], c) => withoutWordsOf(v, c.valueOf(field!)),
    readsOthers: true,
  },
  {
    name: "ascii",
    args: [],
    meaning: "in plain Latin letters",
    inWords: () => "in plain Latin letters",
    apply: (v) => anyAscii(v),
  },
  {
    name: "fit",
    args: [],
    meaning: "as many whole words as there is room for",
    inWords: () => "as much of it as there is room for",
    apply: null,
  },
];

const BY_NAME = new Map(FILTERS.map((filter) => [filter.name, filter]));

/** The filter, or `undefined` for a name that is none. */
export function filterByName(name: string): Filter | undefined {
  return BY_NAME.get(name);
}

/** What is wrong with a filter's arguments, in words, or `null`. */
export function argumentError(filter: Filter, args: readonly string[]): string | null {
  const least = filter.args.length - (filter.optional ?? 0);
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

const formats = new Map<string, Intl.NumberFormat>();

function numberFormat(locale: string, options: Intl.NumberFormatOptions): Intl.NumberFormat {
  const key = locale + JSON.stringify(options);
  let known = formats.get(key);
  if (!known) formats.set(key, (known = new Intl.NumberFormat(locale, options)));
  return known;
}

function numberWritten(value: string, context: FilterContext, options: Intl.NumberFormatOptions): string {
  const number = readNumber(value, context.format.number);
  return number === null ? "" : numberFormat(context.locale, options).format(number);
}

const rules = new Map<string, Intl.PluralRules>();

function pluralRules(locale: string): Intl.PluralRules {
  let known = rules.get(locale);
  if (!known) rules.set(locale, (known = new Intl.PluralRules(locale)));
  return known;
}

/** The time of the machine's own zone that reads as a moment does in UTC: days are the same wherever the machine is. */
function localTime(ms: number): Date {
  const utc = new Date(ms);
  return new Date(
    utc.getUTCFullYear(),
    utc.getUTCMonth(),
    utc.getUTCDate(),
    utc.getUTCHours(),
    utc.getUTCMinutes(),
    utc.getUTCSeconds(),
  );
}

/** Whether every letter that has a case is a capital, and there are several of them. */
function isShouted(text: string): boolean {
  return (text.match(/\p{Lu}/gu)?.length ?? 0) > 1 && !/\p{Ll}/u.test(text);
}

/** A capital at the start, the rest in lower case, but for the words that keep their spelling. */
function inSentenceCase(text: string, { locale, fixedWords }: Writing): string {
  const lower = text.toLocaleLowerCase(locale).replace(/\p{L}/u, (letter) => letter.toLocaleUpperCase(locale));
  return fixedWords.length === 0 ? lower : withFixedWords(lower, fixedWords);
}

function withFixedWords(text: string, words: readonly string[]): string {
  const spelling = new Map(words.map((word) => [word.toLowerCase(), word]));
  return text.replace(/[\p{L}\p{N}]+(?:['’][\p{L}]+)?/gu, (word) => spelling.get(word.toLowerCase()) ?? word);
}

/** So many characters a value may come to by filters, or twice as many as it had. */
export const MOST_CHARACTERS = 10_000;

/** A plain value after one filter, its white space folded; what looks like a tag or an entity in it is text. `fit` is not among them: it needs the room and is done by the line. */
export function applyFilter(
  name: string,
  value: string,
  args: readonly string[],
  context: FilterContext,
  most = MOST_CHARACTERS,
): string {
  const filter = filterByName(name);
  const apply = filter?.apply;
  if (!apply || value === "") return value;
  if (filter.grows && filter.grows(value, args) > most) return "";
  return foldedSpaces(apply(value, args, context));
}

/** Whether the filter reads other fields of the item, so that it cannot be applied once for equal values. */
export function readsOtherFields(name: string): boolean {
  return filterByName(name)?.readsOthers === true;
}

function firstWords(text: string, count: number): string {
  const words = text.split(" ");
  return words.length <= count ? text : endOfCut(words.slice(0, count).join(" "));
}

function firstChars(text: string, count: number): string {
  if (text.length <= count) return text;
  const chars = Array.from(text);
  if (chars.length <= count) return text;
  const head = chars.slice(0, count).join("");
  const whole = chars[count] === " " ? head : head.slice(0, Math.max(0, head.lastIndexOf(" ")));
  return endOfCut(whole);
}

const segmenters = new Map<string, Intl.Segmenter>();

function firstSentences(text: string, count: number, locale: string): string {
  let segmenter = segmenters.get(locale);
  if (!segmenter) segmenters.set(locale, (segmenter = new Intl.Segmenter(locale, { granularity: "sentence" })));
  const language = locale.toLowerCase().split("-")[0]!;
  let seen = 0;
  let from = 0;
  for (const { index } of segmenter.segment(text)) {
    if (index === 0 || goesOn(text.slice(from, index), text.slice(index, index + 2), language)) continue;
    if (++seen === count) return text.slice(0, index).trimEnd();
    from = index;
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
  return endsOfRest(kept.join(" "));
}
