import * as z from "zod";
import { charCount } from "../text/char-count";
import { type FieldFormat, type Moment, readMoment, readNumber } from "../text/figures";
import { type Operator } from "./operator-words";
import { compilePattern } from "./pattern";

/** An operator of a condition (`LINES.md`, Rules): what it takes, and what it asks of a value. How it is said stands in `operator-words`. */
interface OperatorOf<V> {
  readonly takes: z.ZodType<V>;
  /** The test that it makes of one value. */
  readonly test: (value: V, format: FieldFormat) => (own: string) => boolean;
  /** How many steps the test may take for each character of what it is asked of; 1 where it is not said. */
  readonly steps?: (value: V) => number;
}

const text = z.union([z.string().max(2000), z.number()]).transform(String);
const texts = z.array(text).min(1, { error: "the list is empty" }).max(5000);
const length = z.number().int().min(0);

/** A text as others are compared with it: case and spellings of one letter aside (`ß` is `ss`). */
function fold(value: string): string {
  return value.normalize("NFC").toUpperCase().toLowerCase().normalize("NFC");
}

function ofText(test: (own: string, wanted: string) => boolean): OperatorOf<string> {
  return {
    takes: text,
    test: (value) => {
      const wanted = fold(value);
      return (own) => test(fold(own), wanted);
    },
  };
}

function ofNothing(test: (own: string) => boolean): OperatorOf<true> {
  return { takes: z.literal(true), test: () => test };
}

function ofLength(test: (length: number, wanted: number) => boolean): OperatorOf<number> {
  return {
    takes: length,
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

function ofOrder(taken: readonly (-1 | 0 | 1)[]): OperatorOf<string> {
  return {
    takes: text,
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
  test: ([low, high], format) => {
    const [above, below] = [against(low, format), against(high, format)];
    return (own) => (above(own) ?? -1) >= 0 && (below(own) ?? 1) <= 0;
  },
};

const isOneOf: OperatorOf<string[]> = {
  takes: texts,
  test: (list) => {
    const wanted = new Set(list.map(fold));
    return (own) => wanted.has(fold(own));
  },
};

const matches: OperatorOf<string> = {
  takes: z.string().max(2000),
  test: (value) => {
    const compiled = compilePattern(value, ["matches"]);
    return (own) => compiled.matcher(own).find();
  },
  steps: (value) => compilePattern(value, ["matches"]).programSize(),
};

const isUnder: OperatorOf<string> = {
  takes: text,
  test: (value) => {
    const path = fold(value).split(/\s*[›>]\s*/);
    return (own) => holdsPath(fold(own).split(" › "), path);
  },
};

export const OPERATORS = {
  is: ofText((own, wanted) => own === wanted),
  "is not": ofText((own, wanted) => own !== wanted),
  contains: ofText((own, wanted) => own.includes(wanted)),
  "starts with": ofText((own, wanted) => own.startsWith(wanted)),
  "ends with": ofText((own, wanted) => own.endsWith(wanted)),
  matches,
  "is empty": ofNothing((own) => own === ""),
  "is filled": ofNothing((own) => own !== ""),
  "<": ofOrder([-1]),
  "<=": ofOrder([-1, 0]),
  ">": ofOrder([1]),
  ">=": ofOrder([0, 1]),
  between,
  "longer than": ofLength((own, wanted) => own > wanted),
  "shorter than": ofLength((own, wanted) => own < wanted),
  "is one of": isOneOf,
  "is under": isUnder,
} as const satisfies Readonly<Record<Operator, unknown>>;

/** An operator whose value was checked by what it takes. */
export function operatorOf(name: Operator): OperatorOf<unknown> {
  return OPERATORS[name] as unknown as OperatorOf<unknown>;
}

function holdsPath(segments: readonly string[], path: readonly string[]): boolean {
  for (let from = 0; from + path.length <= segments.length; from++)
    if (path.every((segment, i) => segments[from + i] === segment)) return true;
  return false;
}
