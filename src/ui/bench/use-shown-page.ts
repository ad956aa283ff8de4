"use client";
import { useMemo } from "react";
import { type KindDesign, type Site } from "../../core/design/design";
import { PROVER } from "../proof/prover";
import { Later, useLater } from "../shell/later";
import { useSeen } from "../shell/use-seen";
import { type BenchView } from "./bench-codec";
import { type ProvedDraft } from "./use-proved-draft";
import { useShownRow } from "./use-shown-row";

const PAGE_PARTS = new Later(async () => {
  await PROVER.get();
  return import("./page-parts");
});

export type ShownPage = ReturnType<typeof useShownPage>;

/** The page that is shown whole, with its proofs, and the parts that draw it: they come when their place is seen. */
export function useShownPage(
  view: BenchView,
  setView: (change: Partial<BenchView>) => void,
  design: KindDesign,
  { data, good: { lineOf } }: ProvedDraft,
  site: Site,
) {
  const { shown, choose, forget } = useShownRow(view, setView, design, data);
  const [watch, isSeen] = useSeen();
  const parts = useLater(PAGE_PARTS, isSeen);
  const drawn = useMemo(
    () => (parts && shown ? { row: shown, proofs: parts.itemProofs(shown, lineOf, site), parts } : null),
    [parts, shown, lineOf, site],
  );
  return {
    row: shown,
    choose,
    forget,
    /** Put on the place where the page will stand. */
    watch,
    drawn,
  };
}
