"use client";
import { sitePath } from "../shell/site-path";
import { useSearchParams } from "next/navigation";
import { useCallback, useMemo } from "react";
import { isKind, type Kind, type TextName, textsOf } from "../../core/design/kinds";
import { shownKinds, useSite } from "../shell/site-context";
import { type Filter, FILTERS, type Sort, SORTS } from "../../core/proof/order";

/** What the address bar holds of the Bench: a link shows a colleague the same thing. */
export interface BenchView {
  readonly kind: Kind;
  readonly text: TextName;
  /** Whose lines are edited: the id of a rule, or `base`. */
  readonly rule: string;
  /** Which pages are shown: those that the rule decides, or all of the kind. */
  readonly pages: "own" | "all";
  readonly sort: Sort;
  readonly filter: Filter;
  readonly search: string;
  readonly item: number | null;
}

const DEFAULTS = {
  kind: "product",
  text: "title",
  rule: "base",
  pages: "own",
  sort: "widest",
  filter: "all",
  search: "",
  item: null,
} as const;

function oneOf<T extends string>(list: readonly T[], value: string | null, otherwise: T): T {
  return list.includes(value as T) ? (value as T) : otherwise;
}

/**
 * The view that a query string says; what it does not say, or says wrongly, is as at first.
 *
 * @param first the kind where none is said.
 */
export function readBenchView(params: URLSearchParams, first: Kind = DEFAULTS.kind): BenchView {
  const asked = params.get("kind");
  const kind = isKind(asked) ? asked : first;
  const item = params.get("item") ?? "";
  return {
    kind,
    text: oneOf(textsOf(kind), params.get("text"), DEFAULTS.text),
    rule: params.get("rule") || DEFAULTS.rule,
    pages: oneOf(["own", "all"], params.get("pages"), DEFAULTS.pages),
    sort: oneOf(SORTS, params.get("sort"), DEFAULTS.sort),
    filter: oneOf(FILTERS, params.get("filter"), DEFAULTS.filter),
    search: params.get("search") ?? "",
    item: /^\d{1,15}$/.test(item) ? Number(item) : null,
  };
}

/** The query string of a view; kind and text always stand in it, what is as at first is left out. */
export function writeBenchView(view: BenchView): string {
  const query = new URLSearchParams();
  for (const key of ["kind", "text", "rule", "pages", "sort", "filter", "search", "item"] as const) {
    const value = view[key];
    if (value !== null && value !== "" && (key === "kind" || key === "text" || value !== DEFAULTS[key]))
      query.set(key, String(value));
  }
  return query.toString();
}

/** The view in the address bar, and how to change it in place. */
export function useBenchView(): [BenchView, (change: Partial<BenchView>) => void] {
  const params = useSearchParams();
  const { state } = useSite();
  const kinds = shownKinds(state);
  const first = kinds.includes(DEFAULTS.kind) ? DEFAULTS.kind : kinds[0]!;
  const view = useMemo(() => readBenchView(params, first), [params, first]);
  const change = useCallback(
    (part: Partial<BenchView>) =>
      window.history.replaceState(null, "", sitePath(`/bench?${writeBenchView({ ...view, ...part })}`)),
    [view],
  );
  return [view, change];
}
