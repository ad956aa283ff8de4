import { readablePath } from "../../core/addresses/path-form";
import { isElsewhere } from "../../core/addresses/redirect";
import { type Kind } from "../../core/design/kinds";
import { Cancelled } from "../../core/proof/prove-set";
import { readRobots } from "../../core/design/robots";
import { redirectedHref } from "../../core/links/body-links";
import { LINK_FINDINGS, linkBit, type LinkFinding, linkFindingsOf } from "../../core/links/finding-names";
import { followedHref } from "../../core/links/follow-moves";
import { LikelyPages } from "../../core/links/likely-page";
import { iterateMends, type LinkMend, linksRead, type LinksRead, linksVersion, mendsVersion } from "../../store/links";
import { redirectsVersion } from "../../store/redirects";
import { settingsVersion } from "../../store/site";
import { type RedirectSet } from "../redirects/redirect-set";
import { type SitePages } from "../workspace/site-pages";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";
import { judgeLinks, type JudgedLinks } from "./link-judge";
import { LinkTable } from "./link-table";

/** A page as a link’s end is told. */
export interface LinkedPage {
  readonly id: number;
  readonly kind: Kind;
  readonly name: string;
  /** `""` for no address. */
  readonly path: string;
}

/** A link as the list shows it. */
export interface ListedLink {
  readonly page: LinkedPage;
  readonly number: number;
  readonly href: string;
  readonly text: string;
  readonly rel: string | null;
  readonly findings: readonly LinkFinding[];
  /** The page that it leads to in the end; `null` for none. */
  readonly target: LinkedPage | null;
  /** Where it leads, if not to a page. */
  readonly end: string | null;
  /** What it could say instead; `null` where nothing is known. */
  readonly proposal: string | null;
  /** What it is to say by a person’s word; it waits in the review. */
  readonly mend: string | null;
}

/** Which links are wanted. */
export interface LinkFilter {
  /** `all`: whatever is found; `mended`: those that are to say something else. */
  readonly finding: LinkFinding | "all" | "mended";
  readonly search: string;
  /** Only links on this page, or only links to it. */
  readonly on: number | null;
  readonly to: number | null;
}

/** A link, or a canonical, that is rewritten because pages move. */
export interface FollowedLink {
  readonly item: number;
  /** Which of its body’s `<a>` tags it is, from 1; 0 for the page’s canonical. */
  readonly number: number;
  readonly text: string;
  readonly before: string;
  readonly after: string;
  /** The page whose move makes it needed: the one that it leads to, else the one that it is on. */
  readonly follows: number;
}

export interface LinkFigures extends LinksRead {
  readonly links: number;
  readonly findings: Readonly<Record<LinkFinding, number>>;
  /** Pages that no link of another page’s body leads to, and how many of each kind. */
  readonly orphans: number;
  readonly orphansOfKinds: readonly { readonly kind: Kind; readonly count: number }[];
  /** Links that are to say something else. */
  readonly mended: number;
}

/** So many links are looked at before it is asked whether somebody still waits. */
const STEP = 4096;
/** So many words of a search count. */
const MOST_WORDS = 30;

type Mends = ReadonlyMap<number, ReadonlyMap<string, string>>;

/** The links of a site at one moment. */
interface HeldLinks {
  readonly table: LinkTable;
  readonly judged: JudgedLinks;
  readonly pages: SitePages;
  readonly mends: Mends;
  /** Pages that a broken link may have meant; put together when one is first looked for. */
  likely: LikelyPages | null;
}

/** The links of one site’s bodies: judged once for each state of it. */
export class LinkSet {
  private table: { readonly version: number; readonly table: LinkTable } | null = null;
  private mends: { readonly version: number; readonly mends: Mends } | null = null;
  private held: { readonly stamp: string; readonly of: readonly unknown[]; readonly links: HeldLinks } | null = null;

  constructor(
    private readonly workspace: Workspace,
    private readonly redirects: RedirectSet,
  ) {}

