import type { ReviewSummary } from "../../server/review/review-summary";
import { LEFT_OUT_AT_FIRST } from "../../core/plan/groups";
import { ALL_CHANGES, type ReviewFilter } from "../../core/plan/review-filter";
import { PLAIN_ACTION } from "../shell/actions";
import { count, counted } from "../shell/format";
import { SearchBox } from "../shell/search-box";
import { useKindWord } from "../shell/site-context";
import { MoreFilters } from "./more-filters";
import { textWord } from "./review-words";

const SELECT = "narrow min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-1 py-1";

/** What it is that is undone. */
const CHOICE_WORDS: Readonly<Record<NonNullable<ReviewSummary["lastChoice"]>, string>> = {
  group: "the tick of a group",
  only: "“Include only these”",
  include: "“Include”",
  exclude: "“Exclude”",
  reset: "the reset",
};
const WORD_ACTION = "underline decoration-hair underline-offset-4";

/** Which changes are looked at, and what becomes of all of them together. */
export function FilterBar({
  filter,
  summary,
  stamp,
  onFilter,
  onChoose,
  onForget,
  onRestore,
}: {
  filter: ReviewFilter;
  summary: ReviewSummary;
  /** What the figures rest on. */
  stamp: string;
  onFilter: (change: Partial<ReviewFilter>) => void;
  /** @param only whether all others are left out. */
  onChoose: (included: boolean, only: boolean) => void;
  /** Takes all in, or leaves it out, as at first. */
  onForget: () => void;
  /** Back to what it was before the last word on many changes. */
  onRestore: () => void;
}) {
  const kindWord = useKindWord();
  const isFiltered = JSON.stringify(filter) !== JSON.stringify(ALL_CHANGES);
  const shown = summary.groups.reduce((sum, group) => sum + group.count, 0);
  const included = summary.groups.reduce((sum, group) => sum + group.included, 0);
  const needsLook = summary.groups.some(({ group }) => LEFT_OUT_AT_FIRST.has(group));
  return (
    <div className="mb-3 flex flex-col gap-1.5">
      <div className="flex gap-1.5">
        <select
          aria-label="Kind of the pages"
          value={filter.kind ?? ""}
          onChange={(event) => onFilter({ kind: event.target.value || null })}
          className={SELECT}
        >
          <option value="">All kinds</option>
          {summary.kinds.map(({ of, count: n }) => (
            <option key={of} value={of}>
              {kindWord(of, 2)} ({count(n)})
            </option>
          ))}
        </select>
        <select
          aria-label="Text that changes"
          value={filter.text ?? ""}
          onChange={(event) => onFilter({ text: (event.target.value || null) as ReviewFilter["text"] })}
          className={SELECT}
        >
          <option value="">All texts</option>
          {summary.texts.map(({ of, count: n }) => (
            <option key={of} value={of}>
              {textWord(of, 2)} ({count(n)})
            </option>
          ))}
        </select>
      </div>
      <SearchBox
        label="Search the changes"
        placeholder="Name, address or text"
        value={filter.words}
        onSearch={(words) => onFilter({ words })}
      />
      <MoreFilters filter={filter} stamp={stamp} onFilter={onFilter} />
      {isFiltered && (
        <div role="group" aria-label="Shown" className="border-l-4 border-rule bg-sheet px-2 py-1.5">
          <p role="status" className="mb-1">
            {counted(shown, "change", "changes")} of {count(summary.total)}, {count(included)} included
          </p>
          <div className="flex flex-wrap gap-1.5">
            <button type="button" className={PLAIN_ACTION} onClick={() => onChoose(true, true)}>
              Include only these
            </button>
            <button type="button" className={PLAIN_ACTION} onClick={() => onChoose(true, false)}>
              Include
            </button>
            <button type="button" className={PLAIN_ACTION} onClick={() => onChoose(false, false)}>
              Exclude
            </button>
            <button type="button" className={PLAIN_ACTION} onClick={() => onFilter(ALL_CHANGES)}>
              Show all
            </button>
          </div>
          {needsLook && (
            <p className="narrow mt-1.5 text-[12px] leading-snug text-soft">
              Changes that get worse, stay too wide or move an address are included only by ticking their group.
            </p>
          )}
        </div>
      )}
      {(summary.isChosen || summary.lastChoice !== null) && (
        <p className="flex flex-wrap gap-x-3 text-soft">
          {summary.isChosen && (
            <span>
              You changed some ticks.{" "}
              <button type="button" className={WORD_ACTION} onClick={onForget}>
                Reset them
              </button>
            </span>
          )}
          {summary.lastChoice !== null && (
            <button type="button" className={WORD_ACTION} onClick={onRestore}>
              Undo {CHOICE_WORDS[summary.lastChoice]}
            </button>
          )}
        </p>
      )}
    </div>
  );
}
