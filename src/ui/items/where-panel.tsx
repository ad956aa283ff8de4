"use client";
import { useState } from "react";
import { writeCondition } from "../../core/rules/condition";
import type { RawCondition } from "../../core/rules/condition-shape";
import { checkedCondition } from "../../core/rules/condition-shape";
import type { FieldInfo } from "../../server/bench/field-infos";
import { type ConditionDraft, conditionOf, draftOf } from "../conditions/condition-draft";
import { ConditionEditor } from "../conditions/condition-editor";
import { type ItemsView } from "./items-url";

/** A condition of the list, put together: the list follows as soon as it is whole. */
export function WherePanel({
  kind,
  where,
  fields,
  last,
  onDraft,
  onWhere,
}: {
  kind: ItemsView["kind"];
  where: RawCondition | null;
  fields: readonly FieldInfo[];
  /** What was put together here before; gone on with as long as the list is by the same. */
  last: ConditionDraft | null;
  onDraft: (draft: ConditionDraft) => void;
  onWhere: (where: RawCondition | null) => void;
}) {
  const [draft, setDraft] = useState<ConditionDraft>(() => (last && isOf(last, where) ? last : draftFor(where)));
  const made = conditionOf(draft);
  const change = (next: ConditionDraft) => {
    setDraft(next);
    onDraft(next);
    if ("join" in next && next.parts.length === 0) onWhere(null);
    const whole = conditionOf(next);
    if ("condition" in whole) onWhere(writeCondition(whole.condition));
  };
  return (
    <>
      <ConditionEditor kind={kind} fields={fields} draft={draft} onChange={change} />
      <p className="mt-2 text-[12px] text-soft" role="status">
        {"missing" in made
          ? isEmpty(draft)
            ? "All pages, until you add a condition"
            : `Incomplete: ${made.missing}`
          : "The list behind updates as you edit"}
      </p>
    </>
  );
}

function isOf(draft: ConditionDraft, where: RawCondition | null): boolean {
  const made = conditionOf(draft);
  return JSON.stringify("condition" in made ? writeCondition(made.condition) : null) === JSON.stringify(where);
}

function draftFor(where: RawCondition | null): ConditionDraft {
  return where ? draftOf(checkedCondition(where)) : { join: "all", parts: [{ field: "", operator: "is", values: [] }] };
}

function isEmpty(draft: ConditionDraft): boolean {
  return "join" in draft && draft.parts.every((part) => "field" in part && part.field === "");
}
