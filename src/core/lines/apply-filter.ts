import { format } from "date-fns";
import anyAscii from "any-ascii";
import { dateLocale } from "../text/date-locales";
import { goesOn } from "../text/abbreviations";
import { type FieldFormat, readMoment, readNumber } from "../text/figures";
import { endOfCut, endsOfRest } from "../text/ends";
import { foldedSpaces } from "../text/plain";
import { filterByName, type FilterName, MOST_CHARACTERS, type Writing } from "./filters";

/** What a filter needs to know besides the value. */
export interface FilterContext extends Writing {
  /** How the value's field writes figures. */
  readonly format: FieldFormat;
  /** The value of another field of the same item, as plain text. */
  readonly valueOf: (field: string) => string;
}

type Apply = (value: string, args: readonly string[], context: FilterContext) => string;

/** A value after each filter; `null` for the one that the line itself does, since it needs the room. */
const APPLY: Readonly<Record<FilterName, Apply | null>> = {
  lower: (v, _, c) => v.toLocaleLowerCase(c.locale),
  upper: (v, _, c) => v.toLocaleUpperCase(c.locale),
  title: (v, _, c) =>
    v.replace(
      /(^|[\s(“"‘/–—])(\p{L})/gu,
      (_all, before: string, letter: string) => before + letter.toLocaleUpperCase(c.locale),
    ),
  sentence: (v, _, c) => inSentenceCase(v, c),
  calm: (v, _, c) => (isShouted(v) ? inSentenceCase(v, c) : v),
  words: (v, [n]) => firstWords(v, Number(n)),
  chars: (v, [n]) => firstChars(v, Number(n)),
  first: (v, _, c) => firstSentences(v, 1, c.locale),
  sentences: (v, [n], c) => firstSentences(v, Number(n), c.locale),
  number: (v, [decimals], c) => {
    const digits = decimals === undefined ? undefined : Number(decimals);
    const options = { minimumFractionDigits: digits, maximumFractionDigits: digits ?? 6 };
    return numberWritten(v, c, options);
  },
  money: (v, [currency], c) => numberWritten(v, c, { style: "currency", currency: currency!.toUpperCase() }),
  date: (v, [pattern], c) => {
    const moment = readMoment(v, c.format.day);
    return moment ? format(localTime(moment.from), pattern!, { locale: dateLocale(c.locale) }) : "";
  },
  plural: (v, [one, many], c) => {
    const number = readNumber(v, c.format.number);
    if (number === null) return "";
    return `${v} ${pluralRules(c.locale).select(number) === "one" ? one : many}`;
  },
  replace: (v, [from, to]) => v.replaceAll(from!, () => to!),
  without: (v, [field], c) => withoutWordsOf(v, c.valueOf(field!)),
  ascii: (v) => anyAscii(v),
  fit: null,
};

/** A plain value after one filter, its white space folded; what looks like a tag or an entity in it is text. `fit` is not among them: it needs the room and is done by the line. */
export function applyFilter(
  name: string,
  value: string,
  args: readonly string[],
  context: FilterContext,
  most = MOST_CHARACTERS,
): string {
  const filter = filterByName(name);
  const apply = filter && APPLY[filter.name as FilterName];
  if (!apply || value === "") return value;
  if (filter.grows && filter.grows(value, args) > most) return "";
  return foldedSpaces(apply(value, args, context));
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
  const language = locale.toLowerCase().split("-")[0]!;
  const plain = count === 1 ? plainSentenceEnd(text) : 0;
  if (plain > 0 && !goesOn(text.slice(0, plain), text.slice(plain, plain + 2), language))
    return text.slice(0, plain).trimEnd();
  let segmenter = segmenters.get(locale);
  if (!segmenter) segmenters.set(locale, (segmenter = new Intl.Segmenter(locale, { granularity: "sentence" })));
  let seen = 0;
  let from = 0;
  for (const { index } of segmenter.segment(text)) {
    if (index === 0 || goesOn(text.slice(from, index), text.slice(index, index + 2), language)) continue;
    if (++seen === count) return text.slice(0, index).trimEnd();
    from = index;
  }
  return text;
}

/** What can end a sentence: Unicode Standard Annex 29, SATerm and ParaSep. */
const SENTENCE_END = /[.?!\n\r\u0085\u2024\u2028\u2029\ufe52\uff0e\p{Sentence_Terminal}]/u;

/**
 * Where a text's second sentence begins, as far as that is told at a glance: behind the first mark that can end one, where
 * a small letter stands before it, and a space and a capital behind it. 0 where only a segmenter can tell.
 */
function plainSentenceEnd(text: string): number {
  const at = text.search(SENTENCE_END);
  if (at < 0 || at === text.length - 1) return text.length;
  const isPlain = SMALL.test(text.charAt(at - 1)) && text.charAt(at + 1) === " " && CAPITAL.test(text.charAt(at + 2));
  return isPlain && /[.?!]/.test(text.charAt(at)) ? at + 2 : 0;
}

const SMALL = /[a-z]/;
const CAPITAL = /[A-Z]/;

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
