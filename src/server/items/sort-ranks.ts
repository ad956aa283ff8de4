import { asNumber } from "../../core/lines/filters";
import { type Column } from "../../core/proof/items";
import { ObjectNumbers, Remembered } from "../workspace/remembered";

/** So many fields' orders are remembered. */
const MOST_KNOWN = 12;

/** The orders of fields' values, remembered as long as the values are the same. */
export class SortRanks {
  private readonly ranks = new Remembered<readonly Int32Array[]>(MOST_KNOWN);
  private readonly numbers = new ObjectNumbers();

  /** For each column the rank of each code: see {@link valueRanks}. */
  of(columns: readonly Column[]): readonly Int32Array[] {
    return this.ranks.get(columns.map(({ table }) => this.numbers.of(table)).join(" "), () => valueRanks(columns));
  }
}

/**
 * The place of each value of a field among all its values over several kinds: numbers by what they are worth, words without
 * regard to case and accents, numbers in them by what they are worth. Empty values come last.
 *
 * @returns for each column the rank of each code.
 */
export function valueRanks(columns: readonly Column[]): readonly Int32Array[] {
  const tables = columns.map(({ table }) => table);
  const distinct = [...new Set(tables.flatMap(({ values }) => values))].filter((value) => value !== "");
  const numbers = distinct.map(asNumber);
  const rankOf = new Map<string, number>([["", distinct.length]]);
  if (numbers.every((number) => number !== null)) {
    const order = distinct.map((_, i) => i).sort((a, b) => numbers[a]! - numbers[b]!);
    order.forEach((i, rank) => rankOf.set(distinct[i]!, rank));
  } else {
    const keys = distinct.map((value, i) => `${sortKey(value)}\u0000${i}`).sort();
    keys.forEach((key, rank) => rankOf.set(distinct[Number(key.slice(key.lastIndexOf("\u0000") + 1))]!, rank));
  }
  const ranks = tables.map(({ values }) => Int32Array.from(values, (value) => rankOf.get(value)!));
  return ranks;
}

/** @example sortKey("Écluse 7") // "ecluse 000000000007" */
function sortKey(value: string): string {
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
