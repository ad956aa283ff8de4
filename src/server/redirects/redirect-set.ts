import { type CompactRedirects, compactRedirects } from "../../core/addresses/compact-redirects";
import { type FoldedRedirects, foldRedirects, type RedirectReport } from "../../core/addresses/fold-redirects";
import { normalAddress, readablePath } from "../../core/addresses/path-form";
import { isElsewhere, type Redirect, redirectKey, type RedirectStatus } from "../../core/addresses/redirect";
import { type Answer, RedirectLookup } from "../../core/addresses/redirect-lookup";
import { type Kind } from "../../core/design/kinds";
import { iterateRedirects, type RedirectOrigin, redirectsVersion, type StoredRedirect } from "../../store/redirects";
import { type SitePages } from "../workspace/site-pages";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";

/** What is amiss with a redirect. */
export type RedirectFault = RedirectReport["what"];

/** A stored redirect with what comes of it among all others. */
export interface SetRedirect extends StoredRedirect {
  /** Where it leads now, other redirects followed; `""` for gone for good, `null` where it leads nowhere by itself. */
  readonly leadsTo: string | null;
  readonly fault: RedirectFault | null;
}

/** All redirects of a site at one moment. */
interface FoldedSet {
  readonly stored: readonly StoredRedirect[];
  readonly folded: FoldedRedirects;
  readonly lookup: RedirectLookup;
  /** The number of the page at each path. */
  readonly pages: ReadonlyMap<string, number>;
  readonly faults: ReadonlyMap<string, RedirectFault>;
  /** Worked out when they are first asked for. */
  compact: CompactRedirects | null;
  asGiven: GivenRedirects | null;
  leadingTo: ReadonlyMap<string, number> | null;
}

/** Redirects as they were given, not folded: what hops a path takes over them. */
interface GivenRedirects {
  readonly lookup: RedirectLookup;
  readonly byKey: ReadonlyMap<string, StoredRedirect>;
}

/** Which redirects are shown. */
export interface RedirectFilter {
  readonly search: string;
  readonly origin: RedirectOrigin | "all";
  /** `faulty`: something is amiss with it; `retired`: by a person. */
  readonly state: "holds" | "faulty" | "retired";
  readonly status: RedirectStatus | "all";
  /** Made since, or before, a day and time of ISO 8601; `null` for whenever. */
  readonly since: string | null;
  readonly before: string | null;
}

/** A page that goes to another address. */
export interface PageMove {
  readonly from: string;
  readonly to: string;
}

/** A redirect that comes, goes, or leads elsewhere; paths as people read them. */
export interface RedirectChange {
  readonly what: "comes" | "leads-elsewhere" | "ends";
  readonly from: string;
  readonly prefix: boolean;
  /** Where it led, and where it will; `null` for nowhere, `""` for gone for good. */
  readonly before: string | null;
  readonly after: string | null;
}

/** A path that leads to a page. */
export interface PathToPage {
  readonly path: string;
  /** The redirect’s number, by which it is retired. */
  readonly id: number | null;
  readonly origin: RedirectOrigin | null;
}

/** The figures of a set of redirects. */
export interface RedirectFigures {
  /** How many hold, folded. */
  readonly holding: number;
  /** In how many rules they can be written, and how many known paths were looked up for it. */
  readonly rules: number;
  readonly proven: number;
  readonly faults: readonly { readonly what: RedirectFault; readonly count: number }[];
}

/** A hop of a path’s way. */
export interface WayHop {
  readonly from: string;
  readonly to: string;
  readonly status: number;
  readonly by: "exact" | "prefix";
  readonly origin: RedirectOrigin | null;
  readonly run: number | null;
}

/** Where a path leads, and over what. */
export interface PathWay {
  readonly path: string;
  readonly to: string | null;
  readonly status: number;
  readonly by: Answer["by"];
  readonly hops: readonly WayHop[];
  /** The page that is there in the end. */
  readonly page: { readonly kind: Kind; readonly id: number; readonly name: string } | null;
}

/** The redirects of one site: folded once for each state of it. */
export class RedirectSet {
  private held: { readonly stamp: string; readonly pagesOf: SitePages; readonly set: FoldedSet } | null = null;

  constructor(private readonly workspace: Workspace) {}

  figures(watch: WorkWatch = {}): RedirectFigures {
    const set = this.set(watch);
    const compact = this.compacted(set);
    const counts = new Map<RedirectFault, number>();
    for (const { what } of set.folded.reports) counts.set(what, (counts.get(what) ?? 0) + 1);
    return {
      holding: set.folded.redirects.length,
      rules: compact.redirects.length,
      proven: compact.proven,
      faults: [...counts].map(([what, count]) => ({ what, count })),
    };
  }

  /** Where paths lead, and which page is at which: another object where either is another one. */
  ways(watch: WorkWatch = {}): Pick<FoldedSet, "lookup" | "pages"> {
    return this.set(watch);
  }

