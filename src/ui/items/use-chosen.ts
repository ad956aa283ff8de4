"use client";
import { useState } from "react";
import { type Ranges } from "../../core/items/query";
import { chosenCount } from "./chosen-places";
import { type EditStart } from "./edit-panel";
import { type CellPlace } from "./list-props";
import { type ItemsData } from "./use-items";

/** Pages that are edited together, and how that begins. */
export interface PanelEdit {
  readonly ranges: Ranges;
  readonly start: EditStart;
}

export type Chosen = ReturnType<typeof useChosen>;

type Listed = Pick<ItemsData, "order" | "items" | "total">;

/**
 * The cell that one is at, the pages that are chosen, and those that are edited together. Places mean other pages in another order: what
 * was chosen in it is let go of, and the cell that one is at goes with its page.
 *
 * @param onEdit told when pages are about to be edited together.
 */
export function useChosen(data: ItemsData, onEdit: () => void) {
  const [at, setAt] = useState<CellPlace>({ place: 0, column: 0 });
  const [chosen, setChosen] = useState<Ranges>([]);
  const [panel, setPanel] = useState<PanelEdit | null>(null);
  const [before, setBefore] = useState<Listed>(data);
  if (data.order !== before.order) {
    setChosen([]);
    setPanel(null);
    setAt({ ...at, place: placeIn(data, before, at.place) });
  }
  if (data.order !== before.order || data.items !== before.items) setBefore(data);
  return {
    at,
    setAt,
    chosen,
    setChosen,
    number: chosenCount(chosen),
    panel,
    editTogether: (edit: PanelEdit) => {
      onEdit();
      setPanel(edit);
    },
    closePanel: () => setPanel(null),
  };
}

/** Where in a list the page is that was at a place of the one before: the same place, as far as there is one, where it is not known. */
export function placeIn({ items, total }: Listed, before: Listed, place: number): number {
  const page = before.items.get(place);
  for (const [other, { kind, id }] of page ? items : []) if (kind === page!.kind && id === page!.id) return other;
  return place < total ? place : 0;
}
