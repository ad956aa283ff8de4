import { EMPTY_DESIGN } from "../../core/design/design";
import { PAGE_EXTRA_NAMES, type PageExtra } from "../../core/design/kinds";
import { type ItemQuery } from "../../core/items/query";
import { categoryReader } from "../../store/items";
import { type ExtraDesk, type ExtraText } from "../extras/extra-desk";
import { type ItemsList } from "../items/items-list";
import { type ListedItem } from "../items/listed-item";
import { type Call } from "../threads/call";
import { watching } from "../workspace/watching";
import { type Workspace } from "../workspace/workspace";

/** A page that is taken out, with what the site has and what it has under the drafts. */
export interface PageOut extends ListedItem {
  /** The category as the page says it. */
  readonly category: string;
  /** Those that are switched on. */
  readonly extras: readonly ExtraText[];
  /** What the site says of a page's extra texts, switched on or not. */
  readonly saidExtras: Readonly<Record<PageExtra, string>>;
}

/** A stretch of the pages that are taken out. */
export interface PagesOut {
  readonly pages: readonly PageOut[];
  /** Another one where the pages, or their order, are others by now. */
  readonly stamp: string;
}

const FIELDS = ["id", "robots"] as const;

/** What the worker answers for files that are taken out. */
export const exchangeMethods = (workspace: Workspace, list: ItemsList, extras: ExtraDesk) => ({
  pagesOut: (
    { query, from, count, fields }: { query: ItemQuery; from: number; count: number; fields: readonly string[] },
    call: Call,
  ): PagesOut => {
    const designs = workspace.drafts();
    const page = list.list(designs, query, { from, count, columns: [...FIELDS, ...fields] }, watching(call));
    const isAny = Object.values(workspace.site().extras).includes(true);
    const extrasOf = ({ kind, id }: ListedItem) =>
      extras.texts(kind, designs[kind] ?? EMPTY_DESIGN, workspace.data(kind).rowOf(id), 1)[0]!;
    const saidExtrasOf = ({ kind, id }: ListedItem) => {
      const data = workspace.data(kind);
      const said = PAGE_EXTRA_NAMES.map((extra) => [extra, data.pageExtra(extra)[data.rowOf(id)]!]);
      return Object.fromEntries(said) as Record<PageExtra, string>;
    };
    const categoryOf = categoryReader(workspace.db);
    return {
      pages: page.items.map((item) => ({
        ...item,
        category: categoryOf(item.id),
        extras: isAny ? extrasOf(item) : [],
        saidExtras: saidExtrasOf(item),
      })),
      stamp: `${list.views(designs, watching(call)).stamp} ${page.order}`,
    };
  },
});