  figures(watch: WorkWatch = {}): LinkFigures {
    const links = this.links(watch);
    const { bits } = links.judged;
    const counts = LINK_FINDINGS.map(() => 0);
    let mended = 0;
    for (let link = 0; link < bits.length; link++) {
      for (let rest = bits[link]!; rest !== 0; rest &= rest - 1) counts[31 - Math.clz32(rest & -rest)]!++;
      if (links.mends.size > 0 && mendOf(links, link) !== null) mended++;
    }
    const orphans = this.orphansOf(links, null);
    const ofKinds = new Map<Kind, number>();
    for (const page of orphans) {
      const { kind } = kindAt(links.pages, page);
      ofKinds.set(kind, (ofKinds.get(kind) ?? 0) + 1);
    }
    return {
      ...linksRead(this.workspace.db),
      links: bits.length,
      findings: Object.fromEntries(LINK_FINDINGS.map((finding, i) => [finding, counts[i]!])) as LinkFigures["findings"],
      orphans: orphans.length,
      orphansOfKinds: [...ofKinds].map(([kind, many]) => ({ kind, count: many })),
      mended,
    };
  }

  list(
    filter: LinkFilter,
    { from, count }: { readonly from: number; readonly count: number },
    watch: WorkWatch = {},
  ): { readonly total: number; readonly links: readonly ListedLink[] } {
    const links = this.links(watch);
    const found = this.matching(links, filter, watch);
    return { total: found.length, links: found.slice(from, from + count).map((link) => this.listed(links, link)) };
  }

  /** Pages that no link of another page’s body leads to; of one kind, or of all. */
  orphans(
    { kind, from, count }: { readonly kind: Kind | null; readonly from: number; readonly count: number },
    watch: WorkWatch = {},
  ): { readonly total: number; readonly pages: readonly LinkedPage[] } {
    const links = this.links(watch);
    const found = this.orphansOf(links, kind);
    return { total: found.length, pages: found.slice(from, from + count).map((page) => this.page(links, page)) };
  }

  /** Another one where links, pages, redirects or settings are. */
  get version(): string {
    const { db, moment } = this.workspace;
    return `${moment.revision} ${linksVersion(db)} ${mendsVersion(db)} ${redirectsVersion(db)} ${settingsVersion(db)}`;
  }

  /** Whether all links are read by now: only then is it known which lead to a page. */
  get isRead(): boolean {
    return linksRead(this.workspace.db).unread === 0;
  }

  /** How many links of other pages lead to each page, by its number. */
  linksTo(watch: WorkWatch = {}): Int32Array {
    return this.links(watch).judged.linksTo;
  }

  /**
   * What links have to say so that they lead where they led once pages have moved: those that lead to the pages, and relative ones on
   * them. A link that a person mends says what the person said.
   *
   * @param movesTo where each page that moves goes, by its item.
   */
  following(movesTo: ReadonlyMap<number, string>, watch: WorkWatch = {}): readonly FollowedLink[] {
    const links = this.links(watch);
    const { table, judged, pages } = links;
    const followed: FollowedLink[] = [];
    for (let link = 0; link < table.size; link++) {
      const target = judged.to[link]!;
      const targetTo = target < 0 ? null : (movesTo.get(pages.ids[target]!) ?? null);
      const pageTo = movesTo.get(table.itemOf(link));
      if (judged.from[link]! < 0) continue;
      if ((targetTo === null && pageTo === undefined) || mendOf(links, link) !== null) continue;
      const own = table.at(link);
      const after = followedHref({ link: own, pageTo: pageTo ?? pages.paths[judged.from[link]!]!, targetTo });
      if (after !== null && after !== own.href)
        followed.push({
          ...{ item: own.item, number: own.number, text: own.text, before: own.href, after },
          follows: targetTo === null ? own.item : pages.ids[target]!,
        });
    }
    return followed;
  }

  /** What all links that a filter leaves could say instead, as far as anything is known. */
  proposals(filter: LinkFilter, watch: WorkWatch = {}): readonly LinkMend[] {
    const links = this.links(watch);
    const mends = new Map<string, LinkMend>();
    for (const [i, link] of this.matching(links, filter, watch).entries()) {
      if (i % STEP === 0 && watch.cancelled?.()) throw new Cancelled();
      const after = this.proposalOf(links, link);
      const { item, href } = links.table.at(link);
      if (after !== null && after !== href) mends.set(`${item} ${href}`, { item, href, after });
    }
    return [...mends.values()];
  }

