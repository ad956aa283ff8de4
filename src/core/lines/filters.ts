import { format } from "date-fns";
import { fieldNoun } from "./fields";

/** How a site writes: what filters go by. */
export interface Writing {
  /** The site's language as a BCP 47 tag. */
  readonly locale: string;
  /** Words that keep their spelling when the case of the text around them changes. */
  readonly fixedWords: readonly string[];
}

/** A filter of the line language: what it takes and what it means. What it does is in `apply-filter`. */
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
  /** Whether it reads a number or a day: then a value that is none gives nothing. */
  readonly reads?: "number" | "day";
  /** How long a value gets, of those that can make it much longer. */
  readonly grows?: (value: string, args: readonly string[]) => number;
  /** Whether it reads other fields of the item, so that it cannot be applied once for equal values. */
  readonly readsOthers?: boolean;
}

export const FILTERS = [
  {
    name: "lower",
    args: [],
    meaning: "in lower case",
    inWords: () => "in lower case",
  },
  {
    name: "upper",
    args: [],
    meaning: "in capitals",
    inWords: () => "in capitals",
  },
  {
    name: "title",
    args: [],
    meaning: "each word with a capital",
    inWords: () => "each word with a capital",
  },
  {
    name: "sentence",
    args: [],
    meaning: "a capital at the start, the rest in lower case",
    inWords: () => "with one capital, at its start",
  },
  {
    name: "calm",
    args: [],
    meaning: "in sentence case where it is all in capitals",
    inWords: () => "in sentence case where it is all in capitals",
  },
  {
    name: "words",
    args: ["whole number"],
    meaning: "at most so many words",
    inWords: ([n]) => `at most ${n} ${n === "1" ? "word" : "words"}`,
  },
  {
    name: "chars",
    args: ["whole number"],
    meaning: "at most so many characters, whole words only",
    inWords: ([n]) => `at most ${n} ${n === "1" ? "character" : "characters"}`,
  },
  {
    name: "first",
    args: [],
    meaning: "the first sentence",
    inWords: () => "its first sentence",
  },
  {
    name: "sentences",
    args: ["whole number"],
    meaning: "the first so many sentences",
    inWords: ([n]) => (n === "1" ? "its first sentence" : `its first ${n} sentences`),
  },
  {
    name: "number",
    args: ["whole number"],
    optional: 1,
    meaning: "as a number with so many decimals",
    inWords: ([n]) => (n === undefined ? "as a number" : `as a number with ${n} ${n === "1" ? "decimal" : "decimals"}`),
    reads: "number",
  },
  {
    name: "money",
    args: ["currency"],
    meaning: "as an amount of money",
    inWords: ([currency]) => `as money in ${currency!.toUpperCase()}`,
    reads: "number",
  },
  {
    name: "date",
    args: ["date pattern"],
    meaning: "as a date",
    inWords: ([pattern]) => `as a date, “${pattern}”`,
    reads: "day",
  },
  {
    name: "plural",
    args: ["text", "text"],
    meaning: "the number and its noun",
    inWords: ([one, many]) => `counted: “${one}” or “${many}”`,
    reads: "number",
  },
  {
    name: "replace",
    args: ["text", "text"],
    meaning: "with one text put for another",
    inWords: ([from, to]) => `“${to}” put for “${from}”`,
    grows: (v, [from, to]) => v.length + (v.split(from!).length - 1) * (to!.length - from!.length),
  },
  {
    name: "without",
    args: ["field"],
    meaning: "less the words that a field already says",
    inWords: ([field]) => `less what the ${fieldNoun(field!)} says`,
    readsOthers: true,
  },
  {
    name: "ascii",
    args: [],
    meaning: "in plain Latin letters",
    inWords: () => "in plain Latin letters",
  },
  {
    name: "fit",
    args: [],
    meaning: "as many whole words as there is room for",
    inWords: () => "as much of it as there is room for",
  },
] as const satisfies readonly Filter[];

/** The name of a filter. */
export type FilterName = (typeof FILTERS)[number]["name"];

const BY_NAME: ReadonlyMap<string, Filter> = new Map(FILTERS.map((filter) => [filter.name, filter]));

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

/** So many characters a value may come to by filters, or twice as many as it had. */
export const MOST_CHARACTERS = 10_000;

/** Whether the filter reads other fields of the item, so that it cannot be applied once for equal values. */
export function readsOtherFields(name: string): boolean {
  return filterByName(name)?.readsOthers === true;
}
