"use client";
import { type ListedItem } from "../../server/items/listed-item";
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  arrayMove,
  horizontalListSortingStrategy,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import {
  type ColumnDef,
  type ColumnSizingState,
  getCoreRowModel,
  type Header,
  useReactTable,
} from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp, GripVertical } from "lucide-react";
import { type ClipboardEvent, type KeyboardEvent, type MouseEvent, useEffect, useMemo, useRef, useState } from "react";
import { type Site } from "../../core/design/design";
import type { Ranges } from "../../core/items/query";
import { count, counted } from "../shell/format";
import { Tick } from "../shell/tick";
import { Cell } from "./cells";
import { chosenCount, isChosen, withPlace, withStretch } from "./chosen-places";
import { type ItemColumn, shownColumns } from "./columns";
import { type ItemsView } from "./items-url";
import { type useItems } from "./use-items";

const ROW_HEIGHT = { plain: 62, size: 74 } as const;
const SECTION_HEIGHT = 34;
const TICK_WIDTH = 38;
const WIDTHS_KEY = "nine-lines widths of columns";

/** A cell: the place of its page in the order, and its column. */
export interface CellPlace {
  readonly place: number;
  readonly column: number;
}

interface Props {
  readonly site: Site;
  readonly view: ItemsView;
  readonly onView: (change: Partial<ItemsView>) => void;
  readonly data: ReturnType<typeof useItems>;
  readonly chosen: Ranges;
  readonly onChoose: (chosen: Ranges) => void;
  readonly at: CellPlace;
  readonly onAt: (at: CellPlace) => void;
  readonly onOpen: (item: ListedItem) => void;
  /** Begins to edit a cell; with what was typed already, if anything. */
  readonly onEdit: (item: ListedItem, column: ItemColumn, anchor: HTMLElement, typed: string | null) => void;
  readonly onClear: (item: ListedItem, column: ItemColumn) => void;
  readonly onPaste: (text: string, at: CellPlace, column: ItemColumn) => void;
  readonly onUndo: (again: boolean) => void;
}

/** What stands at a line of the list: a page, or the heading of those that follow. */
type Line = { readonly place: number } | { readonly label: string; readonly count: number; readonly from: number };

