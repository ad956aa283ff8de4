"use client";
import { kindIds } from "../../core/design/kinds";
import { useAfterMenu } from "../shell/after-menu";
import { Check, ChevronDown } from "lucide-react";
import { DropdownMenu, Popover } from "radix-ui";
import { useMemo, useState } from "react";
import { toast } from "sonner";
import { type Site } from "../../core/design/design";
import { checkedCondition } from "../../core/rules/condition-shape";
import { conditionWords } from "../../core/rules/words";
import type { FieldInfo } from "../../server/bench/field-infos";
import type { ItemGroup, ItemMark } from "../../core/items/query";
import type { NamedView } from "../../store/named-views";
import { type ConditionDraft } from "../conditions/condition-draft";
import { PLAIN_ACTION } from "../shell/actions";
import { MENU, MenuItem } from "../shell/menu-item";
import { builtInColumns, fieldColumn } from "./columns";
import { FIRST_COLUMNS, otherLook, itemsCodec, type ItemsView } from "./items-url";
import { SearchBox } from "../shell/search-box";
import { useRouter } from "../shell/site-path";
import { count } from "../shell/format";
import { PAGE_TOOLS } from "./page-tools-later";
import { useLater } from "../shell/later";
import { useCall } from "../shell/queries";
import { useSite, useKindWord } from "../shell/site-context";
import { shownKinds } from "../shell/site-kinds";
import { pagesStamp } from "../shell/site-stamps";
import { call } from "../shell/api";

/** Not a state of a page in the list: those that are gone have a list of their own. */
const GONE = "gone";
const MARKS: readonly [ItemMark | "", string][] = [
  ["", "All pages"],
  ["changes", "Changed by the drafts"],
  ["by-hand", "With a text by hand"],
  ["waiting", "By hand, not applied yet"],
  ["found-live", "Differs on the live site"],
];
const GROUPS: readonly [ItemGroup | "", string][] = [
  ["", "No grouping"],
  ["category", "By category"],
  ["rule", "By rule"],
  ["finding", "By finding"],
  ["same-title", "By same title"],
  ["same-description", "By same description"],
  ["kind", "By kind"],
];
const SELECT = "rounded-sm border bg-sheet px-1 py-1";
const TOOL = "inline-flex items-center gap-1 rounded-sm border border-edge bg-sheet px-2 py-1 hover:border-key";

interface Tools {
  readonly view: ItemsView;
  readonly onView: (change: Partial<ItemsView>) => void;
}

