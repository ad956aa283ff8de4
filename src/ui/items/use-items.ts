"use client";
import type { ItemPage, ListedItem } from "../../server/items/listed-item";
import { useWindows, type Windows } from "../shell/queries";
import { type ItemsView, queryOf } from "./items-url";

const WINDOW = 80;

export type ItemsData = Omit<ItemPage, "items"> &
  Pick<Windows<ItemPage, ListedItem>, "loading" | "progress" | "error" | "show" | "retry"> & {
    /** Pages by their place in the order; those not on screen yet are fetched when they come into view. */
    readonly items: ReadonlyMap<number, ListedItem>;
    /** Shows a page as it is known to be, until the list says so, too. */
    readonly patch: (item: Pick<ListedItem, "kind" | "id">, change: (row: ListedItem) => ListedItem) => void;
  };

const NOTHING: Omit<ItemPage, "items"> = { counts: [], total: 0, differences: null, sections: null, order: "" };

/** The counts of findings and the pages of a view, a window at a time. */
export function useItems(view: ItemsView, stamp: string): ItemsData {
  const columns = view.columns.flatMap((id) => (id.startsWith("field:") ? [id.slice("field:".length)] : []));
  const { rows, answer, loading, progress, error, show, retry, patch } = useWindows(
    "items.list",
    { query: queryOf(view) as never, columns },
    stamp,
    { size: WINDOW, rowsOf: (page) => page.items },
  );
  const { counts, total, differences, sections, order } = answer ?? NOTHING;
  return {
    counts,
    total,
    differences,
    sections,
    order,
    items: rows,
    loading,
    progress,
    error,
    show,
    retry,
    patch: ({ kind, id }, change) => patch((row) => (row.kind === kind && row.id === id ? change(row) : row)),
  };
}
