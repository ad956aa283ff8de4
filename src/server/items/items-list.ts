import { type FoundText } from "../../core/checks/check-text";
import { findingBit, type FindingId, findingIds, FINDINGS, type Side, type Subject } from "../../core/checks/findings";
import { type Kind, kindWord, type TextName, TEXTS } from "../../core/design/kinds";
import { type Robots, readRobots } from "../../core/design/robots";
import { differs, type From, FROM, HAND, type TextProof } from "../../core/proof/text-proof";
import { type ItemSet } from "../../core/proof/items";
import { type Decision } from "../../core/rules/decide";
import { type Db } from "../../store/open";
import { searchItems, searchQuery, syncSearch } from "../../store/search";
import { type EngineWatch, type ProofEngine, type RobotsOf } from "../workspace/proof-engine";
import { type Designs } from "../review/review";
import {
  type FindingDifference,
  type FindingRef,
  type ItemQuery,
  type ItemSection,
  type Ranges,
} from "../../core/items/query";
import { type KindFindings, type SiteFindings } from "../findings/site-findings";
import { byKeys, valueRanks } from "./sort-ranks";

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

/** One kind's pages among all of the site's: row `r` is number `start + r`. */
export interface KindView {
  readonly kind: Kind;
  readonly start: number;
  readonly live: Record<TextName, TextProof>;
  readonly draft: Record<TextName, TextProof>;
  readonly decision: Decision;
  readonly robots: RobotsOf;
  readonly found: Readonly<Record<Side, KindFindings>>;
}

interface Checked {
  readonly key: string;
  readonly live: ReadonlyMap<Kind, KindFindings>;
  readonly draft: ReadonlyMap<Kind, KindFindings>;
}

/** The pages that a query leaves, in the site's order. */
interface Filtered {
  readonly rows: Int32Array;
  readonly counts: readonly FindingCount[];
  readonly differences: ItemPage["differences"];
}

interface Ordered {
  readonly key: string;
  /** Numbers of pages; one that is in several sections stands in each. */
  readonly rows: Int32Array;
  readonly sections: readonly ItemSection[] | null;
  readonly counts: readonly FindingCount[];
  readonly differences: ItemPage["differences"];
  readonly name: string;
}

const SUBJECTS = Object.keys(FINDINGS) as Subject[];

/** All pages of a site in one list: filtered, searched, put in order and together. */
export class ItemsList {
  private checked: Checked | null = null;
  private orders = new Map<string, Ordered>();
  private filters: (Filtered & { readonly key: string }) | null = null;
  private found: { key: string; ids: readonly number[] } | null = null;

  constructor(
    private readonly db: Db,
    private readonly engine: ProofEngine,
    private readonly findings: SiteFindings,
  ) {}

  /** The counts of all findings, and a stretch of the pages asked for. */
  list(
    designs: Designs,
    query: ItemQuery,
    stretch: { from: number; count: number; columns: readonly string[] },
    watch: EngineWatch = {},
  ): ItemPage {
    const views = this.views(designs, watch);
    const { rows, sections, counts, differences, name } = this.ordered(views, query);
    const items: ListedItem[] = [];
    for (let i = stretch.from; i < Math.min(rows.length, stretch.from + stretch.count); i++) {
      const view = viewOf(views, rows[i]!);
      items.push(this.listed(view, rows[i]! - view.start, stretch.columns));
    }
    return { counts, total: rows.length, differences, sections, order: name, items };
  }

  /** The pages at the chosen places of a query's order, in that order, each once. */
  chosen(
    designs: Designs,
    query: ItemQuery,
    ranges: Ranges,
    watch: EngineWatch = {},
  ): { view: KindView; row: number }[] {
    const views = this.views(designs, watch);
    const { rows } = this.ordered(views, query);
    const seen = new Set<number>();
    return ranges.flatMap(([from, to]) =>
      [...rows.subarray(Math.max(0, from), to)].flatMap((number) => {
        if (seen.has(number)) return [];
        seen.add(number);
        const view = viewOf(views, number);
        return [{ view, row: number - view.start }];
      }),
    );
  }

  /** One page by its id, `null` where there is none. */
  byId(designs: Designs, kind: Kind, id: number): { view: KindView; row: number } | null {
    const row = this.engine.data(kind).rowOf(id);
    return row < 0 ? null : { view: this.views(designs, {}).find((own) => own.kind === kind)!, row };
  }

  /** One page whole, `null` where there is none with that id. */
  sheet(designs: Designs, kind: Kind, id: number): ItemSheet | null {
    const own = this.byId(designs, kind, id);
    if (!own) return null;
    const { view, row } = own;
    return {
      ...this.listed(view, row, []),
      fields: this.engine.data(kind).fieldsOf(row, false),
      found: {
        live: this.findings.explain(designs, kind, row, "live"),
        draft: this.findings.explain(designs, kind, row, "draft"),
      },
    };
  }

