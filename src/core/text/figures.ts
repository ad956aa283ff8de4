/** How a column writes numbers: which sign parts the decimals. Only `1.234` and `1,234` need to be told. */
export const NUMBER_FORMATS = ["point", "comma"] as const;
export type NumberFormat = (typeof NUMBER_FORMATS)[number];

/** How a column writes days: which comes first. `2024-12-31` is read in any case. */
export const DAY_FORMATS = ["day-first", "month-first"] as const;
export type DayFormat = (typeof DAY_FORMATS)[number];

/** How the figures of a field are written in the files that it came from. */
export interface FieldFormat {
  readonly number?: NumberFormat | undefined;
  readonly day?: DayFormat | undefined;
}

/** A figure with at most a sign or a unit around it: no other digit may stand before or after. */
const FIGURE = /^([^\d.,+−-]{0,8})([+−-]?)([\d.,'’ \u00a0\u2009\u202f]*\d|\d)([^\d]{0,24})$/u;
const GROUPED = (separator: string) => new RegExp(`^\\d{1,3}(?:${separator}\\d{3})+$`);
const POINT_GROUPS = GROUPED("\\.");
const COMMA_GROUPS = GROUPED(",");
const SPACE_GROUPS = GROUPED("['’ \\u00a0\\u2009\\u202f]");

/**
 * The number that a text is, with a currency or a unit around it if need be; `null` for what is none, a date or a range among them.
 *
 * @param format tells what `1.234` is; without it a comma parts thousands.
 * @example readNumber("1.011,50 €") // 1011.5
 * @example readNumber("31/12/2024") // null
 */
export function readNumber(text: string, format?: NumberFormat): number | null {
  const match = FIGURE.exec(text.trim());
  if (!match) return null;
  const [, , sign, body] = match as unknown as [string, string, string, string];
  const plain = plainFigure(body, format ?? "point");
  return plain === null ? null : Number(`${sign === "−" ? "-" : sign}${plain}`);
}

/** A figure as a number is written in code, `null` where its signs stand where none can. */
function plainFigure(body: string, format: NumberFormat): string | null {
  const last = Math.max(body.lastIndexOf("."), body.lastIndexOf(","));
  if (last < 0) return wholePart(body, null);
  const sign = body[last]!;
  const other = sign === "." ? "," : ".";
  const decimals = body.slice(last + 1);
  const whole = body.slice(0, last);
  if (!/^\d+$/.test(decimals)) return null;
  const isOnly = !whole.includes(sign);
  const isAmbiguous = isOnly && !whole.includes(other) && decimals.length === 3 && /^[1-9]\d{0,2}$/.test(whole);
  const isDecimal = isAmbiguous ? (format === "comma") === (sign === ",") : isOnly;
  if (!isDecimal) return wholePart(body, sign);
  const before = whole === "" ? "0" : wholePart(whole, whole.includes(other) ? other : null);
  return before === null ? null : `${before}.${decimals}`;
}

/** A whole number whose thousands may be parted, by that sign or by spaces. */
function wholePart(text: string, sign: string | null): string | null {
  if (/^\d+$/.test(text)) return text;
  const groups = sign === "." ? POINT_GROUPS : sign === "," ? COMMA_GROUPS : SPACE_GROUPS;
  return groups.test(text) ? text.replace(/\D/g, "") : null;
}

/** A moment or a whole day: from when to when it lasts, in ms since 1970 (UTC where the text names no zone). */
export interface Moment {
  readonly from: number;
  /** The last ms of it. */
  readonly to: number;
}

const DAY = 86_400_000;
const ISO = /^(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2})(?::(\d{2})(?:[.,](\d{1,9}))?)?\s*(Z|[+-]\d{2}:?\d{2})?)?$/i;
const MONTH = /^(\d{4})-(\d{2})$/;
const COMPACT = /^(\d{4})(\d{2})(\d{2})$/;
const WRITTEN = /^(\d{1,2})([./-])(\d{1,2})\2(\d{4}|\d{2})(?:,?\s+(\d{1,2}):(\d{2})(?::(\d{2}))?)?$/;

/**
 * The day or the moment that a text is, `null` for what is none.
 *
 * @param format tells what `3/4/2024` is; without it the day comes first.
 * @example readMoment("31.12.2024") // the whole day
 */
export function readMoment(text: string, format?: DayFormat): Moment | null {
  const own = text.trim();
  const iso = ISO.exec(own);
  if (iso) {
    const [, year, month, day, hour, minute, second = "0", fraction = "0", zone] = iso;
    return moment(
      [year, month, day],
      hour === undefined ? null : [hour, minute!, second],
      Number(`0.${fraction}`),
      zone,
    );
  }
  const whole = MONTH.exec(own);
  if (whole) return wholeMonth(Number(whole[1]), Number(whole[2]));
  const compact = COMPACT.exec(own);
  if (compact) return moment(compact.slice(1, 4), null);
  const written = WRITTEN.exec(own);
  if (!written) return null;
  const [, first, sign, second, year, hour, minute, seconds = "0"] = written as unknown as string[];
  const isMonthFirst = sign !== "." && (Number(second) > 12 || (format === "month-first" && Number(first) <= 12));
  const [day, month] = isMonthFirst ? [second, first] : [first, second];
  const fullYear = year!.length === 2 ? (Number(year) < 70 ? `20${year}` : `19${year}`) : year;
  return moment([fullYear, month, day], hour === undefined ? null : [hour, minute!, seconds]);
}

