import type { KindDesign } from "../../core/design/design";
import { kindIds } from "../../core/design/kinds";
import type { ScopeName } from "../../server/bench/bench-desk";
import type { SiteState } from "../../server/site/site-state";
import { asked, askedWindow } from "../shell/asked";
import { draftOf } from "../shell/site-kinds";
import { pagesStamp } from "../shell/site-stamps";
import { benchCodec, type BenchView, firstKind } from "./bench-codec";

/** Rows are fetched so many at a time. */
export const BENCH_WINDOW = 24;

/** Whose lines are edited: those of the rule in view, as long as there is one; else the base's. */
export function ownerIn(view: BenchView, design: KindDesign): string {
  return design.rules.some((rule) => rule.id === view.rule) ? view.rule : "base";
}

/** Which pages are looked at: those that the lines in hand decide, or all. Without rules there are no others. */
export function scopeIn(view: BenchView, design: KindDesign): ScopeName {
  return design.rules.length > 0 && view.pages === "own" ? ownerIn(view, design) : "all";
}

/** What is asked for a view's figures. */
export function figuresAsked({ kind, text }: BenchView, scope: ScopeName, design: KindDesign) {
  return { kind, design, scope, text };
}

/** What list of rows a view has. */
export function rowsAsked({ kind, text, sort, filter, search }: BenchView, scope: ScopeName, design: KindDesign) {
  return { kind, design, text, scope, sort, filter, search };
}

/** What the Bench asks for first, as its address says. */
export function benchAsked(state: SiteState, query: URLSearchParams) {
  const view = benchCodec(kindIds(state.site), firstKind(state)).read(query);
  const { design } = draftOf(state, view.kind);
  const scope = scopeIn(view, design);
  const stamp = pagesStamp(state);
  return [
    asked("bench.prove", figuresAsked(view, scope, design), stamp),
    askedWindow("bench.rows", rowsAsked(view, scope, design), stamp, { size: BENCH_WINDOW }),
  ];
}
