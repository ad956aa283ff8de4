import { type TextName } from "../../core/design/kinds";
import { type ItemsView } from "./items-url";

/** An order that a column's heading puts the list in. */
export interface ColumnSort {
  readonly sort: string;
  readonly down: boolean;
  /** As it stands beside the heading. */
  readonly label: string;
}

/** Widths are looked at from the most; then a text's words. */
export function textSorts(text: TextName): readonly ColumnSort[] {
  return [
    { sort: text, down: true, label: "widest first" },
    { sort: text, down: false, label: "narrowest first" },
    { sort: `${text}-words`, down: false, label: "A to Z" },
    { sort: `${text}-words`, down: true, label: "Z to A" },
  ];
}

export const FINDING_SORTS: readonly ColumnSort[] = [
  { sort: "findings", down: true, label: "most first" },
  { sort: "findings", down: false, label: "fewest first" },
];

/** A field's values may be numbers, days or words. */
export function fieldSorts(field: string): readonly ColumnSort[] {
  return [
    { sort: `field:${field}`, down: false, label: "ascending" },
    { sort: `field:${field}`, down: true, label: "descending" },
  ];
}

type Order = Pick<ItemsView, "sort" | "down">;

/** Which of a column's orders the list is in, -1 for none. */
export function sortedBy(sorts: readonly ColumnSort[], { sort, down }: Order): number {
  return sorts.findIndex((own) => own.sort === sort && own.down === down);
}

/** The order that a press of a heading leads to: its next one, after the last the site's own. */
export function nextSort(sorts: readonly ColumnSort[], order: Order): Order {
  const next = sorts[sortedBy(sorts, order) + 1];
  return next ? { sort: next.sort, down: next.down } : { sort: "site", down: false };
}
