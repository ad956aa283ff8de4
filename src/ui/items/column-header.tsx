"use client";
import { type ListedItem } from "../../server/items/listed-item";
import { horizontalListSortingStrategy, SortableContext, useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { type Header } from "@tanstack/react-table";
import { ArrowDown, ArrowUp, GripVertical } from "lucide-react";
import { Tick } from "../shell/tick";
import { nextSort, sortedBy } from "./column-sorts";
import { type ItemColumn } from "./columns";
import { type ItemsView } from "./items-url";

/** The width of the column of ticks, in px. */
export const TICK_WIDTH = 38;

type OnView = (change: Partial<ItemsView>) => void;

/** The headings: sorted by, dragged into another order, drawn wider. */
export function HeaderRow({
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
  onView: OnView;
  all: boolean | "mixed";
  onAll: (on: boolean) => void;
  total: number;
}) {
  return (
    <SortableContext items={columns.map(({ id }) => id)} strategy={horizontalListSortingStrategy}>
      <div role="row" aria-rowindex={1} className="flex h-[34px] border-b border-key bg-raised">
        <div role="columnheader" className="flex shrink-0 items-center justify-center" style={{ width: TICK_WIDTH }}>
          <Tick checked={all} disabled={total === 0} label="Select all pages in the list" onChange={onAll} />
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
  onView: OnView;
}) {
  const { setNodeRef, setActivatorNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: column.id,
  });
  const sorted = column.sorts[sortedBy(column.sorts, view)];
  return (
    <div
      ref={setNodeRef}
      role="columnheader"
      aria-sort={sorted ? (sorted.down ? "descending" : "ascending") : column.sorts.length > 0 ? "none" : undefined}
      className={`group/head relative flex shrink-0 items-center bg-raised pl-2 last:grow ${isDragging ? "z-10 opacity-80" : ""}`}
      style={{ width: header.getSize(), transform: CSS.Translate.toString(transform), transition }}
    >
      {column.sorts.length > 0 ? (
        <button
          type="button"
          onClick={() => onView(nextSort(column.sorts, view))}
          className={`flex min-w-0 items-center gap-1 ${sorted ? "font-bold" : "font-semibold text-soft hover:text-key"}`}
        >
          <span className="truncate">{column.label}</span>
          {sorted && (
            <>
              {sorted.down ? <ArrowDown size={12} aria-hidden="true" /> : <ArrowUp size={12} aria-hidden="true" />}
              <span className="narrow truncate text-[12px] font-normal text-soft">{sorted.label}</span>
            </>
          )}
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
