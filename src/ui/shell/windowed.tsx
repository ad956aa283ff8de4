"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useEffect, useRef } from "react";
import { useKeptScroll } from "./kept-scroll";
import { focusFirst, useOneStop } from "./one-stop";
import { ROW_AT, useRowKeys } from "./row-keys";

/** How large the list is taken for before it can be measured, px: its first rows are in the page as it comes. */
const FIRST_RECT = { width: 0, height: 480 };

const rowId = (row: number) => `list-row-${row}`;

/**
 * A virtual list of rows of one height. It is one stop for Tab, and the row that the arrows came to is the next: only its
 * controls can be gone to, however many rows there are.
 */
export function Windowed<Row>({
  label,
  total,
  rows,
  height,
  show,
  children,
}: {
  label: string;
  total: number;
  rows: ReadonlyMap<number, Row>;
  height: number;
  show: (first: number, last: number) => void;
  children: (row: Row, place: number) => ReactNode;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 8,
    initialRect: FIRST_RECT,
  });
  const shown = virtual.getVirtualItems();
  const [first, last] = [shown[0]?.index ?? 0, shown.at(-1)?.index ?? 0];
  useEffect(() => show(first, last), [show, first, last, total]);
  useKeptScroll(label, scroller, total);
  const keys = useRowKeys(
    { count: total, height, scroller, show: (row) => virtual.scrollToIndex(row) },
    (key, row) => key === "Enter" && focusFirst(scroller.current, row),
  );
  useOneStop(scroller, keys.at);
  return (
    <div
      ref={scroller}
      className="group/rows min-h-0 flex-1 overflow-auto"
      tabIndex={0}
      role="grid"
      aria-rowcount={total}
      aria-label={label}
      aria-activedescendant={total > 0 ? rowId(keys.at) : undefined}
      // Within a row keys are its controls'.
      onKeyDown={(event) => event.target === event.currentTarget && keys.onKeyDown(event)}
    >
      <div role="presentation" className="relative small:min-w-[860px]" style={{ height: virtual.getTotalSize() }}>
        {shown.map(({ index, start }) => {
          const row = rows.get(index);
          return (
            <div
              key={index}
              role="row"
              id={rowId(index)}
              data-row={index}
              aria-rowindex={index + 1}
              onFocus={() => keys.put(index)}
              className={`absolute left-0 top-0 w-full border-b border-hair ${index === keys.at ? ROW_AT : ""}`}
              style={{ height, transform: `translateY(${start}px)` }}
            >
              <div role="gridcell" className="h-full">
                {row === undefined ? <span className="m-3 block h-2.5 w-48 bg-hair" /> : children(row, index)}
              </div>
            </div>
          );
        })}
      </div>
    </div>
  );
}
