"use client";
import { useMemo } from "react";
import { useSite } from "../shell/site-context";
import { useUrlView } from "../shell/url-view";
import { type BenchView, siteBenchCodec } from "./bench-codec";

/** The view in the address bar, and how to change it in place. */
export function useBenchView(): [BenchView, (change: Partial<BenchView>) => void] {
  const { site, counts, drafts } = useSite().state;
  const codec = useMemo(() => siteBenchCodec({ site, counts, drafts }), [site, counts, drafts]);
  return useUrlView("/bench", codec);
}
