"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import type { ChangeGroup } from "../../core/plan/groups";
import type { ReviewSummary } from "../../server/review/review-summary";
import type { ReviewedChange } from "../../server/review/reviewed-change";
import { ChangePage, pageAddress } from "../proof/change-page";
import { useKeptScroll } from "../shell/kept-scroll";
import { ROW_AT, useRowKeys } from "../shell/row-keys";
import { useRouter } from "../shell/site-path";
import { ChangePair } from "../proof/change-pair";
import { call } from "../shell/api";
import { counted } from "../shell/format";
import { useWindows } from "../shell/queries";
import { useSite } from "../shell/site-context";
import { drawnRows, PRINTED_ROWS, PrintedRest, usePrinting, WINDOWED_ROW } from "../shell/printing";
import { Tick } from "../shell/tick";
import { fileName } from "../shell/format";
import { costWords, GROUP_WORDS, heldWords, worseWords } from "./review-words";
import type { SayOfChanges } from "./use-ticks";
import { roomOf } from "../../core/proof/site-room";
import { REVIEW_ORDERS, type ReviewFilter, type ReviewOrder } from "../../core/plan/review-filter";

const ORDER_LABELS: Record<ReviewOrder, string> = {
  site: "Site order",
  changed: "Biggest change first",
  linked: "Most linked first",
};
const HEIGHT = 92;
const rowId = (row: number) => `change-${row}`;
const WINDOW = PRINTED_ROWS;

/** A group's changes, old above new, each with its page; those that are in view are fetched. */
export function GroupList({
  group,
  order,
  onOrder,
  filter,
  summary,
  stamp,
  onSay,
  onStale,
}: {
  group: ChangeGroup;
  order: ReviewOrder;
  onOrder: (order: ReviewOrder) => void;
  filter: ReviewFilter;
  summary: ReviewSummary;
  /** Another one after each tick: what is taken in changes where other pages go, too. */
  stamp: string;
  onSay: SayOfChanges;
  /** The list is of another review than the one that is shown. */
  onStale: () => void;
}) {
  const own = summary.groups.find((g) => g.group === group)!;
  const router = useRouter();
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: own.count,
    getScrollElement: () => scroller.current,
    estimateSize: () => HEIGHT,
    overscan: 6,
  });
  const shown = virtual.getVirtualItems();
  const printing = usePrinting();
  const [first, last] = [shown[0]?.index ?? 0, shown.at(-1)?.index ?? 0];
  const list = useWindows("review.list", { group, filter, order }, `${summary.stamp} ${stamp}`, {
    size: WINDOW,
    rowsOf: (answer) => answer.changes,
  });
  const { rows, show, patch } = list;
  const drawn = drawnRows(shown, own.count, { printing, isThere: (row) => rows.has(row) });
  useEffect(() => show(first, last), [show, first, last]);
  useKeptScroll(`group ${group}`, scroller, own.count);
  const isStale = list.answer !== null && !list.loading && list.answer.stamp !== summary.stamp;
  useEffect(() => {
    if (isStale) onStale();
  }, [isStale, onStale]);
  const tick = (change: ReviewedChange, included: boolean) => {
    patch((row) =>
      row.id === change.id && row.text === change.text && row.part === change.part ? { ...row, included } : row,
    );
    const { id, text, part } = change;
    void onSay(() => call("review.chooseChange", { item: id, text, part, filter, included })).then((isTaken) => {
      if (!isTaken) list.retry();
    });
  };
  const keys = useRowKeys(
    { count: own.count, height: HEIGHT, scroller, show: (row) => virtual.scrollToIndex(row) },
    (key, row) => {
      const change = rows.get(row);
      if (key === " " && change && !own.fixed) tick(change, !change.included);
      else if (key === "Enter" && change) router.push(pageAddress(change));
      else return false;
      return true;
    },
  );
  const { title } = GROUP_WORDS[group];
  return (
    <section aria-label={title} className="desk-list relative flex min-h-0 min-w-0 flex-col bg-sheet">
      <div className="flex shrink-0 items-baseline gap-3 border-b border-key bg-raised px-5 py-2.5">
        <h2 className="font-bold">{title}</h2>
        <span className="text-soft">{counted(own.count, "change", "changes")}</span>
        <span className="text-soft">Every change can be undone</span>
        <select
          aria-label="Order of the changes"
          value={order}
          onChange={(event) => onOrder(event.target.value as ReviewOrder)}
          className="ml-auto rounded-sm border border-edge bg-sheet px-1 py-0.5"
        >
          {REVIEW_ORDERS.map((own) => (
            <option key={own} value={own}>
              {ORDER_LABELS[own]}
            </option>
          ))}
        </select>
      </div>
      {list.error && (
        <p role="alert" className="px-5 py-2 text-magenta">
          {list.error}
        </p>
      )}
      <div
        ref={scroller}
        className="group/rows min-h-0 flex-1 overflow-auto"
        tabIndex={0}
        role="grid"
        aria-rowcount={own.count}
        aria-multiselectable="true"
        aria-label={`${title}: changes`}
        aria-activedescendant={own.count > 0 ? rowId(keys.at) : undefined}
        onKeyDown={keys.onKeyDown}
      >
        <div className="relative print:!h-auto" style={{ height: virtual.getTotalSize() }} role="presentation">
          {drawn.map(({ index, start }) => {
            const change = rows.get(index);
            return (
              <div
                key={index}
                role="row"
                id={rowId(index)}
                aria-rowindex={index + 1}
                aria-selected={change?.included ?? false}
                data-change
                onClick={() => keys.put(index)}
                className={`${WINDOWED_ROW} ${index === keys.at ? ROW_AT : ""} ${change && !change.included ? "bg-raised [--under:var(--raised)]" : ""}`}
                style={{ height: HEIGHT, transform: `translateY(${start}px)` }}
              >
                <div role="gridcell" className="absolute inset-0 print:static">
                  {change && (
                    <ChangeRow change={change} fixed={own.fixed} onTick={(included) => tick(change, included)} />
                  )}
                </div>
              </div>
            );
          })}
        </div>
      </div>
      <PrintedRest printed={drawn.length} total={own.count} what="changes" />
    </section>
  );
}

