"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import { type Site } from "../../core/design/design";
import type { DrawnRunChange } from "../../server/runs/drawn-changes";
import { ChangePage, pageAddress } from "../proof/change-page";
import { ChangePair } from "../proof/change-pair";
import { useKeptScroll } from "../shell/kept-scroll";
import { drawnRows, PrintedRest, usePrinting, WINDOWED_ROW } from "../shell/printing";
import { ROW_AT, useRowKeys } from "../shell/row-keys";
import { useRouter } from "../shell/site-path";
import { Trouble } from "../shell/trouble";
import { type RunChanges } from "./use-run-changes";

const HEIGHT = 92;
/** The next changes are asked for so many rows before those that are there end. */
const AHEAD = 30;
const rowId = (row: number) => `change-${row}`;

/** The changes of a run, row by row. @param total how many there are; `null` while that is not known. */
export function RunChangesList({
  listed: { changes, more, error, retry },
  total,
  site,
}: {
  listed: RunChanges;
  total: number | null;
  site: Site;
}) {
  const router = useRouter();
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: changes.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => HEIGHT,
    overscan: 6,
  });
  const shown = virtual.getVirtualItems();
  useKeptScroll("changes", scroller, changes.length);
  const drawn = drawnRows(shown, changes.length, { printing: usePrinting(), isThere: (row) => row < changes.length });
  const keys = useRowKeys(
    { count: changes.length, height: HEIGHT, scroller, show: (row) => virtual.scrollToIndex(row) },
    (key, row) => {
      const change = changes[row];
      if (key !== "Enter" || !change || change.isGone) return false;
      router.push(pageAddress({ kind: change.kind, id: change.item_id }));
      return true;
    },
  );
  const last = shown.at(-1)?.index ?? -1;
  useEffect(() => {
    if (last >= changes.length - AHEAD) more();
  }, [last, changes.length, more]);
  return (
    <>
      <div
        ref={scroller}
        className="group/rows min-h-0 flex-1 overflow-auto"
        tabIndex={0}
        role="grid"
        aria-rowcount={total ?? -1}
        aria-label="Changes of the run"
        aria-activedescendant={changes.length > 0 ? rowId(keys.at) : undefined}
        onKeyDown={keys.onKeyDown}
      >
        <div className="relative print:!h-auto" style={{ height: virtual.getTotalSize() }} role="presentation">
          {drawn.map(({ index, start }) => (
            <div
              key={changes[index]!.id}
              role="row"
              id={rowId(index)}
              aria-rowindex={index + 1}
              onClick={() => keys.put(index)}
              className={`${WINDOWED_ROW} ${index === keys.at ? ROW_AT : ""}`}
              style={{ height: HEIGHT, transform: `translateY(${start}px)` }}
            >
              <ChangeCell change={changes[index]!} site={site} />
            </div>
          ))}
        </div>
      </div>
      {error && (
        <div className="px-5">
          <Trouble message={error} onRetry={retry} />
        </div>
      )}
      {total !== null && <PrintedRest printed={drawn.length} total={total} what="changes" />}
    </>
  );
}

function ChangeCell({ change, site }: { change: DrawnRunChange; site: Site }) {
  return (
    <div role="gridcell" className="absolute inset-0 print:static">
      <span className="narrow absolute left-3 top-2 w-12 text-[11px] text-faint print:static print:float-left">
        {change.status === "skipped" && <b className="text-magenta">{change.trouble ?? "skip"}</b>}
        {change.status === "waiting" && "waits"}
      </span>
      <ChangePage page={{ ...change, id: change.item_id }} isGone={change.isGone}>
        {change.reason && <span className="mx-1 font-semibold text-magenta">{change.reason}</span>}
        <span className="mx-1">{change.path || "no address"}</span>
      </ChangePage>
      <div className="absolute inset-x-0 bottom-0 top-[22px] print:static">
        <ChangePair
          change={{ ...change, path: change.text === "address" ? "" : (change.path_before ?? "") }}
          site={site}
        />
      </div>
    </div>
  );
}
