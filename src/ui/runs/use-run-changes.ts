"use client";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";
import type { DrawnRunChange } from "../../server/runs/drawn-changes";
import { call, isAborted, wordsOf } from "../shell/api";

export interface RunChanges {
  /** Those that came so far, from the first on. */
  readonly changes: readonly DrawnRunChange[];
  /** Asks for the next ones, if there are any. */
  readonly more: () => void;
  readonly error: string | null;
  readonly retry: () => void;
}

/**
 * The changes of a run, fetched as far as they are looked at.
 *
 * @param stamp of what they rest on; `null`: not known yet, nothing is asked for.
 */
export function useRunChanges(id: number, stamp: string | null): RunChanges {
  const { data, error, hasNextPage, isFetching, fetchNextPage } = useInfiniteQuery({
    queryKey: ["runs.changes", id, stamp],
    enabled: stamp !== null,
    // Pages that are gone are told of whenever the run is looked at.
    gcTime: 0,
    initialPageParam: 0,
    queryFn: ({ pageParam, signal }) => call("runs.changes", { id, after: pageParam }, { signal }),
    getNextPageParam: (page) => page.at(-1)?.id,
  });
  const changes = useMemo(() => data?.pages.flat() ?? [], [data]);
  const retry = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  const more = useCallback(() => {
    if (hasNextPage && !isFetching && !error) retry();
  }, [hasNextPage, isFetching, error, retry]);
  return { changes, more, error: error && !isAborted(error) ? wordsOf(error) : null, retry };
}