  list(
    { search, origin, state, status, since, before }: RedirectFilter,
    { from, count }: { readonly from: number; readonly count: number },
    watch: WorkWatch = {},
  ): { readonly total: number; readonly redirects: readonly SetRedirect[] } {
    const set = this.set(watch);
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    const matching = set.stored.filter((own) => {
      if (origin !== "all" && own.origin !== origin) return false;
      if ((state === "retired") !== (own.retiredAt !== null)) return false;
      if (status !== "all" && own.status !== status) return false;
      // What nobody noted the day of is old.
      if (since !== null && (own.createdAt ?? "") < since) return false;
      if (before !== null && (own.createdAt ?? "") >= before) return false;
      if (state === "faulty" && !set.faults.has(storedKey(own))) return false;
      const text = `${own.from} ${own.to} ${own.status}`.toLowerCase();
      return words.every((word) => text.includes(word));
    });
    // The newest first.
    const stretch = matching.reverse().slice(from, from + count);
    return { total: matching.length, redirects: stretch.map((own) => described(set, own)) };
  }

  /** Where a path, or a whole address, leads: over what was stored as it stands, hop by hop. */
  way(path: string, watch: WorkWatch = {}): PathWay {
    const set = this.set(watch);
    const asked = normalAddress(path);
    const answer = set.lookup.resolve(asked);
    const { lookup, byKey } = (set.asGiven ??= givenOf(set));
    const original = lookup.resolve(asked);
    const hops = original.hops.map(({ redirect, to }, i): WayHop => {
      const own = byKey.get(redirectKey(redirect));
      return {
        from: readablePath(i === 0 ? asked : original.hops[i - 1]!.to),
        to: readablePath(to),
        status: redirect.status,
        by: redirect.prefix ? "prefix" : "exact",
        origin: own?.origin ?? null,
        run: own?.run ?? null,
      };
    });
    const { to, status, by } = answer;
    return { path: readablePath(asked), to: to && readablePath(to), status, by, hops, page: this.pageAt(set, to) };
  }

  /** What would come of taking redirects in: reports that there are not now. */
  look(
    given: readonly Redirect[],
    watch: WorkWatch = {},
  ): { readonly reports: readonly RedirectReport[]; readonly known: number } {
    const set = this.set(watch);
    const before = new Set(set.folded.reports.map((report) => JSON.stringify(report)));
    const held = holding(set.stored);
    const keys = new Set(held.map((own) => `${storedKey(own)} ${normalTarget(own.to)} ${own.status}`));
    const { reports } = foldRedirects([...held.map(asRedirect), ...given], new Set(set.pages.keys()));
    return {
      reports: reports.filter((report) => !before.has(JSON.stringify(report))),
      known: given.filter((own) => keys.has(`${redirectKey(own)} ${own.to} ${own.status}`)).length,
    };
  }

  /** The paths that lead to a page by redirects of their own, those that came last first. */
  pathsTo(address: string, watch: WorkWatch = {}): readonly PathToPage[] {
    const set = this.set(watch);
    const { byKey } = (set.asGiven ??= givenOf(set));
    const target = normalAddress(address);
    return set.folded.redirects
      .filter(({ to, prefix }) => !prefix && to === target)
      .map((redirect): PathToPage => {
        const own = byKey.get(redirectKey(redirect));
        return { path: readablePath(redirect.from), id: own?.id ?? null, origin: own?.origin ?? null };
      })
      .sort((a, b) => (b.id ?? 0) - (a.id ?? 0));
  }

  /** Those of the paths that nothing answers at: neither a page nor a redirect. */
  unanswered(paths: readonly string[], watch: WorkWatch = {}): readonly string[] {
    const { lookup } = this.set(watch);
    return paths.filter((path) => lookup.resolve(normalAddress(path)).by === null);
  }

  /** How many redirects lead to each path, in normal form. */
  leadingTo(watch: WorkWatch = {}): ReadonlyMap<string, number> {
    const set = this.set(watch);
    if (set.leadingTo) return set.leadingTo;
    const counts = new Map<string, number>();
    for (const { to } of set.folded.redirects) counts.set(to, (counts.get(to) ?? 0) + 1);
    return (set.leadingTo = counts);
  }

  /** What a set of moves makes of the redirects: which come, which lead elsewhere, and which end. */
  afterMoves(moves: readonly PageMove[], watch: WorkWatch = {}): readonly RedirectChange[] {
    const set = this.set(watch);
    const pages = new Set(set.pages.keys());
    const normal = moves.map(({ from, to }) => ({ from: normalAddress(from), to: normalAddress(to) }));
    for (const { from } of normal) pages.delete(from);
    for (const { to } of normal) pages.add(to);
    const given = normal.map(({ from, to }): Redirect => ({ from, to, status: 301, prefix: false }));
    const { redirects } = foldRedirects([...holding(set.stored).map(asRedirect), ...given], pages);
    return redirectChanges(set.folded.redirects, redirects);
  }

