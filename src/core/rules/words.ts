import type { Comparison, Condition } from "./condition-shape";
import { OPERATOR_WORDS } from "./operator-words";

/**
 * A condition as a person would say it.
 *
 * @example conditionWords(readCondition({ all: [{ field: "sold_by", is: "metre" }, { field: "category", "is under": "Rope" }] })) // "sold by is metre and category is under Rope"
 */
export function conditionWords(condition: Condition): string {
  return words(condition, false);
}

function words(condition: Condition, inner: boolean): string {
  if (!("join" in condition)) return comparisonWords(condition);
  const { join, parts } = condition;
  if (parts.length === 0) return join === "any" ? "nothing" : "everything";
  const said = parts
    .map((part) => words(part, true))
    .join(join === "any" ? " or " : join === "all" ? " and " : ", nor ");
  if (join === "none") return `${inner ? "(" : ""}not where ${said}${inner ? ")" : ""}`;
  return inner && parts.length > 1 ? `(${said})` : said;
}

/** A field's name as it is said: `sold_by` is “sold by”. */
export function fieldWords(field: string): string {
  return field.replaceAll("_", " ");
}

function comparisonWords({ field, operator, value }: Comparison): string {
  return `${fieldWords(field)} ${OPERATOR_WORDS[operator].said(value)}`;
}
