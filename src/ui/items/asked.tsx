"use client";
import { DIFFERENCES, type FindingDifference } from "../../core/items/query";
import { count } from "../shell/format";
import { findingKind, SUBJECT_LABELS } from "./findings-panel";
import { type ItemsView } from "./items-url";
import { whereWords } from "./list-tools";
import { type useItems } from "./use-items";

const DIFFERENCE_WORDS: Record<FindingDifference, string> = { mended: "fixed", new: "new", stays: "stay" };

/** What the list is asked for, in words, each part with the way out of it. */
export function Asked({
  view,
  differences,
  onView,
}: {
  view: ItemsView;
  differences: ReturnType<typeof useItems>["differences"];
  onView: (change: Partial<ItemsView>) => void;
}) {
  const where = whereWords(view);
  if (view.findings.length === 0 && where === null) return null;
  const out = (label: string, change: Partial<ItemsView>) => (
    <button
      type="button"
      className="text-soft underline decoration-hair underline-offset-4 hover:text-key"
      onClick={() => onView(change)}
    >
      {label}
    </button>
  );
  return (
    <div className="max-h-28 overflow-auto border-b border-hair px-4 py-2">
      {view.findings.map(({ subject, id }) => {
        const kind = findingKind(subject, id);
        return (
          <p key={`${subject} ${id}`}>
            <b>
              {view.findings.length > 1 ? `${SUBJECT_LABELS[subject]}: ` : ""}
              {kind.label}
            </b>{" "}
            <span className="text-soft">{kind.why}</span> {kind.mend}{" "}
            {out(view.findings.length > 1 ? "Remove this filter" : "Show all pages", {
              difference: null,
              findings: view.findings.filter((one) => one.subject !== subject || one.id !== id),
            })}
          </p>
        );
      })}
      {differences && (
        <p role="group" aria-label="Status under the drafts" className="mt-1 flex gap-4">
          <span className="text-soft">Draft</span>
          {DIFFERENCES.map((difference) => (
            <button
              key={difference}
              type="button"
              aria-pressed={view.difference === difference}
              onClick={() => onView({ difference: view.difference === difference ? null : difference })}
              className={
                view.difference === difference
                  ? "font-semibold underline decoration-rule decoration-2 underline-offset-4"
                  : "text-soft hover:text-key"
              }
            >
              <b className={difference === "new" && differences.new > 0 ? "text-magenta" : "text-key"}>
                {count(differences[difference])}
              </b>{" "}
              {DIFFERENCE_WORDS[difference]}
            </button>
          ))}
        </p>
      )}
      {where !== null && (
        <p>
          <b>Where</b> {where} {out("Remove this filter", { where: null })}
        </p>
      )}
    </div>
  );
}
