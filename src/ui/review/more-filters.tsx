"use client";
import { useState } from "react";
import type { CallResult } from "../../server/api/contract";
import type { ReviewFilter } from "../../core/plan/review-filter";
import { count } from "../shell/format";
import { useCall } from "../shell/queries";
import { useKindWord } from "../shell/site-context";

const SELECT = "narrow w-full min-w-0 rounded-sm border border-edge bg-sheet px-1 py-1";

type Facets = CallResult<"review.facets">;
type Choice = Pick<ReviewFilter, "rule" | "category" | "finding">;

/** Filters by what makes a text, where its page is, and what was found on it: counted when they are first wanted. */
export function MoreFilters({
  filter,
  stamp,
  onFilter,
}: {
  filter: ReviewFilter;
  stamp: string;
  onFilter: (change: Partial<ReviewFilter>) => void;
}) {
  const { rule, category, finding } = filter;
  const isSet = rule !== null || category !== null || finding !== null;
  const [isOpen, setOpen] = useState(isSet);
  const isShown = isOpen || isSet;
  const { answer: facets, error } = useCall("review.facets", isShown ? {} : null, stamp);
  return (
    <>
      <button
        type="button"
        aria-expanded={isShown}
        disabled={isSet}
        className="self-start text-soft underline decoration-hair underline-offset-4 hover:text-key disabled:no-underline"
        onClick={() => setOpen(!isOpen)}
      >
        {isShown ? "Rule, category, finding" : "Rule, category, finding …"}
      </button>
      {isShown && error && <p role="alert">{error}</p>}
      {isShown && !error && (
        <Selects facets={facets} choice={{ rule, category, finding }} kind={filter.kind} onChoice={onFilter} />
      )}
    </>
  );
}

function Selects({
  facets,
  choice,
  kind,
  onChoice,
}: {
  facets: Facets | null;
  choice: Choice;
  kind: ReviewFilter["kind"];
  onChoice: (choice: Partial<Choice>) => void;
}) {
  const kindWord = useKindWord();
  const rules = (facets?.rules ?? []).filter((own) => kind === null || own.kind === kind);
  const kinds = [...new Set(rules.map((own) => own.kind))];
  const known = { rule: facets?.rules, category: facets?.categories, finding: facets?.findings };
  const select = (name: keyof Choice, label: string, all: string, options: React.ReactNode) => (
    <select
      aria-label={label}
      disabled={!facets}
      value={choice[name] ?? ""}
      onChange={(event) => onChoice({ [name]: event.target.value || null })}
      className={`${SELECT} ${choice[name] === null ? "" : "border-key font-semibold"}`}
    >
      <option value="">{facets ? all : "Counting …"}</option>
      {/* One that no change is of any more is still what is filtered by. */}
      {choice[name] !== null && !known[name]?.some(({ of }) => of === choice[name]) && (
        <option value={choice[name]}>{choice[name]} (0)</option>
      )}
      {options}
    </select>
  );
  return (
    <>
      {select(
        "rule",
        "Rule that makes the text",
        "Any rule",
        kinds.map((own) => (
          <optgroup key={own} label={kindWord(own, 2)}>
            {rules.filter((rule) => rule.kind === own).map(option)}
          </optgroup>
        )),
      )}
      {select("category", "Category of the page", "Any category", facets?.categories.map(option))}
      {select("finding", "Finding on the page now", "Any finding", facets?.findings.map(option))}
    </>
  );
}

function option({ of, label, count: n }: Facets["findings"][number]) {
  return (
    <option key={of} value={of}>
      {label} ({count(n)})
    </option>
  );
}
