import * as z from "zod";
import { type Condition, JOINS, MOST_NESTED, type RawCondition } from "./condition-shape";
import { type Operator, OPERATOR_WORDS } from "./operator-words";
import { operatorOf } from "./operators";
import { compilePattern, ConditionError } from "./pattern";

/**
 * Reads a condition as a lines file has it: an object with `field` and exactly one operator as a key, or `all`, `any`
 * or `none` with a list.
 *
 * @example readCondition({ field: "material", "is one of": ["brass", "bronze"] })
 * @throws {ConditionError}
 */
export function readCondition(raw: unknown, path: readonly (string | number)[] = []): Condition {
  if (path.length > MOST_NESTED * 2) throw new ConditionError(`more than ${MOST_NESTED} conditions are nested`, path);
  if (typeof raw !== "object" || raw === null || Array.isArray(raw))
    throw new ConditionError('a condition is an object such as {"field": "material", "is": "brass"}', path);
  const keys = Object.keys(raw);
  const join = JOINS.find((name) => keys.includes(name));
  const record = raw as Record<string, unknown>;
  if (join) {
    if (keys.length > 1)
      throw new ConditionError(`“${join}” stands alone; beside it stands “${keys.find((key) => key !== join)}”`, path);
    const list = record[join];
    if (!Array.isArray(list)) throw new ConditionError(`“${join}” takes a list of conditions`, [...path, join]);
    return { join, parts: list.map((part: unknown, i) => readCondition(part, [...path, join, i])) };
  }
  const { field } = record;
  if (typeof field !== "string" || field.trim() === "")
    throw new ConditionError("a condition needs a “field”, or all, any or none with a list", path);
  const operators = keys.filter((key) => key !== "field");
  if (operators.length !== 1)
    throw new ConditionError(
      `a condition has exactly one operator; this one has ${operators.length === 0 ? "none" : operators.map((o) => `“${o}”`).join(" and ")}`,
      path,
    );
  const operator = operators[0]!;
  if (!Object.hasOwn(OPERATOR_WORDS, operator))
    throw new ConditionError(
      `there is no operator “${operator}”; there are ${Object.keys(OPERATOR_WORDS).join(", ")}`,
      [...path, operator],
    );
  const value = operatorOf(operator as Operator).takes.safeParse(record[operator]);
  if (!value.success) throw new ConditionError(`“${operator}”: ${value.error.issues[0]!.message}`, [...path, operator]);
  if (operator === "matches") compilePattern(value.data as string, [...path, operator]);
  return { field: field.toLowerCase().normalize("NFC"), operator: operator as Operator, value: value.data };
}

/**
 * A condition as it is written: the opposite of {@link readCondition}.
 *
 * @example writeCondition({ field: "material", operator: "is", value: "brass" }) // { field: "material", is: "brass" }
 */
export function writeCondition(condition: Condition): RawCondition {
  if ("join" in condition) return { [condition.join]: condition.parts.map(writeCondition) };
  return { field: condition.field, [condition.operator]: condition.value };
}

/** A written condition as Zod checks it, errors with their place. */
export const conditionSchema = z.unknown().transform((raw, context): RawCondition => {
  try {
    readCondition(raw);
    return raw as RawCondition;
  } catch (error) {
    if (!(error instanceof ConditionError)) throw error;
    context.addIssue({ code: "custom", message: error.message, path: [...error.path] });
    return z.NEVER;
  }
});
