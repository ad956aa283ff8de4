"use client";
import { useRef, useState } from "react";
import type { FirstLook } from "../../server/exchange/bring-in";
import { call, sendFile, wordsOf } from "../shell/api";
import { sitePath } from "../shell/site-path";

/**
 * The first look at the file that was chosen last: an answer about one that was chosen before it is not shown, however late it comes.
 *
 * @param onLook told of each look that is shown.
 */
export function useFirstLook(onLook: (look: FirstLook) => void) {
  const [look, setLook] = useState<FirstLook | null>(null);
  const [isReading, setReading] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const turn = useRef(0);
  const read = async (file: string, asking: Promise<FirstLook>) => {
    const own = ++turn.current;
    setReading(true);
    setError(null);
    try {
      const answer = await asking;
      if (turn.current !== own) return;
      setLook(answer);
      onLook(answer);
    } catch (e) {
      if (turn.current === own) setError(`${file}: ${wordsOf(e)}`);
    } finally {
      if (turn.current === own) setReading(false);
    }
  };
  return {
    look,
    isReading,
    error,
    /** Sends a file. */
    take: (file: File) => {
      setLook(null);
      return read(file.name, sendFile(sitePath(`/api/files/pages?name=${encodeURIComponent(file.name)}`), file));
    },
    /** Looks at another sheet of the file. */
    chooseSheet: ({ token, file }: FirstLook, sheet: string) =>
      read(file, call("exchange.chooseSheet", { token, name: file, sheet })),
    clear: () => {
      turn.current++;
      setReading(false);
      setLook(null);
    },
  };
}
