"use client";
import { Command } from "cmdk";
import { Popover, Tabs } from "radix-ui";
import { type ReactNode, useEffect, useState } from "react";
import { type KindDesign } from "../../core/design/design";
import { type FieldUse, fieldUses } from "../../core/design/field-use";
import { type TextName } from "../../core/design/kinds";
import { FILTERS } from "../../core/lines/filters";
import type { FieldInfo } from "../../server/bench/field-infos";
import { percent } from "../line-editor/known-fields";
import { TEXT_LABELS } from "./line-row";

/** Pieces to put in, `…` where the selection goes, with the cursor behind it. */
const PIECES: readonly [source: string, cursor: number, meaning: string][] = [
  ["[…]", 1, "shown if its fields have values and it fits"],
  ["[…]^1", 1, "the same; dropped first when space runs short"],
  ["[…]^2", 1, "the same; dropped second"],
  ["[… || ]", 1, "the first alternative that is complete and fits"],
  ["[…]^keep", 1, "shown if its fields have values, even if it does not fit"],
  ["[…]^apart", 1, "shown only where another page would have the same text"],
];

const SIGNS: readonly [string, string][] = [
  ["–", "en dash"],
  ["—", "em dash"],
  ["·", "middle dot"],
  ["•", "bullet"],
  ["|", "bar"],
  ["…", "ellipsis"],
  ["’", "apostrophe"],
  ["“", "opening quote"],
  ["”", "closing quote"],
  ["×", "times"],
  ["°", "degree"],
  ["½", "half"],
  ["€", "euro"],
  ["£", "pound"],
];

