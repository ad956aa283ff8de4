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

/**
 * The cell that one is at, the pages that are chosen, and those that are edited together. Places mean other pages in another order: what
 * was chosen in it is let go of.
 *
 * @param onEdit told when pages are about to be edited together.
 */
export function useChosen({ order, total }: ItemsData, onEdit: () => void) {
  const [at, setAt] = useState<CellPlace>({ place: 0, column: 0 });
  const [chosen, setChosen] = useState<Ranges>([]);
  const [panel, setPanel] = useState<PanelEdit | null>(null);
  const [chosenIn, setChosenIn] = useState(order);
  if (order !== chosenIn) {
    setChosenIn(order);
    setChosen([]);
    setPanel(null);
    if (at.place >= total) setAt({ ...at, place: 0 });
  }
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