function wholeMonth(year: number, month: number): Moment | null {
  return month < 1 || month > 12 ? null : { from: Date.UTC(year, month - 1), to: Date.UTC(year, month) - 1 };
}

function moment(
  [year, month, day]: readonly (string | undefined)[],
  time: readonly string[] | null,
  fraction = 0,
  zone?: string,
): Moment | null {
  const start = Date.UTC(Number(year), Number(month) - 1, Number(day));
  const made = new Date(start);
  if (made.getUTCMonth() !== Number(month) - 1 || made.getUTCDate() !== Number(day)) return null;
  if (!time) return { from: start, to: start + DAY - 1 };
  const [hour, minute, second] = time.map(Number) as [number, number, number];
  if (hour > 24 || minute > 59 || second > 60) return null;
  const at = start + ((hour * 60 + minute) * 60 + second + fraction) * 1000 - offsetOf(zone);
  return { from: Math.floor(at), to: Math.floor(at) };
}

/** What a zone is ahead of UTC, in ms. @example offsetOf("+02:00") // 7200000 */
function offsetOf(zone: string | undefined): number {
  const match = /^([+-])(\d{2}):?(\d{2})$/.exec(zone ?? "");
  if (!match) return 0;
  return (match[1] === "-" ? -1 : 1) * (Number(match[2]) * 60 + Number(match[3])) * 60_000;
}

/** What a column's values look like: numbers, days or neither, and how they are written. */
export interface FormatGuess {
  readonly type: "number" | "day";
  readonly format: NumberFormat | DayFormat;
  /** Whether some value can be read in this way only. */
  readonly isSure: boolean;
  /** Values that would be another in the other format, else the first ones. */
  readonly examples: readonly string[];
  /** Values that are neither number nor day. */
  readonly unread: number;
}

const MOST_EXAMPLES = 3;
/** At least so much of a column's values has to be numbers, or days, for it to be taken as such. */
const MOSTLY = 0.8;

/**
 * How a column's values are written; `null` where they are no figures.
 *
 * @param language a BCP 47 tag: how figures are written where the values do not tell.
 */
export function guessFormat(values: Iterable<string>, language: string): FormatGuess | null {
  const filled = [...values].map((value) => value.trim()).filter((value) => value !== "");
  if (filled.length === 0) return null;
  const days = filled.filter((value) => readMoment(value) ?? readMoment(value, "month-first"));
  if (days.length >= filled.length * MOSTLY) {
    const isWritten = (value: string) => WRITTEN.test(value);
    if (!days.some(isWritten)) return null;
    return guessed(
      "day",
      filled,
      (value, format) => readMoment(value, format as DayFormat)?.from ?? null,
      DAY_FORMATS,
      {
        usual: /^en-us$/i.test(language) ? "month-first" : "day-first",
      },
    );
  }
  const numbers = filled.filter((value) => readNumber(value) !== null);
  if (numbers.length < filled.length * MOSTLY || !numbers.some((value) => /[.,]/.test(value))) return null;
  const usual = new Intl.NumberFormat(language).format(1.5).includes(",") ? "comma" : "point";
  return guessed("number", filled, (value, format) => readNumber(value, format as NumberFormat), NUMBER_FORMATS, {
    usual,
  });
}

function guessed<F extends NumberFormat | DayFormat>(
  type: FormatGuess["type"],
  values: readonly string[],
  read: (value: string, format: F) => number | null,
  formats: readonly [F, F],
  { usual }: { usual: F },
): FormatGuess {
  const votes = new Map<F, number>(
    formats.map((format) => [format, values.filter((value) => speaksFor(value, type) === format).length]),
  );
  const [one, two] = formats;
  const isSure = votes.get(one) !== votes.get(two);
  const format = isSure ? (votes.get(one)! > votes.get(two)! ? one : two) : usual;
  const telling = values.filter((value) => read(value, one) !== read(value, two));
  return {
    type,
    format,
    isSure,
    examples: [...new Set(telling.length > 0 ? telling : values)].slice(0, MOST_EXAMPLES),
    unread: values.filter((value) => read(value, format) === null).length,
  };
}

/** The format that a value can be written in only, `null` where it is the same or readable in both. */
function speaksFor(value: string, type: FormatGuess["type"]): NumberFormat | DayFormat | null {
  if (type === "day") {
    const [, first, sign, second] = WRITTEN.exec(value) ?? [];
    if (first === undefined || sign === ".") return first === undefined ? null : "day-first";
    return Number(first) > 12 ? "day-first" : Number(second) > 12 ? "month-first" : null;
  }
  const figure = value.replace(/[^\d.,]/g, "");
  const [point, comma] = [figure.lastIndexOf("."), figure.lastIndexOf(",")];
  if (point >= 0 && comma >= 0) return point > comma ? "point" : "comma";
  const sign = point >= 0 ? "." : comma >= 0 ? "," : null;
  if (sign === null) return null;
  const parts = figure.split(sign);
  if (parts.length > 2) return sign === "." ? "comma" : "point";
  const isDecimal = parts[1]!.length !== 3 || parts[0] === "0" || parts[0] === "" || parts[0]!.length > 3;
  return isDecimal ? (sign === "." ? "point" : "comma") : null;
}
