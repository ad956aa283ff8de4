"use client";
import { useState } from "react";
import type { ReviewFilter } from "../../core/plan/review-filter";
import { Later, useLater } from "../shell/later";

const SELECTS = new Later(() => import("./facet-selects"));

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
  const { kind, rule, category, finding } = filter;
  const isSet = rule !== null || category !== null || finding !== null;
  const [isOpen, setOpen] = useState(isSet);
  const isShown = isOpen || isSet;
  const selects = useLater(SELECTS, isShown);
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
      {isShown &&
        (selects ? (
          <selects.FacetSelects filter={{ kind, rule, category, finding }} stamp={stamp} onChoice={onFilter} />
        ) : (
          // Their room, so that nothing below them moves when they come.
          <div className="h-[90px]" />
        ))}
    </>
  );
}
