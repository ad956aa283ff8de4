import { type Designs } from "../../core/design/designs";
import { type Kind } from "../../core/design/kinds";
import { type ItemQuery, type ItemSection, type Ranges } from "../../core/items/query";
import { searchItems, searchQuery, searchStamp } from "../../store/search";
import { type SiteFindings } from "../findings/site-findings";
import { foundLive, liveVersion } from "../../store/live";
import { Remembered } from "../workspace/remembered";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";
import { type FilteredPages, filterPages } from "./filter-pages";
import { type ItemPage, type ItemSheet, listedItem } from "./listed-item";
import { groupPages, sortPages } from "./order-pages";
import { type KindView, type SiteViews, siteViews, viewOf, viewsStamp } from "./site-views";
import { SortRanks } from "./sort-ranks";

/** A page of a kind by its row. */
export interface PlacedItem {
  readonly view: KindView;
  readonly row: number;
}

interface Ordered extends Omit<FilteredPages, "rows"> {
  /** Numbers of pages; one that is in several sections stands in each. */
  readonly rows: Int32Array;
  readonly sections: readonly ItemSection[] | null;
  /** Tells this order from others. */
  readonly name: string;
}

/** So many orders and filters are remembered: of the list, and of what is done to its pages. */
const MOST_ORDERS = 4;
const MOST_FILTERS = 2;

/** All pages of a site in one list: filtered, searched, put in order and together. */
export class ItemsList {
  private readonly found = new Remembered<SiteViews>(1);
  private readonly orders = new Remembered<Ordered>(MOST_ORDERS);
  private readonly filters = new Remembered<FilteredPages>(MOST_FILTERS);
  private readonly searches = new Remembered<readonly number[]>(MOST_FILTERS);
  private readonly ranks = new SortRanks();

  constructor(
    private readonly workspace: Workspace,
    private readonly findings: SiteFindings,
  ) {}

  /** The counts of all findings, and a stretch of the pages asked for. */
  list(
    designs: Designs,
    query: ItemQuery,
    stretch: { from: number; count: number; columns: readonly string[] },
    watch: WorkWatch = {},
  ): ItemPage {
    const views = this.views(designs, watch);
    const { rows, sections, counts, differences, name } = this.ordered(views, query, watch);
    const shown = rows.subarray(stretch.from, stretch.from + stretch.count);
    const items = Array.from(shown, (number) => {
      const view = viewOf(views, number);
      return listedItem(view, number - view.start, stretch.columns);
    });
    return { counts, total: rows.length, differences, sections, order: name, items };
  }

  /** The pages at the chosen places of a query's order, in that order, each once. */
  chosen(designs: Designs, query: ItemQuery, ranges: Ranges, watch: WorkWatch = {}): PlacedItem[] {
    const views = this.views(designs, watch);
    const { rows } = this.ordered(views, query, watch);
    const numbers = new Set(ranges.flatMap(([from, to]) => [...rows.subarray(Math.max(0, from), to)]));
    return [...numbers].map((number) => {
      const view = viewOf(views, number);
      return { view, row: number - view.start };
    });
  }

  /** One page by its id, `null` where there is none. */
  byId(designs: Designs, kind: Kind, id: number): PlacedItem | null {
    const row = this.workspace.data(kind).rowOf(id);
    if (row < 0) return null;
    return { view: this.views(designs, {}).kinds.find((own) => own.kind === kind)!, row };
  }

  /** One page whole, `null` where there is none with that id. */
  sheet(designs: Designs, kind: Kind, id: number): ItemSheet | null {
    const own = this.byId(designs, kind, id);
    if (!own) return null;
    const { view, row } = own;
    return {
      ...listedItem(view, row, []),
      fields: view.data.fieldsOf(row, false),
      found: {
        live: this.findings.explain(designs, kind, row, "live"),
        draft: this.findings.explain(designs, kind, row, "draft"),
      },
    };
  }

  /** Every kind that has pages, proved and checked on both sides; again only where drafts, settings or items changed. */
  views(designs: Designs, watch: WorkWatch): SiteViews {
    const stamp = viewsStamp(this.workspace, designs, watch);
    return this.found.get(stamp, () => siteViews(this.workspace, this.findings, designs, stamp, watch));
  }

  private ordered(views: SiteViews, query: ItemQuery, watch: WorkWatch): Ordered {
    return this.orders.get(`${views.stamp} ${this.besides(query)} ${JSON.stringify(query)}`, () => {
      const { rows: all, counts, differences } = this.filtered(views, query, watch);
      const sorted = sortPages(all, views, query, this.ranks);
      const { group, side } = query;
      const { rows, sections } =
        group === null ? { rows: sorted, sections: null } : groupPages(sorted, views, { group, side });
      return { rows, sections, counts, differences, name: orderName(rows) };
    });
  }

  /** What a query rests on besides the views. */
  private besides({ search, mark }: ItemQuery): string {
    const index = search.trim() === "" ? "" : searchStamp(this.workspace.db);
    return mark === "found-live" ? `${index} ${liveVersion(this.workspace.db)}` : index;
  }

  /** The same pages in another order are not looked for again. */
  private filtered(views: SiteViews, query: ItemQuery, watch: WorkWatch): FilteredPages {
    const asked = JSON.stringify({ ...query, sort: "", down: false, group: null });
    return this.filters.get(`${views.stamp} ${this.besides(query)} ${asked}`, () =>
      filterPages(
        {
          views,
          rulesOf: ({ kind }) => this.workspace.rules(kind),
          holding: this.holding(views, query.search),
          foundLive: () => foundLive(this.workspace.db),
          watch,
        },
        query,
      ),
    );
  }

  /** 1 for each page that holds what was typed; `null` where nothing was. */
  private holding(views: SiteViews, typed: string): Uint8Array | null {
    const query = searchQuery(typed);
    if (query === null) return null;
    const stamp = `${searchStamp(this.workspace.db)} ${query}`;
    const holding = this.searches.get(stamp, () => searchItems(this.workspace.db, query));
    const found = new Uint8Array(views.total);
    for (const { data, start } of views.kinds) {
      // Both lists of ids rise: one walk over them is enough.
      for (let row = 0, at = 0; row < data.ids.length && at < holding.length;) {
        const difference = data.ids[row]! - holding[at]!;
        if (difference === 0) found[start + row] = 1;
        if (difference <= 0) row++;
        if (difference >= 0) at++;
      }
    }
    return found;
  }
}

function orderName(rows: Int32Array): string {
  let hash = 0x811c9dc5;
  for (let i = 0; i < rows.length; i++) hash = Math.imul(hash ^ rows[i]!, 0x01000193);
  return `${rows.length}-${(hash >>> 0).toString(36)}`;
}
