import { readCondition, writeCondition } from "../../core/rules/condition";
import type { Condition, Comparison } from "../../core/rules/condition-shape";
import { type Operator, OPERATOR_WORDS } from "../../core/rules/operator-words";
import { type FieldType } from "../../server/workspace/field-tally";

/** A comparison while it is put together: its value may be missing still. */
export interface ComparisonDraft {
  readonly field: string;
  readonly operator: Operator;
  readonly values: readonly string[];
}

/** A condition while it is put together. */
export type ConditionDraft =
  ComparisonDraft | { readonly join: "all" | "any" | "none"; readonly parts: readonly ConditionDraft[] };

/** The operators that make sense for a field's values, the likeliest first. */
export const OPERATORS_FOR: Readonly<Record<FieldType, readonly Operator[]>> = {
  text: [
    "is",
    "is one of",
    "is not",
    "contains",
    "starts with",
    "ends with",
    "matches",
    "longer than",
    "shorter than",
    "is filled",
    "is empty",
  ],
  category: [
    "is under",
    "is",
    "is one of",
    "is not",
    "contains",
    "starts with",
    "ends with",
    "matches",
    "is filled",
    "is empty",
  ],
  number: ["<", "<=", ">", ">=", "between", "is", "is not", "is one of", "is filled", "is empty"],
  date: ["<", "<=", ">", ">=", "between", "is", "is filled", "is empty"],
};

/** A condition taken apart for editing; a single comparison stands in a group, so that others can be added to it. */
export function draftOf(condition: Condition): ConditionDraft & { join: "all" | "any" | "none" } {
  const draft = partOf(condition);
  return "join" in draft ? draft : { join: "all", parts: [draft] };
}

function partOf(condition: Condition): ConditionDraft {
  if ("join" in condition) return { join: condition.join, parts: condition.parts.map(partOf) };
  const { field, operator, value } = condition;
  return {
    field,
    operator,
    values: OPERATOR_WORDS[operator].values === 0 ? [] : Array.isArray(value) ? value.map(String) : [String(value)],
  };
}

/** The condition that was put together, or what is still missing in words. Groups of one part are taken for the part. */
export function conditionOf(draft: ConditionDraft): { condition: Condition } | { missing: string } {
  try {
    return { condition: readCondition(writeCondition(simplified(draft))) };
  } catch (error) {
    return { missing: error instanceof Error ? error.message : String(error) };
  }
}

function simplified(draft: ConditionDraft): Condition {
  if (!("join" in draft)) return comparison(draft);
  const parts = draft.parts.map(simplified);
  if (parts.length === 0) throw new Error("add a condition");
  return parts.length === 1 && draft.join !== "none" ? parts[0]! : { join: draft.join, parts };
}

function comparison({ field, operator, values }: ComparisonDraft): Comparison {
  if (field === "") throw new Error("select a field");
  const wanted = OPERATOR_WORDS[operator].values;
  const name = field.replaceAll("_", " ");
  if (wanted === 0) return { field, operator, value: true };
  if (wanted === "many") {
    if (values.length === 0) throw new Error(`select a value of ${name}`);
    return { field, operator, value: values };
  }
  if (values.length < wanted || values.slice(0, wanted).some((value) => value === "" || value === undefined))
    throw new Error(wanted === 2 ? `${name} needs two values` : `${name} needs a value`);
  if (wanted === 2) return { field, operator, value: [values[0]!, values[1]!] };
  return {
    field,
    operator,
    value: operator === "longer than" || operator === "shorter than" ? Number(values[0]) : values[0]!,
  };
}

/** The draft with the part at a path put in; without a part, the one there is taken out. */
export function withPart(draft: ConditionDraft, path: readonly number[], part: ConditionDraft | null): ConditionDraft {
  if (path.length === 0) return part ?? draft;
  if (!("join" in draft)) return draft;
  const [at, ...rest] = path;
  const own = draft.parts[at!];
  if (rest.length === 0 && part === null) return { ...draft, parts: draft.parts.filter((_, i) => i !== at) };
  if (rest.length === 0 && own === undefined) return { ...draft, parts: [...draft.parts, part!] };
  return { ...draft, parts: draft.parts.map((one, i) => (i === at ? withPart(one, rest, part) : one)) };
}
