import { type Site } from "../../core/design/design";
import type { Ranges } from "../../core/items/query";
import { type ListedItem } from "../../server/items/listed-item";
import { type ItemColumn } from "./columns";
import { type ItemsView } from "./items-url";
import { type useItems } from "./use-items";

/** A cell: the place of its page in the order, and its column. */
export interface CellPlace {
  readonly place: number;
  readonly column: number;
}

/** What the keys do while a cell's editor is on its way. */
export interface Opening {
  readonly type: (letter: string) => void;
  readonly takeBack: () => void;
  readonly save: () => void;
  readonly leave: () => void;
}

export interface ItemsTableProps {
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
  /** `null` where no editor is on its way. */
  readonly opening: Opening | null;
  readonly onClear: (item: ListedItem, column: ItemColumn) => void;
  readonly onPaste: (text: string, at: CellPlace, column: ItemColumn) => void;
  readonly onUndo: (again: boolean) => void;
}

/** The id of a cell's element. */
export const cellId = ({ place, column }: CellPlace) => `cell-${place}-${column}`;
