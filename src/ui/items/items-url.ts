"use client";
import { type Kind, kindIds } from "../../core/design/kinds";
import { useSite } from "../shell/site-context";
import {
  anyText,
  flag,
  listOf,
  maybeOneOf,
  oneOf,
  textThat,
  type UrlCodec,
  typedText,
  urlCodec,
} from "../shell/url-codec";
import { useUrlView } from "../shell/url-view";
import { useMemo } from "react";
import { FINDINGS, type FindingId, type Subject } from "../../core/checks/findings";
import type { RawCondition } from "../../core/rules/condition-shape";
import { isCondition } from "../../core/rules/condition-shape";
import {
  DIFFERENCES,
  ITEM_GROUPS,
  ITEM_MARKS,
  ITEM_SORTS,
  type FindingRef,
  type ItemQuery,
} from "../../core/items/query";

/** How texts are shown: as plain text with numbers, or set at true size against their limit. */
export type Look = "plain" | "size";

/** What the address bar holds of the Items. */
export interface ItemsView extends ItemQuery {
  /** Columns in their order, by their ids. */
  readonly columns: readonly string[];
  readonly look: Look;
  /** The page that is opened at the side, as `product-12`. */
  readonly item: string;
}

/** Columns that are there from the first; at true size there is room for a whole title beside its page, and the rest steps back. */
const COLUMNS_OF_LOOK: Readonly<Record<Look, readonly string[]>> = {
  plain: ["name", "keyword", "title", "findings"],
  size: ["name", "title", "keyword"],
};
export const FIRST_COLUMNS = COLUMNS_OF_LOOK.plain;

/** What changes when texts are shown another way: columns that nobody chose go with it. */
export function otherLook(
  { look: before, columns }: Pick<ItemsView, "look" | "columns">,
  look: Look,
): Partial<ItemsView> {
  const areFirst = columns.join(" ") === COLUMNS_OF_LOOK[before].join(" ");
  return { look, columns: areFirst ? COLUMNS_OF_LOOK[look] : columns };
}

/**
 * How the list of pages stands in the address bar.
 *
 * @param kinds the site's.
 */
export function itemsCodec(kinds: readonly Kind[]): UrlCodec<ItemsView> {
  return urlCodec<ItemsView>({
    kind: oneOf<Kind | "all">(["all", ...kinds], "all"),
    side: oneOf(["live", "draft"], "live"),
    findings: listOf(readFinding, ({ subject, id }) => `${subject}.${id}`),
    difference: maybeOneOf(DIFFERENCES),
    where: {
      first: null,
      read: (text) => readWhere(text) ?? undefined,
      write: (where) => (where ? JSON.stringify(where) : ""),
    },
    mark: maybeOneOf(ITEM_MARKS),
    search: typedText(),
    sort: textThat((sort) => (ITEM_SORTS as readonly string[]).includes(sort) || sort.startsWith("field:"), "site"),
    down: flag,
    group: maybeOneOf(ITEM_GROUPS),
    columns: listOf(
      (word) => word || undefined,
      (word) => word,
      FIRST_COLUMNS,
    ),
    look: oneOf(["plain", "size"], "plain"),
    item: anyText(),
  });
}

function readFinding(word: string): FindingRef | undefined {
  const [subject, id] = word.split(".") as [Subject, FindingId];
  if (!Object.hasOwn(FINDINGS, subject)) return undefined;
  return FINDINGS[subject].some((own) => own.id === id) ? { subject, id } : undefined;
}

function readWhere(written: string): RawCondition | null {
  try {
    const raw: unknown = JSON.parse(written);
    return isCondition(raw) ? raw : null;
  } catch {
    return null;
  }
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
  const { site } = useSite().state;
  const codec = useMemo(() => itemsCodec(kindIds(site)), [site]);
  return useUrlView("/pages", codec);
}