function ChangeRow({
  change,
  fixed,
  onTick,
}: {
  change: ReviewedChange;
  fixed: boolean;
  onTick: (included: boolean) => void;
}) {
  const { state } = useSite();
  const moves = change.newPath !== change.path;
  const isRead = change.text === "title" || change.text === "description";
  const limit = isRead ? roomOf(state.site!, change.text).width : null;
  return (
    <>
      <div className="absolute left-5 top-3 z-10 print:static print:float-left print:mr-3">
        <Tick
          checked={change.included}
          disabled={fixed}
          tabIndex={-1}
          label={`Include: ${whatOf(change)} of ${change.name}`}
          onChange={onTick}
        />
      </div>
      <ChangePage page={change}>
        {change.worse.reasons.length > 0 && (
          <span className="mx-1 font-semibold text-magenta">{worseWords(change.worse, limit)}</span>
        )}
        {change.held && <span className="mx-1 font-semibold text-magenta">{heldWords(change.held)}</span>}
        {change.cost && <span className="mx-1 text-key">{costWords(change.cost)}</span>}
        <span className="mx-1">{change.path || "no address"}</span>
        {change.text === "alt" && (
          <span className="mx-1" title={change.label}>
            · image {change.part}: {fileName(change.label)}
          </span>
        )}
        {change.text === "body" && <span className="mx-1">· link {change.label && `“${change.label}”`}</span>}
        {change.text === "keywords" && <span className="mx-1">· meta keywords</span>}
        {change.text === "canonical" && <span className="mx-1">· canonical</span>}
        {moves && <span>→ {change.newPath}</span>}
      </ChangePage>
      <div className="absolute inset-x-0 bottom-0 top-[22px] print:static">
        <ChangePair change={change} site={state.site!} />
      </div>
    </>
  );
}

/** What a change is of, for those who hear it. */
function whatOf({ text, part, label }: ReviewedChange): string {
  if (text === "alt") return `description of image ${part}`;
  return text === "body" ? `link ${label || part}` : text;
}
