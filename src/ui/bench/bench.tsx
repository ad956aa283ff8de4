"use client";
import { type CSSProperties, useCallback, useRef, useState } from "react";
import { withRobots, linesOf } from "../../core/design/change-rules";
import { type Site } from "../../core/design/design";
import { type FieldUse } from "../../core/design/field-use";
import { type LineOf } from "../../core/proof/row-proof";
import { counted } from "../shell/format";
import { Later, useLater } from "../shell/later";
import { changedOf } from "../shell/live-difference";
import { useKindWord, useSite } from "../shell/site-context";
import { shownKinds } from "../shell/site-kinds";
import { pagesStamp } from "../shell/site-stamps";
import { ownerIn } from "./bench-asked";
import { BenchBar } from "./bench-bar";
import { BenchHead } from "./bench-head";
import { BenchLines } from "./bench-lines";
import { useBenchView } from "./bench-url";
import { InsertMenu } from "./insert-menu";
import { Measured } from "./measured";
import { PageOver, PagePanel } from "./page-panel";
import { ResultsShelf } from "./results-shelf";
import { RulesPanel } from "./rules-panel";
import { useBenchRoom } from "./use-bench-room";
import { useDraft } from "./use-draft";
import { useProvedDraft } from "./use-proved-draft";
import { useRuleActions } from "./use-rule-actions";
import { useShownPage } from "./use-shown-page";
import { useUndoKeys } from "./use-window";

const RULE_SHEET = new Later(() => import("./rule-sheet"));

/** The Bench: rules and lines for one kind, and what they do to every page, while they are typed. */
export function Bench() {
  const { state } = useSite();
  if (!state.site) return <p className="p-8">There are no pages yet. Import a file of pages first.</p>;
  return <BenchDesk site={state.site} />;
}

function BenchDesk({ site }: { site: Site }) {
  const kindWord = useKindWord();
  const [view, setView] = useBenchView();
  const { state } = useSite();
  const { kind, text } = view;
  const draft = useDraft(kind);
  const { design, change, saved, undo, redo } = draft;
  const pages = pagesStamp(state);
  const provedDraft = useProvedDraft(view, design, pages);
  const { fields, good, data, proved } = provedDraft;
  const owner = ownerIn(view, design);
  const lineOf = useCallback<LineOf>((of) => good.lineOf(of, text), [good, text]);
  const page = useShownPage(view, setView, design, provedDraft, site);
  const room = useBenchRoom(site, text);
  const [isPageOpen, setPageOpen] = useState(false);
  const rules = useRuleActions(draft, text, setView);
  const sheet = useLater(RULE_SHEET, rules.edited !== null);
  const insertAt = useRef<((text: string, cursor?: number) => void) | null>(null);
  useUndoKeys(undo, redo);

  const total = state.counts[kind] ?? 0;
  const go = (use: FieldUse) => {
    setView({ rule: use.rule ?? "base", item: null, ...(use.text === "condition" ? {} : { text: use.text }) });
    if (use.text === "condition" && use.rule !== null) rules.actions.edit(use.rule);
  };
  const panel = (
    <PagePanel
      page={page}
      hasPreview={room.hasPreview}
      isLoading={data.loading}
      text={text}
      site={site}
      design={design}
      onMakeRule={rules.begin}
    />
  );
  return (
    <div className="desk" style={{ "--columns": room.columns } as CSSProperties}>
      <BenchBar
        kind={kind}
        design={design}
        saved={saved}
        changed={data.proved && changedOf(data.proved)}
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
              page.forget();
              setView({ kind: next, rule: "base", item: null, filter: "all", search: "" });
            }}
            owner={owner}
            robots={linesOf(design, owner).robots ?? null}
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
          <BenchLines
            view={view}
            setView={setView}
            owner={owner}
            draft={draft}
            provedDraft={provedDraft}
            stamp={pages}
            insertAt={insertAt}
          />
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
              chosen={page.row?.id ?? null}
              onChoose={page.choose}
              onRange={data.show}
              parted={design.rules.length > 0}
              onPanel={room.hasPage ? null : () => setPageOpen((open) => !open)}
            />
          )}
          {!room.hasPage && isPageOpen && (
            <PageOver watch={page.watch} onClose={() => setPageOpen(false)}>
              {panel}
            </PageOver>
          )}
        </div>
        {total > 0 && (page.row || data.loading) && !room.hasPreview && (
          <ResultsShelf watch={page.watch}>
            {(look) =>
              page.drawn && (
                <page.drawn.parts.ShelfResults
                  {...look}
                  row={page.drawn.row}
                  proofs={page.drawn.proofs.texts}
                  site={site}
                />
              )
            }
          </ResultsShelf>
        )}
      </section>
      {room.hasPage && (
        <aside ref={page.watch} aria-label="The selected page" className="min-h-0 overflow-auto" tabIndex={0}>
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
