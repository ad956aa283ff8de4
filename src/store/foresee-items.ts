import { type Kind } from "../core/design/kinds";
import { type Brought, PagesSeen } from "./bring-items";
import { AbsentPlaces } from "./absent-places";
import { isChanged, type ItemChange, itemComparer, type Place, placeOf } from "./compare-items";
import { ITEM_COLUMNS, type ItemInput, type ItemRow } from "./items";
import { type Db } from "./open";
import { PagesAhead } from "./pages-ahead";

/** One field that a row would change of the page that it is about. */
export interface FieldChange {
  /** The column's name, an attribute's own, `body` (without its texts), or `by hand`. */
  readonly field: string;
  readonly before: string;
  readonly after: string;
}

/** What a row would do, before it does: to which page, and which of its fields. */
export interface ForeseenRow {
  readonly brought: Brought;
  /** The page's id in the database; `null` for one that is not there yet. */
  readonly item: number | null;
  /** What the page is called now, and its kind; `null` for one that is not there yet, or gone. */
  readonly name: string;
  readonly kind: Kind | null;
  readonly changes: readonly FieldChange[];
}

/** Says what {@link itemBringer} would do; nothing is written. */
export interface ItemForeseer {
  /** Looks rows up together that {@link look} is asked for within; others may write before and after, not meanwhile. */
  readonly together: (inputs: readonly ItemInput[], take: () => void) => void;
  readonly look: (input: ItemInput, isFree: boolean, line: number) => ForeseenRow | "taken";
  readonly placeOf: (input: ItemInput) => Place;
}

export function itemForeseer(db: Db): ItemForeseer {
  const ahead = new PagesAhead();
  const absent = new AbsentPlaces(db);
  const compare = itemComparer(db, { ahead, absent });
  const seen = new PagesSeen();
  const look: ItemForeseer["look"] = (input, isFree, line) => {
    const change = compare(input);
    const { old, isGone, row } = change;
    if (change.occupant && !isFree) return "taken";
    if (!old) {
      ahead.add(row);
      return { brought: "added", item: null, name: row.name, kind: null, changes: [] };
    }
    seen.see(old, line);
    const page = { item: old.id, kind: isGone ? null : old.kind, name: old.name || (old.key ?? old.path ?? "") };
    if (isGone) {
      ahead.bringBack({ ...old, ...row });
      return { ...page, brought: "returned", changes: fieldChanges({ ...change, old }) };
    }
    if (!isChanged({ ...change, old })) return { ...page, brought: "unchanged", changes: [] };
    // A later row finds a page again where this one told it by its address, or made it be told otherwise.
    if (input.key === null || row.key !== old.key || row.kind !== old.kind || row.path !== old.path)
      ahead.put({ ...old, ...row });
    return { ...page, brought: "updated", changes: fieldChanges({ ...change, old }) };
  };
  const together: ItemForeseer["together"] = (inputs, take) => {
    absent.lookFor(inputs);
    take();
    absent.forget();
  };
  return { together, look, placeOf: (input) => placeOf(compare(input)) };
}

function fieldChanges({ old, row, body, hands }: ItemChange & { old: ItemRow }): FieldChange[] {
  const changes: FieldChange[] = [];
  const compare = (field: string, before: string, after: string) => {
    if (before !== after) changes.push({ field, before, after });
  };
  compare("id", old.key ?? "", row.key ?? "");
  compare("kind", old.kind, row.kind);
  compare("address", old.path ?? "", row.path ?? "");
  for (const column of ITEM_COLUMNS) compare(FIELD_OF[column] ?? column, old[column], row[column]);
  if (row.attributes !== old.attributes) {
    const [before, after] = [old.attributes, row.attributes].map((own) => JSON.parse(own) as Record<string, string>);
    for (const [name, value] of Object.entries(after!)) compare(name, before![name] ?? "", value);
  }
  if (body !== null) changes.push({ field: "body", before: "", after: "" });
  for (const { text, value } of hands)
    changes.push({ field: `${EXTRA_WORDS[text] ?? text} by hand`, before: "", after: value ?? "" });
  return changes;
}

const EXTRA_WORDS: Partial<Record<string, string>> = {
  alt: "image description",
  keywords: "meta keywords",
  canonical: "canonical",
};
const FIELD_OF: Partial<Record<string, string>> = {
  category_path: "category.path",
  meta_keywords: "meta keywords",
  canonical: "canonical",
};
