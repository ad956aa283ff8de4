"use client";
import { type WorkProgress } from "../../server/workspace/watch";
import { useEffect, useState } from "react";
import { askStreamed, isAborted } from "../shell/api";

export interface Asked<T> {
  readonly answer: T | null;
  readonly progress: WorkProgress | null;
  readonly error: string | null;
  readonly loading: boolean;
}

/** Asks the keyword desk; asks again when the question or the stamp is another one. The old answer stands until the new one is here. */
export function useKeywordDesk<T>(question: object, stamp: string): Asked<T> {
  const [state, setState] = useState<Asked<T>>({ answer: null, progress: null, error: null, loading: true });
  const asked = JSON.stringify(question);
  useEffect(() => {
    const controller = new AbortController();
    setState((old) => ({ ...old, loading: true }));
    askStreamed<T, WorkProgress>("/api/keywords", JSON.parse(asked), {
      signal: controller.signal,
      onProgress: (progress) => setState((old) => ({ ...old, progress })),
    })
      .then((answer) => setState({ answer, progress: null, error: null, loading: false }))
      .catch(
        (error: unknown) =>
          !isAborted(error) &&
          setState((old) => ({
            ...old,
            progress: null,
            error: error instanceof Error ? error.message : String(error),
            loading: false,
          })),
      );
    return () => controller.abort();
  }, [asked, stamp]);
  return state;
}

/** Asks once, for something that is done. */
export function askKeywordDesk<T>(question: object): Promise<T> {
  return askStreamed<T, unknown>("/api/keywords", question, {
    signal: new AbortController().signal,
    onProgress: () => {},
  });
}
