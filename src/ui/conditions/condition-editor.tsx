"use client";
import { type Kind } from "../../core/design/kinds";
import { Plus, X } from "lucide-react";
import { useState } from "react";
import { type Operator, OPERATOR_WORDS } from "../../core/rules/operator-words";
import type { FieldInfo } from "../../server/bench/field-infos";
import { count } from "../shell/format";
import { type ComparisonDraft, type ConditionDraft, OPERATORS_FOR, withPart } from "./condition-draft";
import { type Choice, Picker } from "./value-picker";
import { useCall } from "../shell/queries";
import { useSite } from "../shell/site-context";
import { pagesStamp } from "../shell/site-stamps";

const JOINS: readonly ["all" | "any" | "none", string][] = [
  ["all", "all of these are true"],
  ["any", "any of these is true"],
  ["none", "none of these is true"],
];
const DEEPEST = 6;

interface Editing {
  readonly kind: Kind | "all";
  readonly fields: readonly FieldInfo[];
  readonly change: (path: readonly number[], part: ConditionDraft | null) => void;
}

/** A condition as a sentence: fields, operators and values are picked from what the pages have. */
export function ConditionEditor({
  kind,
  fields,
  draft,
  onChange,
}: {
  kind: Kind | "all";
  fields: readonly FieldInfo[];
  draft: ConditionDraft;
  onChange: (draft: ConditionDraft) => void;
}) {
  const editing: Editing = { kind, fields, change: (path, part) => onChange(withPart(draft, path, part)) };
  return <Part draft={draft} path={[]} editing={editing} />;
}

function Part({ draft, path, editing }: { draft: ConditionDraft; path: readonly number[]; editing: Editing }) {
  return "join" in draft ? (
    <Group draft={draft} path={path} editing={editing} />
  ) : (
    <Sentence draft={draft} path={path} editing={editing} />
  );
}

