"use client";
import { useCallback, useEffect, useMemo, useState } from "react";
import { type KindDesign } from "../../core/design/design";
import type { BenchRow } from "../../server/bench/bench-row";
import { call } from "../shell/api";
import { type BenchView } from "./bench-codec";
import { type useBenchData } from "./use-bench-data";

/** The page that is shown whole beside the rows: the one that was chosen or that a link names, else the first. */
export function useShownRow(
  { kind, text, item }: BenchView,
  setView: (change: Partial<BenchView>) => void,
  design: KindDesign,
  { rows, proved }: ReturnType<typeof useBenchData>,
) {
  const arrived = proved?.kind ?? null;
  const [chosen, setChosen] = useState<BenchRow | null>(null);
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
  const firstRow = rows.get(0) ?? null;
  // What was chosen may be decided otherwise by now: where it is on screen, it is as the server last gave it.
  const shown = useMemo(() => {
    if (!chosen) return firstRow;
    for (const row of rows.values()) if (row.id === chosen.id) return row;
    return chosen;
  }, [chosen, firstRow, rows]);
  const choose = useCallback(
    (row: BenchRow) => {
      setChosen(row);
      setView({ item: row.id });
    },
    [setView],
  );
  return { shown, choose, forget: () => setChosen(null) };
}
