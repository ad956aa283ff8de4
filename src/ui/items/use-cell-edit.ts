"use client";
import { useMemo, useRef, useState } from "react";
import { toast } from "sonner";
import { type Site } from "../../core/design/design";
import type { ListedItem } from "../../server/items/listed-item";
import { type Edits } from "../shell/edits";
import { type Editing } from "./cell-editor";
import { type ItemColumn } from "./columns";
import { focusList } from "./focus-list";
import { type ItemsTableProps } from "./list-props";
import { PAGE_TOOLS } from "./page-tools-later";
import { type ItemsData } from "./use-items";

/** What was written into a cell and is on its way to the server. */
interface Written {
  readonly editing: Editing;
  readonly value: string;
}

/**
 * Writing into a cell of the list. Whoever has written goes on at once: the list shows what is on its way. What the server does not take stands in
 * the cell's editor again.
 */
export function useCellEdit(site: Site, data: ItemsData, edits: Edits, onNext: () => void) {
  const [editing, setEditing] = useState<Editing | null>(null);
  const [onTheWay, setOnTheWay] = useState<readonly Written[]>([]);
  const shown = useMemo(() => withWritten(site, data, onTheWay), [site, data, onTheWay]);
  const close = () => {
    setEditing(null);
    focusList();
  };
  const begin: ItemsTableProps["onEdit"] = (item, column, anchor, typed) =>
    // What is typed before the editor is there is typed into it.
    setEditing((now) => ({ item, column, anchor, typed: typed === null ? null : (now?.typed ?? "") + typed }));
  const writeAgain = ({ editing: own, value }: Written) => setEditing({ ...own, typed: value });
  const isOpen = useRef(false);
  isOpen.current = editing !== null;
  const refused = (written: Written) => {
    if (!isOpen.current) return writeAgain(written);
    // Another cell is being written by now: that goes on, and one can come back to this.
    toast.error(`${written.editing.column.label} of ${written.editing.item.name} was not saved`, {
      duration: Infinity,
      action: { label: "Write it again", onClick: () => writeAgain(written) },
      cancel: { label: "Close", onClick: () => {} },
    });
  };
  const save = async (value: string, next: boolean) => {
    const written = { editing: editing!, value };
    const { item, column } = written.editing;
    close();
    if (next) onNext();
    setOnTheWay((all) => [...all, written]);
    const isDone = await edits.make({ kind: item.kind, id: item.id }, { type: "set", field: column.edits!, value });
    const { withSet } = await PAGE_TOOLS.get();
    // What the list has until it is fetched anew.
    if (isDone) data.patch(item, (row) => withSet(site, row, column.edits!, value));
    setOnTheWay((all) => all.filter((own) => own !== written));
    if (!isDone) refused(written);
  };
  const clear = (item: ListedItem, column: ItemColumn) => {
    const field = column.edits!;
    void edits.make(
      { kind: item.kind, id: item.id },
      field === "keyword" ? { type: "set", field, value: "" } : { type: "let-go", field },
    );
  };
  const letGo = () => {
    clear(editing!.item, editing!.column);
    close();
  };
  return { editing, shown, begin, save, clear, letGo, close };
}

/** The list with what is on its way to the server. */
function withWritten(site: Site, data: ItemsData, written: readonly Written[]): ItemsData {
  const tools = PAGE_TOOLS.current();
  if (written.length === 0 || !tools) return data;
  const items = new Map(data.items);
  for (const [place, item] of items)
    for (const { editing, value } of written)
      if (item.kind === editing.item.kind && item.id === editing.item.id)
        items.set(place, tools.withSet(site, items.get(place)!, editing.column.edits!, value));
  return { ...data, items };
}
