import { Parser } from "htmlparser2";
import { normalPath, normalQuery } from "../addresses/path-form";
import { foldedSpaces } from "../text/plain";
import { attributeSpan, escapedAttribute } from "../text/tag-attributes";

/** A link of a body that leads to the site itself. */
export interface BodyLink {
  /** As it stands there, character references resolved. */
  readonly href: string;
  /** Where it leads, in normal form: a path with its query. */
  readonly path: string;
  /** What is read of it: its text, or what is said of its image. */
  readonly text: string;
  readonly rel: string | null;
  /** Whether it leads elsewhere from a page at another address. */
  readonly isRelative: boolean;
  /** Which of the body’s `<a>` tags it is, from 1. */
  readonly number: number;
  /** Where its start tag begins in the body, and ends. */
  readonly from: number;
  readonly to: number;
}

/**
 * The links of a body that lead inside the site, in their order. Where they lead is worked out as a browser does: against the page’s
 * address, or the body’s own `<base>`. A link within the page is none.
 *
 * @param base the whole address of the page that the body is of.
 * @throws {TypeError} when the base is no address.
 */
export function linksOf(html: string, base: string): BodyLink[] {
  return /<a[\s/]/i.test(html) ? new LinkReader(html, new URL(base)).links : [];
}

interface OpenLink {
  readonly href: string;
  readonly url: URL;
  readonly rel: string | null;
  readonly isRelative: boolean;
  readonly number: number;
  readonly from: number;
  readonly to: number;
  text: string;
  alt: string;
}

class LinkReader {
  readonly links: BodyLink[] = [];
  private open: OpenLink | null = null;
  private base: URL;
  private hasBase = false;
  private tags = 0;

  constructor(
    html: string,
    private readonly page: URL,
  ) {
    this.base = page;
    const parser = new Parser({
      onopentag: (name, attributes) => {
        if (name === "a") this.begin(attributes, parser.startIndex, parser.endIndex + 1);
        else if (name === "base") this.rebase(attributes["href"]);
        else if (name === "img" && this.open) this.open.alt += ` ${attributes["alt"] ?? ""}`;
      },
      ontext: (text) => {
        if (this.open) this.open.text += text;
      },
      onclosetag: (name) => {
        if (name === "a") this.end();
        // Words of two blocks are not one.
        else if (this.open) this.open.text += " ";
      },
      onend: () => this.end(),
    });
    parser.end(html);
  }

  /** Only the first base of a document counts. */
  private rebase(href: string | undefined): void {
    if (this.hasBase || href === undefined) return;
    this.hasBase = true;
    this.base = parsedUrl(href, this.page) ?? this.page;
  }

  private begin(attributes: Readonly<Record<string, string>>, from: number, to: number): void {
    // A link within another one ends it.
    this.end();
    const number = ++this.tags;
    const href = attributes["href"]?.trim();
    if (href === undefined || href.startsWith("#")) return;
    const url = parsedUrl(href, this.base);
    if (!url || !isSameSite(url, this.page)) return;
    const rel = attributes["rel"] === undefined ? null : foldedSpaces(attributes["rel"]);
    const isRelative = this.base === this.page && !/^(?:[a-z][a-z\d+.-]*:|[\\/])/i.test(href);
    this.open = { href, url, rel, isRelative, number, from, to, text: "", alt: "" };
  }

  private end(): void {
    const link = this.open;
    this.open = null;
    if (!link) return;
    const { url, text, alt, ...of } = link;
    const path = normalPath(url.pathname) + normalQuery(url.search);
    this.links.push({ ...of, path, text: foldedSpaces(text) || foldedSpaces(alt) });
  }
}

/** An `<a>` tag of a body, wherever it leads. */
export type LinkTag = Pick<BodyLink, "href" | "from" | "to">;

/** All `<a>` tags of a body in their order: the first is number 1 of its links. */
export function linkTagsOf(html: string): LinkTag[] {
  const tags: LinkTag[] = [];
  const parser = new Parser({
    onopentag: (name, { href = "" }) => {
      if (name === "a") tags.push({ href: href.trim(), from: parser.startIndex, to: parser.endIndex + 1 });
    },
  });
  parser.end(html);
  return tags;
}

/** `null` for what is no address. Asking beforehand whether it is one would take it apart twice. */
function parsedUrl(href: string, base: URL): URL | null {
  try {
    return new URL(href, base);
  } catch {
    return null;
  }
}

function isSameSite(url: URL, page: URL): boolean {
  return (url.protocol === "http:" || url.protocol === "https:") && bareHost(url.host) === bareHost(page.host);
}

/** A host without `www.`: with and without it is one site. */
export function bareHost(host: string): string {
  return host.toLowerCase().replace(/^www\./, "");
}

/**
 * A body in which one link leads elsewhere; the value of its `href` is all that changes.
 *
 * @param href what it says from now on, without character references.
 * @example withHref('<a href=/old class=x>Old</a>', { from: 0, to: 21 }, "/new") // '<a href=/new class=x>Old</a>'
 */
export function withHref(html: string, { from, to }: Pick<BodyLink, "from" | "to">, href: string): string {
  const tag = html.slice(from, to);
  const span = attributeSpan(tag, "href");
  if (!span) return html;
  const { value } = span;
  // A bare `href` leads to the page itself; it gets a value.
  if (!value) return `${html.slice(0, from + span.to)}="${escapedAttribute(href)}"${html.slice(from + span.to)}`;
  return html.slice(0, from + value.from) + written(href, tag[value.from]!) + html.slice(from + value.to);
}

/** A value written as the one before it was: in its quotes, or without any where it can be. */
function written(href: string, quote: string): string {
  if (quote === "'") return `'${href.replaceAll("&", "&amp;").replaceAll("'", "&#39;")}'`;
  const escaped = escapedAttribute(href);
  return quote === '"' || href === "" || /[\s"'=<>`]/.test(href) ? `"${escaped}"` : escaped;
}

/**
 * What a link says when it leads to another path: with its host where it had one, with its fragment, and with its query where the new
 * path has none.
 *
 * @param keepsQuery whether the query still belongs there.
 * @example redirectedHref("https://www.x.example/old#care", "/new") // "https://www.x.example/new#care"
 */
export function redirectedHref(href: string, path: string, keepsQuery = true): string {
  const [, host, , query, fragment] = /^((?:[a-z][a-z\d+.-]*:)?\/\/[^/?#]*)?([^?#]*)(\?[^#]*)?(#.*)?$/is.exec(href)!;
  const rest = path.includes("?") || !keepsQuery ? "" : (query ?? "");
  return `${host ?? ""}${path}${rest}${path.includes("#") ? "" : (fragment ?? "")}`;
}