  private matching(links: HeldLinks, { finding, search, on, to }: LinkFilter, watch: WorkWatch): number[] {
    const { table, judged } = links;
    const bit = finding === "all" || finding === "mended" ? 0 : linkBit(finding);
    const words = search.toLowerCase().split(/\s+/).filter(Boolean).slice(0, MOST_WORDS);
    const hasWords = words.length === 0 ? null : this.wordsIn(links, words);
    const onPage = on === null ? null : this.pageOfItem(links.pages).get(on);
    const toPage = to === null ? null : this.pageOfItem(links.pages).get(to);
    const found: number[] = [];
    for (let link = 0; link < table.size; link++) {
      if (link % STEP === 0 && watch.cancelled?.()) throw new Cancelled();
      // A page of a kind that the site no longer has is none of its pages.
      if (judged.from[link]! < 0) continue;
      if (bit !== 0 && (judged.bits[link]! & bit) === 0) continue;
      if (onPage !== null && judged.from[link] !== onPage) continue;
      if (toPage !== null && (judged.to[link] !== toPage || judged.from[link] === toPage)) continue;
      if (finding === "mended" && mendOf(links, link) === null) continue;
      if (hasWords && !hasWords(link)) continue;
      found.push(link);
    }
    return found;
  }

  /** Whether all words stand somewhere in a link: what it says, its text, its page’s name or path. Each text is looked at once. */
  private wordsIn(links: HeldLinks, words: readonly string[]): (link: number) => boolean {
    const { table, judged } = links;
    const bitsOf = (text: string) => {
      const small = text.toLowerCase();
      return words.reduce((bits, word, i) => (small.includes(word) ? bits | (1 << i) : bits), 0);
    };
    const remembered = (size: number, textOf: (code: number) => string) => {
      const known = new Int32Array(size).fill(-1);
      return (code: number) => (known[code] === -1 ? (known[code] = bitsOf(textOf(code))) : known[code]!);
    };
    const inHref = remembered(table.hrefs.table.values.length, (code) => table.hrefs.table.values[code]!);
    const inText = remembered(table.texts.table.values.length, (code) => table.texts.table.values[code]!);
    const inPage = remembered(links.pages.paths.length, (page) => {
      const { name, path } = this.page(links, page);
      return `${name} ${path}`;
    });
    const all = 2 ** words.length - 1;
    return (link) =>
      (inPage(judged.from[link]!) | inText(table.texts.codes[link]!) | inHref(table.hrefs.codes[link]!)) === all;
  }

  private listed(links: HeldLinks, link: number): ListedLink {
    const { table, judged } = links;
    const { number, href, text, rel } = table.at(link);
    const target = judged.to[link]!;
    const end = judged.ends.get(table.paths.codes[link]!);
    return {
      page: this.page(links, judged.from[link]!),
      ...{ number, href, text, rel },
      findings: linkFindingsOf(judged.bits[link]!),
      target: target < 0 ? null : this.page(links, target),
      end: target < 0 && end ? readablePath(end) : null,
      proposal: this.proposalOf(links, link),
      mend: mendOf(links, link),
    };
  }

  /** Where a link through a redirect leads in the end, or the page that a broken one most likely meant. */
  private proposalOf(links: HeldLinks, link: number): string | null {
    const { table, judged, pages } = links;
    const bits = judged.bits[link]!;
    const { href, path, text } = table.at(link);
    if (bits & linkBit("redirected")) {
      const end = judged.ends.get(table.paths.codes[link]!)!;
      return isElsewhere(end) ? end : redirectedHref(href, readablePath(end));
    }
    if ((bits & linkBit("broken")) === 0) return null;
    links.likely ??= new LikelyPages(
      pages.paths.map((own, page) => ({ path: own, name: own === "" ? "" : this.nameOf(pages, page) })),
    );
    const page = links.likely.of(path, text);
    return page === null || page === judged.from[link] || pages.paths[page] === ""
      ? null
      : redirectedHref(href, pages.paths[page]!, false);
  }

