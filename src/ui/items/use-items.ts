"use client";
import { type ItemPage, type ListedItem } from "../../server/items/listed-item";
import { type WorkProgress } from "../../server/workspace/watch";
import { useCallback, useEffect, useRef, useState } from "react";
import { askStreamed, isAborted } from "../shell/api";
import { CLIENT } from "../shell/client-id";
import { type ItemsView, queryOf } from "./items-url";

const WINDOW = 80;

export interface ItemsData extends Omit<ItemPage, "items"> {
  /** Pages by their place in the order; those not on screen yet are fetched when they come into view. */
  readonly items: ReadonlyMap<number, ListedItem>;
  readonly loading: boolean;
  readonly progress: WorkProgress | null;
  readonly error: string | null;
}

const NOTHING: ItemsData = {
  counts: [],
  total: 0,
  differences: null,
  sections: null,
  order: "",
  items: new Map(),
  loading: true,
  progress: null,
  error: null,
};

/** The counts of findings and the pages of a view, a window at a time. What is on screen stays there until its successor is here. */
export function useItems(
  view: ItemsView,
  stamp: string,
): ItemsData & { show: (first: number, last: number) => void; retry: () => void; patch: (item: ListedItem) => void } {
  const [data, setData] = useState<ItemsData>(NOTHING);
  const [tries, setTries] = useState(0);
  const generation = useRef(0);
  const asked = useRef(new Set<number>());
  const visible = useRef<readonly [number, number]>([0, 0]);
  const before = useRef("");
  const query = JSON.stringify(queryOf(view));
  const columns = JSON.stringify(view.columns.flatMap((id) => (id.startsWith("field:") ? [id.slice(6)] : [])));

  const ask = useCallback(
    (page: number, own: number, signal: AbortSignal) =>
      askStreamed<ItemPage, WorkProgress>(
        "/api/items",
        {
          query: JSON.parse(query) as object,
          columns: JSON.parse(columns) as string[],
          from: page * WINDOW,
          count: WINDOW,
          client: CLIENT,
        },
        { signal, onProgress: (progress) => own === generation.current && setData((old) => ({ ...old, progress })) },
      ),
    [query, columns],
  );
  useEffect(() => {
    const own = ++generation.current;
    const controller = new AbortController();
    // The same list again is looked at where it was; another one from its top.
    const [first, last] = before.current === query ? visible.current : [0, 0];
    before.current = query;
    const pages: number[] = [];
    for (let page = Math.floor(first / WINDOW); page <= Math.floor(last / WINDOW); page++) pages.push(page);
    asked.current = new Set(pages);
    setData((old) => ({ ...old, loading: true }));
    Promise.all(pages.map((page) => ask(page, own, controller.signal)))
      .then((answers) => {
        if (own !== generation.current) return;
        const items = new Map(
          answers.flatMap((answer, i) =>
            answer.items.map((item, k): [number, ListedItem] => [pages[i]! * WINDOW + k, item]),
          ),
        );
        const { counts, total, differences, sections, order } = answers[0]!;
        setData({ counts, total, differences, sections, order, items, loading: false, progress: null, error: null });
      })
      .catch(
        (error: unknown) =>
          !isAborted(error) &&
          own === generation.current &&
          setData((old) => ({
            ...old,
            loading: false,
            progress: null,
            error: error instanceof Error ? error.message : String(error),
          })),
      );
    return () => controller.abort();
  }, [ask, query, stamp, tries]);

  const show = useCallback(
    (first: number, last: number) => {
      visible.current = [first, last];
      const own = generation.current;
      for (let page = Math.floor(first / WINDOW); page <= Math.floor(last / WINDOW); page++) {
        if (asked.current.has(page)) continue;
        asked.current.add(page);
        ask(page, own, new AbortController().signal)
          .then((answer) => {
            if (own === generation.current)
              setData((old) => ({
                ...old,
                items: new Map([
                  ...old.items,
                  ...answer.items.map((item, i): [number, ListedItem] => [page * WINDOW + i, item]),
                ]),
              }));
          })
          .catch(() => asked.current.delete(page));
      }
    },
    [ask],
  );
  /** Shows a page as it is known to be, until the list says so, too. */
  const patch = useCallback(
    (item: ListedItem) =>
      setData((old) => ({
        ...old,
        items: new Map(
          [...old.items].map(([place, own]) => [place, own.kind === item.kind && own.id === item.id ? item : own]),
        ),
      })),
    [],
  );
  return { ...data, patch, show, retry: () => setTries((n) => n + 1) };
}
