"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import type { EngineProgress } from "../../server/proof-engine";
import type { ListedItem } from "../../server/items-list";
import type { FindingCount } from "../../server/site-findings";
import { askStreamed, isAborted } from "../shell/api";
import { type ItemsView } from "./items-url";

const WINDOW = 80;
const CLIENT = Math.random().toString(36).slice(2);

export interface ItemsData {
  readonly counts: readonly FindingCount[];
  readonly total: number;
  /** Pages by their place in the order; those not on screen yet are fetched when they come into view. */
  readonly items: ReadonlyMap<number, ListedItem>;
  readonly loading: boolean;
  readonly progress: EngineProgress | null;
  readonly error: string | null;
}

interface Answer {
  readonly counts: readonly FindingCount[];
  readonly total: number;
  readonly items: readonly ListedItem[];
}

/** The counts of findings and the pages of a view, a window at a time. */
export function useItems(view: ItemsView, revision: number): ItemsData & { show: (first: number, last: number) => void; retry: () => void } {
  const [data, setData] = useState<ItemsData>({ counts: [], total: 0, items: new Map(), loading: true, progress: null, error: null });
  const [tries, setTries] = useState(0);
  const generation = useRef(0);
  const asked = useRef(new Set<number>());
  const { kind, side, finding, search, sort } = view;
  const query = JSON.stringify({ kind, side, finding, search, sort });

  const ask = useCallback(
    (page: number, own: number, signal: AbortSignal) =>
      askStreamed<Answer, EngineProgress>("/api/items", { ...(JSON.parse(query) as object), from: page * WINDOW, count: WINDOW, client: CLIENT }, { signal, onProgress: (progress) => own === generation.current && setData((old) => ({ ...old, progress })) }),
    [query],
  );
  useEffect(() => {
    const own = ++generation.current;
    const controller = new AbortController();
    asked.current = new Set([0]);
    setData((old) => ({ ...old, loading: true }));
    ask(0, own, controller.signal)
      .then((answer) => own === generation.current && setData({ counts: answer.counts, total: answer.total, items: new Map(answer.items.map((item, i) => [i, item])), loading: false, progress: null, error: null }))
      .catch((error: unknown) => !isAborted(error) && own === generation.current && setData((old) => ({ ...old, loading: false, progress: null, error: error instanceof Error ? error.message : String(error) })));
    return () => controller.abort();
  }, [ask, revision, tries]);

  const show = useCallback(
    (first: number, last: number) => {
      const own = generation.current;
      for (let page = Math.floor(first / WINDOW); page <= Math.floor(last / WINDOW); page++) {
        if (asked.current.has(page)) continue;
        asked.current.add(page);
        ask(page, own, new AbortController().signal)
          .then((answer) => {
            if (own === generation.current) setData((old) => ({ ...old, items: new Map([...old.items, ...answer.items.map((item, i): [number, ListedItem] => [page * WINDOW + i, item])]) }));
          })
          .catch(() => asked.current.delete(page));
      }
    },
    [ask],
  );
  return { ...data, show, retry: () => setTries((n) => n + 1) };
}
