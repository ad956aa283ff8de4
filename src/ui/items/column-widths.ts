"use client";
import { browserStorage } from "../shell/site-storage";
import { type ListedItem } from "../../server/items/listed-item";
import { type ColumnDef, type ColumnSizingState, getCoreRowModel, useReactTable } from "@tanstack/react-table";
import { useEffect, useMemo, useState } from "react";
import { TICK_WIDTH } from "./column-header";
import { type ItemColumn } from "./columns";
import { type Look } from "./items-url";

const WIDTHS_KEY = "nine-lines widths of columns";
const NO_ROWS: ListedItem[] = [];

/**
 * The columns as they are laid out beside one another: headings to draw wider, widths and where each begins, in px.
 *
 * @param room how wide the list is, px.
 */
export function useColumnLayout(columns: readonly ItemColumn[], look: Look, room: number) {
  const [sizing, setSizing] = useKeptWidths();
  // Widths that were dragged are those of a look: the other sets texts at another size.
  const prefix = `${look} `;
  const own = useMemo(
    () =>
      Object.fromEntries(
        Object.entries(sizing).flatMap(([key, width]) =>
          key.startsWith(prefix) ? [[key.slice(prefix.length), width]] : [],
        ),
      ),
    [sizing, prefix],
  );
  const defs = useMemo(() => {
    const needed = columns.reduce((sum, { id, width }) => sum + (own[id] ?? width), TICK_WIDTH);
    const spare = Math.max(0, room - needed);
    return columns.map(({ id, label, width, most = width }): ColumnDef<ListedItem> => {
      const size = Math.max(width, Math.min(most, width + spare));
      return { id, header: label, size, minSize: 70, maxSize: 1400 };
    });
  }, [columns, own, room]);
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
  return { headers, widths, lefts, width: TICK_WIDTH + widths.reduce((sum, width) => sum + width, 0) };
}

/** Widths that were dragged, as the browser keeps them. */
function useKeptWidths(): [ColumnSizingState, (widths: ColumnSizingState) => void] {
  const [widths, setWidths] = useState<ColumnSizingState>({});
  useEffect(() => {
    try {
      setWidths(JSON.parse(browserStorage()?.getItem(WIDTHS_KEY) ?? "{}") as ColumnSizingState);
    } catch {
      // Widths that cannot be read are as at first.
    }
  }, []);
  return [
    widths,
    (next) => {
      setWidths(next);
      browserStorage()?.setItem(WIDTHS_KEY, JSON.stringify(next));
    },
  ];
}
