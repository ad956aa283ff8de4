"use client";
import { type Target, TARGETS } from "../../core/design/import-targets";
import type { FieldFormat, FormatGuess } from "../../core/text/figures";
import type { FirstLook } from "../../server/exchange/bring-in";
import { FIGURE_WORDS } from "../shell/figure-words";
import { counted } from "../shell/format";

const TARGET_WORDS: Partial<Record<Target, string>> = {
  name: "name (H1)",
  title: "title now",
  description: "description now",
  slug: "slug now",
  attribute: "attribute, under its own name",
  skip: "ignore this column",
  keyword: "focus keyword",
  "by-hand": "which texts are by hand",
  "hand-texts": "texts by hand, not live yet",
  attributes: "attributes, as a JSON object",
  "made-harmless": "what was made harmless",
};
/** What a column is from now on; what can be one column only, and was another, is an attribute there. */
function withTarget(targets: readonly Target[], column: number, next: Target): Target[] {
  const isTaken = (target: Target) => target !== "attribute" && target !== "skip" && target === next;
  return targets.map((target, at) => (at === column ? next : isTaken(target) ? "attribute" : target));
}

/** A file's first rows, and above each column what it is and how it writes its figures. */
export function ColumnsTable({
  look,
  targets,
  onTargets,
  formats,
  onFormats,
}: {
  look: FirstLook;
  targets: readonly Target[];
  onTargets: (targets: readonly Target[]) => void;
  formats: readonly (FieldFormat | null)[];
  onFormats: (formats: readonly (FieldFormat | null)[]) => void;
}) {
  return (
    <div
      className="mt-2 min-h-[220px] flex-1 overflow-auto border border-hair bg-sheet"
      tabIndex={0}
      role="region"
      aria-label="First rows of the file"
    >
      <table className="border-collapse">
        <thead className="sticky top-0 z-10 bg-raised">
          <tr>
            {look.columns.map((column, i) => (
              <th
                key={i}
                scope="col"
                className="min-w-[150px] border-b border-r border-key border-r-hair px-3 py-2 text-left align-top font-semibold"
              >
                <span className="block max-w-[240px] truncate">
                  {column.name || <span className="text-faint">no name</span>}
                </span>
                <select
                  aria-label={`What “${column.name}” is`}
                  value={targets[i]}
                  onChange={(event) => onTargets(withTarget(targets, i, event.target.value as Target))}
                  className={`mt-1 w-full rounded-sm border bg-sheet px-1 py-0.5 font-normal ${targets[i] === "skip" ? "border-edge text-faint" : "border-rule"}`}
                >
                  {TARGETS.map((target) => (
                    <option key={target} value={target}>
                      {TARGET_WORDS[target] ?? target}
                    </option>
                  ))}
                </select>
                {column.figures && targets[i] !== "skip" && (
                  <FiguresChoice
                    column={column.name}
                    figures={column.figures}
                    format={formats[i] ?? {}}
                    onChoose={(format) => onFormats(formats.map((own, at) => (at === i ? format : own)))}
                  />
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {look.rows.map((row, i) => (
            <tr key={i} className="border-b border-hair">
              {look.columns.map((_, c) => (
                <td
                  key={c}
                  className={`max-w-[260px] truncate border-r border-hair px-3 py-1 ${targets[c] === "skip" ? "text-faint line-through" : ""}`}
                >
                  {row[c]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {look.rows.length === 0 && (
        <p className="p-4 text-soft">The file has a header but no rows. Choose a file with at least one row.</p>
      )}
    </div>
  );
}

/** How a column writes its figures: what was found, and the other way. */
function FiguresChoice({
  column,
  figures,
  format,
  onChoose,
}: {
  column: string;
  figures: FormatGuess;
  format: FieldFormat;
  onChoose: (format: FieldFormat) => void;
}) {
  const about = figures.isSure ? "detected from the values" : "not clear from the values; please check";
  return (
    <label className="mt-1 block text-[12px] font-normal text-soft" title={figures.examples.join("   ")}>
      {figures.type === "number" ? "Numbers as" : "Dates as"}{" "}
      <select
        aria-label={`How “${column}” writes ${figures.type === "number" ? "numbers" : "dates"}`}
        value={format[figures.type]}
        onChange={(event) => onChoose({ [figures.type]: event.target.value })}
        className={`rounded-sm border bg-sheet ${figures.isSure ? "border-edge" : "border-magenta"}`}
      >
        {FIGURE_WORDS[figures.type].map(([value, label]) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </select>
      <span className="narrow block max-w-[240px] truncate">
        {about}: {figures.examples.join(" · ")}
        {figures.unread > 0 && ` · ${counted(figures.unread, "is none", "are none")}`}
      </span>
    </label>
  );
}
