import { COVERAGE, type Coverage } from "../../core/keywords/places";
import { foldKeyword, listedKeywords } from "../../store/listed-keywords";
import { type Workspace } from "../workspace/workspace";
import { type KeywordPages, type PageRef } from "./keyword-pages";

/** A keyword of the list or of a page, with the pages that have it. */
export interface CoveredKeyword {
  readonly keyword: string;
  readonly listed: boolean;
  readonly volume: number | null;
  readonly columns: Readonly<Record<string, string>>;
  readonly pages: number;
  readonly first: readonly PageRef[];
}

/** A keyword with the numbers of the pages that have it. */
export type KeywordWithPages = Omit<CoveredKeyword, "first"> & { readonly at: readonly number[] };

interface Covered {
  readonly key: string;
  /** Those of the list first, the most searched for at the top. */
  readonly all: readonly KeywordWithPages[];
  /** What the list says of a keyword beyond its volume. */
  readonly columns: readonly string[];
}

const FIRST_PAGES = 3;

const IS_COVERED: Readonly<Record<Coverage, (own: KeywordWithPages) => boolean>> = {
  all: () => true,
  unlisted: ({ listed }) => !listed,
  none: ({ pages }) => pages === 0,
  one: ({ pages }) => pages === 1,
  shared: ({ pages }) => pages > 1,
};

/** Which keywords have which pages. Worked out once for what it rests on. */
export class KeywordCoverage {
  private held: Covered | null = null;

  constructor(
    private readonly workspace: Workspace,
    private readonly pages: KeywordPages,
  ) {}

  /** A stretch of the keywords that a choice and a search leave. */
  list(query: { show: Coverage; search: string; from: number; count: number }): {
    total: number;
    counts: Record<Coverage, number>;
    columns: readonly string[];
    keywords: CoveredKeyword[];
  } {
    const { all, columns } = this.now();
    const wanted = foldKeyword(query.search);
    const counts = Object.fromEntries(COVERAGE.map((show) => [show, all.filter(IS_COVERED[show]).length])) as Record<
      Coverage,
      number
    >;
    const found = all
      .filter(IS_COVERED[query.show])
      .filter(({ keyword }) => wanted === "" || foldKeyword(keyword).includes(wanted));
    const { pages } = this;
    const keywords = found.slice(query.from, query.from + query.count).map(({ at, ...own }) => ({
      ...own,
      first: at.slice(0, FIRST_PAGES).map((number) => pages.refOf(pages.at(number))),
    }));
    return { total: found.length, counts, columns, keywords };
  }

  /** Keywords that several pages have, the most searched for first. */
  shared(): KeywordWithPages[] {
    return this.now()
      .all.filter(IS_COVERED.shared)
      .sort((a, b) => (b.volume ?? -1) - (a.volume ?? -1) || b.pages - a.pages || (a.keyword < b.keyword ? -1 : 1));
  }

  private now(): Covered {
    const key = this.pages.stamp();
    if (this.held?.key !== key) this.held = { key, ...this.cover() };
    return this.held;
  }

  private cover(): Omit<Covered, "key"> {
    const pages = this.pagesByKeyword();
    const list = listedKeywords(this.workspace.db);
    const columns = [...new Set(list.flatMap((own) => Object.keys(own.columns)))];
    const listed = list.map(({ keyword, folded, volume, columns: own }) => {
      const at = pages.get(folded)?.at ?? [];
      pages.delete(folded);
      return { keyword, listed: true, volume, columns: own, pages: at.length, at };
    });
    const others = [...pages.values()]
      .map(({ keyword, at }) => ({ keyword, listed: false, volume: null, columns: {}, pages: at.length, at }))
      .sort((a, b) => b.pages - a.pages || (a.keyword < b.keyword ? -1 : 1));
    return { all: [...listed, ...others], columns };
  }

  /** By the folded keyword, with how the first page writes it. */
  private pagesByKeyword(): Map<string, { keyword: string; at: number[] }> {
    const pages = new Map<string, { keyword: string; at: number[] }>();
    let start = 0;
    for (const kind of this.workspace.kindsWithPages()) {
      const { codes, table } = this.workspace.data(kind).items.column("keyword");
      const folded = table.values.map(foldKeyword);
      for (let row = 0; row < codes.length; row++) {
        if (codes[row] === 0) continue;
        const name = folded[codes[row]!]!;
        const known = pages.get(name);
        if (known) known.at.push(start + row);
        else pages.set(name, { keyword: table.values[codes[row]!]!, at: [start + row] });
      }
      start += codes.length;
    }
    return pages;
  }
}
