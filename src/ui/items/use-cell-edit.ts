"use client";
import { useState } from "react";
import { type Site } from "../../core/design/design";
import type { ListedItem } from "../../server/items/listed-item";
import { type Edits } from "../shell/edits";
import { type Editing } from "./cell-editor";
import { type ItemColumn } from "./columns";
import { focusList } from "./focus-list";
import { type ItemsTableProps } from "./list-props";
import { PAGE_TOOLS } from "./page-tools-later";
import { type ItemsData } from "./use-items";

/** Writing into a cell of the list. */
export function useCellEdit(site: Site, data: ItemsData, edits: Edits, onNext: () => void) {
  const [editing, setEditing] = useState<Editing | null>(null);
  const close = () => {
    setEditing(null);
    focusList();
  };
  const begin: ItemsTableProps["onEdit"] = (item, column, anchor, typed) =>
    // What is typed before the editor is there is typed into it.
    setEditing((now) => ({ item, column, anchor, typed: typed === null ? null : (now?.typed ?? "") + typed }));
  const save = (value: string, next: boolean) => {
    const { item, column } = editing!;
    const made = edits.make({ kind: item.kind, id: item.id }, { type: "set", field: column.edits!, value });
    void Promise.all([made, PAGE_TOOLS.get()]).then(([done, { withSet }]) => {
      if (!done) return;
      data.patch(withSet(site, item, column.edits!, value));
      if (next) onNext();
      close();
    });
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
  return { editing, begin, save, clear, letGo, close };
}
