"use client";
import { useEffect, useMemo, useState } from "react";
import { type KindDesign } from "../../core/design/design";
import { knownFields } from "../line-editor/known-fields";
import { scopeIn } from "./bench-asked";
import { type BenchView } from "./bench-codec";
import { useGoodDesign, useParsed } from "./good-design";
import { useBenchData, useFields } from "./use-bench-data";

export type ProvedDraft = ReturnType<typeof useProvedDraft>;

/**
 * A draft as it is typed: its lines read with the fields that there are, and what it does to every page.
 *
 * @param pages the stamp of the site's pages.
 */
export function useProvedDraft(view: BenchView, design: KindDesign, pages: string) {
  const { kind } = view;
  // Fields are asked for once the first figures are there: they would hold those up.
  const [there, setThere] = useState<string | null>(null);
  const fields = useFields(kind, pages, there === kind);
  const known = useMemo(() => knownFields(fields), [fields]);
  const parsed = useParsed(design, known);
  const good = useGoodDesign(kind, design, parsed);
  const data = useBenchData(view, scopeIn(view, design), good.design, pages);
  const arrived = data.proved?.kind ?? null;
  useEffect(() => setThere(arrived), [arrived]);
  return { fields, known, parsed, good, data, proved: arrived === kind ? data.proved : null };
}
