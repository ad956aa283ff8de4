"use client";
import { useSearchParams } from "next/navigation";
import { useCallback, useMemo, useRef } from "react";
import { sitePath } from "./site-path";
import type { UrlCodec } from "./url-codec";

/** A change of the view in the address bar, and when it was made. */
export interface ViewStep {
  readonly names: readonly string[];
  /** ms. */
  readonly at: number;
}

/** Changes of the same thing that follow each other so soon are one step: rows that are gone through by arrows. ms. */
const ONE_STEP = 1000;
/** What one act of a person changes, one after another. ms. */
const ONE_ACT = 50;

/** Whether a change goes on with the one before: *Back* then goes behind both. */
export function goesOn(before: ViewStep | null, step: ViewStep, isTyped: boolean): boolean {
  if (before === null) return false;
  if (step.at - before.at < ONE_ACT) return true;
  if (before.names.join() !== step.names.join()) return false;
  return isTyped || step.at - before.at < ONE_STEP;
}

/**
 * The view in the address bar, and how to change it. *Back* goes through what it was before, step by step.
 *
 * @param path of the screen on the site, such as `/bench`. @param codec the same object as long as it reads the same.
 */
export function useUrlView<V extends object>(path: string, codec: UrlCodec<V>): [V, (change: Partial<V>) => void] {
  const params = useSearchParams();
  const query = params.toString();
  const view = useMemo(() => codec.read(new URLSearchParams(query)), [query, codec]);
  const last = useRef<(ViewStep & { readonly made: string }) | null>(null);
  const change = useCallback(
    (part: Partial<V>) => {
      // Two changes may come before the first is rendered.
      const now = window.location.search;
      const next = codec.write({ ...codec.read(new URLSearchParams(now)), ...part });
      if (next === now.slice(1)) return;
      const names = Object.keys(part) as (keyof V & string)[];
      const step = { names, at: Date.now() };
      // Somebody may have gone back meanwhile.
      const before = last.current?.made === now ? last.current : null;
      const isOne = goesOn(before, step, codec.isTyped(names));
      const url = sitePath(next === "" ? path : `${path}?${next}`);
      if (isOne) window.history.replaceState(null, "", url);
      else window.history.pushState(null, "", url);
      last.current = { ...step, made: window.location.search };
    },
    [path, codec],
  );
  return [view, change];
}
