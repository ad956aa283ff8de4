"use client";
import { ChevronDown } from "lucide-react";
import { type ReactNode, useId, useState } from "react";

/**
 * What stands beside a list, within its `desk-folds`. Where there is no room beside the list it stands above it, folded to a line
 * that says what is chosen of it.
 */
export function SideFold({ label, now, children }: { label: string; now: string; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const id = useId();
  return (
    <>
      <button
        type="button"
        aria-expanded={open}
        aria-controls={id}
        onClick={() => setOpen(!open)}
        className="hidden w-full items-baseline gap-2 px-3 py-2 text-left small:flex"
      >
        <span className="font-semibold">{label}</span>
        <span className="min-w-0 flex-1 truncate text-soft">{now}</span>
        <ChevronDown size={16} aria-hidden="true" className={`self-center ${open ? "rotate-180" : ""}`} />
      </button>
      <div id={id} className={`contents ${open ? "" : "small:hidden"}`}>
        {children}
      </div>
    </>
  );
}
