import { type Column, type ItemSet } from "../proof/items";
import { type Comparison, type Condition } from "./condition";
import { operatorOf } from "./operators";

/**
 * Which rows of a set a condition takes: 1 where it does. A comparison is worked out once for each distinct value.
 */
export function matchingRows(condition: Condition, items: ItemSet): Uint8Array {
  if (!("join" in condition)) return comparedRows(condition, items);
  const rows = new Uint8Array(items.size).fill(condition.join === "any" ? 0 : 1);
  for (const part of condition.parts) {
    const own = matchingRows(part, items);
    for (let row = 0; row < rows.length; row++) {
      if (condition.join === "all") rows[row]! &= own[row]!;
      else if (condition.join === "any") rows[row]! |= own[row]!;
      else rows[row]! &= 1 - own[row]!;
    }
  }
  return rows;
}

function comparedRows(comparison: Comparison, items: ItemSet): Uint8Array {
  // A category and all below it: told by the whole path, whichever of the category fields is named.
  const field =
    comparison.operator === "is under" && comparison.field === "category" && hasValues(items.column("category.path"))
      ? "category.path"
      : comparison.field;
  const column = items.column(field);
  const test = operatorOf(comparison.operator).test(comparison.value, items.formatOf(field));
  const byCode = Uint8Array.from(column.table.values, (value) => (test(value) ? 1 : 0));
  return Uint8Array.from(column.codes, (code) => byCode[code]!);
}

function hasValues(column: Column): boolean {
  return column.table.values.length > 1;
}
