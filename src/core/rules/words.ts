import { type Comparison, type Condition, type Operator } from "./condition";

/** Operators as a sentence says them, between a field and its value. */
export const OPERATOR_WORDS: Readonly<Record<Operator, string>> = {
  is: "is",
  "is not": "is not",
  contains: "contains",
  "starts with": "starts with",
  "ends with": "ends with",
  matches: "matches",
  "is empty": "is empty",
  "is filled": "is filled",
  "<": "is below",
  "<=": "is at most",
  ">": "is above",
  ">=": "is at least",
  between: "is between",
  "longer than": "is longer than",
  "shorter than": "is shorter than",
  "is one of": "is one of",
  "is under": "is under",
};

const MOST_LISTED = 4;

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
  const name = fieldWords(field);
  switch (operator) {
    case "is empty":
    case "is filled":
      return `${name} ${operator}`;
    case "between": {
      const [low, high] = value as readonly [string, string];
      return `${name} is between ${low} and ${high}`;
    }
    case "is one of": {
      const list = value as readonly string[];
      const more = list.length > MOST_LISTED ? ` or ${list.length - MOST_LISTED + 1} others` : "";
      const shown = more ? list.slice(0, MOST_LISTED - 1) : list;
      return `${name} is ${more ? shown.join(", ") + more : listed(shown)}`;
    }
    case "longer than":
    case "shorter than":
      return `${name} ${OPERATOR_WORDS[operator]} ${String(value)} characters`;
    default:
      return `${name} ${OPERATOR_WORDS[operator]} ${String(value)}`;
  }
}

function listed(values: readonly string[]): string {
  return values.length < 2 ? values.join("") : `${values.slice(0, -1).join(", ")} or ${values.at(-1)}`;
}