  /** What was found, checked again only where drafts or items changed. */
  private check(designs: Designs, watch: EngineWatch): Checked {
    const key = JSON.stringify([
      designs,
      this.engine.site(),
      this.engine.boardKinds().map((kind) => this.engine.data(kind, watch).revision),
    ]);
    if (this.checked?.key !== key) {
      this.checked = null;
      this.orders.clear();
      this.filters = null;
      const live = this.findings.find(designs, "live", watch);
      const draft = this.findings.find(designs, "draft", watch);
      this.checked = { key, live, draft };
    }
    return this.checked;
  }

  /** Every kind that has pages, proved and checked on both sides. */
  views(designs: Designs, watch: EngineWatch): KindView[] {
    const { live, draft } = this.check(designs, watch);
    let start = 0;
    return this.engine.boardKinds().map((kind): KindView => {
      const proofs = (of: (text: TextName) => TextProof) =>
        Object.fromEntries(TEXTS.map((text) => [text, of(text)])) as Record<TextName, TextProof>;
      const design = designs[kind]!;
      const view: KindView = {
        kind,
        start,
        live: proofs((text) => this.engine.liveProof(kind, text).proof),
        draft: proofs((text) => this.engine.textProof(kind, text, design).proof),
        decision: this.engine.textProof(kind, "title", design).decision,
        robots: this.engine.robots(kind, design),
        found: { live: live.get(kind)!, draft: draft.get(kind)! },
      };
      start += view.live.title.size;
      return view;
    });
  }

  private ordered(views: readonly KindView[], query: ItemQuery): Ordered {
    const key = JSON.stringify(query);
    const known = this.orders.get(key);
    if (known) return known;
    const { rows: all, counts, differences } = this.remembered(views, query);
    const sorted = this.sorted(all, views, query);
    const { rows, sections } =
      query.group === null ? { rows: sorted, sections: null } : this.together(sorted, views, query);
    if (this.orders.size >= MOST_ORDERS) this.orders.delete(this.orders.keys().next().value!);
    const made = { key, rows, sections, counts, differences, name: hashOf(rows) };
    this.orders.set(key, made);
    return made;
  }

  /** The same pages in another order are not looked for again. */
  private remembered(views: readonly KindView[], query: ItemQuery): Filtered {
    const key = JSON.stringify({ ...query, sort: "", down: false, group: null });
    if (this.filters?.key !== key) this.filters = { key, ...this.filtered(views, query) };
    return this.filters;
  }

  private filtered(views: readonly KindView[], query: ItemQuery): Filtered {
    const differences = { mended: 0, new: 0, stays: 0 };
    const found = this.searched(views, query.search);
    const wanted = SUBJECTS.map((subject) =>
      query.findings
        .filter((one) => one.subject === subject)
        .reduce((bits, one) => bits | findingBit(subject, one.id), 0),
    );
    const tallies = {
      live: SUBJECTS.map((subject) => new Int32Array(FINDINGS[subject].length)),
      draft: SUBJECTS.map((subject) => new Int32Array(FINDINGS[subject].length)),
    };
    const rows = new Int32Array(views.reduce((sum, view) => sum + view.live.title.size, 0));
    let count = 0;
    for (const view of views) {
      if (query.kind !== "all" && query.kind !== view.kind) continue;
      const where = query.where ? this.engine.rules(view.kind).rows(query.where) : null;
      const isMarked = query.mark === null ? null : marker(view, query.mark, this.engine.data(view.kind).items);
      const size = view.live.title.size;
      const sides = (["live", "draft"] as const).map((side) => ({
        bits: SUBJECTS.map((subject) => view.found[side][subject]),
        tallies: tallies[side],
      }));
      for (let row = 0; row < size; row++) {
        if (found !== null && found[view.start + row] === 0) continue;
        if (where !== null && where[row] === 0) continue;
        if (isMarked !== null && !isMarked(row)) continue;
        for (const side of sides) {
          for (let s = 0; s < SUBJECTS.length; s++) {
            const tally = side.tallies[s]!;
            for (let rest = side.bits[s]![row]!; rest !== 0; rest &= rest - 1) tally[31 - Math.clz32(rest & -rest)]!++;
          }
        }
        const live = hasAll(sides[0]!.bits, wanted, row);
        const draft = hasAll(sides[1]!.bits, wanted, row);
        if (!live && !draft) continue;
        const difference = live && draft ? "stays" : live ? "mended" : "new";
        differences[difference]++;
        if (query.difference === null ? (query.side === "live" ? live : draft) : query.difference === difference)
          rows[count++] = view.start + row;
      }
    }
    const counts = SUBJECTS.flatMap((subject, s) =>
      FINDINGS[subject].map(({ id }, i): FindingCount => ({
        subject,
        id,
        live: tallies.live[s]![i]!,
        draft: tallies.draft[s]![i]!,
      })),
    );
    return {
      rows: rows.subarray(0, count),
      differences: query.findings.length === 0 ? null : differences,
      counts: counts.filter(
        (one) =>
          one.live > 0 ||
          one.draft > 0 ||
          query.findings.some((own) => own.id === one.id && own.subject === one.subject),
      ),
    };
  }

