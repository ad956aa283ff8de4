"use client";
import { useEffect, useState } from "react";
import { flushSync } from "react-dom";
import { count } from "./format";

/** So many rows of a list are printed; the rest is told. */
export const PRINTED_ROWS = 200;

/** Whether the page is being printed: a list shows more than what is in view then. */
export function usePrinting(): boolean {
  const [printing, setPrinting] = useState(false);
  useEffect(() => {
    const media = matchMedia("print");
    // It has to stand when the browser lays the paper out, which is at once.
    const put = (on: boolean) => flushSync(() => setPrinting(on));
    const changed = () => put(media.matches);
    const begins = () => put(true);
    const ends = () => put(false);
    media.addEventListener("change", changed);
    window.addEventListener("beforeprint", begins);
    window.addEventListener("afterprint", ends);
    return () => {
      media.removeEventListener("change", changed);
      window.removeEventListener("beforeprint", begins);
      window.removeEventListener("afterprint", ends);
    };
  }, []);
  return printing;
}

/** A row of a windowed list stands where it is scrolled to, and on paper one below another. */
export const WINDOWED_ROW =
  "absolute left-0 top-0 w-full border-b border-hair print:!static print:!h-auto print:![transform:none] print:break-inside-avoid";

/** The rows of a list that are drawn: those in view, on paper the first ones as far as they have come. */
export function drawnRows<R extends { readonly index: number; readonly start: number }>(
  inView: readonly R[],
  total: number,
  { printing, isThere }: { readonly printing: boolean; readonly isThere: (row: number) => boolean },
): readonly { readonly index: number; readonly start: number }[] {
  if (!printing) return inView;
  const first = Array.from({ length: Math.min(total, PRINTED_ROWS) }, (_, index) => ({ index, start: 0 }));
  return first.filter(({ index }) => isThere(index));
}

/** What is not on paper. */
export function PrintedRest({ printed, total, what }: { printed: number; total: number; what: string }) {
  if (total <= printed) return null;
  return (
    <p className="hidden pt-2 font-bold print:block">
      {count(printed)} of {count(total)} {what} are printed. The exported file has all of them.
    </p>
  );
}
