"use client";
import { useEffect, useMemo, useRef, useState } from "react";
import { toast } from "sonner";
import { type Site } from "../../core/design/design";
import type { ListedItem } from "../../server/items/listed-item";
import { type Edits } from "../shell/edits";
import { sayFailure } from "../shell/say-failure";
import { type Editing } from "./cell-editor";
import { type ItemColumn } from "./columns";
import { focusList } from "./focus-list";
import { type ItemsTableProps, type Opening } from "./list-props";
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
  const begin: ItemsTableProps["onEdit"] = (item, column, anchor, typed) => setEditing({ item, column, anchor, typed });
  const isFree = useRef(true);
  useEffect(() => {
    isFree.current = editing === null;
    return () => void (isFree.current = false);
  }, [editing]);
  const refused = (written: Written) => {
    const { editing: own, value } = written;
    if (isFree.current) return setEditing({ ...own, typed: value });
    // Another cell is being written by now, or the list was left: that goes on, and what was written here is not lost unseen.
    toast.error(`${own.column.label} of ${own.item.name} was not saved`, {
      description: value,
      duration: Infinity,
      action: { label: "Copy it", onClick: () => void navigator.clipboard?.writeText(value).catch(sayFailure) },
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
  const retype = (change: (typed: string) => string) =>
    setEditing((now) => now && { ...now, typed: change(now.typed ?? "") });
  const opening: Opening = {
    type: (letter) => retype((typed) => typed + letter),
    takeBack: () => retype((typed) => [...typed].slice(0, -1).join("")),
    // A robots setting is chosen, not typed.
    save: () => (editing?.typed && editing.column.edits !== "robots" ? void save(editing.typed, true) : close()),
    leave: close,
  };
  return { editing, opening, shown, begin, save, clear, letGo, close };
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
