"use client";
import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { GonePage } from "../../store/gone";
import { call, isAborted, wordsOf } from "../shell/api";

export interface GonePages {
  readonly pages: readonly GonePage[];
  /** How many are gone, and how many of them are found by the search. */
  readonly total: number;
  readonly found: number;
  /** What was searched for when these were found: those of the search before stand until its successor's are here. */
  readonly search: string;
  readonly isWhole: boolean;
  readonly more: () => void;
  readonly error: string | null;
}

/**
 * The gone pages that a search finds, fetched as far as they are looked at.
 *
 * @param stamp of what they rest on.
 */
export function useGonePages(search: string, stamp: string): GonePages {
  const { data, error, hasNextPage, isFetching, fetchNextPage } = useInfiniteQuery({
    queryKey: ["items.gone", search, stamp],
    placeholderData: keepPreviousData,
    initialPageParam: 0,
    queryFn: async ({ pageParam, signal }) => ({
      ...(await call("items.gone", { after: pageParam, search }, { signal })),
      search,
    }),
    getNextPageParam: (page) => (page.isWhole ? undefined : page.pages.at(-1)?.id),
  });
  const pages = useMemo(() => data?.pages.flatMap((part) => part.pages) ?? [], [data]);
  const first = data?.pages[0];
  return {
    pages,
    total: first?.total ?? 0,
    found: first?.found ?? 0,
    search: first?.search ?? search,
    isWhole: first !== undefined && !hasNextPage,
    more: () => {
      if (!isFetching) void fetchNextPage();
    },
    error: error && !isAborted(error) ? wordsOf(error) : null,
  };
}
