import { type TextName, TEXTS } from "../../core/design/kinds";
import { type TextSummary } from "../../core/proof/summary";
import type { Comparison } from "../../server/bench/compare";
import { count } from "../shell/format";

const LABELS: Record<TextName, string> = { title: "Title", description: "Description", slug: "Slug" };

interface Measure {
  readonly label: string;
  readonly of: (summary: TextSummary) => number;
  /** Which way is better: more, less, or neither. */
  readonly better: "more" | "less" | "neither";
  readonly unit?: string;
}

const fitting = (s: TextSummary) => s.total - s.missing - s.tooWide;
const MEASURES: Record<TextName, readonly Measure[]> = {
  title: [
    { label: "Fit", of: fitting, better: "more" },
    { label: "Too wide", of: (s) => s.tooWide, better: "less" },
    { label: "Duplicates", of: (s) => s.duplicates, better: "less" },
    { label: "Missing", of: (s) => s.missing, better: "less" },
    { label: "Keyword first", of: (s) => s.keyword.first, better: "more" },
    { label: "Keyword absent", of: (s) => s.keyword.absent, better: "less" },
    { label: "Keyword late or cut off", of: (s) => s.keyword.late + s.keyword.cut, better: "less" },
    { label: "Average width", of: (s) => Math.round(s.average), better: "neither", unit: "px" },
  ],
  description: [
    { label: "Fit", of: fitting, better: "more" },
    { label: "Too wide", of: (s) => s.tooWide, better: "less" },
    { label: "Duplicates", of: (s) => s.duplicates, better: "less" },
    { label: "Missing", of: (s) => s.missing, better: "less" },
    { label: "Keyword absent", of: (s) => s.keyword.absent, better: "less" },
    { label: "Average width", of: (s) => Math.round(s.average), better: "neither", unit: "px" },
  ],
  slug: [
    { label: "Clash", of: (s) => s.duplicates, better: "less" },
    { label: "Move", of: (s) => s.changed, better: "neither" },
    { label: "Words cut", of: (s) => s.tooWide, better: "less" },
    { label: "Keyword absent", of: (s) => s.keyword.absent, better: "less" },
    { label: "Average length", of: (s) => Math.round(s.average), better: "neither", unit: "ch" },
  ],
};

/** Both drafts' figures for each text; what is better is bold, what is worse needs a person. */
export function Figures({
  comparison,
  text,
  labels,
  onText,
}: {
  comparison: Comparison;
  text: TextName;
  labels: readonly [string, string];
  onText: (text: TextName) => void;
}) {
  return (
    <table className="mt-3 w-full border-collapse">
      <caption className="sr-only">Figures of both drafts over the whole set</caption>
      <thead>
        <tr className="align-bottom text-left text-[12px] text-soft">
          <td />
          {labels.map((label, i) => (
            <th key={i} scope="col" className="max-w-24 pb-1 pl-2 text-right font-semibold">
              <span className="line-clamp-2 break-words">{label}</span>
            </th>
          ))}
          <th scope="col" className="pb-1 pl-2 text-right font-semibold">
            Change
          </th>
        </tr>
      </thead>
      {TEXTS.map((name) => {
        const { a, b, different } = comparison.texts[name];
        return (
          <tbody key={name} className="border-t border-key">
            <tr>
              <th scope="rowgroup" colSpan={4} className="pb-0.5 pt-2 text-left">
                <button
                  type="button"
                  aria-pressed={name === text}
                  onClick={() => onText(name)}
                  className={`font-bold ${name === text ? "underline decoration-rule decoration-2 underline-offset-4" : "hover:underline"}`}
                >
                  {LABELS[name]}
                </button>{" "}
                <span className="narrow text-[12px] font-normal text-soft">
                  {different === 0 ? "the same on every page" : `different on ${count(different)}`}
                </span>
              </th>
            </tr>
            {MEASURES[name].map((measure) => (
              <Row key={measure.label} measure={measure} a={measure.of(a)} b={measure.of(b)} />
            ))}
          </tbody>
        );
      })}
    </table>
  );
}

function Row({ measure, a, b }: { measure: Measure; a: number; b: number }) {
  const change = b - a;
  const worse = (measure.better === "more" && change < 0) || (measure.better === "less" && change > 0);
  const better = change !== 0 && measure.better !== "neither" && !worse;
  const unit = measure.unit ? ` ${measure.unit}` : "";
  return (
    <tr className="border-t border-hair" data-measure={measure.label}>
      <th scope="row" className="py-0.5 text-left font-normal text-soft">
        {measure.label}
      </th>
      <td className="py-0.5 pl-2 text-right">
        {count(a)}
        {unit}
      </td>
      <td className={`py-0.5 pl-2 text-right ${better ? "font-bold" : ""}`}>
        {count(b)}
        {unit}
      </td>
      <td className={`py-0.5 pl-2 text-right ${worse ? "text-magenta" : better ? "font-bold" : "text-faint"}`}>
        {change === 0 ? "–" : `${change > 0 ? "+" : "−"}${count(Math.abs(change))}`}
        {worse && <span className="sr-only"> worse</span>}
      </td>
    </tr>
  );
}
