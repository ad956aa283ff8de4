"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useCallback, useEffect, useRef, useState } from "react";
import { askKeywordDesk } from "./ask-keywords";

const WINDOW = 100;

/** Fetches a long list a window at a time, as it comes into view. */
export function useWindows<Row>(
  question: object,
  rowsOf: (answer: never) => readonly Row[],
  stamp: string,
): { rows: ReadonlyMap<number, Row>; show: (first: number, last: number) => void } {
  const [rows, setRows] = useState<ReadonlyMap<number, Row>>(new Map());
  const fetched = useRef(new Set<number>());
  const asked = JSON.stringify(question);
  const of = useRef(rowsOf);
  const generation = useRef(0);
  useEffect(() => {
    generation.current++;
    fetched.current = new Set();
    setRows(new Map());
  }, [asked, stamp]);
  const show = useCallback(
    (first: number, last: number) => {
      const own = generation.current;
      for (let page = Math.floor(first / WINDOW); page <= Math.floor(last / WINDOW); page++) {
        if (fetched.current.has(page)) continue;
        fetched.current.add(page);
        askKeywordDesk<never>({ ...(JSON.parse(asked) as object), from: page * WINDOW, count: WINDOW })
          .then(
            (answer) =>
              own === generation.current &&
              setRows(
                (old) =>
                  new Map([...old, ...of.current(answer).map((row, i): [number, Row] => [page * WINDOW + i, row])]),
              ),
          )
          .catch(() => fetched.current.delete(page));
      }
    },
    // Another stamp means that everything is fetched anew.
    [asked, stamp], // eslint-disable-line react-hooks/exhaustive-deps
  );
  return { rows, show };
}

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
