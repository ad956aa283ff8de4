"use client";
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { arrayMove, sortableKeyboardCoordinates } from "@dnd-kit/sortable";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type ClipboardEvent, type ReactNode, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useKeptScroll } from "../shell/kept-scroll";
import { count } from "../shell/format";
import { chosenCount, tickOf } from "./chosen-places";
import { HeaderRow, TICK_WIDTH } from "./column-header";
import { useColumnLayout } from "./column-widths";
import { shownColumns } from "./columns";
import { type ItemsView } from "./items-url";
import { linesOf } from "./list-lines";
import { cellId, type ItemsTableProps } from "./list-props";
import { PageRow, SectionRow } from "./list-rows";
import { PROVER } from "../proof/prover";
import { useLater } from "../shell/later";
import { useChoosing } from "./use-choosing";
import { useListKeys } from "./use-list-keys";

const HEADER_HEIGHT = 34;
const ROW_HEIGHT = { plain: 62, size: 74 } as const;
const SECTION_HEIGHT = 34;

/** The list of all pages as a table: virtual, columns in any order, gone through cell by cell, any number of pages chosen. */
export function ItemsTable(props: ItemsTableProps) {
  const prover = useLater(PROVER, props.view.look === "size");
  const { site, view, data, chosen, at } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const columns = useMemo(() => shownColumns(view.columns, site, view.look), [view.columns, site, view.look]);
  const layout = useColumnLayout(columns, view.look, useWidth(scroller));
  const { lines, virtual, shown, places } = useShownLines(data, view, scroller);
  useKeptScroll("pages", scroller, data.total);
  const choosing = useChoosing(chosen, props.onChoose, data.total);
  const column = columns[at.column];

  const go = (place: number, index: number) => {
    const target = {
      place: Math.max(0, Math.min(data.total - 1, place)),
      column: Math.max(0, Math.min(columns.length - 1, index)),
    };
    props.onAt(target);
    virtual.scrollToIndex(lines.lineOf(target.place), { align: "auto" });
    if (scroller.current && columns.length > 0) scrollAcross(scroller.current, layout, target.column);
  };
  const rowsOfPage = () => {
    const height = (scroller.current?.clientHeight ?? 400) - HEADER_HEIGHT;
    return Math.max(1, Math.floor(height / ROW_HEIGHT[view.look]) - 1);
  };
  const keys = useListKeys(props, { columns, choosing, go, rowsOfPage });
  const onPaste = (event: ClipboardEvent) => {
    if (event.target !== scroller.current || !column?.edits) return;
    event.preventDefault();
    props.onPaste(event.clipboardData.getData("text/plain"), at, column);
  };
  return (
    <ColumnDrag columns={view.columns} onMoved={(moved) => props.onView({ columns: moved })}>
      <div
        ref={scroller}
        role="grid"
        aria-label={`Pages, ${count(data.total)} of them`}
        aria-rowcount={data.total + 1}
        aria-colcount={columns.length + 1}
        aria-multiselectable="true"
        aria-busy={data.loading}
        aria-activedescendant={data.total > 0 ? cellId(at) : undefined}
        tabIndex={0}
        onKeyDown={(event) => event.target === scroller.current && keys(event)}
        onPaste={onPaste}
        className={`group/grid min-h-0 flex-1 overflow-auto [outline-offset:-2px] ${places.includes(at.place) ? "!outline-none" : ""}`}
      >
        <div role="rowgroup" className="sticky top-0 z-20 min-w-full" style={{ width: layout.width }}>
          <HeaderRow
            headers={layout.headers}
            columns={columns}
            view={view}
            onView={props.onView}
            all={tickOf(chosenCount(chosen), data.total)}
            onAll={choosing.all}
            total={data.total}
          />
        </div>
        <div
          role="rowgroup"
          className="relative min-w-full"
          style={{ height: virtual.getTotalSize(), width: layout.width }}
        >
          {shown.map(({ index, start, size }) => {
            const line = lines.at(index);
            const box = { height: size, transform: `translateY(${start}px)` };
            return "label" in line ? (
              <SectionRow key={`section ${line.label}`} line={line} box={box} choosing={choosing} />
            ) : (
              <PageRow
                key={line.place}
                place={line.place}
                box={box}
                table={props}
                columns={columns}
                widths={layout.widths}
                choosing={choosing}
                prover={prover}
              />
            );
          })}
        </div>
      </div>
    </ColumnDrag>
  );
}

/** How wide an element is inside, px; 0 before it is there. */
function useWidth(element: { current: HTMLElement | null }): number {
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const box = element.current!;
    const look = () => setWidth(box.clientWidth);
    // Known before anything is drawn, so that nothing shifts.
    look();
    const observer = new ResizeObserver(look);
    observer.observe(box);
    return () => observer.disconnect();
  }, [element]);
  return width;
}

/** The lines that are on the screen; the pages in them are asked for. */
function useShownLines(data: ItemsTableProps["data"], view: ItemsView, scroller: { current: HTMLDivElement | null }) {
  const lines = useMemo(() => linesOf(data.total, data.sections), [data.total, data.sections]);
  const virtual = useVirtualizer({
    count: lines.count,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => ("label" in lines.at(i) ? SECTION_HEIGHT : ROW_HEIGHT[view.look]),
    overscan: 6,
    scrollPaddingStart: HEADER_HEIGHT,
  });
  useEffect(() => virtual.measure(), [virtual, lines, view.look]);
  const shown = virtual.getVirtualItems();
  const places = shown.flatMap(({ index }) => {
    const line = lines.at(index);
    return "place" in line ? [line.place] : [];
  });
  const [first, last] = [places[0] ?? 0, places.at(-1) ?? 0];
  const { show } = data;
  useEffect(() => show(first, last), [show, first, last, data.total, data.order]);
  return { lines, virtual, shown, places };
}

/** Scrolls sideways until a column is seen whole, beside the ticks. */
function scrollAcross(box: HTMLElement, { lefts, widths }: ReturnType<typeof useColumnLayout>, column: number): void {
  const from = lefts[column]!;
  const to = from + widths[column]!;
  if (from - TICK_WIDTH < box.scrollLeft) box.scrollLeft = from - TICK_WIDTH;
  else if (to > box.scrollLeft + box.clientWidth) box.scrollLeft = Math.min(from - TICK_WIDTH, to - box.clientWidth);
}

/** Lets columns be dragged; what is said to screen readers meanwhile stands beside the table, not in it. */
function ColumnDrag({
  columns,
  onMoved,
  children,
}: {
  columns: readonly string[];
  onMoved: (columns: readonly string[]) => void;
  children: ReactNode;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const moved = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id)
      onMoved(arrayMove([...columns], columns.indexOf(String(active.id)), columns.indexOf(String(over.id))));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={moved} id="columns">
      {children}
    </DndContext>
  );
}
