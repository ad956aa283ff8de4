"use client";
import { typedText, oneOf, urlCodec } from "../shell/url-codec";
import { useUrlView } from "../shell/url-view";
import { useState } from "react";
import { COVERAGE, type Coverage } from "../../core/keywords/places";
import { BAR_ACTION } from "../shell/actions";
import { useEdits } from "../shell/edits";
import { BarSlot } from "../shell/shell";
import { useSite } from "../shell/site-context";
import { useCall } from "../shell/queries";
import { useOpening } from "../shell/use-opening";
import { Tabs } from "../shell/tabs";
import { BringList } from "./bring-list";
import { keywordsStamp } from "./keywords-asked";
import { Competing } from "./competing";
import { CoverageList } from "./coverage-list";
import { Matrix } from "./matrix";
import { Suggestions } from "./suggestions";

const TABS = [
  ["coverage", "Coverage"],
  ["suggestions", "Suggested"],
  ["competing", "Competing"],
] as const;
export type KeywordsTab = (typeof TABS)[number][0];

const VIEW = urlCodec<{ tab: KeywordsTab; show: Coverage; search: string }>({
  tab: oneOf(
    TABS.map(([name]) => name),
    "coverage",
  ),
  show: oneOf(COVERAGE, "all"),
  search: typedText(),
});

/**
 * Keywords over the whole site: where they stand, who has which, who should have which, who competes.
 *
 * @param opened another one each time that the screen is opened.
 */
export function Keywords({ opened }: { opened: string }) {
  const { state } = useSite();
  return state.site ? (
    <Desk opened={opened} />
  ) : (
    <p className="p-8">There are no pages yet. Import a file of pages first.</p>
  );
}

function Desk({ opened }: { opened: string }) {
  const { state } = useSite();
  const edits = useEdits();
  const [lists, setLists] = useState(0);
  const [bringing, setBringing] = useState(false);
  const [{ tab, show, search }, put] = useUrlView("/keywords", VIEW);
  const stamp = keywordsStamp(state, useOpening(opened), lists);
  const matrix = useCall("keywords.matrix", {}, stamp);
  return (
    <div className={`desk ${bringing ? "[--columns:minmax(0,1fr)_400px]" : "[--columns:minmax(0,1fr)]"}`}>
      <BarSlot>
        <button
          type="button"
          className={BAR_ACTION}
          disabled={!edits.steps.undo}
          title={edits.steps.undo?.label ?? "Nothing to undo"}
          onClick={() => void edits.undo()}
        >
          Undo
        </button>
        <button type="button" className={BAR_ACTION} onClick={() => setBringing(true)}>
          Import a list
        </button>
      </BarSlot>
      <div className="flex min-h-0 min-w-0 flex-col">
        <h1 className="sr-only">Keywords</h1>
        <Matrix asked={matrix} />
        <Tabs
          label="Keywords"
          tabs={TABS}
          tab={tab}
          onTab={(next) => put({ tab: next })}
          panelClass="flex min-h-0 flex-1 flex-col bg-sheet small:h-[80dvh] small:flex-none"
        >
          {tab === "coverage" && (
            <CoverageList
              show={show}
              search={search}
              stamp={stamp}
              onShow={(next: Coverage) => put({ show: next })}
              onSearch={(next) => put({ search: next })}
              onCompeting={() => put({ tab: "competing" })}
              onBring={() => setBringing(true)}
            />
          )}
          {tab === "suggestions" && <Suggestions stamp={stamp} edits={edits} />}
          {tab === "competing" && <Competing stamp={stamp} edits={edits} />}
        </Tabs>
      </div>
      {bringing && (
        <BringList
          onClose={() => setBringing(false)}
          onBrought={() => {
            setLists((n) => n + 1);
            put({ tab: "coverage" });
          }}
        />
      )}
    </div>
  );
}