/** A palette for the line in hand: fields with how many pages have them and where they are used, pieces, filters, signs and emoji. */
export function InsertMenu(props: {
  text: TextName;
  fields: readonly FieldInfo[];
  design: KindDesign;
  onInsert: (text: string, cursor?: number) => void;
  onGo: (use: FieldUse) => void;
}) {
  const [open, setOpen] = useState(false);
  const put = (text: string, cursor?: number) => {
    setOpen(false);
    // The popover gives the focus back first; then the editor takes it.
    setTimeout(() => props.onInsert(text, cursor), 0);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="rounded-sm border border-edge bg-sheet px-2 py-0.5 text-soft hover:border-key hover:text-key data-[state=open]:border-key">
        Insert into the {TEXT_LABELS[props.text].toLowerCase()} line
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="What to insert"
          align="start"
          sideOffset={4}
          onOpenAutoFocus={(event) => event.preventDefault()}
          onCloseAutoFocus={(event) => event.preventDefault()}
          className="z-40 w-[430px] rounded-sm border border-key bg-sheet shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
        >
          <Tabs.Root defaultValue="fields">
            <Tabs.List aria-label="What to insert" className="flex border-b border-hair px-1">
              {[
                ["fields", "Fields"],
                ["pieces", "Pieces"],
                ["filters", "Filters"],
                ["signs", "Symbols"],
                ["emoji", "Emoji"],
              ].map(([value, label]) => (
                <Tabs.Trigger
                  key={value}
                  value={value!}
                  className="px-3 py-1.5 text-soft data-[state=active]:font-bold data-[state=active]:text-key data-[state=active]:shadow-[inset_0_-2px_0_var(--cyan-line)]"
                >
                  {label}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            <Tabs.Content value="fields">
              <Fields {...props} onInsert={put} onGo={(use) => (setOpen(false), props.onGo(use))} />
            </Tabs.Content>
            <Tabs.Content value="pieces" className="py-1">
              {PIECES.map(([source, cursor, meaning]) => (
                <Entry key={source} source={source} meaning={meaning} onClick={() => put(source, cursor)} />
              ))}
            </Tabs.Content>
            <Tabs.Content value="filters" className="max-h-72 overflow-auto py-1">
              <p className="px-3 pb-1 text-[12px] text-soft">A filter goes inside a field, after its name</p>
              {FILTERS.map((filter) => (
                <Entry
                  key={filter.name}
                  source={`:${filter.name}${filter.args.length > 0 ? `(${filter.args.join(", ")})` : ""}`}
                  meaning={filter.meaning}
                  onClick={() =>
                    put(
                      filter.args.length > 0 ? `:${filter.name}()` : `:${filter.name}`,
                      filter.args.length > 0 ? filter.name.length + 2 : undefined,
                    )
                  }
                />
              ))}
            </Tabs.Content>
            <Tabs.Content value="signs">
              <Grid>
                {SIGNS.map(([sign, label]) => (
                  <Sign key={sign} sign={sign === "|" ? "\\|" : sign} shown={sign} label={label} onPut={put} />
                ))}
              </Grid>
            </Tabs.Content>
            <Tabs.Content value="emoji">
              <Emoji onPut={put} />
            </Tabs.Content>
          </Tabs.Root>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Entry({ source, meaning, onClick }: { source: string; meaning: string; onClick: () => void }) {
  return (
    <button
      type="button"
      onClick={onClick}
      className="flex w-full items-baseline gap-3 px-3 py-1 text-left hover:bg-cyan-pale focus-visible:bg-cyan-pale"
    >
      <code className="shrink-0 font-mono text-[13px]">{source}</code>{" "}
      <span className="text-[12px] text-soft">{meaning}</span>
    </button>
  );
}

function Fields({
  fields,
  design,
  onInsert,
  onGo,
}: {
  fields: readonly FieldInfo[];
  design: KindDesign;
  onInsert: (text: string) => void;
  onGo: (use: FieldUse) => void;
}) {
  const uses = fieldUses(design);
  const names = new Map(design.rules.map((rule) => [rule.id, rule.name]));
  const [value, setValue] = useState("");
  const shown = fields.filter((field) => field.filled > 0 || uses.has(field.name));
  const own = uses.get(value) ?? [];
  return (
    <Command loop label="Fields" value={value} onValueChange={setValue}>
      <Command.Input
        autoFocus
        placeholder="Search fields"
        className="w-full border-b border-hair bg-transparent px-3 py-1.5 outline-none"
      />
      <Command.Empty className="px-3 py-1.5 text-soft">No page has such a field</Command.Empty>
      <Command.List className="max-h-64 overflow-auto py-1">
        {shown.map((field) => {
          const times = uses.get(field.name)?.length ?? 0;
          return (
            <Command.Item
              key={field.name}
              value={field.name}
              onSelect={() => onInsert(`{${field.name}}`)}
              className="flex items-baseline gap-2 px-3 py-0.5 aria-selected:bg-cyan-pale"
            >
              <span className="line-field shrink-0 px-0.5 font-mono text-[13px]">{field.name}</span>
              <span className="min-w-0 flex-1 truncate text-[12px] text-soft">{field.example}</span>
              <span className="narrow shrink-0 text-[12px] text-soft">
                {times > 0 && (times === 1 ? "used once, " : `used ${times} times, `)}
                {percent(field.filled)}
              </span>
            </Command.Item>
          );
        })}
      </Command.List>
      <section
        aria-label="Where the field is used"
        className="max-h-28 overflow-auto border-t border-hair px-3 py-1 text-[12px]"
      >
        {own.length === 0 ? (
          <p className="text-soft">
            {value === "" ? "Select a field to see where it is used" : `No line and no rule uses ${value}`}
          </p>
        ) : (
          <ul className="flex flex-wrap gap-x-4">
            {own.map((use, i) => (
              <li key={i}>
                <button
                  type="button"
                  className="py-1 leading-4 underline decoration-hair underline-offset-2 hover:decoration-key"
                  onClick={() => onGo(use)}
                >
                  {use.text === "condition" ? "Condition" : TEXT_LABELS[use.text]} of{" "}
                  {use.rule === null ? "the base" : `“${names.get(use.rule)}”`}
                </button>
              </li>
            ))}
          </ul>
        )}
      </section>
    </Command>
  );
}

function Grid({ children }: { children: ReactNode }) {
  return <div className="grid max-h-64 grid-cols-10 gap-0.5 overflow-auto p-2">{children}</div>;
}

function Sign({
  sign,
  shown,
  label,
  onPut,
}: {
  sign: string;
  shown: string;
  label: string;
  onPut: (text: string) => void;
}) {
  return (
    <button
      type="button"
      title={label}
      aria-label={label}
      onClick={() => onPut(sign)}
      className="rounded-sm py-1 text-[17px] hover:bg-cyan-pale focus-visible:bg-cyan-pale"
    >
      {shown}
    </button>
  );
}

interface EmojiEntry {
  readonly unicode: string;
  readonly label: string;
  readonly tags?: readonly string[];
}

const MOST_EMOJI = 300;

/** Every emoji by name; the list is fetched when it is first looked at. Their width in a text is an estimate. */
function Emoji({ onPut }: { onPut: (text: string) => void }) {
  const [all, setAll] = useState<readonly EmojiEntry[]>([]);
  const [search, setSearch] = useState("");
  useEffect(() => {
    let stale = false;
    void import("emojibase-data/en/compact.json").then(
      (data) => !stale && setAll(data.default as readonly EmojiEntry[]),
    );
    return () => {
      stale = true;
    };
  }, []);
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = all.filter(({ label, tags }) =>
    words.every((word) => label.includes(word) || tags?.some((tag) => tag.includes(word))),
  );
  return (
    <div>
      <input
        type="search"
        aria-label="Search emoji"
        placeholder="Search emoji, such as anchor"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
        className="w-full border-b border-hair bg-transparent px-3 py-1.5 outline-none"
      />
      <Grid>
        {found.slice(0, MOST_EMOJI).map(({ unicode, label }) => (
          <Sign key={unicode} sign={unicode} shown={unicode} label={label} onPut={onPut} />
        ))}
      </Grid>
      <p className="border-t border-hair px-3 py-1 text-[12px] text-soft">
        {all.length > 0 && found.length === 0
          ? "No matching emoji"
          : found.length > MOST_EMOJI
            ? `${found.length - MOST_EMOJI} more; type to narrow them down`
            : "How wide an emoji is depends on the reader's device: figures are estimates"}
      </p>
    </div>
  );
}
