"use client";
import { useRouter } from "next/navigation";
import { Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { toast } from "sonner";
import { BOARD_KINDS, kindWord, type TextName, TEXTS } from "../../core/design/kinds";
import { type KindDesign, siteSchema } from "../../core/design/design";
import { type Line } from "../../core/lines/ast";
import { parseLine } from "../../core/lines/parse";
import { type Filter, type Sort } from "../../core/proof/order";
import type { BenchRow, ProvedKind } from "../../server/proof-engine";
import { Histogram } from "../proof/histogram";
import { SLUG_CHARACTER } from "../proof/true-size";
import { ask } from "../shell/api";
import { count, counted } from "../shell/format";
import { BAR_ACTION, MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { BarSlot } from "../shell/shell";
import { hasUnkept, useSite } from "../shell/site-context";
import { BenchRows } from "./bench-rows";
import { type BenchView, useBenchView } from "./bench-url";
import { ItemPanel, useItemProofs } from "./item-panel";
import { LineEditor } from "./line-editor";
import { knownFields } from "./line-language";
import { roomOf, withLine } from "../proof/local-proof";
import { ResultsShelf } from "./results-shelf";
import { useBenchData, useFields } from "./use-bench-data";
import { useDraft } from "./use-draft";

const LABELS: Record<TextName, string> = { title: "Title", description: "Description", slug: "Slug" };
const SORT_LABELS: readonly [Sort, string][] = [["widest", "Widest"], ["shortest", "Shortest"], ["changed", "Changed most"], ["keyword", "Keyword late"]];
const FILTER_LABELS: readonly [Filter, string][] = [
  ["all", "All pages"], ["too-wide", "Too wide"], ["duplicate", "Duplicates"], ["missing", "Missing"], ["by-hand", "By hand"], ["changed", "Changed"],
  ["keyword-absent", "Keyword absent"], ["keyword-late", "Keyword late"], ["keyword-cut", "Keyword cut off"], ["empty-field", "A field is empty"],
];
const ORIGIN = 84;
const NO_SITE = siteSchema.parse({});

/** The Bench: three lines for one kind, and what they do to every page, while they are typed. */
export function Bench() {
  return (
    <Suspense>
      <BenchView />
    </Suspense>
  );
}

function BenchView() {
  const [view, setView] = useBenchView();
  const { state, keep } = useSite();
  const site = state.site;
  const { kind, text } = view;
  const { design, change, saved } = useDraft(kind);
  const fields = useFields(kind, state.revision);
  const [range, setRange] = useState({ first: 0, last: 30 });
  const onRange = useCallback((first: number, last: number) => setRange((old) => (old.first === first && old.last === last ? old : { first, last })), []);
  const router = useRouter();

  const known = useMemo(() => knownFields(fields), [fields]);
  const lines = useMemo(() => Object.fromEntries(TEXTS.map((name) => [name, design.base[name] === undefined ? null : parseLine(design.base[name], known)])) as Record<TextName, Line | null>, [design, known]);
  const good = useGoodDesign(kind, design, lines);
  const data = useBenchData(view, good.design, range);
  const [chosen, setChosen] = useState<BenchRow | null>(null);
  const { item } = view;
  useEffect(() => {
    if (item === null) return;
    let stale = false;
    ask<BenchRow | null>("/api/item", { body: { kind, design, text, id: item } })
      .then((row) => !stale && row && setChosen(row))
      .catch(() => {});
    return () => {
      stale = true;
    };
    // Asked once for a link that names an item; rows that are chosen on screen are known already.
  }, [kind, text, item === chosen?.id]); // eslint-disable-line react-hooks/exhaustive-deps
  const firstRow = data.rows.get(0) ?? null;
  const shown = chosen ?? firstRow;
  const choose = useCallback(
    (row: BenchRow) => {
      setChosen(row);
      setView({ item: row.id });
    },
    [setView],
  );

  const shownProofs = useItemProofs(shown, good.design, site ?? NO_SITE, fields);

  if (!site) return <p className="p-8">There is no site yet. Bring in a file of pages first.</p>;
  const unkept = hasUnkept(state, kind) || !saved;
  const changes = data.proved ? TEXTS.reduce((sum, name) => sum + data.proved!.texts[name].draft.changed, 0) : 0;
  const total = state.counts[kind] ?? 0;

  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_266px]">
      <BarSlot>
        <span className="narrow text-[12px] text-bar-soft" role="status">
          {data.loading ? "Proving …" : `${counted(total, kindWord(kind, 1), kindWord(kind, 2))} set in ${(data.ms / 1000).toFixed(2)} s`}
          <span className="mx-2">·</span>
          {unkept ? (saved ? "Draft stored, not kept" : "Draft changes …") : "Kept"}
        </span>
        <button type="button" className={BAR_ACTION} disabled={!unkept} onClick={() => void keep(kind).then(() => toast(`Draft for ${kindWord(kind, 2)} kept`))}>
          Keep draft
        </button>
        <button type="button" className={MAIN_ACTION} disabled={changes === 0} onClick={() => router.push("/review")}>
          Review {counted(changes, "change", "changes")}
        </button>
      </BarSlot>
      <section aria-label="Bench" className="flex min-h-0 min-w-0 flex-col border-r border-hair bg-sheet">
        <h1 className="sr-only">Bench: lines for {kindWord(kind, 2)}</h1>
        <div className="flex items-center gap-1 border-b border-hair bg-desk px-3 pt-2" role="tablist" aria-label="Kind of page">
          {BOARD_KINDS.map((name) => (
            <button
              key={name}
              type="button"
              role="tab"
              aria-selected={name === kind}
              onClick={() => {
                setChosen(null);
                setView({ kind: name, item: null, filter: "all", search: "" });
              }}
              className={`rounded-t-sm px-3 py-1.5 ${name === kind ? "bg-sheet font-bold" : "text-soft hover:text-key"}`}
            >
              <span className="capitalize">{kindWord(name, 2)}</span> <span className="narrow text-[12px] text-soft">{count(state.counts[name] ?? 0)}</span>
            </button>
          ))}
        </div>
        <div className="border-b border-key px-5 py-1.5">
          {TEXTS.map((name, i) => (
            <LineRow
              key={`${kind} ${name}`}
              name={name}
              active={name === text}
              last={i === TEXTS.length - 1}
              line={lines[name]}
              value={design.base[name] ?? ""}
              fields={fields}
              proved={data.proved?.kind === kind ? data.proved : null}
              onChange={(value) => change(withLine(design, name, value))}
              onOpen={(filter) => setView({ text: name, ...(filter ? { filter } : {}) })}
            />
          ))}
        </div>
        {total === 0 ? (
          <p className="p-8 text-soft">This site has no {kindWord(kind, 2)}. Bring some in, or choose another kind above.</p>
        ) : (
          <Measured view={view} setView={setView} data={data} line={good.lines[text]} chosen={shown?.id ?? null} onChoose={choose} onRange={onRange} />
        )}
        {shown && shownProofs && total > 0 && <ResultsShelf row={shown} proofs={shownProofs} site={site} />}
      </section>
      <aside aria-label="The chosen page" className="min-h-0 overflow-auto" tabIndex={0}>
        {shown && shownProofs && total > 0 ? <ItemPanel row={shown} proofs={shownProofs} text={text} site={site} /> : <p className="p-4 text-soft">Choose a page to see it whole</p>}
      </aside>
    </div>
  );
}

