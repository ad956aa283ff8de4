import type { CallResult } from "../../server/api/contract";
import type { ReviewFilter } from "../../core/plan/review-filter";
import { count } from "../shell/format";
import { useCall } from "../shell/queries";
import { useKindWord } from "../shell/site-context";

const SELECT = "narrow w-full min-w-0 rounded-sm border border-edge bg-sheet px-1 py-1";

type Facets = CallResult<"review.facets">;
type Choice = Pick<ReviewFilter, "rule" | "category" | "finding">;

/** The filters themselves, with how many changes each leaves. */
export function FacetSelects({
  filter: { kind, ...choice },
  stamp,
  onChoice,
}: {
  filter: Choice & Pick<ReviewFilter, "kind">;
  /** What the figures rest on. */
  stamp: string;
  onChoice: (choice: Partial<Choice>) => void;
}) {
  const kindWord = useKindWord();
  const { answer: facets, error } = useCall("review.facets", {}, stamp);
  if (error) return <p role="alert">{error}</p>;
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
