"use client";
import { type Kind } from "../../core/design/kinds";
import { useMemo, useRef } from "react";
import type { KindDesign } from "../../core/design/design";
import type { ProvedKind, ScopeName } from "../../server/bench/bench-desk";
import type { DrawnRow } from "../../server/bench/bench-row";
import type { FieldInfo } from "../../server/bench/field-infos";
import type { WorkProgress } from "../../server/workspace/watch";
import { useCall, useWindows, type Windows } from "../shell/queries";
import { BENCH_WINDOW, figuresAsked, rowsAsked } from "./bench-asked";
import type { BenchView } from "./bench-codec";

export interface BenchData {
  readonly proved: ProvedKind | null;
  /** The design that the figures are of. */
  readonly design: KindDesign | null;
  /** How long the server took for the last answer, in ms. */
  readonly ms: number;
  readonly total: number;
  /** Rows by their place in the order; those not on screen yet are fetched when they come into view. */
  readonly rows: ReadonlyMap<number, DrawnRow>;
  /** Whether the rows are drawn as the design has them that is looked at; while another is on its way, they are as the one before had them. */
  readonly areRowsCurrent: boolean;
  /** Says which rows are in view. */
  readonly show: Windows<unknown, DrawnRow>["show"];
  readonly loading: boolean;
  /** How far the server is, where it takes long. */
  readonly progress: WorkProgress | null;
  readonly error: string | null;
  readonly retry: () => void;
}

/**
 * The whole set's figures for a draft, and its rows in the view's order. A newer draft takes an older one's place.
 *
 * @param stamp what they rest on besides the draft: the items and the settings.
 */
export function useBenchData(view: BenchView, scope: ScopeName, design: KindDesign, stamp: string): BenchData {
  const figures = useCall("bench.prove", figuresAsked(view, scope, design), stamp);
  const list = rowsAsked(view, scope, design);
  const rows = useWindows("bench.rows", list, stamp, { size: BENCH_WINDOW, rowsOf: (answer) => answer.rows });
  // The answer before stands while the next one is on its way: it is told with the design that it is of.
  const shown = useRef<{ answer: NonNullable<typeof figures.answer>; design: KindDesign } | null>(null);
  if (figures.isCurrent && figures.answer) shown.current = { answer: figures.answer, design };
  const retry = useMemo(
    () => () => {
      figures.retry();
      rows.retry();
    },
    [figures, rows],
  );
  return {
    proved: shown.current?.answer.proved ?? null,
    design: shown.current?.design ?? null,
    ms: shown.current?.answer.ms ?? 0,
    total: rows.answer?.total ?? 0,
    rows: rows.rows,
    areRowsCurrent: rows.isCurrent,
    show: rows.show,
    loading: figures.loading || rows.loading,
    progress: figures.progress,
    error: figures.error ?? rows.error,
    retry,
  };
}

/**
 * The fields that lines of a kind may use; asked for when the set is there (`ready`): a question before that would stand in its
 * way, and hear nothing of how far it is.
 */
export function useFields(kind: Kind, stamp: string, ready: boolean): readonly FieldInfo[] {
  const { answer, isCurrent } = useCall("bench.fields", ready ? { kind } : null, stamp);
  return isCurrent && answer ? answer : NONE;
}

const NONE: readonly FieldInfo[] = [];
