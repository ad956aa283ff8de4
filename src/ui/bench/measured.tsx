"use client";
import { useEffect, useMemo, useRef, useState } from "react";
import { type Filter, type Sort } from "../../core/proof/row-views";
import type { BenchRow } from "../../server/bench/bench-row";
import { Histogram } from "../proof/histogram";
import { type LineOf } from "../../core/proof/row-proof";
import { roomOf } from "../../core/proof/site-room";
import { SLUG_CHARACTER } from "../proof/true-size";
import { SearchBox } from "../shell/search-box";
import { PLAIN_ACTION } from "../shell/actions";
import { count } from "../shell/format";
import { useSite, useKindWord } from "../shell/site-context";
import { BenchRows } from "./bench-rows";
import { type BenchView } from "./bench-codec";
import { type BenchData } from "./use-bench-data";

const SORT_LABELS: readonly [Sort, string][] = [
  ["widest", "Widest"],
  ["shortest", "Shortest"],
  ["changed", "Biggest change"],
  ["keyword", "Keyword late"],
];
const FILTER_LABELS: readonly [Filter, string][] = [
  ["all", "All pages"],
  ["too-wide", "Too wide"],
  ["duplicate", "Duplicates"],
  ["missing", "Missing"],
  ["by-hand", "By hand"],
  ["changed", "Changed"],
  ["keyword-absent", "Keyword absent"],
  ["keyword-late", "Keyword late"],
  ["keyword-cut", "Keyword cut off"],
  ["empty-field", "A field is empty"],
];
/** Where texts begin, in px from the left of the measure. */
export const ORIGIN = 84;

/** One text of many pages on the measure: the widths of all above, each page at true size below, on one pixel axis. */
export function Measured(props: {
  view: BenchView;
  setView: (change: Partial<BenchView>) => void;
  data: BenchData;
  lineOf: LineOf;
  chosen: number | null;
  onChoose: (row: BenchRow) => void;
  onRange: (first: number, last: number) => void;
  /** Whether pages can be shown of one rule or of all. */
  parted: boolean;
  /** Opens the page's panel where it does not stand beside the rows. */
  onPanel: (() => void) | null;
}) {
  const kindWord = useKindWord();
  const { view, setView, data } = props;
  const { state } = useSite();
  const site = state.site!;
  const { kind, text } = view;
  const room = roomOf(site, text);
  const holder = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(800);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    observer.observe(holder.current!);
    return () => observer.disconnect();
  }, []);
  const axis = useMemo(
    () => ({ origin: ORIGIN, scale: room.unit === "px" ? 1 : SLUG_CHARACTER, width }),
    [room.unit, width],
  );
  const proved = data.proved?.kind === kind ? data.proved : null;
  const whole = proved?.texts[text];
  const figures = whole && (whole.part ?? whole);
  const surface = room.surface;
  const about = surface
    ? `${surface.size} px, ${surface.lines === 1 ? "one line" : `${surface.lines} lines`} of ${surface.width} px${surface.total === null ? "" : `, ${surface.total} px in all`}`
    : `at most ${room.width} characters`;
  return (
    <div className="flex min-h-0 flex-1 flex-col small:h-[70dvh] small:min-h-[360px] small:flex-none small:overflow-x-auto">
      <div ref={holder} className="relative flex min-h-0 flex-1 flex-col small:min-w-[860px]">
        <div className="border-b border-hair bg-raised">
          <div className="flex items-center gap-2 px-4 pt-2">
            <h2 className="min-w-0 truncate font-bold" title={`${surface?.label ?? "Slug"}: ${about}`}>
              {surface?.label ?? "Slug"}
            </h2>
            <SearchBox
              label="Search pages"
              placeholder="Search"
              value={view.search}
              onSearch={(search) => setView({ search })}
              className="ml-auto w-20 shrink"
            />
            {props.parted && (
              <select
                aria-label="Which pages"
                value={view.pages}
                onChange={(event) => setView({ pages: event.target.value as BenchView["pages"] })}
                className="rounded-sm border border-edge bg-sheet px-1 py-1"
              >
                <option value="own">{view.rule === "base" ? "Pages it decides" : "Pages this rule decides"}</option>
                <option value="all">All {kindWord(kind, 2)}</option>
              </select>
            )}
            <select
              aria-label="Show"
              value={view.filter}
              onChange={(event) => setView({ filter: event.target.value as Filter })}
              className={`rounded-sm border bg-sheet px-1 py-1 ${view.filter === "all" ? "border-edge" : "border-key font-semibold"}`}
            >
              {FILTER_LABELS.map(([value, label]) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </select>
            <div
              role="radiogroup"
              aria-label="Sort"
              className="narrow flex shrink-0 overflow-hidden rounded-sm border border-edge bg-sheet"
            >
              {SORT_LABELS.map(([value, label]) => (
                <button
                  key={value}
                  type="button"
                  role="radio"
                  aria-checked={view.sort === value}
                  onClick={() => setView({ sort: value })}
                  className={`whitespace-nowrap px-1.5 py-0.5 ${view.sort === value ? "bg-key font-semibold text-sheet" : "text-soft hover:text-key"}`}
                >
                  {label}
                </button>
              ))}
            </div>
            {props.onPanel && (
              <button
                type="button"
                className={`${PLAIN_ACTION} whitespace-nowrap !px-2 !py-0.5`}
                onClick={props.onPanel}
              >
                Why this text
              </button>
            )}
          </div>
          {figures ? (
            <Histogram
              bins={figures.draft.histogram}
              live={figures.live.histogram}
              binSize={figures.draft.binSize}
              limit={room.width}
              unit={room.unit}
              axis={axis}
              height={104}
              ruler
              showLimit
              label={`How wide ${count(figures.draft.total)} ${kindWord(kind, 2)} are: ${count(figures.draft.tooWide)} are wider than ${room.width} ${room.unit === "px" ? "px" : "characters"}; the dashed outline is the site now`}
            />
          ) : (
            <div className="h-[104px]" />
          )}
        </div>
        {data.error && (
          <div role="alert" className="flex items-center gap-3 border-b border-magenta bg-sheet px-5 py-2 text-magenta">
            {data.error}
            <button type="button" className={PLAIN_ACTION} onClick={data.retry}>
              Try again
            </button>
          </div>
        )}
        {!data.loading && data.total === 0 && !data.error ? (
          <p className="flex-1 px-5 py-6 text-soft">
            {view.filter === "all" && view.search === "" ? "This line decides no page. " : "No page matches. "}
            <button
              type="button"
              className="underline"
              onClick={() =>
                setView(view.filter === "all" && view.search === "" ? { pages: "all" } : { filter: "all", search: "" })
              }
            >
              Show all pages
            </button>
          </p>
        ) : (
          <BenchRows
            rows={data.rows}
            areCurrent={data.areRowsCurrent}
            total={data.total}
            lineOf={props.lineOf}
            text={text}
            site={site}
            axis={axis}
            chosen={props.chosen}
            onChoose={props.onChoose}
            onRange={props.onRange}
            resetKey={`${kind} ${text} ${view.rule} ${view.pages} ${view.sort} ${view.filter} ${view.search}`}
          />
        )}
        <div
          aria-hidden="true"
          className="pointer-events-none absolute bottom-0 top-[34px] w-[1.5px] bg-rule"
          style={{ left: axis.origin + room.width * axis.scale }}
        />
      </div>
    </div>
  );
}
