"use client";
import { isKind } from "../../core/design/kinds";
import { sitePath } from "../shell/site-path";
import { useSearchParams } from "next/navigation";
import { useCallback, useMemo } from "react";
import { FINDINGS, type FindingId, type Subject } from "../../core/checks/findings";
import { readCondition, type RawCondition } from "../../core/rules/condition";
import { DIFFERENCES, ITEM_GROUPS, ITEM_MARKS, ITEM_SORTS, type ItemQuery } from "../../core/items/query";

/** How texts are shown: as plain text with numbers, or set at true size against their limit. */
export type Look = "plain" | "size";

/** What the address bar holds of the Items: a link shows a colleague the same thing. */
export interface ItemsView extends ItemQuery {
  /** Columns in their order, by their ids. */
  readonly columns: readonly string[];
  readonly look: Look;
  /** The page that is opened at the side, as `product-12`. */
  readonly item: string;
}

/** Columns that are there from the first. */
export const FIRST_COLUMNS: readonly string[] = ["name", "keyword", "title", "findings"];

/** The view that a query string says; what it does not say, or says wrongly, is as at first. */
export function readItemsView(params: URLSearchParams): ItemsView {
  const kind = params.get("kind");
  const one = <T extends string>(key: string, of: readonly T[]): T | null =>
    of.find((value) => value === params.get(key)) ?? null;
  const sort = params.get("sort") ?? "site";
  const columns = params.get("columns")?.split(" ").filter(Boolean);
  return {
    kind: isKind(kind) ? kind : "all",
    side: params.get("side") === "draft" ? "draft" : "live",
    findings: (params.get("findings") ?? "").split(" ").flatMap((name) => {
      const [subject, id] = name.split(".") as [Subject, FindingId];
      return Object.hasOwn(FINDINGS, subject) && FINDINGS[subject].some((own) => own.id === id)
        ? [{ subject, id }]
        : [];
    }),
    difference: one("difference", DIFFERENCES),
    where: readWhere(params.get("where")),
    mark: one("mark", ITEM_MARKS),
    search: params.get("search") ?? "",
    sort: (ITEM_SORTS as readonly string[]).includes(sort) || sort.startsWith("field:") ? sort : "site",
    down: params.get("down") === "1",
    group: one("group", ITEM_GROUPS),
    columns: columns && columns.length > 0 ? columns : FIRST_COLUMNS,
    look: params.get("look") === "size" ? "size" : "plain",
    item: params.get("item") ?? "",
  };
}

function readWhere(written: string | null): RawCondition | null {
  if (!written) return null;
  try {
    const raw = JSON.parse(written) as RawCondition;
    readCondition(raw);
    return raw;
  } catch {
    return null;
  }
}

/** The query string of a view; what is as at first is left out. */
export function writeItemsView(view: ItemsView): string {
  const query = new URLSearchParams();
  const put = (key: string, value: string, first: string) => {
    if (value !== first) query.set(key, value);
  };
  put("kind", view.kind, "all");
  put("side", view.side, "live");
  put("findings", view.findings.map(({ subject, id }) => `${subject}.${id}`).join(" "), "");
  put("difference", view.difference ?? "", "");
  put("where", view.where ? JSON.stringify(view.where) : "", "");
  put("mark", view.mark ?? "", "");
  put("search", view.search, "");
  put("sort", view.sort, "site");
  put("down", view.down ? "1" : "", "");
  put("group", view.group ?? "", "");
  put("columns", view.columns.join(" "), FIRST_COLUMNS.join(" "));
  put("look", view.look, "plain");
  put("item", view.item, "");
  return query.toString();
}

/** What of a view says which pages are in the list, and in what order. */
export function queryOf({
  kind,
  side,
  findings,
  difference,
  where,
  mark,
  search,
  sort,
  down,
  group,
}: ItemsView): ItemQuery {
  return { kind, side, findings, difference, where, mark, search, sort, down, group };
}

/** The view in the address bar, and how to change it in place. */
export function useItemsView(): [ItemsView, (change: Partial<ItemsView>) => void] {
  const params = useSearchParams();
  const view = useMemo(() => readItemsView(new URLSearchParams(params)), [params]);
  const change = useCallback(
    (part: Partial<ItemsView>) =>
      window.history.replaceState(
        null,
        "",
        sitePath(
          `/items?${writeItemsView({ ...readItemsView(new URLSearchParams(window.location.search)), ...part })}`,
        ),
      ),
    [],
  );
  return [view, change];
}
