"use client";
import { type WorkProgress } from "../../server/workspace/watch";
import { type ProvedKind, type RowQuery, type ScopeName } from "../../server/bench/bench-desk";
import { useCallback, useEffect, useRef, useState } from "react";
import { type KindDesign } from "../../core/design/design";
import type { FieldInfo } from "../../server/bench/field-infos";
import type { BenchRow } from "../../server/bench/bench-row";
import { ask, askStreamed, isAborted } from "../shell/api";
import { type BoardKind } from "../shell/site-context";
import { type BenchView } from "./bench-url";
import { CLIENT } from "../shell/client-id";

export interface BenchData {
  readonly proved: ProvedKind | null;
  /** The design that the figures are of. */
  readonly design: KindDesign | null;
  /** How long the server took for the last answer, in ms. */
  readonly ms: number;
  readonly total: number;
  /** Rows by their place in the order; those not on screen yet are fetched when they come into view. */
  readonly rows: ReadonlyMap<number, BenchRow>;
  readonly loading: boolean;
  /** How far the server is, where it takes long. */
  readonly progress: WorkProgress | null;
  readonly error: string | null;
}

const WINDOW = 60;

/** The whole set's figures for a draft, and its rows in the view's order. A newer draft takes an older one's place. */
export function useBenchData(
  view: BenchView,
  scope: ScopeName,
  design: KindDesign,
  range: { first: number; last: number },
): BenchData & { retry: () => void } {
  const [data, setData] = useState<BenchData>({
    proved: null,
    design: null,
    ms: 0,
    total: 0,
    rows: new Map(),
    loading: true,
    progress: null,
    error: null,
  });
  const [tries, setTries] = useState(0);
  const generation = useRef(0);
  const visible = useRef(range);
  visible.current = range;
  const { kind, text, sort, filter, search } = view;
  const order = `${kind} ${text} ${scope} ${sort} ${filter} ${search}`;
  const lastOrder = useRef(order);

  useEffect(() => {
    const own = ++generation.current;
    const controller = new AbortController();
    const sameOrder = lastOrder.current === order;
    lastOrder.current = order;
    const from = sameOrder ? Math.max(0, visible.current.first - 10) : 0;
    const query: RowQuery = { text, scope, sort, filter, search, from, count: WINDOW };
    const slow = setTimeout(() => setData((old) => ({ ...old, loading: true })), 120);
    const onProgress = (progress: WorkProgress) =>
      own === generation.current && setData((old) => ({ ...old, progress }));
    askStreamed<{ proved: ProvedKind; rows: BenchRow[]; total: number; ms: number }, WorkProgress>(
      "/api/bench",
      { kind, design, query, client: CLIENT },
      { signal: controller.signal, onProgress },
    )
      .then((answer) => {
        if (own !== generation.current) return;
        setData({
          proved: answer.proved,
          design,
          ms: answer.ms,
          total: answer.total,
          rows: new Map(answer.rows.map((row, i) => [from + i, row])),
          loading: false,
          progress: null,
          error: null,
        });
      })
      .catch((error: unknown) => {
        if (!isAborted(error) && own === generation.current)
          setData((old) => ({
            ...old,
            loading: false,
            progress: null,
            error: error instanceof Error ? error.message : String(error),
          }));
      })
      .finally(() => clearTimeout(slow));
    return () => {
      clearTimeout(slow);
      controller.abort();
    };
  }, [kind, text, scope, sort, filter, search, order, design, tries]);

  const fetching = useRef(new Set<number>());
  useEffect(() => {
    const own = generation.current;
    const missing: number[] = [];
    for (let page = Math.floor(range.first / WINDOW); page <= Math.floor(range.last / WINDOW); page++) {
      for (let i = page * WINDOW; i < Math.min(data.total, (page + 1) * WINDOW); i++) {
        if (i >= range.first && i <= range.last && !data.rows.has(i)) {
          missing.push(page);
          break;
        }
      }
    }
    for (const page of missing) {
      const key = own * 1_000_003 + page;
      if (fetching.current.has(key)) continue;
      fetching.current.add(key);
      const query: RowQuery = { text, scope, sort, filter, search, from: page * WINDOW, count: WINDOW };
      ask<{ rows: BenchRow[]; total: number }>("/api/rows", { body: { kind, design, query, client: CLIENT } })
        .then((answer) => {
          if (own !== generation.current) return;
          setData((old) => {
            const rows = new Map(old.rows);
            answer.rows.forEach((row, i) => rows.set(page * WINDOW + i, row));
            return { ...old, rows };
          });
        })
        .catch(() => {})
        .finally(() => fetching.current.delete(key));
    }
  }, [range.first, range.last, data.total, data.rows, kind, text, scope, sort, filter, search, design]);

  const retry = useCallback(() => setTries((n) => n + 1), []);
  return { ...data, retry };
}

const fieldsByKind = new Map<string, readonly FieldInfo[]>();

/**
 * The fields that lines of a kind may use; asked for once a revision of the site, when the set is there (`ready`): a question
 * before that would stand in its way, and hear nothing of how far it is.
 */
export function useFields(kind: BoardKind, revision: number, ready: boolean): readonly FieldInfo[] {
  const key = `${kind} ${revision}`;
  const [fields, setFields] = useState<readonly FieldInfo[]>(fieldsByKind.get(key) ?? NONE);
  useEffect(() => {
    const known = fieldsByKind.get(key);
    if (known) {
      setFields(known);
      return;
    }
    setFields(NONE);
    if (!ready) return;
    let stale = false;
    ask<FieldInfo[]>(`/api/fields?kind=${kind}`)
      .then((answer) => {
        fieldsByKind.set(key, answer);
        if (!stale) setFields(answer);
      })
      .catch(() => {});
    return () => {
      stale = true;
    };
  }, [kind, key, ready]);
  return fields;
}

const NONE: readonly FieldInfo[] = [];
