"use client";
import { Popover } from "radix-ui";
import { GLOSSARY, type GlossaryTerm } from "./glossary";

/** A term of ours where it stands on a screen: choosing it says what it means. */
export function Term({ of, children }: { of: GlossaryTerm; children: string }) {
  return (
    <Popover.Root>
      <Popover.Trigger
        className="cursor-help underline decoration-faint decoration-dotted decoration-1 underline-offset-4 hover:decoration-key"
        title={`What “${of}” means`}
      >
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label={`What “${of}” means`}
          className="z-50 max-w-80 rounded-sm border border-key bg-sheet px-3 py-2 text-[13px] font-normal normal-case text-key shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
        >
          <b>{of}</b>: {GLOSSARY[of]}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
