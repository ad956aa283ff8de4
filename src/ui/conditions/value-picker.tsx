"use client";
import { Command } from "cmdk";
import { Check, ChevronDown } from "lucide-react";
import { Popover } from "radix-ui";
import { type ReactNode, useState } from "react";

/** One of the things that can be picked, with what stands beside it. */
export interface Choice {
  readonly value: string;
  readonly label: ReactNode;
  readonly detail?: string | undefined;
  /** How deep it stands in a tree, from 0. */
  readonly depth?: number;
}

/** The item that takes what was typed as it is. */
const FREE = "(as typed)";

/** A field that opens a list to pick from; typing narrows it down. `free`: what was typed can be taken as it is. */
export function Picker(props: {
  label: string;
  shown: ReactNode;
  choices: readonly Choice[];
  picked: (value: string) => boolean;
  onPick: (value: string) => void;
  onSearch?: (search: string) => void;
  onOpen?: () => void;
  free?: boolean;
  stays?: boolean;
  note?: string | undefined;
  empty?: string;
}) {
  const [open, setOpen] = useState(false);
  const [search, setSearch] = useState("");
  // What Enter takes: as long as it is on offer, what was gone to; otherwise what was typed, or the first.
  const [at, setAt] = useState("");
  const [moved, setMoved] = useState(false);
  const typed = search.trim();
  const offersTyped = props.free === true && typed !== "" && !props.choices.some((choice) => choice.value === typed);
  const same = props.choices.find((choice) => choice.value.toLowerCase() === typed.toLowerCase());
  const first = same?.value ?? props.choices[0]?.value ?? (offersTyped ? FREE : "");
  const current = (at === FREE && offersTyped) || props.choices.some((choice) => choice.value === at) ? at : first;
  const pick = (value: string) => {
    props.onPick(value);
    if (!props.stays) setOpen(false);
    setSearch("");
    props.onSearch?.("");
  };
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        if (next) props.onOpen?.();
        else setSearch("");
      }}
    >
      <Popover.Trigger
        aria-label={props.label}
        className="inline-flex max-w-full items-center gap-1 rounded-sm border border-edge bg-sheet px-2 py-0.5 text-left hover:border-key"
      >
        <span className="min-w-0 break-words">{props.shown}</span>
        <ChevronDown size={12} aria-hidden="true" className="shrink-0 text-faint" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={`${props.label}: choices`}
          align="start"
          sideOffset={4}
          className="z-50 w-80 rounded-sm border border-key bg-sheet shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
        >
          <Command
            shouldFilter={!props.onSearch}
            loop
            label={props.label}
            {...(props.onSearch ? { value: current, onValueChange: setAt } : {})}
          >
            <Command.Input
              value={search}
              onValueChange={(next) => {
                setSearch(next);
                setMoved(false);
                setAt("");
                props.onSearch?.(next);
              }}
              onKeyDown={(event) => {
                if (event.key === "ArrowDown" || event.key === "ArrowUp") setMoved(true);
                // What is on offer may still be that of an earlier search: Enter takes what was typed, or waits for it.
                if (event.key !== "Enter" || moved || typed === "" || !props.onSearch) return;
                if (same) {
                  event.preventDefault();
                  pick(same.value);
                } else if (
                  !offersTyped &&
                  !props.choices.some(({ value }) => value.toLowerCase().includes(typed.toLowerCase()))
                )
                  event.preventDefault();
              }}
              placeholder={props.free ? "Type, or select below" : "Search"}
              className="w-full border-b border-hair bg-transparent px-3 py-1.5 outline-none"
            />
            {!offersTyped && (
              <Command.Empty className="px-3 py-1.5 text-soft">{props.empty ?? "No matches"}</Command.Empty>
            )}
            <Command.List className="max-h-72 overflow-auto py-1">
              {offersTyped && (
                <Command.Item
                  value={FREE}
                  forceMount
                  onSelect={() => pick(typed)}
                  className="px-3 py-1 aria-selected:bg-cyan-pale"
                >
                  Use “{typed}”
                </Command.Item>
              )}
              {props.choices.map((choice) => (
                <Command.Item
                  key={choice.value}
                  value={choice.value}
                  onSelect={() => pick(choice.value)}
                  className="flex items-baseline gap-2 px-3 py-1 aria-selected:bg-cyan-pale"
                >
                  <span className="w-3 shrink-0 self-center">
                    {props.picked(choice.value) && <Check size={12} aria-label="chosen" />}
                  </span>
                  <span className="min-w-0 flex-1 break-words" style={{ paddingLeft: (choice.depth ?? 0) * 12 }}>
                    {choice.label}
                  </span>
                  {choice.detail !== undefined && (
                    <span className="narrow shrink-0 text-[12px] text-soft">{choice.detail}</span>
                  )}
                </Command.Item>
              ))}
            </Command.List>
            {props.note !== undefined && (
              <p className="narrow border-t border-hair px-3 py-1 text-[12px] text-soft">{props.note}</p>
            )}
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
