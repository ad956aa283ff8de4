"use client";
import type { ListedItem } from "../../server/items/listed-item";
import { useRouter } from "../shell/site-path";
import { useCallback, useState } from "react";
import { toast } from "sonner";
import { type Site } from "../../core/design/design";
import { type Ranges } from "../../core/items/query";
import { call, wordsOf } from "../shell/api";
import { counted } from "../shell/format";
import { useLater } from "../shell/later";
import { BarStatus } from "../shell/bar-status";
import { BarSlot } from "../shell/shell";
import { useSite } from "../shell/site-context";
import { siteStamp } from "../shell/site-stamps";
import { Trouble } from "../shell/trouble";
import { progressLine } from "../shell/progress-words";
import { Working } from "../shell/working";
import { Asked } from "./asked";
import { type Editing } from "./cell-editor";
import { PAGE_TOOLS } from "./page-tools-later";
import { ChosenBar } from "./chosen-bar";
import { chosenCount } from "./chosen-places";
import { type ItemColumn, shownColumns } from "./columns";
import { type EditStart } from "./edit-panel";
import { type Choice, useEdits } from "../shell/edits";
import { FindingsPanel } from "./findings-panel";
import { ItemsTable } from "./items-table";
import { type CellPlace, type ItemsTableProps } from "./list-props";
import { type ItemsView, queryOf, useItemsView } from "./items-url";
import { ListTools } from "./list-tools";
import { useItems } from "./use-items";
import { EditSteps } from "./edit-steps";
import { UndoButtons, useUndoKeys } from "./undo";

const FIRST_LOOK = "Checking every page …";
const NO_SITE = "There are no pages yet. Import a file of pages first.";

/** Every page of the site with what was found in it: filtered, sorted, worked off, written by hand. */
export function Items() {
  const { state } = useSite();
  return state.site ? <ItemsDesk /> : <p className="p-8">{NO_SITE}</p>;
}

/** Pages that are edited together, and how that begins. */
interface PanelEdit {
  readonly ranges: Ranges;
  readonly start: EditStart;
}