type ParsedLines = Readonly<Record<TextName, Line | null>>;

/**
 * The design that is proved while another is typed: a line with an error stands as it last was without one, so that
 * the figures and rows do not jump at every half-typed field.
 */
function useGoodDesign(kind: string, design: KindDesign, lines: ParsedLines): { design: KindDesign; lines: ParsedLines } {
  const last = useRef<{ kind: string; lines: ParsedLines }>({ kind, lines });
  return useMemo(() => {
    const before = last.current.kind === kind ? last.current.lines : lines;
    const good = Object.fromEntries(TEXTS.map((name) => [name, lines[name] && lines[name].errors.length > 0 ? before[name] : lines[name]])) as ParsedLines;
    last.current = { kind, lines: good };
    const proved = TEXTS.reduce((sum, name) => (good[name] === lines[name] ? sum : withLine(sum, name, good[name]?.source ?? "")), design);
    return { design: proved, lines: good };
  }, [kind, design, lines]);
}

function LineRow(props: { name: TextName; active: boolean; last: boolean; line: Line | null; value: string; fields: ReturnType<typeof useFields>; proved: ProvedKind | null; onChange: (value: string) => void; onOpen: (filter?: Filter) => void }) {
  const { name, line, proved } = props;
  const figures = proved?.texts[name].draft;
  const error = line?.errors[0];
  const figure = (value: number, label: string, filter: Filter, needsPerson: boolean) => (
    <button type="button" key={label} onClick={() => props.onOpen(filter)} className="narrow whitespace-nowrap hover:underline" data-figure={`${name}-${filter}`}>
      <b className={needsPerson && value > 0 ? "text-magenta" : ""}>{count(value)}</b> <span className="text-soft">{label}</span>
    </button>
  );
  return (
    <div className={`flex items-start gap-3 py-1.5 ${props.last ? "" : "border-b border-hair"}`}>
      <button type="button" aria-pressed={props.active} onClick={() => props.onOpen()} className={`w-[76px] shrink-0 pt-1 text-left font-semibold ${props.active ? "text-key underline decoration-rule decoration-2 underline-offset-4" : "text-soft"}`}>
        {LABELS[name]}
      </button>
      <div className="min-w-0 flex-1">
        <LineEditor label={`${LABELS[name]} line`} value={props.value} fields={props.fields} onChange={props.onChange} onFocus={() => props.onOpen()} invalid={error !== undefined} describedBy={`error-${name}`} />
        <p id={`error-${name}`} className="text-[12px] text-magenta" role="status">
          {error && (
            <>
              {error.message}. <span className="text-soft">At character {error.from + 1}; a line with an error is never applied.</span>
            </>
          )}
        </p>
      </div>
      <div className="flex shrink-0 gap-3 pt-1 text-[12.5px]">
        {figures &&
          (name === "slug"
            ? [figure(figures.changed, "move", "changed", false), figure(figures.duplicates, "clash", "duplicate", true)]
            : [
                ...(figures.missing > 0 ? [figure(figures.missing, "missing", "missing", true)] : []),
                figure(figures.tooWide, "too wide", "too-wide", true),
                figure(figures.duplicates, "duplicates", "duplicate", true),
              ])}
      </div>
    </div>
  );
}

