"use client";
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { toast } from "sonner";
import type { Kind } from "../../core/design/kinds";
import type { LinesFileReview } from "../../server/exchange/exchange-lines";
import { call, isAborted, wordsOf } from "../shell/api";
import { useSite } from "../shell/site-context";
import { siteStamp } from "../shell/site-stamps";

/** A file as it was read; its text may be long, its number tells it from all others. */
interface ReadFile {
  readonly number: number;
  readonly name: string;
  readonly text: string;
}

let files = 0;

export interface LinesFileState {
  readonly name: string | null;
  /** What the file would change of the drafts and settings as they are; `null` before that is known. */
  readonly review: LinesFileReview | null;
  /** Whether that is of the drafts and settings as they are now, and nothing is being done with it. */
  readonly isReady: boolean;
  readonly error: string | null;
  /** The kinds whose drafts were replaced by the file that was taken in last. */
  readonly done: readonly Kind[] | null;
  readonly read: (file: File | undefined) => Promise<void>;
  /** Takes the file in; its site's settings, too, where that is wanted. */
  readonly adopt: (withSettings: boolean) => Promise<void>;
}

/** The lines file that was chosen last, held against the drafts and settings; anew when these are others. */
export function useLinesFile(): LinesFileState {
  const { state, refresh } = useSite();
  const [file, setFile] = useState<ReadFile | null>(null);
  const [done, setDone] = useState<readonly Kind[] | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const turn = useRef(0);
  const { data, error, isPlaceholderData } = useQuery({
    queryKey: ["exchange.reviewLines", file?.number ?? null, siteStamp(state)],
    enabled: file !== null,
    placeholderData: (before: LinesFileReview | undefined, asked) =>
      asked?.queryKey[1] === file?.number ? before : undefined,
    queryFn: ({ signal }) => call("exchange.reviewLines", { name: file!.name, text: file!.text }, { signal }),
  });
  const read = async (chosen: File | undefined) => {
    if (!chosen) return;
    const own = ++turn.current;
    setFile(null);
    setDone(null);
    setFailure(null);
    try {
      const text = await chosen.text();
      // Another one may have been chosen meanwhile.
      if (own === turn.current) setFile({ number: ++files, name: chosen.name, text });
    } catch (e) {
      if (own === turn.current) setFailure(wordsOf(e));
    }
  };
  const adopt = async (withSettings: boolean) => {
    if (!file || isBusy) return;
    setBusy(true);
    setFailure(null);
    try {
      const kinds = await call("exchange.adoptLines", { name: file.name, text: file.text, site: withSettings });
      // They are taken in, whatever becomes of looking at them.
      await refresh().catch(() => {});
      setDone(kinds);
      setFile(null);
      toast("Lines file imported; the drafts it replaced were saved as a version");
    } catch (e) {
      setFailure(wordsOf(e));
    } finally {
      setBusy(false);
    }
  };
  return {
    name: file?.name ?? null,
    review: file ? (data ?? null) : null,
    isReady: data !== undefined && !isPlaceholderData && !isBusy,
    error: failure ?? (error && !isAborted(error) ? wordsOf(error) : null),
    done,
    read,
    adopt,
  };
}
