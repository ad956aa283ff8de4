import { type Operator, OPERATOR_WORDS } from "./operator-words";

// What is known of a condition without what checks patterns and values, which is large: enough to show one.

/** One field compared with a value. */
export interface Comparison {
  readonly field: string;
  readonly operator: Operator;
  readonly value: unknown;
}

/** A condition: a comparison, or others joined. */
export type Condition = Comparison | { readonly join: "all" | "any" | "none"; readonly parts: readonly Condition[] };

/** A condition as it is written in a lines file and stored: checked, but not read. */
export type RawCondition = Readonly<Record<string, unknown>>;

/** Beyond this many joins inside one another a condition is refused. */
export const MOST_NESTED = 50;

export const JOINS = ["all", "any", "none"] as const;

/** Whether something is written as a condition is. Its pattern and its values may still be none that an operator takes. */
export function isCondition(raw: unknown, depth = 0): raw is RawCondition {
  if (typeof raw !== "object" || raw === null || Array.isArray(raw) || depth > MOST_NESTED) return false;
  const record = raw as Record<string, unknown>;
  const keys = Object.keys(record);
  const join = JOINS.find((name) => keys.includes(name));
  if (join) {
    const parts = record[join];
    return keys.length === 1 && Array.isArray(parts) && parts.every((part) => isCondition(part, depth + 1));
  }
  const [operator, ...more] = keys.filter((key) => key !== "field");
  if (operator === undefined || more.length > 0 || !Object.hasOwn(OPERATOR_WORDS, operator)) return false;
  const { field } = record;
  return typeof field === "string" && field.trim() !== "" && isValueOf(operator as Operator, record[operator]);
}

function isValueOf(operator: Operator, value: unknown): boolean {
  const { values } = OPERATOR_WORDS[operator];
  const isOne = (one: unknown) => typeof one === "string" || typeof one === "number";
  if (values === 0) return value === true;
  if (values === 1) return isOne(value);
  return Array.isArray(value) && value.every(isOne) && (values === "many" ? value.length > 0 : value.length === values);
}

/**
 * A condition as it is read, where what is written was checked before it was stored, drafted or asked with: it is not checked again.
 *
 * @example conditionWords(checkedCondition({ field: "material", is: "brass" })) // "material is brass"
 */
export function checkedCondition(raw: RawCondition): Condition {
  for (const join of JOINS) {
    const parts = raw[join];
    if (Array.isArray(parts)) return { join, parts: (parts as RawCondition[]).map(checkedCondition) };
  }
  const operator = Object.keys(raw).find((key) => key !== "field") as Comparison["operator"];
  return { field: String(raw["field"]).toLowerCase().normalize("NFC"), operator, value: raw[operator] };
}
