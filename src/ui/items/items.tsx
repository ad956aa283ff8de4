"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, Suspense, useEffect, useRef } from "react";
import { type Subject } from "../../core/checks/findings";
import { BOARD_KINDS, kindWord } from "../../core/design/kinds";
import type { ListedItem } from "../../server/items-list";
import type { Side } from "../../server/site-findings";
import { count, counted } from "../shell/format";
import { BarSlot } from "../shell/shell";
import { useSite } from "../shell/site-context";
import { Trouble } from "../shell/trouble";
import { findingKind, FindingsPanel, SUBJECT_LABELS } from "./findings-panel";
import { ItemSheet } from "./item-sheet";
import { type ItemsView, SORT_LABELS, useItemsView } from "./items-url";
import { useItems } from "./use-items";

const ROW = 62;
const COLUMNS = "minmax(190px,1.1fr) minmax(260px,1.7fr) minmax(150px,0.8fr)";

/** Every page of the site with what was found in it: filtered, sorted, worked off. */
export function Items() {
  return (
    <Suspense>
      <ItemsScreen />
    </Suspense>
  );
}

function ItemsScreen() {
  const [view, setView] = useItemsView();
  const { state } = useSite();
  const data = useItems(view, state.revision);
  const searched = useRef<HTMLInputElement>(null);
  if (!state.site) return <p className="p-8">There is no site yet. Bring in a file of pages first.</p>;
  const { finding } = view;
  const clear = () => {
    if (searched.current) searched.current.value = "";
    setView({ finding: null, search: "", kind: "all" });
  };
  return (
    <div className={`grid h-full min-h-0 ${view.item === "" ? "grid-cols-[292px_minmax(0,1fr)]" : "grid-cols-[292px_minmax(0,1fr)_340px]"}`}>
      <BarSlot>
        <span className="narrow text-[12px] text-bar-soft" role="status">
          {data.progress ? `${data.progress.step === "loading" ? "Loading" : "Checking"} ${kindWord(data.progress.kind, 2)}: ${Math.round(data.progress.share * 100)} %` : data.loading ? "Checking every page …" : counted(data.total, "page", "pages")}
        </span>
      </BarSlot>
      <FindingsPanel counts={data.counts} view={view} onChange={setView} />
      <section aria-label="Pages" className="flex min-h-0 min-w-0 flex-col bg-sheet">
        <h1 className="sr-only">Items: every page and what was found in it</h1>
        <div className="flex flex-wrap items-center gap-2 border-b border-hair bg-raised px-4 py-2">
          <input ref={searched} type="search" aria-label="Search pages" placeholder="Search names, addresses, titles" defaultValue={view.search} onChange={(event) => setView({ search: event.target.value })} className="w-56 rounded-sm border border-hair bg-sheet px-2 py-1 placeholder:text-faint" />
          <select aria-label="Kind of page" value={view.kind} onChange={(event) => setView({ kind: event.target.value as ItemsView["kind"] })} className="rounded-sm border border-hair bg-sheet px-1 py-1">
            <option value="all">All kinds</option>
            {BOARD_KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {kindWord(kind, 2)}
              </option>
            ))}
          </select>
          <div role="radiogroup" aria-label="Findings of" className="flex overflow-hidden rounded-sm border border-hair bg-sheet">
            {([["live", "On the site"], ["draft", "Under the drafts"]] as const).map(([side, label]) => (
              <button key={side} type="button" role="radio" aria-checked={view.side === side} onClick={() => setView({ side })} className={`whitespace-nowrap px-2 py-1 ${view.side === side ? "bg-key font-semibold text-sheet" : "text-soft hover:text-key"}`}>
                {label}
              </button>
            ))}
          </div>
          <select aria-label="Order" value={view.sort} onChange={(event) => setView({ sort: event.target.value as ItemsView["sort"] })} className="rounded-sm border border-hair bg-sheet px-1 py-1">
            {SORT_LABELS.map(([sort, label]) => (
              <option key={sort} value={sort}>
                {label}
              </option>
            ))}
          </select>
        </div>
        {finding && (
          <p className="border-b border-hair px-4 py-2">
            <b>{findingKind(finding.subject, finding.id).label}</b> <span className="text-soft">{findingKind(finding.subject, finding.id).why}</span> {findingKind(finding.subject, finding.id).mend}{" "}
            <button type="button" className="text-soft underline decoration-hair underline-offset-4 hover:text-key" onClick={() => setView({ finding: null })}>
              Show all pages
            </button>
          </p>
        )}
        {data.error && (
          <div className="px-4">
            <Trouble message={data.error} onRetry={data.retry} />
          </div>
        )}
        <List view={view} data={data} onOpen={(item) => setView({ item: `${item.kind}-${item.id}` })} onClear={clear} />
      </section>
      {view.item !== "" && <ItemSheet item={view.item} revision={state.revision} onClose={() => setView({ item: "" })} />}
    </div>
  );
}