  private orphansOf({ judged, pages }: HeldLinks, kind: Kind | null): number[] {
    const home = pages.startOf.get("home");
    return pages.paths.flatMap((path, page) => {
      const isHome = path === "/" || page === home;
      const isAsked = kind === null || kindAt(pages, page).kind === kind;
      return isAsked && path !== "" && !isHome && judged.linksTo[page] === 0 ? [page] : [];
    });
  }

  private page({ pages }: HeldLinks, page: number): LinkedPage {
    const { kind } = kindAt(pages, page);
    return { id: pages.ids[page]!, kind, name: this.nameOf(pages, page), path: pages.paths[page]! };
  }

  private nameOf(pages: SitePages, page: number): string {
    const { kind, first } = kindAt(pages, page);
    return this.workspace.data(kind).items.value("name", page - first);
  }

  private readonly pagesOfItems = new WeakMap<SitePages, ReadonlyMap<number, number>>();

  private pageOfItem(pages: SitePages): ReadonlyMap<number, number> {
    let known = this.pagesOfItems.get(pages);
    if (!known) {
      known = new Map(Array.from(pages.ids, (id, page) => [id, page]));
      this.pagesOfItems.set(pages, known);
    }
    return known;
  }

  /** All that is known of the links at this moment. */
  private links(watch: WorkWatch): HeldLinks {
    const { db } = this.workspace;
    const [version, mended] = [linksVersion(db), mendsVersion(db)];
    if (this.table?.version !== version) this.table = { version, table: LinkTable.read(db) };
    if (this.mends?.version !== mended) this.mends = { version: mended, mends: mendsByItem(iterateMends(db)) };
    const { table } = this.table;
    const { mends } = this.mends;
    const pages = this.workspace.pages(watch);
    const ways = this.redirects.ways(watch);
    const stamp = JSON.stringify(this.workspace.site().checks.emptyLinkTexts);
    const of = [table, pages, ways];
    const { held } = this;
    if (held?.stamp === stamp && held.of.every((own, i) => own === of[i])) {
      if (held.links.mends !== mends) this.held = { ...held, links: { ...held.links, mends } };
      return this.held!.links;
    }
    const judged = judgeLinks(table, {
      lookup: ways.lookup,
      pages: ways.pages,
      isUnindexed: this.unindexed(pages),
      pageOfItem: this.pageOfItem(pages),
      pageCount: pages.paths.length,
      emptyTexts: this.workspace.site().checks.emptyLinkTexts,
    });
    const links = { table, judged, pages, mends, likely: null };
    this.held = { stamp, of, links };
    return links;
  }

  private unindexed(pages: SitePages): (page: number) => boolean {
    const kinds = new Map(
      [...pages.startOf.keys()].map((kind) => {
        const { codes, table } = this.workspace.data(kind).items.column("robots");
        return [kind, { codes, isOut: table.values.map((own) => readRobots(own).startsWith("noindex")) }];
      }),
    );
    return (page) => {
      const { kind, first } = kindAt(pages, page);
      const { codes, isOut } = kinds.get(kind)!;
      return isOut[codes[page - first]!]!;
    };
  }
}

function kindAt({ startOf }: SitePages, page: number): { readonly kind: Kind; readonly first: number } {
  let found: { readonly kind: Kind; readonly first: number } | null = null;
  for (const [kind, first] of startOf) if (first <= page) found = { kind, first };
  return found!;
}

function mendsByItem(mends: Iterable<LinkMend>): Mends {
  const byItem = new Map<number, Map<string, string>>();
  for (const { item, href, after } of mends) {
    const own = byItem.get(item);
    if (own) own.set(href, after);
    else byItem.set(item, new Map([[href, after]]));
  }
  return byItem;
}

function mendOf({ table, mends }: HeldLinks, link: number): string | null {
  const own = mends.get(table.itemOf(link));
  if (!own) return null;
  const { href } = table.at(link);
  const after = own.get(href);
  return after === undefined || after === href ? null : after;
}
