"use client";
import { type KeyboardEvent } from "react";
import { isChosen } from "./chosen-places";
import { type ItemColumn } from "./columns";
import { cellId, type ItemsTableProps, type Opening } from "./list-props";
import { type Choosing } from "./use-choosing";

interface Ways {
  readonly columns: readonly ItemColumn[];
  readonly choosing: Choosing;
  /** Goes to a cell, or to the nearest that there is. */
  readonly go: (place: number, column: number) => void;
  /** How many rows PageUp and PageDown go. */
  readonly rowsOfPage: () => number;
}

/** What the keys do on the list: go from cell to cell, choose, edit, copy, take back. */
export function useListKeys(props: ItemsTableProps, ways: Ways): (event: KeyboardEvent) => void {
  return (event) => {
    const isCommand = event.ctrlKey || event.metaKey;
    if (props.opening && !isCommand && !event.altKey) {
      if (openingKey(event.key, props.opening)) event.preventDefault();
      return;
    }
    const isDone = isCommand
      ? commandKey(event, props, ways) || movingKey(event, props, ways) || editingKey(event, props, ways)
      : movingKey(event, props, ways) ||
        editingKey(event, props, ways) ||
        (!event.altKey && typingKey(event, props, ways));
    if (isDone) event.preventDefault();
  };
}

/** @returns whether the key was one of these; then nothing else is done by it. */
type KeyHandler = (event: KeyboardEvent, props: ItemsTableProps, ways: Ways) => boolean;

/** What is typed before a cell's editor is there is its text: no key does what it does on the list. */
function openingKey(key: string, opening: Opening): boolean {
  if (key === "Enter") opening.save();
  else if (key === "Escape") opening.leave();
  else if (key === "Backspace") opening.takeBack();
  else if ([...key].length === 1) opening.type(key);
  else return false;
  return true;
}

const commandKey: KeyHandler = ({ key, shiftKey }, props, { columns, choosing }) => {
  const item = props.data.items.get(props.at.place);
  const column = columns[props.at.column];
  switch (key.toLowerCase()) {
    case "a":
      choosing.all(true);
      return true;
    case "z":
      props.onUndo(shiftKey);
      return true;
    case "y":
      props.onUndo(true);
      return true;
    case "c":
      if (item && column) void navigator.clipboard?.writeText(column.copy(item, props.view.side));
      return false;
    default:
      return false;
  }
};

const movingKey: KeyHandler = (event, { at, data, chosen }, { columns, choosing, go, rowsOfPage }) => {
  const { key } = event;
  const isCommand = event.ctrlKey || event.metaKey;
  const rows = { ArrowDown: 1, ArrowUp: -1, PageDown: rowsOfPage(), PageUp: -rowsOfPage() }[key];
  if (rows !== undefined) {
    if (event.shiftKey) {
      if (!isChosen(chosen, at.place)) choosing.anchorAt(at.place);
      choosing.extendTo(Math.max(0, Math.min(data.total - 1, at.place + rows)));
    }
    go(at.place + rows, at.column);
    return true;
  }
  if (key === "ArrowLeft" || key === "ArrowRight") go(at.place, at.column + (key === "ArrowRight" ? 1 : -1));
  else if (key === "Home") go(isCommand ? 0 : at.place, 0);
  else if (key === "End") go(isCommand ? data.total - 1 : at.place, columns.length - 1);
  else return false;
  return true;
};

const editingKey: KeyHandler = ({ key, shiftKey }, props, ways) => {
  const { at, data } = props;
  const item = data.items.get(at.place);
  const column = ways.columns[at.column];
  switch (key) {
    case " ":
      if (shiftKey) ways.choosing.extendTo(at.place);
      else ways.choosing.toggle(at.place);
      return true;
    case "Escape":
      props.onChoose([]);
      return false;
    case "Enter":
    case "F2":
      edit(props, ways, null);
      return true;
    case "Delete":
    case "Backspace":
      if (!item || !column?.edits) return false;
      props.onClear(item, column);
      return true;
    default:
      return false;
  }
};

/** A letter begins the text of the cell anew. */
const typingKey: KeyHandler = ({ key }, props, ways) => {
  const edits = ways.columns[props.at.column]?.edits;
  if ([...key].length !== 1 || !edits || edits === "robots") return false;
  edit(props, ways, key);
  return true;
};

function edit({ at, data, onEdit, onOpen }: ItemsTableProps, { columns }: Ways, typed: string | null): void {
  const item = data.items.get(at.place);
  const column = columns[at.column];
  const anchor = document.getElementById(cellId(at));
  if (item && column?.edits && anchor) onEdit(item, column, anchor, typed);
  else if (item && typed === null) onOpen(item);
}
