import { asNumber } from "../lines/filters";
import { type Column, type ItemSet } from "../proof/items";
import { charCount } from "../proof/values";
import { type Comparison, compilePattern, type Condition } from "./condition";

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
  const test = comparer(comparison);
  const byCode = Uint8Array.from(column.table.values, (value) => (test(value) ? 1 : 0));
  return Uint8Array.from(column.codes, (code) => byCode[code]!);
}

function hasValues(column: Column): boolean {
  return column.table.values.length > 1;
}

const fold = (value: string) => value.toLowerCase().normalize("NFC");

/** The test that a comparison makes of one value. Text compares without regard to case. */
function comparer({ operator, value }: Comparison): (value: string) => boolean {
  const wanted = typeof value === "string" ? fold(value) : "";
  switch (operator) {
    case "is":
      return (own) => fold(own) === wanted;
    case "is not":
      return (own) => fold(own) !== wanted;
    case "contains":
      return (own) => fold(own).includes(wanted);
    case "starts with":
      return (own) => fold(own).startsWith(wanted);
    case "ends with":
      return (own) => fold(own).endsWith(wanted);
    case "matches":
      return matcher(value as string);
    case "is empty":
      return (own) => own === "";
    case "is filled":
      return (own) => own !== "";
    case "<":
      return (own) => (order(own, value as string) ?? 1) < 0;
    case "<=":
      return (own) => (order(own, value as string) ?? 1) <= 0;
    case ">":
      return (own) => (order(own, value as string) ?? -1) > 0;
    case ">=":
      return (own) => (order(own, value as string) ?? -1) >= 0;
    case "between": {
      const [low, high] = value as [string, string];
      return (own) => (order(own, low) ?? -1) >= 0 && (order(own, high) ?? 1) <= 0;
    }
    case "longer than":
      return (own) => charCount(own) > (value as number);
    case "shorter than":
      return (own) => charCount(own) < (value as number);
    case "is one of": {
      const list = new Set((value as string[]).map(fold));
      return (own) => list.has(fold(own));
    }
    case "is under": {
      const path = wanted.split(/\s*[›>]\s*/);
      return (own) => holdsPath(fold(own).split(" › "), path);
    }
  }
}

function holdsPath(segments: readonly string[], path: readonly string[]): boolean {
  for (let from = 0; from + path.length <= segments.length; from++)
    if (path.every((segment, i) => segments[from + i] === segment)) return true;
  return false;
}

function matcher(pattern: string): (value: string) => boolean {
  const compiled = compilePattern(pattern, ["matches"]);
  return (value) => compiled.matcher(value).find();
}

const DATE = /^\d{4}-\d{2}(?:-\d{2})?/;

/** Below, at or above 0 as the value lies before, at or after the other, as dates or as numbers; `null` where neither can tell. */
function order(value: string, other: string): number | null {
  if (value === "") return null;
  if (DATE.test(value) && DATE.test(other)) return value < other ? -1 : value > other ? 1 : 0;
  const [a, b] = [asNumber(value), asNumber(other)];
  return a === null || b === null ? null : a - b;
}
