import { type FoundText } from "../../core/checks/check-text";
import { type FindingId, findingIds, type Side, type Subject, SUBJECTS } from "../../core/checks/findings";
import { type Kind, type TextName } from "../../core/design/kinds";
import { type Robots, readRobots } from "../../core/design/robots";
import { type FindingDifference, type FindingRef, type ItemSection } from "../../core/items/query";
import { type From, FROM } from "../../core/proof/text-proof";
import { ofEachText } from "../findings/text-checks";
import { type KindView } from "./site-views";

/** One text of a page on both sides. */
export interface ListedText {
  readonly live: string;
  readonly draft: string;
  /** Px; characters for slugs. */
  readonly liveSize: number;
  readonly draftSize: number;
  readonly liveFits: boolean;
  readonly draftFits: boolean;
  /** What makes the draft's text. */
  readonly from: From;
}

/** A page's robots setting on both sides. */
export interface ListedRobots {
  readonly live: Robots;
  readonly draft: Robots;
  readonly from: From;
  readonly rule: string | null;
}

/** A page as the list shows it. */
export interface ListedItem {
  readonly id: number;
  readonly kind: Kind;
  readonly name: string;
  readonly path: string;
  readonly keyword: string;
  readonly texts: Readonly<Record<TextName, ListedText>>;
  readonly robots: ListedRobots;
  /** The fields that were asked for, as far as the page has them. */
  readonly fields: Readonly<Record<string, string>>;
  /** What was found, on both sides, what it is about and what it is. */
  readonly findings: Readonly<Record<Side, readonly FindingRef[]>>;
}

/** A page whole: as the list shows it, with where its findings stand. */
export interface ItemSheet extends ListedItem {
  readonly found: Readonly<
    Record<
      Side,
      { readonly texts: Readonly<Record<TextName, readonly FoundText[]>>; readonly page: readonly FindingId[] }
    >
  >;
}

/** How many pages have a finding, live and under the drafts. */
export interface FindingCount {
  readonly subject: Subject;
  readonly id: FindingId;
  readonly live: number;
  readonly draft: number;
}

/** A stretch of the pages that a query asks for. */
export interface ItemPage {
  /** Counts of findings among the pages that all but the wanted findings leave. */
  readonly counts: readonly FindingCount[];
  readonly total: number;
  /** Of the pages with the wanted findings, on either side: how many the drafts mend, which are new, which stay; `null` where no finding is asked for. */
  readonly differences: Readonly<Record<FindingDifference, number>> | null;
  /** Where the pages are put together: what each part shares, in the order of the list. */
  readonly sections: readonly ItemSection[] | null;
  /** Another one where the order is: places chosen in one mean other pages in another. */
  readonly order: string;
  readonly items: readonly ListedItem[];
}

/** A row of a kind as the list shows it, with the values of fields that are asked for. */
export function listedItem(view: KindView, row: number, columns: readonly string[]): ListedItem {
  const { data, kind, found } = view;
  const all = (side: Side) =>
    SUBJECTS.flatMap((subject) => findingIds(subject, found[side][subject][row]!).map((id) => ({ subject, id })));
  const fields = columns.length === 0 ? {} : data.fieldsOf(row, false);
  const robots = view.robots(row);
  return {
    id: data.ids[row]!,
    kind,
    name: data.items.value("name", row),
    path: data.paths[row]!,
    keyword: data.items.value("keyword", row),
    texts: ofEachText((text) => listedText(view, text, row)),
    robots: {
      live: readRobots(data.items.value("robots", row)),
      draft: robots.value,
      from: robots.from,
      rule: robots.rule,
    },
    fields: Object.fromEntries(
      columns.flatMap((column) => (Object.hasOwn(fields, column) ? [[column, fields[column]!]] : [])),
    ),
    findings: { live: all("live"), draft: all("draft") },
  };
}

function listedText(view: KindView, text: TextName, row: number): ListedText {
  const [live, draft] = [view.live[text], view.draft[text]];
  return {
    live: live.textOf(row),
    draft: draft.textOf(row),
    liveSize: live.sizes[row]!,
    draftSize: draft.sizes[row]!,
    liveFits: live.fits[row] === 1,
    draftFits: text === "slug" || draft.fits[row] === 1,
    from: FROM[draft.from[row]!]!,
  };
}
