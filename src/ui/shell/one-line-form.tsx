"use client";
import { useState } from "react";
import { PLAIN_ACTION } from "./actions";

/** A line of text that is written in place: Enter takes it, Escape leaves it as it was. */
export function OneLineForm({
  label,
  start = "",
  placeholder,
  isPath = false,
  action,
  onTake,
  onLeave,
}: {
  label: string;
  /** What stands in it at first. */
  start?: string;
  placeholder?: string;
  isPath?: boolean;
  /** What its button says. */
  action: string;
  onTake: (typed: string) => void;
  onLeave: () => void;
}) {
  const [typed, setTyped] = useState(start);
  return (
    <form
      className="mt-1 flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onTake(typed);
      }}
    >
      <input
        autoFocus
        aria-label={label}
        placeholder={placeholder}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== "Escape") return;
          event.stopPropagation();
          onLeave();
        }}
        className={`min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-2 py-0.5 ${isPath ? "font-mono text-[12px]" : ""}`}
      />
      <button type="submit" className={PLAIN_ACTION} disabled={typed.trim() === ""}>
        {action}
      </button>
    </form>
  );
}
