"use client";
import { type WorkProgress } from "../../server/workspace/watch";
import { useRouter } from "next/navigation";
import { type CSSProperties, Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { toast } from "sonner";
import {
  linesOf,
  withLine,
  withRobots,
  withoutRule,
  withRule,
  withRuleCopied,
  withRuleMoved,
} from "../../core/design/change-rules";
import { type Robots, ROBOTS } from "../../core/design/robots";
import { type KindDesign, siteSchema } from "../../core/design/design";
import { type FieldUse } from "../../core/design/field-use";
import { BOARD_KINDS, kindWord, TEXTS } from "../../core/design/kinds";
import { type SuggestedRule } from "../../core/design/rule-from-item";
import type { BenchRow } from "../../server/bench/bench-row";
import { type LineOf, roomOf } from "../proof/local-proof";
import { call } from "../shell/api";
import { count, counted } from "../shell/format";
import { BAR_ACTION, MAIN_ACTION } from "../shell/actions";
import { BarSlot } from "../shell/shell";
import { progressLine } from "../shell/working";
import type { SaveState } from "../shell/draft-saver";
import { hasUnkept, pagesStamp, useSite } from "../shell/site-context";
import { useBenchView } from "./bench-url";
import { DraftsMenu } from "./drafts-menu";
import { useGoodDesign, useParsed } from "./good-design";
import { InsertMenu } from "./insert-menu";
import { ItemPanel, useItemProofs } from "./item-panel";
import { LineRow, TEXT_LABELS } from "./line-row";
import { knownFields } from "../line-editor/line-language";
import { Measured, ORIGIN } from "./measured";
import { ResultsShelf } from "./results-shelf";
import { type EditedRule, RuleSheet } from "./rule-sheet";
import { type RuleActions, RulesPanel } from "./rules-panel";
import { useBenchData, useFields } from "./use-bench-data";
import { useDraft } from "./use-draft";

const NO_SITE = siteSchema.parse({});
const RULES_WIDTH = 214;
const PANEL_WIDTH = 266;

/** The Bench: rules and lines for one kind, and what they do to every page, while they are typed. */
export function Bench() {
  return (
    <Suspense>
      <BenchView />
    </Suspense>
  );
}

function BenchView() {
  const [view, setView] = useBenchView();
  const { state, keep } = useSite();
  const site = state.site;
  const { kind, text } = view;
  const { design, change, saved, undo, redo } = useDraft(kind);
  const pages = pagesStamp(state);
  const [there, setThere] = useState<string | null>(null);
  const fields = useFields(kind, pages, there === kind);
  const router = useRouter();
  const insertAt = useRef<((text: string, cursor?: number) => void) | null>(null);
  const [edited, setEdited] = useState<EditedRule | null>(null);
  const [panelOpen, setPanelOpen] = useState(false);

  const owner = design.rules.some((rule) => rule.id === view.rule) ? view.rule : "base";
  const parted = design.rules.length > 0;
  const scope = parted && view.pages === "own" ? owner : "all";
  const known = useMemo(() => knownFields(fields), [fields]);
  const parsed = useParsed(design, known);
  const good = useGoodDesign(kind, design, parsed);
  const data = useBenchData(view, scope, good.design, pages);
  const arrived = data.proved?.kind ?? null;
  useEffect(() => setThere(arrived), [arrived]);
  const lineOf = useCallback<LineOf>((of) => good.lineOf(of, text), [good, text]);
  const [chosen, setChosen] = useState<BenchRow | null>(null);
  const { item } = view;
  useEffect(() => {
    if (item === null || arrived !== kind) return;
    let stale = false;
    call("bench.item", { kind, design, text, id: item })
      .then((row) => !stale && row && setChosen(row))
      .catch(() => {});
    return () => {
      stale = true;
    };
    // Asked once for a link that names an item; rows that are chosen on screen are known already.
  }, [kind, text, item === chosen?.id, arrived]); // eslint-disable-line react-hooks/exhaustive-deps
  const firstRow = data.rows.get(0) ?? null;
  // What was chosen may be decided otherwise by now: where it is on screen, it is as the server last gave it.
  const shown = useMemo(() => {
    if (!chosen) return firstRow;
    for (const row of data.rows.values()) if (row.id === chosen.id) return row;
    return chosen;
  }, [chosen, firstRow, data.rows]);
  const choose = useCallback(
    (row: BenchRow) => {
      setChosen(row);
      setView({ item: row.id });
    },
    [setView],
  );
  const shownProofs = useItemProofs(shown, good.lineOf, site ?? NO_SITE);
  useUndoKeys(undo, redo);

  const wide = useWindowWidth();
  const room = site ? roomOf(site, text) : null;
  const beside =
    room === null || wide - RULES_WIDTH - PANEL_WIDTH >= ORIGIN + (room.unit === "px" ? room.width : 540) + 40;

  const actions = useMemo((): RuleActions => {
    const nameOf = (id: string) => design.rules.find((rule) => rule.id === id)?.name ?? "";
    return {
      edit: (id) => {
        const place = design.rules.findIndex((rule) => rule.id === id);
        if (place >= 0) setEdited({ rule: design.rules[place]!, isNew: false, place });
      },
      move: (id, place) => change(withRuleMoved(design, id, place), `moved “${nameOf(id)}”`),
      copy: (id) => {
        const copy = crypto.randomUUID();
        change(withRuleCopied(design, id, copy), `duplicated “${nameOf(id)}”`);
        setView({ rule: copy });
      },
      toggle: (id) => {
        const rule = design.rules.find((own) => own.id === id)!;
        const { off, ...rest } = rule;
        change(withRule(design, off ? rest : { ...rest, off: true }), `switched “${rule.name}” ${off ? "on" : "off"}`);
      },
      remove: (id) => {
        change(withoutRule(design, id), `deleted “${nameOf(id)}”`);
        toast(`“${nameOf(id)}” is deleted`, { action: { label: "Undo", onClick: undo } });
      },
      add: () =>
        setEdited({
          rule: { id: crypto.randomUUID(), name: "", when: { all: [] }, ...startLine(design, "base", text) },
          isNew: true,
          place: 0,
        }),
    };
  }, [design, change, setView, undo, text]);

  if (!site) return <p className="p-8">There is no site yet. Bring in a file of pages first.</p>;
  const unkept = hasUnkept(state, kind) || saved !== "stored";
  const changes = data.proved ? TEXTS.reduce((sum, name) => sum + data.proved!.texts[name].draft.changed, 0) : 0;
  const total = state.counts[kind] ?? 0;
  const lines = linesOf(design, owner);
  const proved = data.proved?.kind === kind ? data.proved : null;

  const makeRule = (row: BenchRow, suggested: SuggestedRule) =>
    setEdited({
      rule: {
        id: crypto.randomUUID(),
        name: suggested.name,
        when: suggested.when,
        ...startLine(design, row.by[text] ?? "base", text),
      },
      isNew: true,
      place: 0,
    });
  const go = (use: FieldUse) => {
    setView({ rule: use.rule ?? "base", item: null, ...(use.text === "condition" ? {} : { text: use.text }) });
    if (use.text === "condition" && use.rule !== null) actions.edit(use.rule);
  };
  const panel =
    shown && shownProofs && total > 0 ? (
      <ItemPanel
        row={shown}
        proofs={shownProofs}
        text={text}
        site={site}
        design={design}
        onMakeRule={(suggested) => makeRule(shown, suggested)}
      />
    ) : (
      <p className="p-4 text-soft">Choose a page to see it whole</p>
    );

  return (
    <div
      className="desk"
      style={{ "--columns": `${RULES_WIDTH}px minmax(0, 1fr)${beside ? ` ${PANEL_WIDTH}px` : ""}` } as CSSProperties}
    >
      <BarSlot>
        <BarState
          loading={data.loading}
          progress={data.progress}
          words={`${counted(total, kindWord(kind, 1), kindWord(kind, 2))} set in ${(data.ms / 1000).toFixed(2)} s`}
          draft={saved === "stored" && !unkept ? "Kept" : SAVE_WORDS[saved]}
          saved={saved}
        />
        <DraftsMenu kind={kind} />
        <button
          type="button"
          className={BAR_ACTION}
          disabled={!unkept}
          onClick={() => void keep(kind).then(() => toast(`Draft for ${kindWord(kind, 2)} kept`))}
        >
          Keep draft
        </button>
        <button type="button" className={MAIN_ACTION} disabled={changes === 0} onClick={() => router.push("/review")}>
          Review {counted(changes, "change", "changes")}
        </button>
      </BarSlot>
      <RulesPanel
        kind={kind}
        text={text}
        design={design}
        report={proved?.report ?? null}
        total={total}
        chosen={owner}
        onChoose={(rule) => setView({ rule, item: null })}
        actions={actions}
      />
      <section aria-label="Bench" className="relative flex min-h-0 min-w-0 flex-col border-r border-hair bg-sheet">
        <h1 className="sr-only">Bench: lines for {kindWord(kind, 2)}</h1>
        <div className="flex items-center gap-1 border-b border-hair bg-desk px-3 pt-1.5 small:flex-wrap">
          <div role="tablist" aria-label="Kind of page" className="flex gap-1">
            {BOARD_KINDS.map((name) => (
              <button
                key={name}
                type="button"
                role="tab"
                aria-selected={name === kind}
                onClick={() => {
                  setChosen(null);
                  setView({ kind: name, rule: "base", item: null, filter: "all", search: "" });
                }}
                className={`rounded-t-sm px-3 py-1 ${name === kind ? "bg-sheet font-bold" : "text-soft hover:text-key"}`}
              >
                <span className="capitalize">{kindWord(name, 2)}</span>{" "}
                <span className="narrow text-[12px] text-soft">{count(state.counts[name] ?? 0)}</span>
              </button>
            ))}
          </div>
          <label className="mb-1 ml-auto flex items-center gap-1.5 text-[12px] text-soft">
            Robots
            <select
              aria-label="Robots setting"
              value={lines.robots ?? ""}
              onChange={(event) =>
                change(withRobots(design, owner, (event.target.value || null) as Robots | null), "robots setting")
              }
              className={`rounded-sm border bg-sheet px-1 py-0.5 text-[13px] text-key ${lines.robots ? "border-key font-semibold" : "border-hair"}`}
            >
              <option value="">{owner === "base" ? "as on the site" : "not set here"}</option>
              {ROBOTS.map((robots) => (
                <option key={robots} value={robots}>
                  {robots}
                </option>
              ))}
            </select>
          </label>
          <div className="mb-1 ml-2">
            <InsertMenu
              text={text}
              fields={fields}
              design={design}
              onInsert={(put, cursor) => insertAt.current?.(put, cursor)}
              onGo={go}
            />
          </div>
        </div>
        <div
          data-figures-of={data.design ? (linesOf(data.design, owner)[text] ?? "") : undefined}
          className="max-h-[45%] shrink-0 overflow-auto border-b border-key px-4 py-1 small:max-h-none"
        >
          {TEXTS.map((name, i) => (
            <LineRow
              key={`${kind} ${owner} ${name}`}
              name={name}
              active={name === text}
              last={i === TEXTS.length - 1}
              line={parsed(lines[name])}
              value={lines[name] ?? ""}
              placeholder={
                owner === "base"
                  ? "No line: what the site has stays. Type text, or { for a field"
                  : `No ${TEXT_LABELS[name].toLowerCase()} line here: it falls through to the next match`
              }
              fields={fields}
              proved={proved}
              onChange={(value) =>
                change(
                  withLine(design, owner, name, value),
                  `${TEXT_LABELS[name].toLowerCase()} line`,
                  `${owner} ${name}`,
                )
              }
              onOpen={(filter) => setView({ text: name, ...(filter ? { filter } : {}) })}
              onUndo={undo}
              onRedo={redo}
              insertAt={insertAt}
            />
          ))}
        </div>
        {total === 0 ? (
          <p className="p-8 text-soft">
            This site has no {kindWord(kind, 2)}. Bring some in, or choose another kind above.
          </p>
        ) : (
          <Measured
            view={{ ...view, rule: owner }}
            setView={setView}
            data={data}
            lineOf={lineOf}
            chosen={shown?.id ?? null}
            onChoose={choose}
            onRange={data.show}
            parted={parted}
            onPanel={beside ? null : () => setPanelOpen((open) => !open)}
          />
        )}
        {shown && shownProofs && total > 0 && <ResultsShelf row={shown} proofs={shownProofs} site={site} />}
        {!beside && panelOpen && (
          <aside
            aria-label="The chosen page"
            tabIndex={0}
            className="absolute bottom-[152px] right-0 top-0 z-20 max-w-full overflow-auto small:fixed small:inset-0 small:z-40 small:!w-full border-l border-key bg-desk shadow-[-6px_0_0_rgb(20_33_42/0.12)]"
            style={{ width: PANEL_WIDTH }}
            onKeyDown={(event) => event.key === "Escape" && setPanelOpen(false)}
          >
            <button
              type="button"
              className="ml-3.5 mt-2 text-soft underline decoration-hair underline-offset-4 hover:text-key"
              onClick={() => setPanelOpen(false)}
            >
              Close
            </button>
            {panel}
          </aside>
        )}
      </section>
      {beside && (
        <aside aria-label="The chosen page" className="min-h-0 overflow-auto" tabIndex={0}>
          {panel}
        </aside>
      )}
      {edited && (
        <RuleSheet
          key={edited.rule.id}
          kind={kind}
          edited={edited}
          design={design}
          fields={fields}
          onClose={() => setEdited(null)}
          onSave={(rule) => {
            change(
              withRule(design, rule, edited.place),
              edited.isNew ? `made “${rule.name}”` : `changed what “${rule.name}” takes`,
            );
            setView({ rule: rule.id, pages: "own", item: null });
            setEdited(null);
          }}
        />
      )}
    </div>
  );
}

/** Where a draft stands, in words. */
const SAVE_WORDS: Record<SaveState, string> = {
  stored: "Draft stored, not kept",
  saving: "Draft changes …",
  offline: "Not stored: the server does not answer; kept in this window",
  refused: "Not stored",
  conflict: "Not stored: changed in another window",
};

/** The line that a new rule begins with, so that there is something to change: the one that decides now. */
function startLine(
  design: KindDesign,
  owner: string,
  text: (typeof TEXTS)[number],
): Partial<Record<(typeof TEXTS)[number], string>> {
  const line = linesOf(design, owner)[text] ?? design.base[text];
  return line === undefined ? {} : { [text]: line };
}

function BarState({
  loading,
  progress,
  words,
  draft,
  saved,
}: {
  loading: boolean;
  progress: WorkProgress | null;
  words: string;
  draft: string;
  saved: SaveState;
}) {
  const share = progress ? Math.round(progress.share * 100) : 0;
  return (
    <>
      <span className="narrow min-w-0 truncate text-[12px] text-bar-soft" role="status" data-draft={saved}>
        {progress ? progressLine(progress) : loading ? "Proving …" : words}
        <span className="mx-2">·</span>
        {draft}
      </span>
      {progress && (
        <span aria-hidden="true" className="fixed left-0 right-0 top-11 z-30 h-[3px]">
          <span className="block h-full bg-rule" style={{ width: `${share}%` }} />
        </span>
      )}
    </>
  );
}

/** Ctrl Z and its opposite, wherever the focus is but in an ordinary input. */
function useUndoKeys(undo: () => void, redo: () => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.defaultPrevented) return;
      const target = event.target as HTMLElement;
      if (target.isContentEditable || target.tagName === "INPUT" || target.tagName === "TEXTAREA") return;
      const key = event.key.toLowerCase();
      if (key === "z") (event.shiftKey ? redo : undo)();
      else if (key === "y") redo();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [undo, redo]);
}

function useWindowWidth(): number {
  const [width, setWidth] = useState(1280);
  useEffect(() => {
    const measure = () => setWidth(window.innerWidth);
    measure();
    window.addEventListener("resize", measure);
    return () => window.removeEventListener("resize", measure);
  }, []);
  return width;
}
