"use client";
import { keepPreviousData, QueryClient, QueryClientProvider, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, startTransition, useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { CallInput, CallName, CallResult } from "../../server/api/contract";
import type { WorkProgress } from "../../server/workspace/watch";
import { ApiError, call, isAborted, wordsOf } from "./api";
import { asked as askedFor, askedWindow, type ListInput, type ListName, windowsKey } from "./asked";

/** What was asked for and is not on screen any more is kept so long, in ms. */
const KEPT = 60_000;

/** What is fetched for screens: held by question and stamp, asked again once where a thread of the server died. */
export function Queries({ children }: { children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: {
          queries: {
            // Nothing goes stale by time: what an answer rests on is in its key.
            staleTime: Infinity,
            gcTime: KEPT,
            refetchOnWindowFocus: false,
            refetchOnReconnect: false,
            networkMode: "always",
            retry: (failures, error) => failures < 1 && error instanceof ApiError && error.code === "worker-died",
          },
        },
      }),
  );
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>;
}

/** What a screen knows of something that it asked for. */
export interface Called<T> {
  /** The answer; the one before stands until the new one is here. */
  readonly answer: T | null;
  /** Whether the answer is that of the question as it is now. */
  readonly isCurrent: boolean;
  readonly loading: boolean;
  /** How far it is, where it takes long. */
  readonly progress: WorkProgress | null;
  readonly error: string | null;
  readonly retry: () => void;
}

/**
 * Asks for something, and again when the question is another one or what the answer rests on is.
 *
 * @param input `null`: not to be asked now. @param stamp what the answer rests on besides, such as the site's revision.
 */
export function useCall<N extends CallName>(name: N, input: CallInput<N> | null, stamp: string): Called<CallResult<N>> {
  const [progress, setProgress] = useState<WorkProgress | null>(null);
  const query = useQuery({
    queryKey: input === null ? [name, null] : askedFor(name, input, stamp).key,
    enabled: input !== null,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) => call(name, input!, { signal, onProgress: setProgress }).finally(() => setProgress(null)),
  });
  const { refetch } = query;
  const retry = useCallback(() => void refetch(), [refetch]);
  return {
    answer: query.data ?? null,
    isCurrent: query.isSuccess && !query.isPlaceholderData,
    loading: query.isFetching,
    progress: query.isFetching ? progress : null,
    error: query.error && !isAborted(query.error) ? wordsOf(query.error) : null,
    retry,
  };
}

/** A long list of which only what is in view is fetched. */
export interface Windows<T, Row> {
  /** Rows by their place. */
  readonly rows: ReadonlyMap<number, Row>;
  /** What came with the rows, `null` before the first did. */
  readonly answer: T | null;
  /** Whether the rows are of the list that is asked for; those of the one before stand until then. */
  readonly isCurrent: boolean;
  readonly loading: boolean;
  readonly progress: WorkProgress | null;
  readonly error: string | null;
  /** Says which rows are in view. */
  readonly show: (first: number, last: number) => void;
  readonly retry: () => void;
  /** Shows rows otherwise than they came, until they are fetched again. */
  readonly patch: (change: (row: Row) => Row) => void;
}

interface Held<T, Row> {
  readonly key: string;
  readonly rows: ReadonlyMap<number, Row>;
  readonly answer: T | null;
}

/**
 * Fetches a long list a window at a time, as it comes into view. The same list with another stamp is looked at where it was,
 * another list from its top; what is on screen stays there until its successor is here.
 *
 * @param list what list it is. @param stamp what its rows rest on besides.
 */
