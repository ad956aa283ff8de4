import { fieldsOfNodes } from "../lines/field-names";
import { parseLine } from "../lines/parse";
import { checkedCondition } from "../rules/condition-shape";
import type { Condition } from "../rules/condition-shape";
import { type KindDesign } from "./design";
import { type TextName, TEXTS } from "./kinds";

/** A place where a field is used: a line of the base or a rule, or a rule's condition. */
export interface FieldUse {
  /** The rule's id, `null` for the base. */
  readonly rule: string | null;
  readonly text: TextName | "condition";
}

/** Where each field of a kind's design is used, by the field's name. */
export function fieldUses(design: KindDesign): ReadonlyMap<string, readonly FieldUse[]> {
  const uses = new Map<string, FieldUse[]>();
  const note = (field: string, use: FieldUse) => uses.set(field, [...(uses.get(field) ?? []), use]);
  for (const lines of [...design.rules, { id: null, ...design.base }]) {
    for (const text of TEXTS)
      for (const field of fieldsOfNodes(parseLine(lines[text] ?? "").nodes)) note(field, { rule: lines.id, text });
    if ("when" in lines)
      for (const field of new Set(conditionFields(checkedCondition(lines.when))))
        note(field, { rule: lines.id, text: "condition" });
  }
  return uses;
}

function conditionFields(condition: Condition): string[] {
  return "join" in condition ? condition.parts.flatMap(conditionFields) : [condition.field];
}