function ItemsDesk() {
  const [view, setView] = useItemsView();
  const { state, refresh } = useSite();
  const router = useRouter();
  const site = state.site!;
  const edits = useEdits();
  const data = useItems(view, `${siteStamp(state)} ${state.live}`);
  const [at, setAt] = useState<CellPlace>({ place: 0, column: 0 });
  const [editing, setEditing] = useState<Editing | null>(null);
  const [panel, setPanel] = useState<PanelEdit | null>(null);
  const tools = useLater(PAGE_TOOLS, editing !== null || panel !== null || view.item !== "");
  const [chosen, setChosen] = useState<Ranges>([]);
  // Places mean other pages in another order: what was chosen in it is let go of.
  const [order, setOrder] = useState(data.order);
  if (data.order !== order) {
    setOrder(data.order);
    setChosen([]);
    setPanel(null);
    if (at.place >= data.total) setAt({ ...at, place: 0 });
  }
  const number = chosenCount(chosen);
  const first = data.loading && data.order === "";
  const choiceOf = useCallback(
    (ranges: Ranges): Choice => ({ query: queryOf(view), ranges, order: data.order }),
    [view, data.order],
  );
  const focusTable = () => document.querySelector<HTMLElement>("[role=grid]")?.focus();
  /** Opens the panel that edits many pages, in the place of a page's sheet. */
  const open = (edit: PanelEdit) => {
    setView({ item: "" });
    setPanel(edit);
  };
  const close = () => {
    setEditing(null);
    requestAnimationFrame(focusTable);
  };
  const save = (value: string, next: boolean) => {
    const { item, column } = editing!;
    const made = edits.make({ kind: item.kind, id: item.id }, { type: "set", field: column.edits!, value });
    void Promise.all([made, PAGE_TOOLS.get()]).then(([done, { withSet }]) => {
      if (!done) return;
      data.patch(withSet(site, item, column.edits!, value));
      if (next) setAt((now) => ({ ...now, place: Math.min(data.total - 1, now.place + 1) }));
      close();
    });
  };
  const edit: ItemsTableProps["onEdit"] = (item, column, anchor, typed) =>
    // What is typed before the editor is there is typed into it.
    setEditing((now) => ({ item, column, anchor, typed: typed === null ? null : (now?.typed ?? "") + typed }));
  const clear = (item: ListedItem, column: ItemColumn) => {
    const field = column.edits!;
    void edits.make(
      { kind: item.kind, id: item.id },
      field === "keyword" ? { type: "set", field, value: "" } : { type: "let-go", field },
    );
  };
  const makeRule = async () => {
    try {
      const { kind, rule } = await call("items.makeRule", { choice: choiceOf(chosen) as never });
      await refresh();
      router.push(`/bench?kind=${kind}&text=title&rule=${rule}`);
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error));
    }
  };
  const paste = async (text: string, place: CellPlace, column: ItemColumn) => {
    const { pastedValues } = await PAGE_TOOLS.get();
    const values = pastedValues(text);
    const field = column.edits!;
    if (values.length === 1 && number === 0) {
      const item = data.items.get(place.place);
      if (item) void edits.make({ kind: item.kind, id: item.id }, { type: "set", field, value: values[0]! });
      return;
    }
    if (values.length === 1) {
      open({ ranges: chosen, start: { way: "set", field, pasted: values[0]! } });
      return;
    }
    // With no page chosen the lines begin at the page that the cell is of.
    const to = Math.min(data.total, place.place + values.length);
    if (number === 0 && to - place.place < values.length)
      toast(
        `${counted(values.length, "line", "lines")} pasted, and ${counted(to - place.place, "page", "pages")} from here to the end of the list`,
      );
    const ranges: Ranges = number === 0 ? [[place.place, to]] : chosen;
    if (number === 0) setChosen(ranges);
    open({ ranges, start: { way: "paste", field, pasted: text } });
  };
  useUndoKeys(edits);

  const side = panel !== null || view.item !== "";
  return (
    <div
      className={`desk ${side ? "[--columns:232px_minmax(0,1fr)_420px] max-[1179px]:[--columns:minmax(0,1fr)_420px]" : "[--columns:272px_minmax(0,1fr)]"}`}
    >
      <BarSlot>
        <BarStatus>
          {data.progress
            ? progressLine(state.site, data.progress)
            : first
              ? FIRST_LOOK
              : counted(data.total, "page", "pages")}
        </BarStatus>
        <UndoButtons edits={edits} />
      </BarSlot>
      <FindingsPanel counts={data.counts} view={view} onChange={setView} yields={side} />
      <section aria-label="Pages" className="desk-list flex min-h-0 min-w-0 flex-col bg-sheet">
        <h1 className="sr-only">Pages: every page and what was found in it</h1>
        <ListTools view={view} onView={setView} site={site} total={data.total} />
        <Asked view={view} differences={data.differences} onView={setView} />
        {data.error && (
          <div className="px-4">
            <Trouble message={data.error} onRetry={data.retry} />
          </div>
        )}
        {!data.loading && data.total === 0 && !data.error ? (
          <p className="flex-1 px-4 py-6 text-soft">
            No page matches.{" "}
            <button
              type="button"
              className="underline"
              onClick={() =>
                setView({ findings: [], difference: null, search: "", kind: "all", where: null, mark: null })
              }
            >
              Show all pages
            </button>
          </p>
        ) : first ? (
          <div className="flex-1">
            <Working progress={data.progress} waiting={FIRST_LOOK} />
          </div>
        ) : (
          <ItemsTable
            site={site}
            view={view}
            onView={setView}
            data={data}
            chosen={chosen}
            onChoose={setChosen}
            at={at}
            onAt={setAt}
            onOpen={(item) => {
              setPanel(null);
              setView({ item: `${item.kind}-${item.id}` });
            }}
            onEdit={edit}
            onClear={clear}
            onPaste={(...pasted) => void paste(...pasted).catch((error: unknown) => toast.error(wordsOf(error)))}
            onUndo={(again) => void (again ? edits.redo() : edits.undo())}
          />
        )}
        <EditSteps edits={edits} />
        {number > 0 && !panel && (
          <ChosenBar
            number={number}
            total={data.total}
            onChoose={setChosen}
            onWay={(way) => {
              const field = fieldAt(view, site, at) ?? (way === "set" ? "keyword" : "title");
              open({ ranges: chosen, start: { way, field, pasted: "" } });
            }}
            onMakeRule={() => void makeRule()}
          />
        )}
      </section>
      {panel
        ? tools && (
            <tools.EditPanel
              key={JSON.stringify(panel)}
              choice={choiceOf(panel.ranges)}
              number={chosenCount(panel.ranges)}
              start={panel.start}
              onMake={(action) => edits.make(choiceOf(panel.ranges), action)}
              onClose={() => (setPanel(null), requestAnimationFrame(focusTable))}
            />
          )
        : view.item !== "" &&
          tools && (
            <tools.ItemSheet
              item={view.item}
              site={site}
              stamp={`${siteStamp(state)} ${state.live}`}
              onEdit={edits.make}
              onClose={() => (setView({ item: "" }), requestAnimationFrame(focusTable))}
            />
          )}
      {editing && tools && (
        <tools.CellEditor
          key={`${editing.item.kind}-${editing.item.id} ${editing.column.id}`}
          editing={editing}
          site={site}
          onSave={save}
          onLetGo={() => {
            clear(editing.item, editing.column);
            close();
          }}
          onClose={close}
        />
      )}
    </div>
  );
}

/** What the cell that is gone to holds can be edited as. */
function fieldAt(view: ItemsView, site: Site, at: CellPlace) {
  return shownColumns(view.columns, site, view.look)[at.column]?.edits ?? null;
}
