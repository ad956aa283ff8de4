"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useEffect, useRef } from "react";

/** Rows of a list of keywords are fetched so many at a time. */
export const KEYWORD_WINDOW = 100;

/** A virtual list of rows of one height. */
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
  });
  const shown = virtual.getVirtualItems();
  const [first, last] = [shown[0]?.index ?? 0, shown.at(-1)?.index ?? 0];
  useEffect(() => show(first, last), [show, first, last, total]);
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="list" aria-label={label}>
      <div role="presentation" className="relative small:min-w-[860px]" style={{ height: virtual.getTotalSize() }}>
        {shown.map(({ index, start }) => {
          const row = rows.get(index);
          return (
            <div
              key={index}
              role="listitem"
              aria-setsize={total}
              aria-posinset={index + 1}
              className="absolute left-0 top-0 w-full border-b border-hair"
              style={{ height, transform: `translateY(${start}px)` }}
            >
              {row === undefined ? <span className="m-3 block h-2.5 w-48 bg-hair" /> : children(row, index)}
            </div>
          );
        })}
      </div>
    </div>
  );
}