function Group({
  draft,
  path,
  editing,
}: {
  draft: Extract<ConditionDraft, { join: string }>;
  path: readonly number[];
  editing: Editing;
}) {
  const blank: ComparisonDraft = { field: "", operator: "is", values: [] };
  return (
    <fieldset className={`min-w-0 ${path.length > 0 ? "border-l-2 border-hair pl-3" : ""}`}>
      <legend className="sr-only">{path.length === 0 ? "Condition" : "A group of conditions"}</legend>
      <div className="flex items-center gap-2">
        <span className="text-soft">{path.length === 0 ? "Pages where" : "where"}</span>
        <select
          aria-label="Match"
          value={draft.join}
          onChange={(event) => editing.change(path, { ...draft, join: event.target.value as "all" })}
          className="rounded-sm border border-edge bg-sheet px-1 py-0.5"
        >
          {JOINS.map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
        {path.length > 0 && <RemoveButton label="Remove this group" onClick={() => editing.change(path, null)} />}
      </div>
      <ul className="mt-1.5 space-y-1.5">
        {draft.parts.map((part, i) => (
          <li key={i}>
            <Part draft={part} path={[...path, i]} editing={editing} />
          </li>
        ))}
      </ul>
      <div className="mt-1.5 flex gap-3">
        <AddButton label="Add a condition" onClick={() => editing.change([...path, draft.parts.length], blank)} />
        {path.length < DEEPEST && (
          <AddButton
            label="Add a group"
            onClick={() => editing.change([...path, draft.parts.length], { join: "any", parts: [blank] })}
          />
        )}
      </div>
    </fieldset>
  );
}

function AddButton({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <button
      type="button"
      onClick={onClick}
      className="flex items-center gap-1 text-soft underline decoration-hair underline-offset-4 hover:text-key hover:decoration-key"
    >
      <Plus size={12} aria-hidden="true" /> {label}
    </button>
  );
}

function RemoveButton({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <button type="button" aria-label={label} onClick={onClick} className="rounded-sm p-0.5 text-faint hover:text-key">
      <X size={14} aria-hidden="true" />
    </button>
  );
}

function Sentence({ draft, path, editing }: { draft: ComparisonDraft; path: readonly number[]; editing: Editing }) {
  const info = editing.fields.find((field) => field.name === draft.field);
  const operators = OPERATORS_FOR[info?.type ?? "text"];
  const put = (part: Partial<ComparisonDraft>) => editing.change(path, { ...draft, ...part });
  const pickField = (field: string) => {
    const type = editing.fields.find((one) => one.name === field)?.type ?? "text";
    const operator =
      OPERATORS_FOR[type].includes(draft.operator) && draft.field !== "" ? draft.operator : OPERATORS_FOR[type][0]!;
    put({ field, operator, values: [] });
  };
  const pickOperator = (operator: Operator) =>
    put({
      operator,
      values:
        OPERATOR_WORDS[operator].values === OPERATOR_WORDS[draft.operator].values
          ? draft.values
          : draft.values.slice(0, OPERATOR_WORDS[operator].values === 0 ? 0 : 1),
    });
  const fields = editing.fields.filter((field) => field.filled > 0 || field.name === draft.field);
  return (
    <div className="flex flex-wrap items-start gap-1.5">
      <Picker
        label="Field"
        shown={
          draft.field === "" ? (
            <span className="text-faint">a field</span>
          ) : (
            <span className="line-field px-0.5 font-mono text-[13px]">{draft.field}</span>
          )
        }
        choices={fields.map((field): Choice => ({
          value: field.name,
          label: <span className="font-mono text-[13px]">{field.name}</span>,
          detail: shareWords(field),
        }))}
        picked={(value) => value === draft.field}
        onPick={pickField}
      />
      <select
        aria-label="Operator"
        value={draft.operator}
        onChange={(event) => pickOperator(event.target.value as Operator)}
        className="rounded-sm border border-edge bg-sheet px-1 py-0.5"
      >
        {[...new Set([...operators, draft.operator])].map((operator) => (
          <option key={operator} value={operator}>
            {OPERATOR_WORDS[operator].label}
          </option>
        ))}
      </select>
      {draft.field !== "" && <Values draft={draft} info={info} editing={editing} put={put} />}
      <RemoveButton label="Remove this condition" onClick={() => editing.change(path, null)} />
    </div>
  );
}

function shareWords(field: FieldInfo): string {
  const share = field.filled === 1 ? "all" : field.filled < 0.01 ? "under 1 %" : `${Math.round(field.filled * 100)} %`;
  return `${share}, ${count(field.distinct)} ${field.distinct === 1 ? "value" : "values"}`;
}

const INPUT = "w-36 rounded-sm border border-edge bg-sheet px-2 py-0.5";

function Values({
  draft,
  info,
  editing,
  put,
}: {
  draft: ComparisonDraft;
  info: FieldInfo | undefined;
  editing: Editing;
  put: (part: Partial<ComparisonDraft>) => void;
}) {
  const wanted = OPERATOR_WORDS[draft.operator].values;
  if (wanted === 0) return null;
  const set = (at: number, value: string) =>
    put({
      values: Array.from({ length: Math.max(draft.values.length, at + 1) }, (_, i) =>
        i === at ? value : (draft.values[i] ?? ""),
      ),
    });
  const measured = draft.operator === "longer than" || draft.operator === "shorter than";
  if (measured || info?.type === "number" || info?.type === "date") {
    if (draft.operator !== "is" && draft.operator !== "is not" && draft.operator !== "is one of") {
      const type = measured ? "number" : info!.type === "date" ? "date" : "text";
      const input = (at: number) => (
        <input
          key={at}
          aria-label={at === 0 ? "Value" : "Second value"}
          type={type}
          inputMode={type === "text" ? "decimal" : undefined}
          min={measured ? 0 : undefined}
          value={draft.values[at] ?? ""}
          placeholder={info?.example}
          onChange={(event) => set(at, event.target.value)}
          className={INPUT}
        />
      );
      return (
        <>
          {input(0)}
          {wanted === 2 && (
            <>
              <span className="py-0.5 text-soft">and</span>
              {input(1)}
            </>
          )}
          {measured && <span className="py-0.5 text-soft">characters</span>}
        </>
      );
    }
  }
  if (draft.operator === "matches")
    return (
      <input
        aria-label="Pattern"
        value={draft.values[0] ?? ""}
        placeholder="pattern (RE2)"
        onChange={(event) => set(0, event.target.value)}
        className={`${INPUT} w-56 font-mono`}
      />
    );
  if (draft.operator === "contains" || draft.operator === "starts with" || draft.operator === "ends with")
    return (
      <input
        aria-label="Value"
        value={draft.values[0] ?? ""}
        onChange={(event) => set(0, event.target.value)}
        className={INPUT}
      />
    );
  return (
    <ValuePicker
      draft={draft}
      many={wanted === "many"}
      editing={editing}
      put={put}
      tree={draft.operator === "is under"}
    />
  );
}

/** Values that the pages have, with how many pages have each; categories as a tree. */
function ValuePicker({
  draft,
  many,
  tree,
  editing,
  put,
}: {
  draft: ComparisonDraft;
  many: boolean;
  tree: boolean;
  editing: Editing;
  put: (part: Partial<ComparisonDraft>) => void;
}) {
  const [search, setSearch] = useState("");
  const [open, setOpen] = useState(false);
  const { kind } = editing;
  // Of a category's own values those without the way to them are offered, as the field has them.
  const field = draft.field;
  const { state } = useSite();
  const wanted = open ? { kind, field: tree ? "category.path" : field, search } : null;
  const { answer: found } = useCall("bench.values", wanted, pagesStamp(state));
  const choices = (found?.values ?? []).map(({ value, count: items }): Choice => {
    const parts = value.split(" › ");
    const shown = tree && search === "" ? parts.at(-1)! : value;
    return { value, label: shown, detail: count(items), depth: tree && search === "" ? parts.length - 1 : 0 };
  });
  const pick = (value: string) => {
    if (!many) put({ values: [value] });
    else
      put({
        values: draft.values.includes(value) ? draft.values.filter((own) => own !== value) : [...draft.values, value],
      });
  };
  const shown =
    draft.values.length === 0 ? (
      <span className="text-faint">{many ? "values" : "a value"}</span>
    ) : (
      draft.values.join(", ")
    );
  const more =
    found && found.total > found.values.length
      ? `${count(found.total - found.values.length)} more; type to narrow them down`
      : undefined;
  return (
    <Picker
      label={many ? "Values" : "Value"}
      shown={shown}
      choices={choices}
      picked={(value) => draft.values.includes(value)}
      onPick={pick}
      onSearch={setSearch}
      onOpen={() => setOpen(true)}
      free
      stays={many}
      note={more}
      empty={found ? "No page has that value" : "Loading …"}
    />
  );
}
