import { findingBit, FINDINGS, SUBJECTS } from "../../core/checks/findings";
import { TEXTS } from "../../core/design/kinds";
import { readRobots } from "../../core/design/robots";
import { type ItemMark, type ItemQuery } from "../../core/items/query";
import { differs, HAND } from "../../core/proof/text-proof";
import { TooCostly } from "../../core/rules/match";
import { type KindRules } from "../workspace/kind-rules";
import { type WorkWatch } from "../workspace/watch";
import { type FindingCount, type ItemPage } from "./listed-item";
import { type KindView, type SiteViews } from "./site-views";

/** The pages that a query leaves, in the site's order. */
export interface FilteredPages {
  /** Numbers of pages. */
  readonly rows: Int32Array;
  readonly counts: readonly FindingCount[];
  readonly differences: ItemPage["differences"];
}

/** Whether a row of a kind is left by one part of a query. */
type RowTest = (row: number) => boolean;

/** What a query is answered from. */
export interface FilterSource {
  readonly views: SiteViews;
  readonly rulesOf: (view: KindView) => KindRules;
  readonly watch: WorkWatch;
  /** 1 for each page that holds the words that are searched for, by its number; `null` where none are. */
  readonly holding: Uint8Array | null;
  /** Ids of pages on which the last check of the live site found something. */
  readonly foundLive: () => ReadonlySet<number>;
}

/**
 * The parts of a query that a row is tested by one for one, besides findings: each gives a kind's test, `null` where it
 * leaves every row, `false` where it leaves none.
 */
const FILTERS = {
  kind: (query, view) => (query.kind === "all" || query.kind === view.kind ? null : false),
  search: (_, view, { holding }) => holding && ((row) => holding[view.start + row] === 1),
  where: ({ where }, view, { rulesOf, watch }) => {
    if (!where) return null;
    const rules = rulesOf(view);
    const rows = rules.rows(where, watch);
    const refused = rules.refusal(where);
    if (refused !== null) throw new TooCostly(refused);
    return (row) => rows[row] === 1;
  },
  mark: ({ mark }, view, source) => (mark === null ? null : MARKS[mark](view, source)),
} satisfies Record<string, (query: ItemQuery, view: KindView, source: FilterSource) => RowTest | null | false>;

/** What a page can be marked by: a text by hand, one that the site does not have yet, any text that the drafts change. */
const MARKS = {
  "by-hand":
    ({ draft }) =>
    (row) =>
      TEXTS.some((text) => draft[text].from[row] === HAND),
  waiting: (view) => {
    const isRobots = robotsTest(view, true);
    return (row) =>
      TEXTS.some((text) => view.draft[text].from[row] === HAND && differs(view.draft[text], view.live[text], row)) ||
      isRobots(row);
  },
  changes: (view) => {
    const isRobots = robotsTest(view, false);
    return (row) =>
      TEXTS.some((text) => view.draft[text].lengths[row] !== 0 && differs(view.draft[text], view.live[text], row)) ||
      isRobots(row);
  },
  "found-live": ({ data: { ids } }, { foundLive }) => {
    const found = foundLive();
    return (row) => found.has(ids[row]!);
  },
} satisfies Record<ItemMark, (view: KindView, source: FilterSource) => RowTest>;

/** Whether a row's robots setting is another one than on the site; with `byHand` only one that a person set. */
function robotsTest({ data, robots }: KindView, byHand: boolean): RowTest {
  const { codes, table } = data.items.column("robots");
  const live = table.values.map(readRobots);
  return (row) => {
    const own = robots(row);
    return (!byHand || own.from === "hand") && own.value !== live[codes[row]!];
  };
}

/** The pages that a query leaves; findings are counted among those that all but the wanted findings leave. */
export function filterPages(source: FilterSource, query: ItemQuery): FilteredPages {
  const { views } = source;
  const wanted = SUBJECTS.map((subject) =>
    query.findings
      .filter((own) => own.subject === subject)
      .reduce((bits, own) => bits | findingBit(subject, own.id), 0),
  );
  const tallies = { live: new Tally(), draft: new Tally() };
  const differences = { mended: 0, new: 0, stays: 0 };
  const rows = new Int32Array(views.total);
  let count = 0;
  for (const view of views.kinds) {
    const tests = Object.values(FILTERS).map((filter) => filter(query, view, source));
    if (tests.includes(false)) continue;
    const used = tests.filter((test): test is RowTest => typeof test === "function");
    const [live, draft] = [bitsOf(view, "live"), bitsOf(view, "draft")];
    const size = view.data.ids.length;
    for (let row = 0; row < size; row++) {
      if (!used.every((test) => test(row))) continue;
      tallies.live.count(live, row);
      tallies.draft.count(draft, row);
      const [before, after] = [hasAll(live, wanted, row), hasAll(draft, wanted, row)];
      if (!before && !after) continue;
      const difference = before && after ? "stays" : before ? "mended" : "new";
      differences[difference]++;
      const isLeft =
        query.difference === null ? (query.side === "live" ? before : after) : query.difference === difference;
      if (isLeft) rows[count++] = view.start + row;
    }
  }
  return {
    rows: rows.subarray(0, count),
    differences: query.findings.length === 0 ? null : differences,
    counts: countsOf(tallies.live, tallies.draft, query),
  };
}

function bitsOf(view: KindView, side: "live" | "draft"): readonly Int32Array[] {
  return SUBJECTS.map((subject) => view.found[side][subject]);
}

/** Whether a row has all wanted findings. */
function hasAll(bits: readonly Int32Array[], wanted: readonly number[], row: number): boolean {
  for (let s = 0; s < bits.length; s++) if ((bits[s]![row]! & wanted[s]!) !== wanted[s]) return false;
  return true;
}

/** Counts findings by subject and place. */
class Tally {
  readonly counts = SUBJECTS.map((subject) => new Int32Array(FINDINGS[subject].length));

  count(bits: readonly Int32Array[], row: number): void {
    for (let s = 0; s < bits.length; s++)
      for (let rest = bits[s]![row]!; rest !== 0; rest &= rest - 1) this.counts[s]![31 - Math.clz32(rest & -rest)]!++;
  }
}

function countsOf(live: Tally, draft: Tally, { findings }: ItemQuery): FindingCount[] {
  const all = SUBJECTS.flatMap((subject, s) =>
    FINDINGS[subject].map(({ id }, i) => ({ subject, id, live: live.counts[s]![i]!, draft: draft.counts[s]![i]! })),
  );
  const isWanted = (own: FindingCount) => findings.some(({ subject, id }) => id === own.id && subject === own.subject);
  return all.filter((own) => own.live > 0 || own.draft > 0 || isWanted(own));
}
