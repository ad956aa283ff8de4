"use client";
import { useRef } from "react";
import type { Ranges } from "../../core/items/query";
import { isChosen, withPlace, withStretch } from "./chosen-places";

/** Choosing pages of the list: single ones, from the last one on, or all. */
export interface Choosing {
  readonly chosen: Ranges;
  /** Where the next stretch begins. */
  readonly anchorAt: (place: number) => void;
  readonly toggle: (place: number) => void;
  /** Takes in all from the last page that was pointed at to this one. */
  readonly extendTo: (place: number) => void;
  /** So many from a place on. */
  readonly stretch: (from: number, count: number, on: boolean) => void;
  readonly all: (on: boolean) => void;
}

export function useChoosing(chosen: Ranges, onChoose: (chosen: Ranges) => void, total: number): Choosing {
  const anchor = useRef(0);
  return {
    chosen,
    anchorAt: (place) => void (anchor.current = place),
    toggle: (place) => {
      onChoose(withPlace(chosen, place, !isChosen(chosen, place)));
      anchor.current = place;
    },
    extendTo: (place) =>
      onChoose(withStretch(chosen, Math.min(anchor.current, place), Math.max(anchor.current, place) + 1, true)),
    stretch: (from, count, on) => onChoose(withStretch(chosen, from, from + count, on)),
    all: (on) => onChoose(on && total > 0 ? [[0, total]] : []),
  };
}
