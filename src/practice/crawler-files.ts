import { normalAddress } from "../core/addresses/path-form";
import { type Answer, textAnswer } from "./answer";
import { type PracticePage, type PracticeStore } from "./practice-store";

/** Addresses in one sitemap: the protocol allows 50,000; a site with several is the more usual one. */
const IN_SITEMAP = 5000;
/** Of pages that moved long ago so many are still in the oldest sitemap. */
const STALE = 25;

const NAMESPACE = "http://www.sitemaps.org/schemas/sitemap/0.9";

/** What crawlers read: robots.txt, and the sitemaps that it names, one of which nobody looks after. */
export class CrawlerFiles {
  constructor(
    private readonly store: PracticeStore,
    private readonly base: string,
  ) {}

  /** `null` for what is no such file. */
  answer(path: string): Answer | null {
    if (path === "/robots.txt") return textAnswer(this.robots());
    if (path === "/sitemap.xml") return textAnswer(this.index(), "application/xml");
    if (path === "/sitemaps/old.xml") return textAnswer(this.stale(), "application/xml");
    const [, kind, number] = /^\/sitemaps\/([a-z]+)-(\d{1,6})\.xml$/.exec(path) ?? [];
    const pages = kind ? this.stretch(kind, Number(number)) : [];
    return pages.length === 0 ? null : textAnswer(this.sitemap(pages), "application/xml");
  }

  private robots(): string {
    return `User-agent: *\nDisallow: /search\nDisallow: /basket\n\nSitemap: ${this.base}/sitemap.xml\n`;
  }

  private index(): string {
    const files = this.store.valuesOf("kind").flatMap((kind) => {
      const count = this.store.countOf({ sql: "kind = ?", value: kind });
      return Array.from({ length: Math.ceil(count / IN_SITEMAP) }, (_, i) => `${kind}-${i + 1}`);
    });
    const entries = [...files, "old"].map((name) => `<sitemap><loc>${this.base}/sitemaps/${name}.xml</loc></sitemap>`);
    return xml("sitemapindex", entries);
  }

  private stretch(kind: string, number: number): PracticePage[] {
    if (number < 1) return [];
    return this.store.pages({ sql: "kind = ?", value: kind }, { from: (number - 1) * IN_SITEMAP, count: IN_SITEMAP });
  }

  private sitemap(pages: readonly PracticePage[]): string {
    return xml(
      "urlset",
      pages
        .filter(({ robots, canonical }) => !robots.includes("noindex") && canonical === "")
        .map(({ path, changedAt }) => this.entry(path, changedAt)),
    );
  }

  /** Names addresses that are others by now. */
  private stale(): string {
    return xml(
      "urlset",
      this.store.oldPaths(STALE).map((path) => this.entry(path, "2019-03-01T00:00:00Z")),
    );
  }

  private entry(path: string, changedAt: string): string {
    return `<url><loc>${escaped(this.base + normalAddress(path))}</loc><lastmod>${changedAt.slice(0, 10)}</lastmod></url>`;
  }
}

function xml(root: string, entries: readonly string[]): string {
  return `<?xml version="1.0" encoding="UTF-8"?>\n<${root} xmlns="${NAMESPACE}">\n${entries.join("\n")}\n</${root}>\n`;
}

function escaped(text: string): string {
  return text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll("'", "&apos;").replaceAll('"', "&quot;");
}
