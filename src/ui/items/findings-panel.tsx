"use client";
import { type FindingCount } from "../../server/items/listed-item";
import { Plus, X } from "lucide-react";
import { FINDING_ASKS, type FindingAsk, type FindingKind, FINDINGS, type Subject } from "../../core/checks/findings";
import { count } from "../shell/format";
import { type ItemsView } from "./items-url";
import { SideFold } from "../shell/side-fold";
import { Term } from "../shell/term";

export const SUBJECT_LABELS: Record<Subject, string> = {
  title: "Title",
  description: "Description",
  slug: "Slug",
  page: "Page",
};

/** What a finding is called, and what is to be said of it. */
export function findingKind(subject: Subject, id: string): FindingKind {
  return FINDINGS[subject].find((kind) => kind.id === id)!;
}

const ASK_LABELS: Record<FindingAsk, string> = { now: "Fix now", look: "Worth a look", small: "Small things" };

/**
 * Everything that was found, with how many pages have it live and in the draft, by what it asks for; one of them can be worked off, or
 * several together. Yields its place to what is opened at the side where there is no room for both.
 */
export function FindingsPanel({
  counts,
  view,
  onChange,
  yields,
}: {
  counts: readonly FindingCount[];
  view: ItemsView;
  onChange: (change: Partial<ItemsView>) => void;
  yields: boolean;
}) {
  return (
    <nav
      aria-label="Findings"
      className={`desk-first desk-steady desk-folds min-h-0 overflow-auto border-r border-hair ${yields ? "max-[1179px]:hidden" : ""}`}
    >
      <SideFold
        label="Findings"
        now={view.findings.map(({ subject, id }) => findingKind(subject, id).label).join(", ") || "all pages"}
      >
        <div className="px-3 pb-4 pt-3">
          <div className="flex items-baseline justify-between gap-2 px-1 text-[12px] text-soft">
            <span className="font-semibold">
              <Term of="finding">Findings</Term>, by number of pages
            </span>
            <span className="narrow">live, draft</span>
          </div>
          {FINDING_ASKS.map((asks) => {
            const own = counts.filter(({ subject, id }) => findingKind(subject, id).asks === asks);
            if (own.length === 0) return null;
            return (
              <section key={asks} aria-label={ASK_LABELS[asks]} className="mt-2">
                <h2 className="border-b border-key px-1 pb-0.5 font-semibold">{ASK_LABELS[asks]}</h2>
                <ul>
                  {own.map((one) => (
                    <FindingRow key={`${one.subject}.${one.id}`} one={one} view={view} onChange={onChange} />
                  ))}
                </ul>
              </section>
            );
          })}
        </div>
      </SideFold>
    </nav>
  );
}

function FindingRow({
  one,
  view,
  onChange,
}: {
  one: FindingCount;
  view: ItemsView;
  onChange: (change: Partial<ItemsView>) => void;
}) {
  const { subject, id } = one;
  const { label } = findingKind(subject, id);
  const chosen = view.findings.some((ref) => ref.subject === subject && ref.id === id);
  const without = view.findings.filter((ref) => ref.subject !== subject || ref.id !== id);
  const only = chosen && view.findings.length === 1;
  const change =
    one.draft > one.live ? "font-semibold text-magenta" : one.draft < one.live ? "font-semibold" : "text-faint";
  return (
    <li
      className={`group relative border-b border-hair ${chosen ? "bg-sheet font-semibold shadow-[inset_3px_0_0_var(--key)]" : "hover:bg-raised"}`}
    >
      <button
        type="button"
        aria-pressed={chosen}
        data-finding={`${subject}.${id}`}
        onClick={() => onChange({ findings: only ? [] : [{ subject, id }], difference: null, item: "" })}
        className="flex w-full items-baseline gap-2 px-1 py-[3px] text-left"
      >
        <span className="narrow min-w-0 flex-1">
          {label} <small className="text-[11px] font-normal text-soft">{SUBJECT_LABELS[subject].toLowerCase()}</small>
        </span>
        <span className="w-12 shrink-0 text-right">{count(one.live)}</span>
        <span className={`w-12 shrink-0 text-right ${change}`}>{count(one.draft)}</span>
      </button>
      {view.findings.length > 0 && !only && (
        <button
          type="button"
          aria-label={chosen ? `Remove filter: ${label}` : `Also require: ${label}`}
          title={chosen ? "Remove" : "Also"}
          onClick={() => onChange({ findings: chosen ? without : [...view.findings, { subject, id }], item: "" })}
          className="absolute -left-2.5 top-[5px] rounded-sm bg-sheet p-px text-soft opacity-0 hover:text-key focus-visible:opacity-100 group-focus-within:opacity-100 group-hover:opacity-100"
        >
          {chosen ? <X size={12} aria-hidden="true" /> : <Plus size={12} aria-hidden="true" />}
        </button>
      )}
    </li>
  );
}
