import * as z from "zod";
import { charCount } from "../text/char-count";
import { type FieldFormat, type Moment, readMoment, readNumber } from "../text/figures";
import { compilePattern } from "./pattern";

/** An operator of a condition (`LINES.md`, Rules): what it takes, how it is said, and what it asks of a value. */
interface OperatorOf<V> {
  readonly takes: z.ZodType<V>;
  /** How many values a person gives it. */
  readonly values: 0 | 1 | 2 | "many";
  /** As it stands between a field's name and its value. */
  readonly label: string;
  /** As a person would say it, behind the field's name. */
  readonly said: (value: V) => string;
  /** The test that it makes of one value. */
  readonly test: (value: V, format: FieldFormat) => (own: string) => boolean;
  /** How many steps the test may take for each character of what it is asked of; 1 where it is not said. */
  readonly steps?: (value: V) => number;
}

const text = z.union([z.string().max(2000), z.number()]).transform(String);
const texts = z.array(text).min(1, { error: "the list is empty" }).max(5000);
const length = z.number().int().min(0);
const MOST_LISTED = 4;

/** A text as others are compared with it: case and spellings of one letter aside (`ß` is `ss`). */
function fold(value: string): string {
  return value.normalize("NFC").toUpperCase().toLowerCase().normalize("NFC");
}

function ofText(label: string, test: (own: string, wanted: string) => boolean): OperatorOf<string> {
  return {
    takes: text,
    values: 1,
    label,
    said: (value) => `${label} ${value}`,
    test: (value) => {
      const wanted = fold(value);
      return (own) => test(fold(own), wanted);
    },
  };
}

function ofNothing(label: string, test: (own: string) => boolean): OperatorOf<true> {
  return { takes: z.literal(true), values: 0, label, said: () => label, test: () => test };
}

function ofLength(label: string, test: (length: number, wanted: number) => boolean): OperatorOf<number> {
  return {
    takes: length,
    values: 1,
    label,
    said: (value) => `${label} ${value} characters`,
    test: (value) => (own) => test(charCount(own), value),
  };
}

/** Where a value lies against a bound: -1 before it, 0 within it, 1 behind it; `null` where it is neither number nor date as the bound is. */
type Against = (own: string) => -1 | 0 | 1 | null;

/** A day as a bound takes in the whole day, a month the whole month. */
function against(bound: string, format: FieldFormat): Against {
  const day = readMoment(bound, format.day);
  const number = readNumber(bound, format.number);
  return (own) => {
    const moment: Moment | null = day && readMoment(own, format.day);
    if (day && moment) return moment.from < day.from ? -1 : moment.from > day.to ? 1 : 0;
    const value = number === null ? null : readNumber(own, format.number);
    return value === null ? null : value < number! ? -1 : value > number! ? 1 : 0;
  };
}

function ofOrder(label: string, taken: readonly (-1 | 0 | 1)[]): OperatorOf<string> {
  return {
    takes: text,
    values: 1,
    label,
    said: (value) => `${label} ${value}`,
    test: (value, format) => {
      const where = against(value, format);
      return (own) => {
        const found = where(own);
        return found !== null && taken.includes(found);
      };
    },
  };
}

const between: OperatorOf<[string, string]> = {
  takes: z.tuple([text, text]),
  values: 2,
  label: "is between",
  said: ([low, high]) => `is between ${low} and ${high}`,
  test: ([low, high], format) => {
    const [above, below] = [against(low, format), against(high, format)];
    return (own) => (above(own) ?? -1) >= 0 && (below(own) ?? 1) <= 0;
  },
};

const isOneOf: OperatorOf<string[]> = {
  takes: texts,
  values: "many",
  label: "is one of",
  said: (list) => {
    const more = list.length > MOST_LISTED ? ` or ${list.length - MOST_LISTED + 1} others` : "";
    const shown = more ? list.slice(0, MOST_LISTED - 1) : list;
    return `is ${more ? shown.join(", ") + more : listed(shown)}`;
  },
  test: (list) => {
    const wanted = new Set(list.map(fold));
    return (own) => wanted.has(fold(own));
  },
};

const matches: OperatorOf<string> = {
  takes: z.string().max(2000),
  values: 1,
  label: "matches",
  said: (value) => `matches ${value}`,
  test: (value) => {
    const compiled = compilePattern(value, ["matches"]);
    return (own) => compiled.matcher(own).find();
  },
  steps: (value) => compilePattern(value, ["matches"]).programSize(),
};

const isUnder: OperatorOf<string> = {
  takes: text,
  values: 1,
  label: "is under",
  said: (value) => `is under ${value}`,
  test: (value) => {
    const path = fold(value).split(/\s*[›>]\s*/);
    return (own) => holdsPath(fold(own).split(" › "), path);
  },
};

export const OPERATORS = {
  is: ofText("is", (own, wanted) => own === wanted),
  "is not": ofText("is not", (own, wanted) => own !== wanted),
  contains: ofText("contains", (own, wanted) => own.includes(wanted)),
  "starts with": ofText("starts with", (own, wanted) => own.startsWith(wanted)),
  "ends with": ofText("ends with", (own, wanted) => own.endsWith(wanted)),
  matches,
  "is empty": ofNothing("is empty", (own) => own === ""),
  "is filled": ofNothing("is filled", (own) => own !== ""),
  "<": ofOrder("is below", [-1]),
  "<=": ofOrder("is at most", [-1, 0]),
  ">": ofOrder("is above", [1]),
  ">=": ofOrder("is at least", [0, 1]),
  between,
  "longer than": ofLength("is longer than", (own, wanted) => own > wanted),
  "shorter than": ofLength("is shorter than", (own, wanted) => own < wanted),
  "is one of": isOneOf,
  "is under": isUnder,
} as const;
export type Operator = keyof typeof OPERATORS;

/** An operator whose value was checked by what it takes. */
export function operatorOf(name: Operator): OperatorOf<unknown> {
  return OPERATORS[name] as unknown as OperatorOf<unknown>;
}

function holdsPath(segments: readonly string[], path: readonly string[]): boolean {
  for (let from = 0; from + path.length <= segments.length; from++)
    if (path.every((segment, i) => segments[from + i] === segment)) return true;
  return false;
}

function listed(values: readonly string[]): string {
  return values.length < 2 ? values.join("") : `${values.slice(0, -1).join(", ")} or ${values.at(-1)}`;
}
