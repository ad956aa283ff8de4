"use client";
import { type ToggleEvent, useState } from "react";
import { GLOSSARY, type GlossaryTerm } from "./glossary";
import { usePopUnder } from "./pop-under";

/** A term of ours where it stands on a screen: choosing it says what it means. */
export function Term({ of, children }: { of: GlossaryTerm; children: string }) {
  const { trigger, pop } = usePopUnder<HTMLSpanElement>();
  const meaning = `What “${of}” means`;
  const [isOpen, setOpen] = useState(false);
  const toggled = (event: ToggleEvent<HTMLSpanElement>) => {
    const opens = event.newState === "open";
    setOpen(opens);
    // Whoever does not see it is taken to it.
    if (opens) event.currentTarget.focus();
  };
  return (
    <>
      <button
        {...trigger}
        type="button"
        className="cursor-help underline decoration-faint decoration-dotted decoration-1 underline-offset-4 hover:decoration-key"
        title={meaning}
      >
        {children}
      </button>
      <span
        {...pop}
        role={isOpen ? "dialog" : undefined}
        aria-label={meaning}
        tabIndex={-1}
        onToggle={toggled}
        className="fixed m-0 max-w-80 whitespace-normal rounded-sm border border-key bg-sheet px-3 py-2 text-left font-sans text-[13px] font-normal normal-case leading-normal text-key shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
      >
        {isOpen && (
          <>
            <b>{of}</b>: {GLOSSARY[of]}
          </>
        )}
      </span>
    </>
  );
}
