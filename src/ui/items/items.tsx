"use client";
import type { ListedItem } from "../../server/items/listed-item";
import { useRouter } from "next/navigation";
import { Suspense, useCallback, useEffect, useState } from "react";
import { toast } from "sonner";
import { limitsOf, type Site } from "../../core/design/design";
import { readRobots } from "../../core/design/robots";
import { type EditedField, tidyByHand } from "../../core/edits/hand-text";
import { fitsSurface } from "../../core/measure/wrap";
import { roomOf, widthOf } from "../proof/local-proof";
import { DIFFERENCES, type FindingDifference, type Ranges } from "../../core/items/query";
import { call } from "../shell/api";
import { count, counted } from "../shell/format";
import { stopJob } from "../shell/jobs";
import { BAR_ACTION, PLAIN_ACTION } from "../shell/actions";
import { BarSlot } from "../shell/shell";
import { siteStamp, useSite } from "../shell/site-context";
import { Trouble } from "../shell/trouble";
import { progressLine, Working } from "../shell/working";
import { CellEditor, type Editing } from "./cell-editor";
import { chosenCount } from "./chosen-places";
import { type ItemColumn, shownColumns } from "./columns";
import { EditPanel, type EditStart } from "./edit-panel";
import { type Choice, type Edits, useEdits } from "../shell/edits";
import { findingKind, FindingsPanel, SUBJECT_LABELS } from "./findings-panel";
import { type CellPlace, ItemsTable } from "./items-table";
import { type ItemsView, queryOf, useItemsView } from "./items-url";
import { ListTools, whereWords } from "./list-tools";
import { pastedValues } from "./pasted";
import { useItems } from "./use-items";
import { ItemSheet } from "./item-sheet";

/** Every page of the site with what was found in it: filtered, sorted, worked off, written by hand. */
export function Items() {
  return (
    <Suspense>
      <ItemsScreen />
    </Suspense>
  );
}

const DIFFERENCE_WORDS: Record<FindingDifference, string> = { mended: "mended", new: "new", stays: "stay" };
const FIRST_LOOK = "Checking every page …";
const NO_SITE = "There is no site yet. Bring in a file of pages first.";

function ItemsScreen() {
  const { state } = useSite();
  return state.site ? <ItemsDesk /> : <p className="p-8">{NO_SITE}</p>;
}

