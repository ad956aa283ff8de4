"use client";
import { useCallback } from "react";
import { toast } from "sonner";
import { type Site } from "../../core/design/design";
import { type Ranges } from "../../core/items/query";
import { call, wordsOf } from "../shell/api";
import { BarStatus } from "../shell/bar-status";
import { type Choice, useEdits } from "../shell/edits";
import { counted } from "../shell/format";
import { useLater } from "../shell/later";
import { progressLine } from "../shell/progress-words";
import { BarSlot } from "../shell/shell";
import { useSite } from "../shell/site-context";
import { useRouter } from "../shell/site-path";
import { siteStamp } from "../shell/site-stamps";
import { Trouble } from "../shell/trouble";
import { Working } from "../shell/working";
import { Asked } from "./asked";
import { BesideList } from "./beside-list";
import { ChosenBar } from "./chosen-bar";
import { shownColumns } from "./columns";
import { EditSteps } from "./edit-steps";
import { FindingsPanel } from "./findings-panel";
import { ItemsTable } from "./items-table";
import { type ItemsView, queryOf, useItemsView } from "./items-url";
import { type CellPlace } from "./list-props";
import { ListTools } from "./list-tools";
import { PAGE_TOOLS } from "./page-tools-later";
import { pasteValues } from "./paste-values";
import { UndoButtons, useUndoKeys } from "./undo";
import { useCellEdit } from "./use-cell-edit";
import { useChosen } from "./use-chosen";
import { useItems } from "./use-items";

const FIRST_LOOK = "Checking every page …";
const NO_SITE = "There are no pages yet. Import a file of pages first.";
/** A view of all pages. */
const ALL_PAGES: Partial<ItemsView> = {
  findings: [],
  difference: null,
  search: "",
  kind: "all",
  where: null,
  mark: null,
};

/** Every page of the site with what was found in it: filtered, sorted, worked off, written by hand. */
export function Items() {
  const { state } = useSite();
  return state.site ? <ItemsDesk site={state.site} /> : <p className="p-8">{NO_SITE}</p>;
}

function ItemsDesk({ site }: { site: Site }) {
  const [view, setView] = useItemsView();
  const { state } = useSite();
  const stamp = `${siteStamp(state)} ${state.live}`;
  const edits = useEdits();
  const data = useItems(view, stamp);
  // The panel that edits many pages stands in the place of a page's sheet.
  const chosen = useChosen(data, () => setView({ item: "" }));
  const { at, setAt, number, panel } = chosen;
  const cell = useCellEdit(site, data, edits, () =>
    setAt((now) => ({ ...now, place: Math.min(data.total - 1, now.place + 1) })),
  );
  const tools = useLater(PAGE_TOOLS, cell.editing !== null || panel !== null || view.item !== "");
  const choiceOf = useCallback(
    (ranges: Ranges): Choice => ({ query: queryOf(view), ranges, order: data.order }),
    [view, data.order],
  );
  const makeRule = useMakeRule();
  useUndoKeys(edits);

  const isFirst = data.loading && data.order === "";
  const hasSide = panel !== null || view.item !== "";
  return (
    <div
      className={`desk ${hasSide ? "[--columns:232px_minmax(0,1fr)_420px] max-[1179px]:[--columns:minmax(0,1fr)_420px]" : "[--columns:272px_minmax(0,1fr)]"}`}
    >
      <BarSlot>
        <BarStatus>
          {data.progress
            ? progressLine(site, data.progress)
            : isFirst
              ? FIRST_LOOK
              : counted(data.total, "page", "pages")}
        </BarStatus>
        <UndoButtons edits={edits} />
      </BarSlot>
      <FindingsPanel counts={data.counts} view={view} onChange={setView} yields={hasSide} />
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
          <NoMatch onAll={() => setView(ALL_PAGES)} />
        ) : isFirst ? (
          <div className="flex-1">
            <Working progress={data.progress} waiting={FIRST_LOOK} />
          </div>
        ) : (
          <ItemsTable
            site={site}
            view={view}
            onView={setView}
            data={cell.shown}
            chosen={chosen.chosen}
            onChoose={chosen.setChosen}
            at={at}
            onAt={setAt}
            onOpen={(item) => {
              chosen.closePanel();
              setView({ item: `${item.kind}-${item.id}` });
            }}
            onEdit={cell.begin}
            opening={cell.editing && !tools ? cell.opening : null}
            onClear={cell.clear}
            onPaste={(text, place, column) =>
              void pasteValues(text, place, column, { data, edits, chosen }).catch((error: unknown) =>
                toast.error(wordsOf(error)),
              )
            }
            onUndo={(again) => void (again ? edits.redo() : edits.undo())}
          />
        )}
        <EditSteps edits={edits} />
        {number > 0 && !panel && (
          <ChosenBar
            number={number}
            total={data.total}
            onChoose={chosen.setChosen}
            onWay={(way) => {
              const field = fieldAt(view, site, at) ?? (way === "set" ? "keyword" : "title");
              chosen.editTogether({ ranges: chosen.chosen, start: { way, field, pasted: "" } });
            }}
            onMakeRule={() => void makeRule(choiceOf(chosen.chosen))}
          />
        )}
      </section>
      {tools && (
        <BesideList
          tools={tools}
          chosen={chosen}
          choiceOf={choiceOf}
          edits={edits}
          site={site}
          stamp={stamp}
          item={view.item}
          onCloseItem={() => setView({ item: "" })}
        />
      )}
      {cell.editing && tools && (
        <tools.CellEditor
          key={`${cell.editing.item.kind}-${cell.editing.item.id} ${cell.editing.column.id}`}
          editing={cell.editing}
          site={site}
          onSave={(value, next) => void cell.save(value, next)}
          onLetGo={cell.letGo}
          onClose={cell.close}
        />
      )}
    </div>
  );
}

function NoMatch({ onAll }: { onAll: () => void }) {
  return (
    <p className="flex-1 px-4 py-6 text-soft">
      No page matches.{" "}
      <button type="button" className="underline" onClick={onAll}>
        Show all pages
      </button>
    </p>
  );
}

/** Makes a rule for pages that are chosen, and goes to it. */
function useMakeRule(): (choice: Choice) => Promise<void> {
  const { refresh } = useSite();
  const router = useRouter();
  return async (choice) => {
    try {
      const { kind, rule } = await call("items.makeRule", { choice: choice as never });
      await refresh();
      router.push(`/bench?kind=${kind}&text=title&rule=${rule}`);
    } catch (error) {
      toast.error(wordsOf(error));
    }
  };
}

/** What the cell that is gone to holds can be edited as. */
function fieldAt(view: ItemsView, site: Site, at: CellPlace) {
  return shownColumns(view.columns, site, view.look)[at.column]?.edits ?? null;
}