  /** 1 for each page that holds what was typed; `null` where nothing was. */
  private searched(views: readonly KindView[], typed: string): Uint8Array | null {
    const query = searchQuery(typed);
    if (query === null) return null;
    const revision = views.length === 0 ? 0 : this.engine.data(views[0]!.kind).revision;
    const key = `${revision} ${query}`;
    if (this.found?.key !== key) {
      syncSearch(this.db, revision);
      this.found = { key, ids: searchItems(this.db, query) };
    }
    const found = new Uint8Array(views.reduce((sum, view) => sum + view.live.title.size, 0));
    for (const view of views) {
      const { ids } = this.engine.data(view.kind);
      // Both lists of ids rise: one walk over them is enough.
      for (let row = 0, at = 0; row < ids.length && at < this.found.ids.length;) {
        const difference = ids[row]! - this.found.ids[at]!;
        if (difference === 0) found[view.start + row] = 1;
        if (difference <= 0) row++;
        if (difference >= 0) at++;
      }
    }
    return found;
  }

  private sorted(rows: Int32Array, views: readonly KindView[], { sort, side, down }: ItemQuery): Int32Array {
    if (sort === "site") return down ? rows.slice().reverse() : rows;
    const keys = new Float64Array(views.reduce((sum, view) => sum + view.live.title.size, 0));
    if (sort.startsWith("field:")) {
      const field = sort.slice(6);
      const columns = views.map(({ kind }) => this.engine.data(kind).items.column(field));
      valueRanks(field, columns).forEach((ranks, v) => {
        const { codes } = columns[v]!;
        const { start } = views[v]!;
        // Pages without a value come last, whichever way the others go.
        const last = down ? -1 : ranks[0]!;
        for (let row = 0; row < codes.length; row++) keys[start + row] = codes[row] === 0 ? last : ranks[codes[row]!]!;
      });
      return byKeys(rows, keys, down);
    }
    for (const view of views) {
      const sizes = sort === "findings" ? null : view[side][sort as TextName].sizes;
      for (let row = 0; row < view.live.title.size; row++)
        keys[view.start + row] = sizes
          ? Math.round(sizes[row]! * 100)
          : SUBJECTS.reduce((sum, subject) => sum + bitCount(view.found[side][subject][row]!), 0);
    }
    return byKeys(rows, keys, down);
  }

  /** Puts pages together by what they share; one with several findings stands with each. */
  private together(
    sorted: Int32Array,
    views: readonly KindView[],
    { group, side }: ItemQuery,
  ): { rows: Int32Array; sections: ItemSection[] } {
    const labels: string[] = [];
    const numbers = new Map<string, number>();
    const section = (label: string) => {
      let number = numbers.get(label);
      if (number === undefined) {
        numbers.set(label, (number = labels.length));
        labels.push(label);
      }
      return number;
    };
    // For each page the numbers of its sections: counted first, then laid out, so that nothing is moved twice.
    const byView = views.map((view) => this.sectionsOf(view, group!, side, section));
    const viewAt = new Uint8Array(views.reduce((sum, view) => sum + view.live.title.size, 0));
    views.forEach((view, v) => viewAt.fill(v, view.start, view.start + view.live.title.size));
    const counts = new Int32Array(labels.length);
    const each = (put: (number: number, section: number) => void) => {
      for (let i = 0; i < sorted.length; i++) {
        const number = sorted[i]!;
        const v = viewAt[number]!;
        byView[v]!(number - views[v]!.start, (own) => put(number, own));
      }
    };
    each((_, own) => counts[own]!++);
    const order = labels.map((_, i) => i).filter((i) => counts[i]! > 0);
    if (group === "category") order.sort((a, b) => byLabel(labels[a]!, labels[b]!));
    else if (group !== "kind") order.sort((a, b) => counts[b]! - counts[a]!);
    const starts = new Int32Array(labels.length);
    let total = 0;
    for (const i of order) {
      starts[i] = total;
      total += counts[i]!;
    }
    const rows = new Int32Array(total);
    each((number, own) => {
      rows[starts[own]!++] = number;
    });
    return { rows, sections: order.map((i) => ({ label: labels[i]!, count: counts[i]! })) };
  }