/** The list of all pages as a table: virtual, columns in any order, gone through cell by cell, any number of pages chosen. */
export function ItemsTable(props: Props) {
  const { site, view, data, chosen, at } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const [sizing, setSizing] = useColumnWidths();
  const columns = useMemo(() => shownColumns(view.columns, site, view.look), [view.columns, site, view.look]);
  const defs = useMemo(
    () =>
      columns.map((column): ColumnDef<ListedItem> => ({
        id: column.id,
        header: column.label,
        size: column.width,
        minSize: 70,
        maxSize: 1400,
      })),
    [columns],
  );
  // Widths that were dragged are those of a look: the other sets texts at another size.
  const prefix = `${view.look} `;
  const own = useMemo(
    () =>
      Object.fromEntries(
        Object.entries(sizing).flatMap(([key, width]) =>
          key.startsWith(prefix) ? [[key.slice(prefix.length), width]] : [],
        ),
      ),
    [sizing, prefix],
  );
  const table = useReactTable({
    data: NO_ROWS,
    columns: defs,
    getCoreRowModel: getCoreRowModel(),
    columnResizeMode: "onChange",
    state: { columnSizing: own, columnOrder: columns.map(({ id }) => id) },
    onColumnSizingChange: (change) => {
      const next = typeof change === "function" ? change(own) : change;
      setSizing({ ...sizing, ...Object.fromEntries(Object.entries(next).map(([id, width]) => [prefix + id, width])) });
    },
  });
  const headers = table.getFlatHeaders();
  const widths = headers.map((header) => header.getSize());
  const lefts = widths.map((_, i) => TICK_WIDTH + widths.slice(0, i).reduce((sum, width) => sum + width, 0));
  const width = TICK_WIDTH + widths.reduce((sum, one) => sum + one, 0);

  const lines = useMemo(() => linesOf(data.total, data.sections), [data.total, data.sections]);
  const virtual = useVirtualizer({
    count: lines.count,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => ("label" in lines.at(i) ? SECTION_HEIGHT : ROW_HEIGHT[view.look]),
    overscan: 6,
    scrollPaddingStart: 34,
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

  const item = data.items.get(at.place);
  const column = columns[at.column];
  const cellId = (place: number, index: number) => `cell-${place}-${index}`;
  const anchorRow = useRef(0);
  const toggle = (place: number, extend: boolean) => {
    const on = !isChosen(chosen, place);
    if (extend)
      props.onChoose(
        withStretch(chosen, Math.min(anchorRow.current, place), Math.max(anchorRow.current, place) + 1, true),
      );
    else {
      props.onChoose(withPlace(chosen, place, on));
      anchorRow.current = place;
    }
  };
  const go = (place: number, index: number) => {
    const target = {
      place: Math.max(0, Math.min(data.total - 1, place)),
      column: Math.max(0, Math.min(columns.length - 1, index)),
    };
    props.onAt(target);
    virtual.scrollToIndex(lines.lineOf(target.place), { align: "auto" });
    const box = scroller.current;
    if (box && columns.length > 0) {
      const [from, to] = [lefts[target.column]!, lefts[target.column]! + widths[target.column]!];
      if (from - TICK_WIDTH < box.scrollLeft) box.scrollLeft = from - TICK_WIDTH;
      else if (to > box.scrollLeft + box.clientWidth)
        box.scrollLeft = Math.min(from - TICK_WIDTH, to - box.clientWidth);
    }
  };
  const edit = (typed: string | null) => {
    const anchor = document.getElementById(cellId(at.place, at.column));
    if (item && column?.edits && anchor) props.onEdit(item, column, anchor, typed);
    else if (item && typed === null) props.onOpen(item);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== scroller.current) return;
    const command = event.ctrlKey || event.metaKey;
    const page = Math.max(1, Math.floor(((scroller.current?.clientHeight ?? 400) - 34) / ROW_HEIGHT[view.look]) - 1);
    const key = event.key;
    const done = () => event.preventDefault();
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: page, PageUp: -page }[key];
    if (command && key.toLowerCase() === "a")
      return (done(), props.onChoose(data.total === 0 ? [] : [[0, data.total]]));
    if (command && key.toLowerCase() === "z") return (done(), props.onUndo(event.shiftKey));
    if (command && key.toLowerCase() === "y") return (done(), props.onUndo(true));
    if (step !== undefined) {
      done();
      if (event.shiftKey) {
        if (!isChosen(chosen, at.place)) anchorRow.current = at.place;
        const to = Math.max(0, Math.min(data.total - 1, at.place + step));
        props.onChoose(withStretch(chosen, Math.min(anchorRow.current, to), Math.max(anchorRow.current, to) + 1, true));
      }
      return go(at.place + step, at.column);
    }
    if (key === "ArrowLeft" || key === "ArrowRight")
      return (done(), go(at.place, at.column + (key === "ArrowRight" ? 1 : -1)));
    if (key === "Home" || key === "End")
      return (
        done(),
        go(command ? (key === "Home" ? 0 : data.total - 1) : at.place, key === "Home" ? 0 : columns.length - 1)
      );
    if (key === " ") return (done(), toggle(at.place, event.shiftKey));
    if (key === "Escape") return props.onChoose([]);
    if (key === "Enter" || key === "F2") return (done(), edit(null));
    if ((key === "Delete" || key === "Backspace") && item && column?.edits)
      return (done(), props.onClear(item, column));
    if (command && key.toLowerCase() === "c" && item && column)
      return void navigator.clipboard?.writeText(copied(item, column, view));
    if (!command && !event.altKey && [...key].length === 1 && column?.edits && column.edits !== "robots")
      return (done(), edit(key));
  };
  const onPaste = (event: ClipboardEvent) => {
    if (event.target !== scroller.current || !column?.edits) return;
    event.preventDefault();
    props.onPaste(event.clipboardData.getData("text/plain"), at, column);
  };
  const number = chosenCount(chosen);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const moved = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    props.onView({
      columns: arrayMove(
        [...view.columns],
        view.columns.indexOf(String(active.id)),
        view.columns.indexOf(String(over.id)),
      ),
    });
  };

  return (
    // What is said to screen readers while a column is dragged stands beside the table, not in it.
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={moved} id="columns">
      <div
        ref={scroller}
        role="grid"
        aria-label={`Pages, ${count(data.total)} of them`}
        aria-rowcount={data.total + 1}
        aria-colcount={columns.length + 1}
        aria-multiselectable="true"
        aria-busy={data.loading}
        aria-activedescendant={data.total > 0 ? cellId(at.place, at.column) : undefined}
        tabIndex={0}
        onKeyDown={onKeyDown}
        onPaste={onPaste}
        className={`group/grid min-h-0 flex-1 overflow-auto [outline-offset:-2px] ${places.includes(at.place) ? "!outline-none" : ""}`}
      >
        <div role="rowgroup" className="sticky top-0 z-20 min-w-full" style={{ width }}>
          <HeaderRow
            headers={headers}
            columns={columns}
            view={view}
            onView={props.onView}
            all={number === 0 ? false : number === data.total ? true : "mixed"}
            onAll={(on) => props.onChoose(on && data.total > 0 ? [[0, data.total]] : [])}
            total={data.total}
          />
        </div>
        <div role="rowgroup" className="relative min-w-full" style={{ height: virtual.getTotalSize(), width }}>
          {shown.map(({ index, start, size }) => {
            const line = lines.at(index);
            if ("label" in line) {
              const whole = chosenCount(
                chosen.flatMap(([a, b]): Ranges => [
                  [Math.max(a, line.from), Math.max(Math.max(a, line.from), Math.min(b, line.from + line.count))],
                ]),
              );
              return (
                <div
                  key={`section ${line.label}`}
                  role="row"
                  className="absolute left-0 top-0 flex w-full items-center gap-3 border-b border-key bg-raised pl-2.5"
                  style={{ height: size, transform: `translateY(${start}px)` }}
                >
                  <span role="gridcell" className="flex">
                    <Tick
                      checked={whole === 0 ? false : whole === line.count ? true : "mixed"}
                      label={`Choose all in ${line.label}`}
                      onChange={(on) => props.onChoose(withStretch(chosen, line.from, line.from + line.count, on))}
                    />
                  </span>
                  <span role="gridcell" className="sticky left-10 font-bold">
                    {line.label} <span className="font-normal text-soft">{counted(line.count, "page", "pages")}</span>
                  </span>
                </div>
              );
            }
            const { place } = line;
            const page = data.items.get(place);
            const picked = isChosen(chosen, place);
            const open = page !== undefined && `${page.kind}-${page.id}` === view.item;
            return (
              <div
                key={place}
                role="row"
                aria-rowindex={place + 2}
                aria-selected={picked}
                className={`absolute left-0 top-0 flex w-full border-b border-hair ${picked || open ? "bg-cyan-pale [--under:var(--cyan-pale)]" : "bg-sheet"}`}
                style={{ height: size, transform: `translateY(${start}px)` }}
              >
                <div
                  role="gridcell"
                  className="flex shrink-0 justify-center pt-1.5"
                  style={{ width: TICK_WIDTH }}
                  onClickCapture={(event: MouseEvent) =>
                    event.shiftKey && (event.stopPropagation(), event.preventDefault(), toggle(place, true))
                  }
                >
                  <Tick
                    checked={picked}
                    label={`Choose ${page?.name ?? "this page"}`}
                    onChange={() => toggle(place, false)}
                  />
                </div>
                {columns.map((own, i) => {
                  const active = place === at.place && i === at.column;
                  return (
                    <div
                      key={own.id}
                      role="gridcell"
                      id={cellId(place, i)}
                      data-column={own.id}
                      aria-readonly={own.edits === null}
                      onMouseDown={() => {
                        props.onAt({ place, column: i });
                        anchorRow.current = place;
                      }}
                      onClick={() => page && own.id === "name" && props.onOpen(page)}
                      onDoubleClick={(event) =>
                        page && (own.edits ? props.onEdit(page, own, event.currentTarget, null) : props.onOpen(page))
                      }
                      className={`min-w-0 shrink-0 overflow-hidden px-2 last:grow py-1.5 ${own.id === "name" ? "cursor-pointer" : "cursor-default"} ${active ? "shadow-[inset_0_0_0_1px_var(--hair)] group-focus/grid:shadow-[inset_0_0_0_2px_var(--cyan-line)]" : ""}`}
                      style={{ width: widths[i] }}
                    >
                      {page ? (
                        <Cell item={page} column={own.id} side={view.side} look={view.look} site={site} />
                      ) : (
                        <span className="mt-1.5 block h-2.5 w-2/3 bg-hair" />
                      )}
                    </div>
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
    </DndContext>
  );
}

const NO_ROWS: ListedItem[] = [];

/** What a cell's value is outside of the table. */
function copied(item: ListedItem, column: ItemColumn, view: ItemsView): string {
  if (column.id === "title" || column.id === "description" || column.id === "slug")
    return item.texts[column.id][view.side];
  if (column.id === "robots") return item.robots[view.side];
  return column.id === "name"
    ? item.name
    : column.id === "keyword"
      ? item.keyword
      : (item.fields[column.id.slice(6)] ?? "");
}

function linesOf(
  total: number,
  sections: ReturnType<typeof useItems>["sections"],
): { count: number; at: (line: number) => Line; lineOf: (place: number) => number } {
  if (!sections) return { count: total, at: (line) => ({ place: line }), lineOf: (place) => place };
  const starts: { line: number; from: number; label: string; count: number }[] = [];
  let from = 0;
  for (const { label, count: own } of sections) {
    starts.push({ line: from + starts.length, from, label, count: own });
    from += own;
  }
  const sectionOf = (value: number, key: "line" | "from") => {
    let low = 0;
    let high = starts.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (starts[middle]![key] <= value) low = middle;
      else high = middle - 1;
    }
    return low;
  };
  return {
    count: total + starts.length,
    at: (line) => {
      const number = sectionOf(line, "line");
      const section = starts[number];
      if (!section) return { place: line };
      return section.line === line
        ? { label: section.label, count: section.count, from: section.from }
        : { place: line - number - 1 };
    },
    lineOf: (place) => place + sectionOf(place, "from") + 1,
  };
}

function useColumnWidths(): [ColumnSizingState, (widths: ColumnSizingState) => void] {
  const [widths, setWidths] = useState<ColumnSizingState>({});
  useEffect(() => {
    try {
      setWidths(JSON.parse(localStorage.getItem(WIDTHS_KEY) ?? "{}") as ColumnSizingState);
    } catch {
      // Widths that cannot be read are as at first.
    }
  }, []);
  return [
    widths,
    (next) => {
      setWidths(next);
      localStorage.setItem(WIDTHS_KEY, JSON.stringify(next));
    },
  ];
}

function HeaderRow({
  headers,
  columns,
  view,
  onView,
  all,
  onAll,
  total,
}: {
  headers: readonly Header<ListedItem, unknown>[];
  columns: readonly ItemColumn[];
  view: ItemsView;
  onView: Props["onView"];
  all: boolean | "mixed";
  onAll: (on: boolean) => void;
  total: number;
}) {
  return (
    <SortableContext items={columns.map(({ id }) => id)} strategy={horizontalListSortingStrategy}>
      <div role="row" aria-rowindex={1} className="flex h-[34px] border-b border-key bg-raised">
        <div role="columnheader" className="flex shrink-0 items-center justify-center" style={{ width: TICK_WIDTH }}>
          <Tick checked={all} disabled={total === 0} label="Choose all pages of the list" onChange={onAll} />
        </div>
        {headers.map((header, i) => (
          <ColumnHeader key={header.id} header={header} column={columns[i]!} view={view} onView={onView} />
        ))}
      </div>
    </SortableContext>
  );
}

function ColumnHeader({
  header,
  column,
  view,
  onView,
}: {
  header: Header<ListedItem, unknown>;
  column: ItemColumn;
  view: ItemsView;
  onView: Props["onView"];
}) {
  const { setNodeRef, setActivatorNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: column.id,
  });
  const sorted = column.sort !== null && view.sort === column.sort;
  const next = () => {
    if (column.sort === null) return;
    // Widths and findings are looked at from the most; a third press goes back to the site's own order.
    const firstDown = !column.sort.startsWith("field:");
    if (!sorted) onView({ sort: column.sort, down: firstDown });
    else if (view.down === firstDown) onView({ down: !firstDown });
    else onView({ sort: "site", down: false });
  };
  return (
    <div
      ref={setNodeRef}
      role="columnheader"
      aria-sort={sorted ? (view.down ? "descending" : "ascending") : column.sort ? "none" : undefined}
      className={`group/head relative flex shrink-0 items-center bg-raised pl-2 last:grow ${isDragging ? "z-10 opacity-80" : ""}`}
      style={{ width: header.getSize(), transform: CSS.Translate.toString(transform), transition }}
    >
      {column.sort ? (
        <button
          type="button"
          onClick={next}
          className={`flex min-w-0 items-center gap-1 ${sorted ? "font-bold" : "font-semibold text-soft hover:text-key"}`}
        >
          <span className="truncate">{column.label}</span>
          {sorted &&
            (view.down ? <ArrowDown size={12} aria-hidden="true" /> : <ArrowUp size={12} aria-hidden="true" />)}
        </button>
      ) : (
        <span className="truncate font-semibold text-soft">{column.label}</span>
      )}
      <button
        type="button"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        aria-label={`Move the column ${column.label}`}
        className="ml-auto mr-1.5 cursor-grab touch-none rounded-sm p-0.5 text-faint opacity-0 focus-visible:opacity-100 group-hover/head:opacity-100"
      >
        <GripVertical size={12} aria-hidden="true" />
      </button>
      <div
        aria-hidden="true"
        onMouseDown={header.getResizeHandler()}
        onTouchStart={header.getResizeHandler()}
        onDoubleClick={() => header.column.resetSize()}
        className={`absolute inset-y-1.5 right-0 w-[5px] cursor-col-resize touch-none border-r ${header.column.getIsResizing() ? "border-key" : "border-hair hover:border-key"}`}
      />
    </div>
  );
}
