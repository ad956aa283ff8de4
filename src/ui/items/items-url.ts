"use client";
import { useSearchParams } from "next/navigation";
import { useCallback, useMemo } from "react";
import { type FindingId, FINDINGS, type Subject } from "../../core/checks/findings";
import { type Kind } from "../../core/design/kinds";
import type { ItemSort } from "../../server/items-list";
import type { Side } from "../../server/site-findings";
import { isBoardKind } from "../shell/site-context";

/** What the address bar holds of the Items: a link shows a colleague the same thing. */
export interface ItemsView {
  readonly kind: Kind | "all";
  readonly side: Side;
  readonly finding: { readonly subject: Subject; readonly id: FindingId } | null;
  readonly search: string;
  readonly sort: ItemSort;
  /** The page that is opened at the side, as `product-12`. */
  readonly item: string;
}

export const SORT_LABELS: readonly [ItemSort, string][] = [["site", "As on the site"], ["name", "By name"], ["widest", "Widest title"], ["shortest", "Shortest title"], ["findings", "Most findings"]];

/** The view in the address bar, and how to change it in place. */
export function useItemsView(): [ItemsView, (change: Partial<ItemsView>) => void] {
  const params = useSearchParams();
  const view = useMemo((): ItemsView => {
    const kind = params.get("kind");
    const [subject, id] = (params.get("finding") ?? "").split(".") as [Subject, FindingId];
    const known = Object.hasOwn(FINDINGS, subject) && FINDINGS[subject].some((one) => one.id === id);
    return {
      kind: isBoardKind(kind) ? kind : "all",
      side: params.get("side") === "draft" ? "draft" : "live",
      finding: known ? { subject, id } : null,
      search: params.get("search") ?? "",
      sort: SORT_LABELS.find(([sort]) => sort === params.get("sort"))?.[0] ?? "site",
      item: params.get("item") ?? "",
    };
  }, [params]);
  const change = useCallback(
    (part: Partial<ItemsView>) => {
      const { finding, ...next } = { ...view, ...part };
      const query = new URLSearchParams();
      for (const [key, value] of Object.entries(next)) if (value !== "" && value !== "all" && value !== "live" && value !== "site") query.set(key, value);
      if (finding) query.set("finding", `${finding.subject}.${finding.id}`);
      window.history.replaceState(null, "", `/items?${query}`);
    },
    [view],
  );
  return [view, change];
}
