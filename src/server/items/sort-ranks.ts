import { type Column } from "../../core/proof/items";
import { type FieldFormat, readMoment, readNumber } from "../../core/text/figures";
import { ObjectNumbers, Remembered } from "../workspace/remembered";

/** So many fields' orders are remembered. */
const MOST_KNOWN = 12;

/** A field of a kind's pages: its values, and how it writes figures. */
export interface SortedField extends Column {
  readonly format: FieldFormat;
}

/** The orders of fields' values, remembered as long as the values, and what they are read as, are the same. */
export class SortRanks {
  private readonly ranks = new Remembered<readonly Int32Array[]>(MOST_KNOWN);
  private readonly numbers = new ObjectNumbers();

  /** For each field the rank of each code: see {@link valueRanks}. */
  of(fields: readonly SortedField[]): readonly Int32Array[] {
    const key = fields.map(({ table, format }) => `${this.numbers.of(table)} ${formatKey(format)}`).join(", ");
    return this.ranks.get(key, () => valueRanks(fields));
  }
}

/** At least so much of a field's values has to be numbers, or days, for them to be put in order as such. */
const MOSTLY = 0.8;

interface SortedValue {
  readonly value: string;
  readonly format: FieldFormat;
}

/**
 * The place of each value of a field among all its values over several kinds: numbers by what they are worth, days by when they are,
 * and what is neither behind them; words without regard to case and accents, numbers in them by what they are worth. Empty
 * values come last.
 *
 * @returns for each field the rank of each code.
 */
export function valueRanks(fields: readonly SortedField[]): readonly Int32Array[] {
  const distinct = new Map<string, SortedValue>();
  for (const { table, format } of fields)
    for (const value of table.values) if (value !== "") distinct.set(valueKey(value, format), { value, format });
  const values = [...distinct.values()];
  const rankOf = new Map<string, number>();
  for (const place of orderOf(values)) rankOf.set(valueKey(values[place]!.value, values[place]!.format), rankOf.size);
  return fields.map(({ table, format }) =>
    Int32Array.from(table.values, (value) => (value === "" ? values.length : rankOf.get(valueKey(value, format))!)),
  );
}

function orderOf(values: readonly SortedValue[]): number[] {
  const asNumbers = values.map(({ value, format }) => readNumber(value, format.number));
  const asDays = values.map(({ value, format }) => readMoment(value, format.day)?.from ?? null);
  const isMostly = (read: readonly (number | null)[]) =>
    values.length > 0 && read.filter((own) => own !== null).length >= values.length * MOSTLY;
  const worth = isMostly(asDays) ? asDays : isMostly(asNumbers) ? asNumbers : null;
  const places = values.map((_, place) => place);
  const others = worth ? places.filter((place) => worth[place] === null) : places;
  const words = others
    .map((place) => `${sortKey(values[place]!.value)}\u0000${place}`)
    .sort()
    .map((key) => Number(key.slice(key.lastIndexOf("\u0000") + 1)));
  if (!worth) return words;
  const counted = places.filter((place) => worth[place] !== null).sort((a, b) => worth[a]! - worth[b]!);
  return [...counted, ...words];
}

const formatKey = (format: FieldFormat) => `${format.number ?? ""}/${format.day ?? ""}`;
const valueKey = (value: string, format: FieldFormat) => `${formatKey(format)}\u0000${value}`;

/**
 * What words are put in order by: without regard to case and accents, numbers in them by what they are worth.
 *
 * @example sortKey("Écluse 7") // "ecluse 000000000007"
 */
export function sortKey(value: string): string {
  const folded = /^[\x00-\x7f]*$/.test(value)
    ? value.toLowerCase()
    : value.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase();
  return /\d/.test(folded) ? folded.replace(/\d+/g, (digits) => digits.padStart(12, "0")) : folded;
}

/**
 * Rows in the order of their keys, those with the same key in the order of the rows.
 *
 * @param keys whole numbers from 0 to 2³¹, by row.
 */
export function byKeys(rows: Int32Array, keys: Float64Array, down: boolean): Int32Array {
  // One number holds key and place, so that the engine's own sort of numbers can be used: a comparison function is many times slower.
  const SPAN = 2 ** 22;
  const packed = new Float64Array(rows.length);
  for (let i = 0; i < rows.length; i++) packed[i] = (down ? -keys[rows[i]!]! : keys[rows[i]!]!) * SPAN + i;
  packed.sort();
  return Int32Array.from(packed, (value) => rows[value - Math.floor(value / SPAN) * SPAN]!);
}
