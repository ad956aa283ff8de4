"use client";
import { type FindingKind, FINDINGS, type Subject } from "../../core/checks/findings";
import type { FindingCount } from "../../server/site-findings";
import { count } from "../shell/format";
import { type ItemsView } from "./items-url";

export const SUBJECT_LABELS: Record<Subject, string> = { title: "Title", description: "Description", slug: "Slug", page: "Page" };

/** What a finding is called, and what is to be said of it. */
export function findingKind(subject: Subject, id: string): FindingKind {
  return FINDINGS[subject].find((kind) => kind.id === id)!;
}

/** Everything that was found, with how many pages have it now and under the drafts; one of them can be worked off. */
export function FindingsPanel({ counts, view, onChange }: { counts: readonly FindingCount[]; view: ItemsView; onChange: (change: Partial<ItemsView>) => void }) {
  return (
    <nav aria-label="Findings" className="min-h-0 overflow-auto border-r border-hair px-3 pb-4 pt-3">
      <div className="flex items-baseline justify-between gap-2 px-1 text-[12px] text-soft">
        <span className="font-semibold">Findings, by pages</span>
        <span className="narrow">live, draft</span>
      </div>
      {(Object.keys(FINDINGS) as Subject[]).map((subject) => {
        const own = counts.filter((one) => one.subject === subject);
        if (own.length === 0) return null;
        return (
          <section key={subject} aria-label={SUBJECT_LABELS[subject]} className="mt-2">
            <h2 className="border-b border-key px-1 pb-0.5 font-semibold">{SUBJECT_LABELS[subject]}</h2>
            <ul>
              {own.map((one) => {
                const chosen = view.finding?.subject === subject && view.finding.id === one.id;
                return (
                  <li key={one.id} className="border-b border-hair">
                    <button type="button" aria-pressed={chosen} data-finding={`${subject}.${one.id}`} onClick={() => onChange({ finding: chosen ? null : { subject, id: one.id }, item: "" })} className={`flex w-full items-baseline gap-2 px-1 py-[3px] text-left ${chosen ? "bg-sheet font-semibold shadow-[inset_3px_0_0_var(--key)]" : "hover:bg-raised"}`}>
                      <span className="min-w-0 flex-1">{findingKind(subject, one.id).label}</span>
                      <span className="w-12 shrink-0 text-right">{count(one.live)}</span>
                      <span className={`w-12 shrink-0 text-right ${one.draft > one.live ? "font-semibold text-magenta" : one.draft < one.live ? "font-semibold" : "text-faint"}`}>{count(one.draft)}</span>
                    </button>
                  </li>
                );
              })}
            </ul>
          </section>
        );
      })}
    </nav>
  );
}