function ItemsDesk() {
  const [view, setView] = useItemsView();
  const { state, refresh } = useSite();
  const router = useRouter();
  const site = state.site!;
  const edits = useEdits();
  const data = useItems(view, siteStamp(state));
  const [at, setAt] = useState<CellPlace>({ place: 0, column: 0 });
  const [editing, setEditing] = useState<Editing | null>(null);
  const [panel, setPanel] = useState<{ readonly ranges: Ranges; readonly start: EditStart } | null>(null);
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
  const close = () => {
    setEditing(null);
    requestAnimationFrame(focusTable);
  };
  const save = (value: string, next: boolean) => {
    const { item, column } = editing!;
    void edits.make({ kind: item.kind, id: item.id }, { type: "set", field: column.edits!, value }).then((done) => {
      if (!done) return;
      data.patch(withSet(site, item, column.edits!, value));
      if (next) setAt((now) => ({ ...now, place: Math.min(data.total - 1, now.place + 1) }));
      close();
    });
  };
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
  const paste = (text: string, place: CellPlace, column: ItemColumn) => {
    const values = pastedValues(text);
    const field = column.edits!;
    if (values.length === 1 && number === 0) {
      const item = data.items.get(place.place);
      if (item) void edits.make({ kind: item.kind, id: item.id }, { type: "set", field, value: values[0]! });
      return;
    }
    if (values.length === 1) {
      setView({ item: "" });
      setPanel({ ranges: chosen, start: { way: "set", field, pasted: values[0]! } });
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
    setView({ item: "" });
    setPanel({ ranges, start: { way: "paste", field, pasted: text } });
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const free =
        event.target === document.body ||
        (event.target instanceof HTMLElement &&
          event.target.closest("[role=grid], nav, aside:not(:has(:focus:is(input,textarea)))") !== null &&
          !(event.target instanceof HTMLInputElement) &&
          !(event.target instanceof HTMLTextAreaElement));
      if (free && !event.defaultPrevented && (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
        event.preventDefault();
        void (event.shiftKey ? edits.redo() : edits.undo());
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [edits]);

  const side = panel !== null || view.item !== "";
  return (
    <div
      className={`desk ${side ? "[--columns:232px_minmax(0,1fr)_420px] max-[1179px]:[--columns:minmax(0,1fr)_420px]" : "[--columns:272px_minmax(0,1fr)]"}`}
    >
      <BarSlot>
        <span className="narrow text-[12px] text-bar-soft" role="status">
          {data.progress ? progressLine(data.progress) : first ? FIRST_LOOK : counted(data.total, "page", "pages")}
        </span>
        <button
          type="button"
          className={BAR_ACTION}
          disabled={!edits.steps.undo}
          title={edits.steps.undo ? `${edits.steps.undo.label} (Ctrl Z)` : "Nothing was edited yet"}
          onClick={() => void edits.undo()}
        >
          Undo
        </button>
        <button
          type="button"
          className={BAR_ACTION}
          disabled={!edits.steps.redo}
          title={edits.steps.redo ? `${edits.steps.redo.label} (Ctrl Shift Z)` : "Nothing was taken back"}
          onClick={() => void edits.redo()}
        >
          Redo
        </button>
      </BarSlot>
      <FindingsPanel counts={data.counts} view={view} onChange={setView} yields={side} />
      <section aria-label="Pages" className="desk-list flex min-h-0 min-w-0 flex-col bg-sheet">
        <h1 className="sr-only">Items: every page and what was found in it</h1>
        <ListTools view={view} onView={setView} site={site} />
        <Asked view={view} differences={data.differences} onView={setView} />
        {data.error && (
          <div className="px-4">
            <Trouble message={data.error} onRetry={data.retry} />
          </div>
        )}
        {!data.loading && data.total === 0 && !data.error ? (
          <p className="flex-1 px-4 py-6 text-soft">
            No page is like this.{" "}
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
            onEdit={(item, column, anchor, typed) => setEditing({ item, column, anchor, typed })}
            onClear={clear}
            onPaste={paste}
            onUndo={(again) => void (again ? edits.redo() : edits.undo())}
          />
        )}
        <Steps edits={edits} />
        {number > 0 && !panel && (
          <div
            role="region"
            aria-label="Chosen pages"
            className="flex items-center gap-3 border-t border-key bg-raised px-4 py-2"
          >
            <b>{counted(number, "page", "pages")} chosen</b>
            {number < data.total && (
              <button
                type="button"
                className="text-soft underline decoration-hair underline-offset-4 hover:text-key"
                onClick={() => setChosen([[0, data.total]])}
              >
                Choose all {count(data.total)} of the list
              </button>
            )}
            <span className="ml-auto flex gap-2">
              {(
                [
                  ["set", "Set …"],
                  ["replace", "Find and replace …"],
                  ["let-go", "By hand …"],
                ] as const
              ).map(([way, label]) => (
                <button
                  key={way}
                  type="button"
                  className={PLAIN_ACTION}
                  onClick={() => {
                    setView({ item: "" });
                    setPanel({
                      ranges: chosen,
                      start: {
                        way,
                        field: fieldAt(view, site, at) ?? (way === "set" ? "keyword" : "title"),
                        pasted: "",
                      },
                    });
                  }}
                >
                  {label}
                </button>
              ))}
              <button type="button" className={PLAIN_ACTION} onClick={() => void makeRule()}>
                Make a rule
              </button>
              <button type="button" className={PLAIN_ACTION} onClick={() => setChosen([])}>
                Choose none
              </button>
            </span>
          </div>
        )}
      </section>
      {panel ? (
        <EditPanel
          key={JSON.stringify(panel)}
          choice={choiceOf(panel.ranges)}
          number={chosenCount(panel.ranges)}
          start={panel.start}
          onMake={(action) => edits.make(choiceOf(panel.ranges), action)}
          onClose={() => (setPanel(null), requestAnimationFrame(focusTable))}
        />
      ) : (
        view.item !== "" && (
          <ItemSheet
            item={view.item}
            site={site}
            stamp={siteStamp(state)}
            onClose={() => (setView({ item: "" }), requestAnimationFrame(focusTable))}
          />
        )
      )}
      {editing && (
        <CellEditor
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

/** A page with a value that was just set by hand on it. */
function withSet(site: Site, item: ListedItem, field: EditedField, raw: string): ListedItem {
  const tidied = tidyByHand(field, raw, site.slug);
  if (!("value" in tidied)) return item;
  const { value } = tidied;
  if (field === "keyword") return { ...item, keyword: value };
  if (field === "robots")
    return { ...item, robots: { ...item.robots, draft: readRobots(value), from: "hand", rule: null } };
  const draftFits = field === "slug" || limitsOf(site, field).surfaces.every((surface) => fitsSurface(surface, value));
  return {
    ...item,
    texts: {
      ...item.texts,
      [field]: {
        ...item.texts[field],
        draft: value,
        draftSize: widthOf(roomOf(site, field).surface, field === "slug", value),
        draftFits,
        from: "hand",
      },
    },
  };
}

/** What the cell that is gone to holds can be edited as. */
function fieldAt(view: ItemsView, site: Site, at: CellPlace) {
  return shownColumns(view.columns, site, view.look)[at.column]?.edits ?? null;
}

/** What the list is asked for, in words, each part with the way out of it. */
function Asked({
  view,
  differences,
  onView,
}: {
  view: ItemsView;
  differences: ReturnType<typeof useItems>["differences"];
  onView: (change: Partial<ItemsView>) => void;
}) {
  const where = whereWords(view);
  if (view.findings.length === 0 && where === null) return null;
  const out = (label: string, change: Partial<ItemsView>) => (
    <button
      type="button"
      className="text-soft underline decoration-hair underline-offset-4 hover:text-key"
      onClick={() => onView(change)}
    >
      {label}
    </button>
  );
  return (
    <div className="max-h-28 overflow-auto border-b border-hair px-4 py-2">
      {view.findings.map(({ subject, id }) => {
        const kind = findingKind(subject, id);
        return (
          <p key={`${subject} ${id}`}>
            <b>
              {view.findings.length > 1 ? `${SUBJECT_LABELS[subject]}: ` : ""}
              {kind.label}
            </b>{" "}
            <span className="text-soft">{kind.why}</span> {kind.mend}{" "}
            {out(view.findings.length > 1 ? "Without this" : "Show all pages", {
              difference: null,
              findings: view.findings.filter((one) => one.subject !== subject || one.id !== id),
            })}
          </p>
        );
      })}
      {differences && (
        <p role="group" aria-label="What the drafts do to it" className="mt-1 flex gap-4">
          <span className="text-soft">Under the drafts</span>
          {DIFFERENCES.map((difference) => (
            <button
              key={difference}
              type="button"
              aria-pressed={view.difference === difference}
              onClick={() => onView({ difference: view.difference === difference ? null : difference })}
              className={
                view.difference === difference
                  ? "font-semibold underline decoration-rule decoration-2 underline-offset-4"
                  : "text-soft hover:text-key"
              }
            >
              <b className={difference === "new" && differences.new > 0 ? "text-magenta" : "text-key"}>
                {count(differences[difference])}
              </b>{" "}
              {DIFFERENCE_WORDS[difference]}
            </button>
          ))}
        </p>
      )}
      {where !== null && (
        <p>
          <b>Where</b> {where} {out("Without this", { where: null })}
        </p>
      )}
    </div>
  );
}

/** A large step under way, or one that was stopped half-way. */
function Steps({ edits }: { edits: Edits }) {
  const { running, steps } = edits;
  if (running) {
    return (
      <div className="flex items-center gap-3 border-t border-key bg-raised px-4 py-2" role="status">
        <span>
          {running.label}: {count(running.done)} of {count(running.total ?? 0)}
        </span>
        <progress className="h-1.5 flex-1" max={running.total ?? 1} value={running.done} aria-label={running.label} />
        <button type="button" className={PLAIN_ACTION} onClick={() => void stopJob(running.id)}>
          Stop
        </button>
      </div>
    );
  }
  const { stopped } = steps;
  if (!stopped) return null;
  const done = stopped.total - stopped.skipped - stopped.waiting;
  return (
    <div className="flex items-center gap-3 border-t border-magenta bg-raised px-4 py-2" role="alert">
      <span>
        {stopped.goal === "set" ? stopped.label : `Taking back: ${stopped.label}`} was stopped at {count(done)} of{" "}
        {count(stopped.total)}
      </span>
      <span className="ml-auto flex gap-2">
        <button type="button" className={PLAIN_ACTION} onClick={() => void edits.go(stopped.id, stopped.goal)}>
          Go on
        </button>
        <button
          type="button"
          className={PLAIN_ACTION}
          onClick={() => void edits.go(stopped.id, stopped.goal === "set" ? "undone" : "set")}
        >
          {stopped.goal === "set" ? "Take it back" : "Do it again"}
        </button>
      </span>
    </div>
  );
}
