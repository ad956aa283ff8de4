"use client";
import {
  type CSSProperties,
  type ReactNode,
  type RefCallback,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { linesOf, withLine, withRobots } from "../../core/design/change-rules";
import { textsOf } from "../../core/design/kinds";
import { type FieldUse } from "../../core/design/field-use";
import { type LineOf } from "../../core/proof/row-proof";
import { roomOf } from "../../core/proof/site-room";
import { PROVER } from "../proof/prover";
import { Later, useLater } from "../shell/later";
import { counted } from "../shell/format";
import { useSeen } from "../shell/use-seen";
import { useSite, useKindWord } from "../shell/site-context";
import { shownKinds } from "../shell/site-kinds";
import { pagesStamp } from "../shell/site-stamps";
import { changedOf } from "../shell/live-difference";
import { ownerIn, scopeIn } from "./bench-asked";
import { BenchBar } from "./bench-bar";
import { BenchHead } from "./bench-head";
import { useBenchView } from "./bench-url";
import { useGoodDesign, useParsed } from "./good-design";
import { InsertMenu } from "./insert-menu";
import { LineRow, TEXT_LABELS } from "./line-row";
import { knownFields } from "../line-editor/known-fields";
import { Measured, ORIGIN } from "./measured";
import { ResultsShelf } from "./results-shelf";
import { RulesPanel } from "./rules-panel";
import { useBenchData, useFields } from "./use-bench-data";
import { useDraft } from "./use-draft";
import { useRuleActions } from "./use-rule-actions";
import { useShownRow } from "./use-shown-row";
import { useUndoKeys, useWindowWidth } from "./use-window";

const RULE_SHEET = new Later(() => import("./rule-sheet"));
const PAGE_PARTS = new Later(async () => {
  await PROVER.get();
  return import("./page-parts");
});
const ADDRESS_ROW = new Later(() => import("./address-row"));
const RULES_WIDTH = 214;
const PANEL_WIDTH = 266;
/** With the preview at true size on top of it. */
const PREVIEW_WIDTH = 640;
/** Where the preview stands beside the rows, so much is seen of a title behind its limit, in px. */
const BEYOND = 200;

/** The Bench: rules and lines for one kind, and what they do to every page, while they are typed. */
export function Bench() {
  const kindWord = useKindWord();
  const [view, setView] = useBenchView();
  const { state } = useSite();
  const site = state.site;
  const { kind, text } = view;
  const draft = useDraft(kind);
  const { design, change, saved, undo, redo } = draft;
  const pages = pagesStamp(state);
  const [there, setThere] = useState<string | null>(null);
  const fields = useFields(kind, pages, there === kind);
  const insertAt = useRef<((text: string, cursor?: number) => void) | null>(null);
  const [panelOpen, setPanelOpen] = useState(false);

  const owner = ownerIn(view, design);
  const parted = design.rules.length > 0;
  const scope = scopeIn(view, design);
  const known = useMemo(() => knownFields(fields), [fields]);
  const parsed = useParsed(design, known);
  const good = useGoodDesign(kind, design, parsed);
  const data = useBenchData(view, scope, good.design, pages);
  const arrived = data.proved?.kind ?? null;
  useEffect(() => setThere(arrived), [arrived]);
  const lineOf = useCallback<LineOf>((of) => good.lineOf(of, text), [good, text]);
  const { shown, choose, forget } = useShownRow(view, setView, design, data);
  const [watchPage, isPageSeen] = useSeen();
  const pageParts = useLater(PAGE_PARTS, isPageSeen);
  const shownProofs = useMemo(
    () => (pageParts && shown && site ? pageParts.itemProofs(shown, good.lineOf, site) : null),
    [pageParts, shown, good.lineOf, site],
  );
  useUndoKeys(undo, redo);

  const wide = useWindowWidth();
  const room = site ? roomOf(site, text) : null;
  const rowWidth = ORIGIN + (room?.unit === "px" ? room.width : 540);
  const beside = room === null || wide - RULES_WIDTH - PANEL_WIDTH >= rowWidth + 40;
  const isPreviewBeside = wide - RULES_WIDTH - PREVIEW_WIDTH >= rowWidth + BEYOND;
  const panelWidth = isPreviewBeside ? PREVIEW_WIDTH : PANEL_WIDTH;

  const rules = useRuleActions(draft, text, setView);
  const sheet = useLater(RULE_SHEET, rules.edited !== null);
  const address = useLater(ADDRESS_ROW, text === "slug");

  if (!site) return <p className="p-8">There are no pages yet. Import a file of pages first.</p>;
  const changed = data.proved && changedOf(data.proved);
  const total = state.counts[kind] ?? 0;
  const lines = linesOf(design, owner);
  const proved = data.proved?.kind === kind ? data.proved : null;

  const go = (use: FieldUse) => {
    setView({ rule: use.rule ?? "base", item: null, ...(use.text === "condition" ? {} : { text: use.text }) });
    if (use.text === "condition" && use.rule !== null) rules.actions.edit(use.rule);
  };
  const result = shown && shownProofs && total > 0 ? { row: shown, proofs: shownProofs.texts, site } : null;
  const panel =
    pageParts && shown && shownProofs && result ? (
      <>
        {isPreviewBeside && <pageParts.ResultsBeside {...result} />}
        <pageParts.ItemPanel
          row={shown}
          proofs={shownProofs}
          text={text}
          site={site}
          design={design}
          onMakeRule={(suggested) => rules.begin(suggested, shown.by[text] ?? "base")}
        />
      </>
    ) : shown || data.loading ? null : (
      <p className="p-4 text-soft">Select a page to see it in full</p>
    );

  return (
    <div
      className="desk"
      style={{ "--columns": `${RULES_WIDTH}px minmax(0, 1fr)${beside ? ` ${panelWidth}px` : ""}` } as CSSProperties}
    >
      <BenchBar
        kind={kind}
        design={design}
        saved={saved}
        changed={changed}
        loading={data.loading}
        progress={data.progress}
        words={`${counted(total, kindWord(kind, 1), kindWord(kind, 2))} checked in ${(data.ms / 1000).toFixed(2)} s`}
      />
      <RulesPanel
        kind={kind}
        text={text}
        design={design}
        report={proved?.report ?? null}
        total={total}
        chosen={owner}
        onChoose={(rule) => setView({ rule, item: null })}
        actions={rules.actions}
      />
      <section aria-label="Bench" className="flex min-h-0 min-w-0 flex-col border-r border-hair bg-sheet">
        <div className="relative flex min-h-0 flex-1 flex-col small:contents">
          <h1 className="sr-only">Bench: lines for {kindWord(kind, 2)}</h1>
          <BenchHead
            kind={kind}
            kinds={shownKinds(state, kind)}
            counts={state.counts}
            onKind={(next) => {
              forget();
              setView({ kind: next, rule: "base", item: null, filter: "all", search: "" });
            }}
            owner={owner}
            robots={lines.robots ?? null}
            onRobots={(robots) => change((now) => withRobots(now, owner, robots), "robots setting")}
          >
            <InsertMenu
              text={text}
              fields={fields}
              design={design}
              onInsert={(put, cursor) => insertAt.current?.(put, cursor)}
              onGo={go}
            />
          </BenchHead>
          <div
            data-figures-of={data.design ? (linesOf(data.design, owner)[text] ?? "") : undefined}
            className="max-h-[calc((100dvh-44px)*0.45)] shrink-0 overflow-auto border-b border-key px-4 py-1 small:max-h-none"
          >
            {textsOf(kind).map((name, i) => (
              <LineRow
                key={`${kind} ${owner} ${name}`}
                name={name}
                active={name === text}
                last={i === textsOf(kind).length - 1}
                line={parsed(lines[name])}
                value={lines[name] ?? ""}
                placeholder={
                  owner === "base"
                    ? "No line: the live text stays. Type text, or { for a field"
                    : `No ${TEXT_LABELS[name].toLowerCase()} line here: the next match decides`
                }
                fields={fields}
                proved={proved}
                onChange={(value) =>
                  change(
                    (now) => withLine(now, owner, name, value),
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
            {text === "slug" && owner === "base" && !address && <div className="address-row border-t border-hair" />}
            {address && text === "slug" && owner === "base" && (
              <address.AddressRow
                key={kind}
                kind={kind}
                design={design}
                good={good.design}
                known={known}
                fields={fields}
                stamp={pages}
                onChange={(next, what, step) => change(next, what, `base ${step}`)}
                onUndo={undo}
                onRedo={redo}
              />
            )}
          </div>
          {total === 0 ? (
            <p className="p-8 text-soft">
              This site has no {kindWord(kind, 2)} yet. Import some, or choose another kind above.
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
          {!beside && panelOpen && (
            <PageOver watch={watchPage} onClose={() => setPanelOpen(false)}>
              {panel}
            </PageOver>
          )}
        </div>
        {total > 0 && (shown || data.loading) && !isPreviewBeside && (
          <ResultsShelf watch={watchPage}>
            {(look) => pageParts && result && <pageParts.ShelfResults {...look} {...result} />}
          </ResultsShelf>
        )}
      </section>
      {beside && (
        <aside ref={watchPage} aria-label="The selected page" className="min-h-0 overflow-auto" tabIndex={0}>
          {panel}
        </aside>
      )}
      {rules.edited && sheet && (
        <sheet.RuleSheet
          key={rules.edited.rule.id}
          kind={kind}
          edited={rules.edited}
          design={design}
          fields={fields}
          onClose={rules.close}
          onSave={rules.save}
        />
      )}
    </div>
  );
}

/** The chosen page over the rows, where there is no room for it beside them. */
function PageOver({
  watch,
  onClose,
  children,
}: {
  watch: RefCallback<Element>;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <aside
      ref={watch}
      aria-label="The selected page"
      tabIndex={0}
      className="absolute bottom-0 right-0 top-0 z-20 max-w-full overflow-auto small:fixed small:inset-0 small:z-40 small:!w-full border-l border-key bg-desk shadow-[-6px_0_0_rgb(20_33_42/0.12)]"
      style={{ width: PANEL_WIDTH }}
      onKeyDown={(event) => event.key === "Escape" && onClose()}
    >
      <button
        type="button"
        className="ml-3.5 mt-2 text-soft underline decoration-hair underline-offset-4 hover:text-key"
        onClick={onClose}
      >
        Close
      </button>
      {children}
    </aside>
  );
}