export function useWindows<N extends ListName, Row>(
  name: N,
  list: ListInput<N> | null,
  stamp: string,
  { size, rowsOf }: { size: number; rowsOf: (answer: CallResult<N>) => readonly Row[] },
): Windows<CallResult<N>, Row> {
  type Answer = CallResult<N>;
  const client = useQueryClient();
  const [tries, setTries] = useState(0);
  const listKey = JSON.stringify(list);
  const key = `${name} ${listKey} ${stamp} ${tries}`;
  const [held, setHeld] = useState<Held<Answer, Row>>(() => {
    // What came with the page is there before the list asks for anything.
    const answer = list && client.getQueryData<Answer>(askedWindow(name, list, stamp, { size }).key);
    return {
      key: answer ? key : "",
      rows: new Map(answer ? rowsOf(answer).map((row, i) => [i, row]) : []),
      answer: answer ?? null,
    };
  });
  const [error, setError] = useState<string | null>(null);
  const [loading, setLoading] = useState(true);
  const [progress, setProgress] = useState<WorkProgress | null>(null);
  const visible = useRef<readonly [number, number]>([0, 0]);
  const lastList = useRef("");
  const asked = useRef(new Set<number>());
  const of = useRef(rowsOf);
  of.current = rowsOf;
  const current = useRef(key);
  current.current = key;

  const windowOf = useCallback(
    (page: number) => askedWindow(name, JSON.parse(listKey) as ListInput<N>, stamp, { size, page, tries }),
    [name, listKey, stamp, size, tries],
  );
  const fetchPage = useCallback(
    (page: number) =>
      client.fetchQuery({
        queryKey: windowOf(page).key,
        queryFn: ({ signal }) => call(name, windowOf(page).input, { signal, onProgress: setProgress }),
      }) as Promise<Answer>,
    [client, name, windowOf],
  );
  const rowsFrom = useCallback(
    (answer: Answer, page: number) => of.current(answer).map((row, i): [number, Row] => [page * size + i, row]),
    [size],
  );

  useEffect(() => {
    if (listKey === "null") return;
    const own = key;
    const [first, last] = lastList.current === listKey ? visible.current : [0, 0];
    lastList.current = listKey;
    const pages: number[] = [];
    for (let page = Math.floor(first / size); page <= Math.floor(last / size); page++) pages.push(page);
    asked.current = new Set(pages);
    setLoading(true);
    setError(null);
    Promise.all(pages.map(fetchPage))
      .then((answers) => {
        if (current.current !== own) return;
        // Drawn piece by piece: whoever types meanwhile notices nothing.
        startTransition(() => {
          setHeld({ key: own, answer: answers[0]!, rows: new Map(answers.flatMap((a, i) => rowsFrom(a, pages[i]!))) });
          setLoading(false);
          setProgress(null);
        });
      })
      .catch((e: unknown) => {
        if (isAborted(e) || current.current !== own) return;
        setError(wordsOf(e));
        setLoading(false);
        setProgress(null);
      });
    // A list that nobody looks at any more is not worked on.
    return () =>
      void client.cancelQueries({ queryKey: windowsKey(name, JSON.parse(listKey) as ListInput<N>, stamp, tries) });
  }, [key, listKey, size, fetchPage, rowsFrom, client, name, stamp, tries]);

  const show = useCallback(
    (first: number, last: number) => {
      visible.current = [first, last];
      const own = key;
      for (let page = Math.floor(first / size); page <= Math.floor(last / size); page++) {
        if (asked.current.has(page) || listKey === "null") continue;
        asked.current.add(page);
        fetchPage(page)
          .then((answer) => {
            if (current.current === own)
              setHeld((old) => ({ ...old, rows: new Map([...old.rows, ...rowsFrom(answer, page)]) }));
          })
          .catch(() => current.current === own && asked.current.delete(page));
      }
    },
    [key, listKey, size, fetchPage, rowsFrom],
  );
  const patch = useCallback(
    (change: (row: Row) => Row) =>
      setHeld((old) => ({ ...old, rows: new Map([...old.rows].map(([place, row]) => [place, change(row)])) })),
    [],
  );
  const retry = useCallback(() => setTries((n) => n + 1), []);
  return useMemo(
    () => ({
      rows: held.rows,
      answer: held.answer,
      isCurrent: held.key === key,
      loading,
      progress,
      error,
      show,
      retry,
      patch,
    }),
    [held, key, loading, progress, error, show, retry, patch],
  );
}