  /** What is written out: folded or compact, with the pages that prefix redirects have to leave alone. */
  outgoing(
    isCompact: boolean,
    watch: WorkWatch = {},
  ): { readonly redirects: readonly Redirect[]; readonly keeps: readonly string[] } {
    const set = this.set(watch);
    const redirects = isCompact ? this.compacted(set).redirects : set.folded.redirects;
    const prefixes = new RedirectLookup(redirects.filter(({ prefix }) => prefix));
    const hasPrefix = redirects.some(({ prefix }) => prefix);
    return {
      redirects,
      keeps: hasPrefix ? [...set.pages.keys()].filter((page) => prefixes.hop(page) !== null).sort() : [],
    };
  }

  private compacted(set: FoldedSet): CompactRedirects {
    return (set.compact ??= compactRedirects(set.folded.redirects, new Set(set.pages.keys())));
  }

  private pageAt({ pages }: FoldedSet, address: string | null): PathWay["page"] {
    if (address === null || isElsewhere(address)) return null;
    const number = pages.get(address.replace(/[?#].*$/s, "")) ?? pages.get(address);
    if (number === undefined) return null;
    const { ids, startOf } = this.workspace.pages();
    const [kind, first] = [...startOf].filter(([, start]) => start <= number).at(-1)!;
    return { kind, id: ids[number]!, name: this.workspace.data(kind).items.value("name", number - first) };
  }

  private set(watch: WorkWatch): FoldedSet {
    const { db } = this.workspace;
    const pagesOf = this.workspace.pages(watch);
    // Runs write their redirects with the pages that they move; drafts and settings change nothing here.
    const stamp = `${this.workspace.moment.revision} ${redirectsVersion(db)}`;
    if (this.held?.stamp === stamp && this.held.pagesOf === pagesOf) return this.held.set;
    const stored = [...iterateRedirects(db)];
    const pages = new Map<string, number>();
    pagesOf.paths.forEach((path, number) => path !== "" && pages.set(normalAddress(path), number));
    const folded = foldRedirects(holding(stored).map(asRedirect), new Set(pages.keys()));
    const lookup = new RedirectLookup(folded.redirects, pages);
    const faults = faultsOf(folded.reports);
    const set = { stored, folded, lookup, pages, faults, compact: null, asGiven: null, leadingTo: null };
    this.held = { stamp, pagesOf, set };
    return set;
  }
}

function givenOf({ stored, pages }: FoldedSet): GivenRedirects {
  const held = holding(stored);
  return {
    lookup: new RedirectLookup(held.map(asRedirect), pages),
    byKey: new Map(held.map((own) => [storedKey(own), own])),
  };
}

/** What differs between two folded sets: what comes first, then what leads elsewhere, then what ends. */
function redirectChanges(before: readonly Redirect[], after: readonly Redirect[]): RedirectChange[] {
  const known = new Map(before.map((own) => [redirectKey(own), own]));
  const next = new Set(after.map(redirectKey));
  const readable = (to: string) => (to === "" || isElsewhere(to) ? to : readablePath(to));
  const change = (what: RedirectChange["what"], { from, prefix }: Redirect, [was, is]: [Redirect?, Redirect?]) => ({
    ...{ what, from: readablePath(from), prefix },
    before: was ? readable(was.to) : null,
    after: is ? readable(is.to) : null,
  });
  const comes: RedirectChange[] = [];
  const elsewhere: RedirectChange[] = [];
  for (const own of after) {
    const was = known.get(redirectKey(own));
    if (!was) comes.push(change("comes", own, [undefined, own]));
    else if (was.to !== own.to) elsewhere.push(change("leads-elsewhere", own, [was, own]));
  }
  const ends = before.filter((own) => !next.has(redirectKey(own))).map((own) => change("ends", own, [own, undefined]));
  return [...comes, ...elsewhere, ...ends];
}

function holding(stored: readonly StoredRedirect[]): StoredRedirect[] {
  return stored.filter(({ retiredAt }) => retiredAt === null);
}

function normalTarget(to: string): string {
  return to === "" || isElsewhere(to) ? to : normalAddress(to);
}

function asRedirect({ from, to, status, prefix }: StoredRedirect): Redirect {
  return { from: normalAddress(from), to: normalTarget(to), status, prefix };
}

function storedKey(own: StoredRedirect): string {
  return redirectKey(asRedirect(own));
}

function faultsOf(reports: readonly RedirectReport[]): Map<string, RedirectFault> {
  const faults = new Map<string, RedirectFault>();
  for (const report of reports) {
    const keys = report.what === "loop" ? [...report.ring, ...report.leadingIn] : [report.from];
    for (const key of keys) faults.set(key, report.what);
  }
  return faults;
}

function described(set: FoldedSet, own: StoredRedirect): SetRedirect {
  const fault = own.retiredAt === null ? (set.faults.get(storedKey(own)) ?? null) : null;
  if (own.retiredAt !== null || own.prefix) return { ...own, leadsTo: own.to, fault };
  const hop = set.lookup.hop(normalAddress(own.from));
  return { ...own, leadsTo: hop ? readablePath(hop.to) : null, fault };
}
