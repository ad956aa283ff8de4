"use client";
import { useMemo } from "react";
import { kindIds } from "../../core/design/kinds";
import { useSite } from "../shell/site-context";
import { useUrlView } from "../shell/url-view";
import { benchCodec, type BenchView, firstKind } from "./bench-codec";

/** The view in the address bar, and how to change it in place. */
export function useBenchView(): [BenchView, (change: Partial<BenchView>) => void] {
  const { state } = useSite();
  const { site } = state;
  const first = firstKind(state);
  const codec = useMemo(() => benchCodec(kindIds(site), first), [site, first]);
  return useUrlView("/bench", codec);
}
