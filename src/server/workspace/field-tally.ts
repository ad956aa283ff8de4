import { type FieldFormat, readMoment, readNumber } from "../../core/text/figures";

/** What a field's values are, told by looking at them: it decides which operators a condition offers. */
export type FieldType = "text" | "number" | "date" | "category";

/** So many different values are told from one another; beyond that a field has “more”. */
const MOST_DISTINCT = 2000;
const NUMERIC = /^[\p{Sc}\s\d.,+-]+$/u;

/** Counts what a field's values are like as they go by, without keeping them. */
export class FieldTally {
  filled = 0;
  example = "";
  private readonly seen = new Set<string>();
  private dates = true;
  private numbers = true;

  constructor(private readonly format: FieldFormat = {}) {}

  see(value: string): void {
    if (value === "") return;
    this.filled++;
    if (this.filled === 1) this.example = value;
    if (this.seen.size >= MOST_DISTINCT || this.seen.has(value)) return;
    this.seen.add(value);
    this.dates &&= readMoment(value, this.format.day) !== null;
    this.numbers &&= readNumber(value, this.format.number) !== null && NUMERIC.test(value);
  }

  /** How many different values there are, as far as they were told apart. */
  get distinct(): number {
    return this.seen.size;
  }

  get type(): FieldType {
    return this.filled === 0 ? "text" : this.dates ? "date" : this.numbers ? "number" : "text";
  }
}

/** A tally of a column that is held in memory. */
export function tallyOf(
  column: { readonly codes: Int32Array; readonly table: { readonly values: readonly string[] } },
  format: FieldFormat,
): FieldTally {
  const tally = new FieldTally(format);
  const { codes, table } = column;
  for (let code = 1; code < table.values.length; code++) tally.see(table.values[code]!);
  tally.filled = 0;
  for (let row = 0; row < codes.length; row++) if (codes[row] !== 0) tally.filled++;
  return tally;
}
