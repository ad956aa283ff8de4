import { normalAddress, readablePath } from "../core/addresses/path-form";
import { type Answer, htmlAnswer } from "./answer";
import { type PageFaults } from "./page-faults";
import { type PracticeIdentity } from "./identity";
import { type PagesWhere, type PracticePage, type PracticeRedirect, type PracticeStore } from "./practice-store";
import { type Crumb, document, PageContent, PageList } from "./theme";

/** So many pages stand on one page of a list. */
const ON_LIST = 40;

const TYPES: Readonly<Record<string, "article" | "product">> = { post: "article", product: "product" };

/** The site as visitors and search engines get it. */
export class VisitorPages {
  /** @param base where the site says that it is, without a slash at its end. */
  constructor(
    private readonly store: PracticeStore,
    private readonly site: PracticeIdentity,
    private readonly faults: PageFaults,
  ) {}

  /** @param path with escapes resolved. @param search the query with its question mark, as it came: some pages stand at one. */
  answer(path: string, search: string): Answer {
    const query = new URLSearchParams(search);
    const page = (search !== "" && this.store.pageAt(path + readablePath(search))) || this.store.pageAt(path);
    if (page) return this.faults.sent(this.ofPage(this.faults.shown(page), query));
    const redirect =
      (search !== "" && this.store.exactRedirect(path + readablePath(search))) || this.store.redirectAt(path);
    if (redirect) return this.onward(redirect, path, Number(query.get("hop")) || 0);
    return this.ofList(path, query) ?? this.missing();
  }

  private ofPage(page: PracticePage, query: URLSearchParams): Answer {
    const below: PagesWhere = { sql: "category_path = ? AND kind <> 'category'", value: page.categoryPath };
    const list = page.kind === "category" ? this.list(page.path, below, query, null) : null;
    const head = this.faults.head({
      title: page.title,
      description: page.description,
      robots: page.robots,
      address: this.address(page.path),
      ...(page.canonical !== "" && { canonical: new URL(page.canonical, this.site.base).href }),
      type: TYPES[page.kind] ?? ("website" as const),
    });
    const content = (
      <>
        <PageContent page={page} />
        {list}
      </>
    );
    return htmlAnswer(document(this.site.name, head, this.crumbsOf(page), content), 200, {
      "last-modified": new Date(page.changedAt).toUTCString(),
    });
  }

  /** The shelves above a page, each with its page where it has one. */
  private crumbsOf(page: PracticePage): Crumb[] {
    const names = page.categoryPath.split(" › ").filter(Boolean);
    const above = names.map((label, i): Crumb => {
      const shelf = names.slice(0, i + 1).join(" › ");
      const [first] = this.store.pages({ sql: "category_path = ?", value: shelf }, { from: 0, count: 1 });
      return { label, path: first?.kind === "category" && first.path !== page.path ? first.path : null };
    });
    return [{ label: "Home", path: "/" }, ...above];
  }

  private onward({ from, to, status, isPrefix }: PracticeRedirect, path: string, hop: number): Answer {
    if (status === 410 || to === "") return htmlAnswer(this.plain("Gone", "This page is gone for good."), 410);
    return this.faults.redirect(status, normalAddress(isPrefix ? to + path.slice(from.length) : to), path, hop);
  }

  private ofList(path: string, query: URLSearchParams): Answer | null {
    const [, first, second, third] = path.split("/");
    if (path === "/")
      return this.links("Home", this.store.pages({ sql: "kind = ?", value: "category" }, { from: 0, count: 60 }));
    if (path === "/shelves") return this.paged(path, "Shelves", { sql: "kind = ?", value: "category" }, query);
    if (path === "/authors")
      return this.links(
        "Authors",
        this.store.valuesOf("author").map((name) => ({ path: `/authors/${encodeURIComponent(name)}`, name })),
      );
    if (first === "authors" && second && third === undefined) {
      const where: PagesWhere = { sql: "author = ?", value: second };
      return this.store.countOf(where) === 0 ? null : this.paged(path, second, where, query);
    }
    if (path === "/archive")
      return this.links(
        "Archive",
        this.store.months().map((month) => ({ path: `/archive/${month.replace("-", "/")}`, name: month })),
      );
    if (first === "archive" && second && third) {
      const where: PagesWhere = { sql: "published LIKE ? || '-%'", value: `${second}-${third}` };
      const isMonth = /^\d{4}-\d{2}$/.test(where.value);
      return !isMonth || this.store.countOf(where) === 0 ? null : this.paged(path, where.value, where, query);
    }
    return path === "/search" ? this.search(query) : null;
  }

  private search(query: URLSearchParams): Answer {
    const words = query.get("q")?.trim() ?? "";
    const found =
      words === ""
        ? []
        : this.store.pages({ sql: "name LIKE '%' || ? || '%'", value: words }, { from: 0, count: ON_LIST });
    const head = { ...this.headOf("/search", "Search"), robots: "noindex, follow" };
    const content = (
      <>
        <form action="/search">
          <input name="q" aria-label="Search" defaultValue={words} />
        </form>
        <PageList heading={words === "" ? "Search" : `Search: ${words}`} pages={found} older={null} />
      </>
    );
    return htmlAnswer(document(this.site.name, head, [], content));
  }

  private paged(path: string, heading: string, where: PagesWhere, query: URLSearchParams): Answer {
    const list = this.list(path, where, query, heading);
    return htmlAnswer(document(this.site.name, this.headOf(path, heading), [{ label: "Home", path: "/" }], list));
  }

  private list(path: string, where: PagesWhere, query: URLSearchParams, heading: string | null) {
    const number = Math.max(1, Math.min(10_000, Number(query.get("page")) || 1));
    const pages = this.store.pages(where, { from: (number - 1) * ON_LIST, count: ON_LIST + 1 });
    const older = pages.length > ON_LIST ? `${normalAddress(path)}?page=${number + 1}` : null;
    return <PageList heading={heading} pages={pages.slice(0, ON_LIST)} older={older} />;
  }

  private links(heading: string, pages: readonly Pick<PracticePage, "path" | "name">[]): Answer {
    const list = <PageList heading={heading} pages={pages} older={null} />;
    return htmlAnswer(
      document(this.site.name, this.headOf(heading === "Home" ? "/" : `/${heading.toLowerCase()}`, heading), [], list),
    );
  }

  private missing(): Answer {
    return htmlAnswer(this.plain("Not found", "There is no page here."), 404);
  }

  private plain(heading: string, words: string): string {
    const content = (
      <>
        <h1>{heading}</h1>
        <p>{words}</p>
      </>
    );
    return document(this.site.name, { ...this.headOf("/", heading), robots: "noindex" }, [], content);
  }

  private headOf(path: string, heading: string) {
    return { title: `${heading} | ${this.site.name}`, description: "", robots: "", address: this.address(path) };
  }

  private address(path: string): string {
    return this.site.base + normalAddress(path);
  }
}
