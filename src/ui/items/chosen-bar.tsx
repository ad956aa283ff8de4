"use client";
import type { Ranges } from "../../core/items/query";
import { PLAIN_ACTION } from "../shell/actions";
import { count, counted } from "../shell/format";
import { type EditStart } from "./edit-panel";

/** What is offered to be done with chosen pages. */
const WAYS: readonly (readonly [EditStart["way"], string])[] = [
  ["set", "Set …"],
  ["replace", "Find and replace …"],
  ["let-go", "By hand …"],
];

/** How many pages are chosen, and what can be done with them. */
export function ChosenBar({
  number,
  total,
  onChoose,
  onWay,
  onMakeRule,
}: {
  number: number;
  total: number;
  onChoose: (chosen: Ranges) => void;
  onWay: (way: EditStart["way"]) => void;
  onMakeRule: () => void;
}) {
  return (
    <div
      role="region"
      aria-label="Selected pages"
      className="flex items-center gap-3 border-t border-key bg-raised px-4 py-2"
    >
      <b>{counted(number, "page", "pages")} selected</b>
      {number < total && (
        <button
          type="button"
          className="text-soft underline decoration-hair underline-offset-4 hover:text-key"
          onClick={() => onChoose([[0, total]])}
        >
          Select all {count(total)} in the list
        </button>
      )}
      <span className="ml-auto flex gap-2">
        {WAYS.map(([way, label]) => (
          <button key={way} type="button" className={PLAIN_ACTION} onClick={() => onWay(way)}>
            {label}
          </button>
        ))}
        <button type="button" className={PLAIN_ACTION} onClick={onMakeRule}>
          Create a rule
        </button>
        <button type="button" className={PLAIN_ACTION} onClick={() => onChoose([])}>
          Clear selection
        </button>
      </span>
    </div>
  );
}
