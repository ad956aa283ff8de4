"use client";
import { useState } from "react";
import { type Kind } from "../../core/design/kinds";
import { type Evidence } from "../../core/keywords/suggest";
import type { Suggestion } from "../../server/keywords/keyword-suggestions";
import { PLAIN_ACTION } from "../shell/actions";
import { type Edits, type MadeEdit } from "../shell/edits";
import { useSite, useKindWord } from "../shell/site-context";
import { shownKinds } from "../shell/site-kinds";
import { count, counted, listed } from "../shell/format";
import { Tick } from "../shell/tick";
import { progressLine } from "../shell/progress-words";
import { call } from "../shell/api";
import { PageLink } from "../shell/page-link";
import type { CallResult } from "../../server/api/contract";
import { useWindows } from "../shell/queries";
import { LIST_WINDOW } from "../shell/asked";
import { Windowed } from "../shell/windowed";

const EVIDENCE_WORDS: Record<Evidence, string> = {
  name: "the name",
  category: "the category",
  intro: "the first paragraph",
  attributes: "its attributes",
  body: "the body",
};

/** @example evidenceWords(["name", "intro"]) // "stands in the name and the first paragraph" */
function evidenceWords(evidence: readonly Evidence[]): string {
  const words = evidence.map((place) => EVIDENCE_WORDS[place]);
  return words.length === 0 ? "its words appear in name, category and attributes" : `appears in ${listed(words)}`;
}

/** A keyword for each page that has none, with the reason for it; taken one by one, the chosen, or all. */
export function Suggestions({ stamp, edits }: { stamp: string; edits: Edits }) {
  const kindWord = useKindWord();
  const [kind, setKind] = useState<Kind | "all">("all");
  const { state } = useSite();
  const [chosen, setChosen] = useState<ReadonlyMap<string, Suggestion>>(new Map());
  const [busy, setBusy] = useState(false);
  const windows = { size: LIST_WINDOW, rowsOf: (own: CallResult<"keywords.suggestions">) => own.suggestions };
  const { rows, answer, error, progress, show } = useWindows("keywords.suggestions", { kind }, stamp, windows);
  const nameOf = (own: Suggestion) => `${own.kind}-${own.id}`;
  const take = (making: () => Promise<MadeEdit>) => {
    setBusy(true);
    void edits.take(making).finally(() => {
      setBusy(false);
      setChosen(new Map());
    });
  };
  const assign = (pages: readonly Suggestion[]) =>
    take(() =>
      call("keywords.assign", {
        pages: pages.map(({ kind: of, id, keyword }) => ({ kind: of, id, keyword })),
      }),
    );
  const all = (only: "list" | null) => take(() => call("keywords.assignSuggested", { kind, only }));
  return (
    <>
      <div className="flex flex-wrap items-center gap-3 border-b border-hair px-5 py-2">
        <select
          aria-label="Kind of page"
          value={kind}
          onChange={(event) => setKind(event.target.value as Kind)}
          className="rounded-sm border border-edge bg-sheet px-1 py-1"
        >
          <option value="all">All kinds</option>
          {shownKinds(state).map((one) => (
            <option key={one} value={one}>
              {kindWord(one, 2)}
            </option>
          ))}
        </select>
        <span role="status" className="text-soft">
          {error ??
            (progress
              ? progressLine(state.site, progress)
              : answer
                ? `${counted(answer.without, "page has", "pages have")} no keyword; ${count(answer.total)} can have one, ${count(answer.listed)} of the list`
                : "Analysing every page …")}
        </span>
        <span className="ml-auto flex gap-2">
          {chosen.size > 0 && (
            <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={() => assign([...chosen.values()])}>
              Accept the {count(chosen.size)} selected
            </button>
          )}
          {answer && answer.listed > 0 && answer.listed < answer.total && (
            <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={() => all("list")}>
              Accept all {count(answer.listed)} of the list
            </button>
          )}
          {answer && answer.total > 0 && (
            <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={() => all(null)}>
              Accept all {count(answer.total)}
            </button>
          )}
        </span>
      </div>
      {answer && answer.total === 0 && (
        <p className="px-5 py-6 text-soft">
          {answer.without === 0
            ? "Every page has a keyword."
            : "No suggestions: no page without a keyword has a phrase in its name that another page does not already use."}
        </p>
      )}
      {answer && answer.total > 0 && (
        <Windowed
          label={`Suggested keywords, ${count(answer.total)} of them`}
          total={answer.total}
          rows={rows}
          height={46}
          show={show}
        >
          {(own) => (
            <div className="grid h-full grid-cols-[16px_minmax(220px,1.3fr)_minmax(180px,1fr)_minmax(200px,1.2fr)_80px] items-center gap-4 px-5">
              <Tick
                checked={chosen.has(nameOf(own))}
                label={`Select ${own.keyword} for ${own.name}`}
                onChange={(on) => {
                  const next = new Map(chosen);
                  if (on) next.set(nameOf(own), own);
                  else next.delete(nameOf(own));
                  setChosen(next);
                }}
              />
              <PageLink page={own} />
              <span className="min-w-0 truncate">
                <mark className="marker px-0.5 text-inherit">{own.keyword}</mark>
              </span>
              <span className="narrow line-clamp-2 text-[12px] leading-snug text-soft">
                {own.from === "list"
                  ? `From the list${own.volume === null ? "" : `, searched for ${count(own.volume)} times`}; `
                  : "From its name; "}
                {evidenceWords(own.evidence)}
              </span>
              <button
                type="button"
                aria-label={`Accept ${own.keyword} for ${own.name}`}
                className={PLAIN_ACTION}
                disabled={busy}
                onClick={() => assign([own])}
              >
                Accept
              </button>
            </div>
          )}
        </Windowed>
      )}
    </>
  );
}