function List({ view, data, onOpen, onClear }: { view: ItemsView; data: ReturnType<typeof useItems>; onOpen: (item: ListedItem) => void; onClear: () => void }) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({ count: data.total, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 8 });
  const shown = virtual.getVirtualItems();
  const first = shown[0]?.index ?? 0;
  const last = shown.at(-1)?.index ?? 0;
  const { show } = data;
  useEffect(() => show(first, last), [show, first, last, data.total]);
  const { finding, search, sort, kind, side } = view;
  useEffect(() => {
    scroller.current?.scrollTo({ top: 0 });
  }, [finding, search, sort, kind, side]);
  const placeOf = () => {
    for (const [place, item] of data.items) if (`${item.kind}-${item.id}` === view.item) return place;
    return -1;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 400) / ROW) - 1);
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: page, PageUp: -page, Home: -data.total, End: data.total }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const at = placeOf();
    const target = at < 0 && Math.abs(step) === 1 ? 0 : Math.max(0, Math.min(data.total - 1, Math.max(0, at) + step));
    virtual.scrollToIndex(target, { align: "auto" });
    const item = data.items.get(target);
    if (item) onOpen(item);
  };
  if (!data.loading && data.total === 0 && !data.error) {
    return (
      <p className="px-4 py-6 text-soft">
        No page is like this.{" "}
        <button type="button" className="underline" onClick={onClear}>
          Show all pages
        </button>
      </p>
    );
  }
  return (
    <div ref={scroller} role="listbox" aria-label={`Pages, ${count(data.total)} of them`} aria-activedescendant={view.item === "" ? undefined : `item-${view.item}`} aria-busy={data.loading} tabIndex={0} onKeyDown={onKeyDown} className="min-h-0 flex-1 overflow-auto">
      <div className="relative" role="presentation" style={{ height: virtual.getTotalSize() }}>
        {shown.map(({ index, start }) => {
          const item = data.items.get(index);
          const name = item ? `${item.kind}-${item.id}` : "";
          return (
            <div
              key={index}
              role="option"
              id={item ? `item-${name}` : undefined}
              aria-selected={item !== undefined && name === view.item}
              aria-setsize={data.total}
              aria-posinset={index + 1}
              aria-label={item ? `${item.name}; ${item.findings[side].length} findings` : "loading"}
              onClick={() => item && onOpen(item)}
              className={`absolute left-0 top-0 grid w-full cursor-default items-start gap-4 overflow-hidden border-b border-hair px-4 py-1.5 ${item && name === view.item ? "bg-cyan-pale" : "hover:bg-raised"}`}
              style={{ height: ROW, transform: `translateY(${start}px)`, gridTemplateColumns: COLUMNS }}
            >
              {item ? <Row item={item} side={side} /> : <span className="mt-2 h-2.5 w-48 bg-hair" />}
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** @example inWords([{ subject: "title", id: "too-wide" }]) // "Title: too wide." */
function inWords(found: ListedItem["findings"][Side]): string {
  const bySubject = new Map<Subject, string[]>();
  for (const { subject, id } of found) bySubject.set(subject, [...(bySubject.get(subject) ?? []), findingKind(subject, id).label.toLowerCase().replace("h1", "H1")]);
  return [...bySubject].map(([subject, labels]) => `${SUBJECT_LABELS[subject]}: ${labels.join(", ")}.`).join(" ");
}

function Row({ item, side }: { item: ListedItem; side: Side }) {
  const { title } = item;
  const line = (text: string, size: number, fits: boolean, faint: boolean) => (
    <span className="flex items-baseline gap-2">
      <span className={`narrow w-9 shrink-0 text-right text-[12px] ${fits ? "text-faint" : "font-semibold text-magenta"}`}>{text === "" ? "–" : Math.round(size)}</span>
      <span className={`min-w-0 truncate font-[family-name:var(--font-desktop)] ${faint ? "text-faint" : ""}`}>{text === "" ? <span className="text-magenta">no title</span> : text}</span>
    </span>
  );
  const found = item.findings[side];
  return (
    <>
      <span className="min-w-0">
        <span className="block truncate font-semibold">{item.name}</span>
        <span className="narrow block truncate text-[12px] text-soft">{item.path}</span>
        {item.keyword !== "" && (
          <span className="narrow block truncate text-[12px]">
            <mark className="marker px-0.5 text-inherit">{item.keyword}</mark>
          </span>
        )}
      </span>
      <span className="min-w-0">
        {line(title.live, title.liveSize, title.liveFits, side === "draft")}
        {title.draft !== title.live && line(title.draft, title.draftSize, title.draftFits, side === "live")}
      </span>
      <span className="narrow line-clamp-3 min-w-0 text-[12px] leading-snug text-soft">
        {found.length === 0 ? "In order" : inWords(found)}
      </span>
    </>
  );
}
