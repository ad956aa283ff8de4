import { useCallback, useEffect, useRef, useState } from "react";
import type { CallResult } from "../../server/api/contract";
import { call, wordsOf } from "../shell/api";
import { useJobs } from "../shell/jobs";
import { useSite } from "../shell/site-context";
import { useReturning } from "../shell/use-returning";
import { keepDescription, readKeptDescription, type KeptDescription } from "./kept-description";

export type Connected = NonNullable<CallResult<"wire.read">>;

/** The description as it is typed, and the connection as it is saved. */
export interface DescriptionState {
  readonly connection: Connected | null;
  readonly typed: string;
  /** Whether it is known by now what is saved. */
  readonly isRead: boolean;
  /** The saved one that what is typed is to take the place of, `null` where there was none. */
  readonly seen: string | null;
  /** Whether what is typed is another one than what is saved. */
  readonly isChanged: boolean;
  /** Whether another window saved something else since it was begun. */
  readonly isOvertaken: boolean;
  readonly error: string | null;
  readonly type: (typed: string) => void;
  /** Goes back to what is saved. */
  readonly discard: () => void;
  /** Takes up what was saved, or removed. */
  readonly saved: (connection: Connected | null) => void;
}

/** Reads the connection, and again whenever pages or a look may have changed it. What is typed is kept in the browser until it is saved. */
export function useDescription(): DescriptionState {
  const { state } = useSite();
  const [connection, setConnection] = useState<Connected | null>(null);
  const [text, setText] = useState<KeptDescription | null>(null);
  const [error, setError] = useState<string | null>(null);
  // A look that finds nothing new changes no page, and is the last look all the same.
  const look = useJobs().find(({ type }) => type === "look");
  // An answer that was asked for before something was saved, or before another was asked for, says nothing of now.
  const turn = useRef(0);
  const read = useCallback(() => {
    const own = ++turn.current;
    call("wire.read", {})
      .then((found) => {
        if (own !== turn.current) return;
        setError(null);
        setConnection(found);
        // Where nothing was typed it follows what is saved.
        setText((old) => (old && isTyped(old) ? old : (readKeptDescription() ?? ofSaved(found))));
      })
      .catch((e: unknown) => own === turn.current && setError(wordsOf(e)));
  }, []);
  useEffect(read, [read, state.revision, look?.id, look?.state]);
  useReturning(read);

  const take = useCallback((next: KeptDescription) => {
    keepDescription(next);
    setText(next);
  }, []);
  const { typed, seen } = text ?? ofSaved(null);
  const savedNow = connection?.description ?? null;
  return {
    connection,
    typed,
    isRead: text !== null,
    seen,
    isChanged: typed !== (savedNow ?? ""),
    isOvertaken: text !== null && seen !== savedNow,
    error,
    type: (next) => take({ typed: next, seen }),
    discard: () => take(ofSaved(connection)),
    saved: (next) => {
      turn.current++;
      setConnection(next);
      // What was removed can be saved again.
      take(next ? ofSaved(next) : { typed, seen: null });
    },
  };
}

function isTyped({ typed, seen }: KeptDescription): boolean {
  return typed !== (seen ?? "");
}

function ofSaved(connection: Connected | null): KeptDescription {
  return { typed: connection?.description ?? "", seen: connection?.description ?? null };
}