function Measured(props: { view: BenchView; setView: (change: Partial<BenchView>) => void; data: ReturnType<typeof useBenchData>; line: Line | null; chosen: number | null; onChoose: (row: BenchRow) => void; onRange: (first: number, last: number) => void }) {
  const { view, setView, data } = props;
  const { state } = useSite();
  const site = state.site!;
  const { kind, text } = view;
  const room = roomOf(site, text);
  const holder = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(960);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    observer.observe(holder.current!);
    return () => observer.disconnect();
  }, []);
  const axis = useMemo(() => ({ origin: ORIGIN, scale: room.unit === "px" ? 1 : SLUG_CHARACTER, width }), [room.unit, width]);
  const proved = data.proved?.kind === kind ? data.proved : null;
  const figures = proved?.texts[text];
  const surface = room.surface;
  const about = surface ? `${surface.size} px, ${surface.lines === 1 ? "one line" : `${surface.lines} lines`} of ${surface.width} px${surface.total === null ? "" : `, ${surface.total} px in all`}` : `at most ${room.width} characters`;
  return (
    <div ref={holder} className="relative flex min-h-0 flex-1 flex-col">
      <div className="border-b border-hair bg-raised">
        <div className="flex items-center gap-3 px-5 pt-2">
          <h2 className="whitespace-nowrap font-bold">{surface?.label ?? "Slug"}</h2>
          <span className="narrow truncate text-soft" title={about}>{about}</span>
          <input type="search" aria-label="Search pages" placeholder="Search pages" defaultValue={view.search} onChange={(event) => setView({ search: event.target.value })} className="ml-auto w-28 shrink-0 rounded-sm border border-hair bg-sheet px-2 py-0.5 placeholder:text-faint" />
          <select aria-label="Show" value={view.filter} onChange={(event) => setView({ filter: event.target.value as Filter })} className={`rounded-sm border bg-sheet px-1 py-1 ${view.filter === "all" ? "border-hair" : "border-key font-semibold"}`}>
            {FILTER_LABELS.map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
          <div role="radiogroup" aria-label="Sort" className="flex shrink-0 overflow-hidden rounded-sm border border-hair bg-sheet">
            {SORT_LABELS.map(([value, label]) => (
              <button key={value} type="button" role="radio" aria-checked={view.sort === value} onClick={() => setView({ sort: value })} className={`whitespace-nowrap px-2 py-0.5 ${view.sort === value ? "bg-key font-semibold text-sheet" : "text-soft hover:text-key"}`}>
                {label}
              </button>
            ))}
          </div>
        </div>
        {figures ? (
          <Histogram
            bins={figures.draft.histogram}
            live={figures.live.histogram}
            binSize={figures.draft.binSize}
            limit={room.width}
            unit={room.unit}
            axis={axis}
            height={118}
            ruler
            showLimit
            label={`How wide ${count(figures.draft.total)} ${kindWord(kind, 2)} are: ${count(figures.draft.tooWide)} are wider than ${room.width} ${room.unit === "px" ? "px" : "characters"}; the dashed outline is the site now`}
          />
        ) : (
          <div className="h-[118px]" />
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
        <p className="px-5 py-6 text-soft">
          No page is in this part of the set.{" "}
          <button type="button" className="underline" onClick={() => setView({ filter: "all", search: "" })}>
            Show all pages
          </button>
        </p>
      ) : (
        <BenchRows rows={data.rows} total={data.total} line={props.line} text={text} site={site} axis={axis} chosen={props.chosen} onChoose={props.onChoose} onRange={props.onRange} resetKey={`${kind} ${text} ${view.sort} ${view.filter} ${view.search}`} />
      )}
      <div aria-hidden="true" className="pointer-events-none absolute bottom-0 top-[34px] w-[1.5px] bg-rule" style={{ left: axis.origin + room.width * axis.scale }} />
    </div>
  );
}