/** Which pages are in the list, how they are put together, and what is shown of each. */
export function ListTools({ view, onView, site, total }: Tools & { site: Site; total: number }) {
  const kindWord = useKindWord();
  const [isTaking, setTaking] = useState(false);
  const tools = useLater(PAGE_TOOLS, isTaking);
  const fields = useFields(view.kind);
  const { state } = useSite();
  const router = useRouter();
  return (
    <div className="flex flex-wrap items-center gap-1.5 border-b border-hair bg-raised px-3 py-2">
      <SearchBox
        label="Search pages"
        placeholder="Search page content"
        title="All words, or their beginnings; use “quotation marks” for an exact phrase"
        value={view.search}
        onSearch={(search) => onView({ search, item: "" })}
        className="w-44"
      />
      <select
        aria-label="Kind of page"
        value={view.kind}
        onChange={(event) => onView({ kind: event.target.value as ItemsView["kind"] })}
        className={`${SELECT} ${view.kind === "all" ? "border-edge" : "border-key font-semibold"}`}
      >
        <option value="all">All kinds</option>
        {shownKinds(state, view.kind === "all" ? undefined : view.kind).map((kind) => (
          <option key={kind} value={kind}>
            {kindWord(kind, 2)}
          </option>
        ))}
      </select>
      <select
        aria-label="Filter by status"
        value={view.mark ?? ""}
        onChange={({ target: { value } }) =>
          value === GONE ? router.push("/pages/gone") : onView({ mark: (value || null) as ItemMark | null })
        }
        className={`${SELECT} max-w-36 ${view.mark === null ? "border-edge" : "border-key font-semibold"}`}
      >
        {MARKS.map(([value, label]) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
        {state.gone > 0 && <option value={GONE}>Gone: {count(state.gone)}</option>}
      </select>
      <WhereTool view={view} onView={onView} fields={fields} />
      <select
        aria-label="Grouping"
        value={view.group ?? ""}
        onChange={(event) => onView({ group: (event.target.value || null) as ItemGroup | null })}
        className={`${SELECT} ${view.group === null ? "border-edge" : "border-key font-semibold"}`}
      >
        {GROUPS.map(([value, label]) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </select>
      <div
        role="radiogroup"
        aria-label="Findings of"
        className="flex overflow-hidden rounded-sm border border-edge bg-sheet"
      >
        {(
          [
            ["live", "Live"],
            ["draft", "Draft"],
          ] as const
        ).map(([side, label]) => (
          <button
            key={side}
            type="button"
            role="radio"
            aria-checked={view.side === side}
            onClick={() => onView({ side })}
            className={`whitespace-nowrap px-2 py-1 ${view.side === side ? "bg-key font-semibold text-sheet" : "text-soft hover:text-key"}`}
          >
            {label}
          </button>
        ))}
      </div>
      <span className="ml-auto flex gap-1.5">
        <ColumnsTool view={view} onView={onView} site={site} fields={fields} />
        <ViewsTool view={view} onView={onView} />
        <button type="button" className={TOOL} onClick={() => setTaking(true)}>
          Export …
        </button>
      </span>
      {isTaking && tools && (
        <tools.TakeOutDialog view={view} total={total} fields={fields} onClose={() => setTaking(false)} />
      )}
    </div>
  );
}

const NO_FIELDS: readonly FieldInfo[] = [];

/** The fields of a kind's pages, or of all. */
function useFields(kind: ItemsView["kind"]): readonly FieldInfo[] {
  const { state } = useSite();
  const { answer, isCurrent } = useCall("bench.fields", { kind }, pagesStamp(state));
  return isCurrent && answer ? answer : NO_FIELDS;
}

function WhereTool({ view, onView, fields }: Tools & { fields: readonly FieldInfo[] }) {
  const [isOpen, setOpen] = useState(false);
  /** What was put together last, whole or not. */
  const [draft, setDraft] = useState<ConditionDraft | null>(null);
  const tools = useLater(PAGE_TOOLS, isOpen);
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger className={`${TOOL} ${view.where ? "border-key font-semibold" : ""}`}>
        Where … <ChevronDown size={12} aria-hidden="true" className="text-faint" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Pages where"
          align="start"
          sideOffset={4}
          collisionPadding={12}
          className="z-40 max-h-[70vh] min-h-24 w-[430px] overflow-auto rounded-sm border border-key bg-sheet p-3 shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
        >
          {tools && (
            <tools.WherePanel
              kind={view.kind}
              where={view.where}
              fields={fields}
              last={draft}
              onDraft={setDraft}
              onWhere={(where) => onView({ where })}
            />
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function ColumnsTool({ view, onView, site, fields }: Tools & { site: Site; fields: readonly FieldInfo[] }) {
  const [search, setSearch] = useState("");
  const offered = [
    ...builtInColumns(site, view.look).map(({ id, label }) => ({ id, label, field: false })),
    ...fields
      .filter(({ name, filled }) => filled > 0 && !["name", "keyword", "slug", "site", "tagline", "sep"].includes(name))
      .map(({ name }) => ({ id: `field:${name}`, label: fieldColumn(`field:${name}`).label, field: true })),
  ];
  const found = offered.filter(({ label }) => label.toLowerCase().includes(search.toLowerCase().trim()));
  const toggle = (id: string) => {
    const columns = view.columns.includes(id) ? view.columns.filter((own) => own !== id) : [...view.columns, id];
    if (columns.length > 0) onView({ columns });
  };
  return (
    <Popover.Root>
      <Popover.Trigger className={TOOL}>
        Columns <ChevronDown size={12} aria-hidden="true" className="text-faint" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Columns of the list"
          align="end"
          sideOffset={4}
          className="z-40 w-64 rounded-sm border border-key bg-sheet shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
        >
          <div role="radiogroup" aria-label="Text display" className="flex gap-3 border-b border-hair px-3 py-2">
            {(
              [
                ["plain", "Plain, with numbers"],
                ["size", "At true size"],
              ] as const
            ).map(([look, label]) => (
              <button
                key={look}
                type="button"
                role="radio"
                aria-checked={view.look === look}
                onClick={() => onView(otherLook(view, look))}
                className={
                  view.look === look
                    ? "font-semibold underline decoration-rule decoration-2 underline-offset-4"
                    : "text-soft hover:text-key"
                }
              >
                {label}
              </button>
            ))}
          </div>
          <input
            type="search"
            aria-label="Search columns"
            placeholder="Search"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
            className="w-full border-b border-hair bg-transparent px-3 py-1.5 outline-none placeholder:text-faint"
          />
          <div className="max-h-72 overflow-auto py-1" role="group" aria-label="Columns">
            {found.map(({ id, label, field }) => (
              <button
                key={id}
                type="button"
                role="checkbox"
                aria-checked={view.columns.includes(id)}
                onClick={() => toggle(id)}
                className="flex w-full items-center gap-2 px-3 py-1 text-left hover:bg-cyan-pale"
              >
                <span className="w-3">{view.columns.includes(id) && <Check size={12} aria-hidden="true" />}</span>
                <span className={field ? "font-mono text-[13px]" : ""}>{label}</span>
              </button>
            ))}
            {found.length === 0 && <p className="px-3 py-1 text-faint">No matching column</p>}
          </div>
          <div className="flex items-center justify-between gap-2 border-t border-hair px-3 py-1.5 text-[12px] text-soft">
            Drag column headings to reorder
            <button
              type="button"
              className="underline underline-offset-4 hover:text-key"
              onClick={() => onView({ columns: FIRST_COLUMNS, look: "plain" })}
            >
              Reset
            </button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function ViewsTool({ view, onView }: Tools) {
  const { state } = useSite();
  const [views, setViews] = useState<readonly NamedView[] | null>(null);
  const [naming, setNaming] = useState(false);
  const { afterMenu, onCloseAutoFocus } = useAfterMenu();
  const failed = (error: unknown) => void toast.error(error instanceof Error ? error.message : String(error));
  const load = () => void call("items.views", {}).then(setViews).catch(failed);
  const { site } = state;
  const codec = useMemo(() => itemsCodec(kindIds(site)), [site]);
  const query = codec.write({ ...view, item: "" });
  const open = (own: NamedView) => onView({ ...codec.read(new URLSearchParams(own.query)), item: "" });
  return (
    <Popover.Root open={naming} onOpenChange={setNaming}>
      <Popover.Anchor className="contents">
        <DropdownMenu.Root onOpenChange={(opened) => opened && load()}>
          <DropdownMenu.Trigger className={TOOL}>
            Views <ChevronDown size={12} aria-hidden="true" className="text-faint" />
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              onCloseAutoFocus={onCloseAutoFocus}
              align="end"
              sideOffset={4}
              className={`${MENU} min-w-56`}
            >
              <MenuItem label="Save this view" onSelect={() => afterMenu(() => setNaming(true))} />
              <DropdownMenu.Separator className="my-1 border-t border-hair" />
              <DropdownMenu.Label className="px-3 py-0.5 text-[12px] text-soft">
                {views === null ? "Loading …" : views.length === 0 ? "No saved views yet" : "Open"}
              </DropdownMenu.Label>
              {views?.map((own) => (
                <MenuItem
                  key={own.name}
                  label={own.name}
                  {...(own.query === query ? { hint: "this one" } : {})}
                  onSelect={() => open(own)}
                />
              ))}
              {views !== null && views.length > 0 && (
                <>
                  <DropdownMenu.Separator className="my-1 border-t border-hair" />
                  <DropdownMenu.Label className="px-3 py-0.5 text-[12px] text-soft">Delete</DropdownMenu.Label>
                  {views.map((own) => (
                    <MenuItem
                      key={own.name}
                      label={own.name}
                      onSelect={() => {
                        call("items.forgetView", { name: own.name })
                          .then(() =>
                            toast(`View “${own.name}” deleted`, {
                              action: {
                                label: "Undo",
                                onClick: () => void call("items.putView", own).catch(failed),
                              },
                            }),
                          )
                          .catch(failed);
                      }}
                    />
                  ))}
                </>
              )}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          aria-label="Save this view"
          align="end"
          sideOffset={6}
          className="z-40 w-72 rounded-sm border border-key bg-sheet p-3 shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
        >
          <form
            onSubmit={(event) => {
              event.preventDefault();
              const name = String(new FormData(event.currentTarget).get("name"));
              call("items.putView", { name, query })
                .then(() => {
                  setNaming(false);
                  toast(`View saved as “${name}”`);
                })
                .catch(failed);
            }}
          >
            <label className="block">
              <span className="text-[12px] text-soft">Name of the view: filters, order and columns</span>
              <input
                name="name"
                required
                maxLength={100}
                autoFocus
                placeholder="such as: products, title too wide"
                className="block w-full rounded-sm border border-edge bg-sheet px-2 py-1"
              />
            </label>
            <button type="submit" className={`${PLAIN_ACTION} mt-2`}>
              Save
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** What the list is filtered by besides findings, in words, each with the way out of it. */
export function whereWords(view: ItemsView): string | null {
  return view.where ? conditionWords(checkedCondition(view.where)) : null;
}