  /** Tells the sections of a kind's rows; a section's number is that of its label. */
  private sectionsOf(
    view: KindView,
    group: NonNullable<ItemQuery["group"]>,
    side: Side,
    section: (label: string) => number,
  ): (row: number, put: (section: number) => void) => void {
    const { items } = this.engine.data(view.kind);
    if (group === "kind") {
      const own = section(capital(kindWord(view.kind, 2)));
      return (_, put) => put(own);
    }
    if (group === "category") {
      const path = items.column("category.path");
      const { codes, table } = path.table.values.length > 1 ? path : items.column("category");
      const numbers = table.values.map((value) => section(value === "" ? "Without a category" : value));
      return (row, put) => put(numbers[codes[row]!]!);
    }
    if (group === "rule") {
      const byHand = section("Title by hand");
      const none = section("No line sets the title");
      const numbers = view.decision.lines.map((line) => section(line.rule?.name ?? "Everything else"));
      const { from, line } = view.draft.title;
      return (row, put) => put(from[row] === HAND ? byHand : (numbers[line[row]!] ?? none));
    }
    const inOrder = section("In order");
    const numbers = SUBJECTS.map((subject) =>
      FINDINGS[subject].map(({ label }) => section(`${capital(subject)}: ${label}`)),
    );
    const bits = SUBJECTS.map((subject) => view.found[side][subject]);
    return (row, put) => {
      let any = false;
      for (let s = 0; s < bits.length; s++) {
        for (let rest = bits[s]![row]!; rest !== 0; rest &= rest - 1) {
          put(numbers[s]![31 - Math.clz32(rest & -rest)]!);
          any = true;
        }
      }
      if (!any) put(inOrder);
    };
  }

  private listed(view: KindView, row: number, columns: readonly string[]): ListedItem {
    const data = this.engine.data(view.kind);
    const all = (side: Side) =>
      SUBJECTS.flatMap((subject) =>
        findingIds(subject, view.found[side][subject][row]!).map((id) => ({ subject, id })),
      );
    const fields = columns.length === 0 ? {} : data.fieldsOf(row, false);
    const robots = view.robots(row);
    return {
      id: data.ids[row]!,
      kind: view.kind,
      name: data.items.value("name", row),
      path: data.paths[row]!,
      keyword: data.items.value("keyword", row),
      texts: Object.fromEntries(TEXTS.map((text) => [text, listedText(view, text, row)])) as Record<
        TextName,
        ListedText
      >,
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
}

/** So many orders are remembered: of the list, and of what is done to its pages. */
const MOST_ORDERS = 4;

/** Whether a row has all wanted findings. */
function hasAll(bits: readonly Int32Array[], wanted: readonly number[], row: number): boolean {
  for (let s = 0; s < bits.length; s++) if ((bits[s]![row]! & wanted[s]!) !== wanted[s]) return false;
  return true;
}

function marker(
  { draft, live, robots }: KindView,
  mark: NonNullable<ItemQuery["mark"]>,
  items: ItemSet,
): (row: number) => boolean {
  const { codes, table } = items.column("robots");
  const liveRobots = table.values.map(readRobots);
  return (row) => {
    const inTexts = TEXTS.some((text) => {
      const byHand = draft[text].from[row] === HAND;
      if (mark === "by-hand") return byHand;
      if (mark === "waiting") return byHand && differs(draft[text], live[text], row);
      return draft[text].lengths[row] !== 0 && differs(draft[text], live[text], row);
    });
    if (inTexts || mark === "by-hand") return inTexts;
    const own = robots(row);
    return (mark === "changes" || own.from === "hand") && own.value !== liveRobots[codes[row]!];
  };
}

const byLabel = new Intl.Collator("en", { numeric: true }).compare;

function viewOf(views: readonly KindView[], number: number): KindView {
  let found = views[0]!;
  for (const view of views) if (view.start <= number) found = view;
  return found;
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

/** @example capital("posts") // "Posts" */
function capital(text: string): string {
  return text.slice(0, 1).toUpperCase() + text.slice(1);
}

function hashOf(rows: Int32Array): string {
  let hash = 0x811c9dc5;
  for (let i = 0; i < rows.length; i++) hash = Math.imul(hash ^ rows[i]!, 0x01000193);
  return `${rows.length}-${(hash >>> 0).toString(36)}`;
}

function bitCount(bits: number): number {
  let count = 0;
  for (let rest = bits; rest !== 0; rest &= rest - 1) count++;
  return count;
}
