import { type Column, type ItemSet } from "../proof/items";
import { Refusal } from "../refusal";
import type { Comparison, Condition } from "./condition-shape";
import { operatorOf } from "./operators";

/** How matching is watched. */
export interface MatchWatch {
  /** Called after every so many steps with how many of a field's values were looked at; what it throws ends the matching. */
  readonly pause?: ((done: number, total: number) => void) | undefined;
}

/** A condition that would take too long; it is refused, since half an answer would be a wrong one. */
export class TooCostly extends Refusal {
  constructor(message: string) {
    super("invalid", message);
  }
}

/** Between two pauses lie about so many steps: a tenth of a second with the slowest patterns. */
const STEPS_TO_PAUSE = 1_000_000;
/** So many steps a pattern may take on a single value, which nothing can interrupt: some seconds with the slowest ones. */
const MOST_STEPS = 50_000_000;

/**
 * Which rows of a set a condition takes: 1 where it does. A comparison is worked out once for each distinct value.
 *
 * @throws {TooCostly} where a pattern is too large for a value as long as one that it is asked of.
 */
export function matchingRows(condition: Condition, items: ItemSet, watch: MatchWatch = {}): Uint8Array {
  if (!("join" in condition)) return comparedRows(condition, items, watch);
  const rows = new Uint8Array(items.size).fill(condition.join === "any" ? 0 : 1);
  for (const part of condition.parts) {
    const own = matchingRows(part, items, watch);
    for (let row = 0; row < rows.length; row++) {
      if (condition.join === "all") rows[row]! &= own[row]!;
      else if (condition.join === "any") rows[row]! |= own[row]!;
      else rows[row]! &= 1 - own[row]!;
    }
  }
  return rows;
}

function comparedRows(comparison: Comparison, items: ItemSet, { pause }: MatchWatch): Uint8Array {
  // A category and all below it: told by the whole path, whichever of the category fields is named.
  const field =
    comparison.operator === "is under" && comparison.field === "category" && hasValues(items.column("category.path"))
      ? "category.path"
      : comparison.field;
  const { codes, table } = items.column(field);
  const { values } = table;
  const operator = operatorOf(comparison.operator);
  const test = operator.test(comparison.value, items.formatOf(field));
  const stepsOf = operator.steps?.(comparison.value) ?? 1;
  const byCode = new Uint8Array(values.length);
  let steps = 0;
  for (let code = 0; code < values.length; code++) {
    const value = values[code]!;
    const own = stepsOf * value.length;
    if (stepsOf > 1 && own > MOST_STEPS) throw new TooCostly(tooLong(comparison, value.length, stepsOf));
    steps += own;
    if (steps > STEPS_TO_PAUSE) {
      pause?.(code, values.length);
      steps = 0;
    }
    byCode[code] = test(value) ? 1 : 0;
  }
  const rows = new Uint8Array(codes.length);
  for (let row = 0; row < rows.length; row++) rows[row] = byCode[codes[row]!]!;
  return rows;
}

function tooLong({ field, value }: Comparison, length: number, steps: number): string {
  const figure = (number: number) => number.toLocaleString("en");
  return `“${String(value).slice(0, 60)}” is too large a pattern for {${field}}: a value there has ${figure(length)} characters, and for each it may take ${figure(steps)} steps. Make the pattern smaller, or look in a shorter field.`;
}

function hasValues(column: Column): boolean {
  return column.table.values.length > 1;
}
