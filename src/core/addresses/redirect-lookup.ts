import { pathParts } from "./path-form";
import { isElsewhere, joinedStatus, type Redirect, type RedirectStatus } from "./redirect";

/** Paths at which pages are, in normal form. */
export interface LivePaths {
  has(path: string): boolean;
}

/** Where one redirect leads a path. */
export interface Hop {
  readonly redirect: Redirect;
  /** With the query of what was asked for, unless the redirect’s target has one; `""` where it is gone for good. */
  readonly to: string;
}

/** Where a path leads. */
export interface Answer {
  /** `null` where nothing is. */
  readonly to: string | null;
  /** 200 where a page is, 404 where nothing is, 410 where it is gone for good, 508 where it leads round in a ring; else of all hops together. */
  readonly status: number;
  /** Which decided at the path itself. */
  readonly by: "page" | "exact" | "prefix" | null;
  readonly hops: readonly Hop[];
}

/** How often a browser is sent on: where something is gone for good it is not. */
export function hopCount({ hops }: Answer): number {
  return hops.filter(({ to }) => to !== "").length;
}

/** More hops than any browser follows. */
const MOST_HOPS = 50;
/** A ring of prefix redirects makes a path longer with each round. */
const MOST_LENGTH = 16_000;

/** A set of redirects that answers for paths. A page beats an exact redirect, that a prefix one, and of those the longest wins. */
export class RedirectLookup {
  private readonly exact = new Map<string, Redirect>();
  private readonly prefixes = new Map<string, Redirect>();

  /** @param pages where pages are; `null` where nobody knows. Of two redirects of the same path the later one holds. */
  constructor(
    redirects: Iterable<Redirect>,
    private readonly pages: LivePaths | null = null,
  ) {
    for (const redirect of redirects) (redirect.prefix ? this.prefixes : this.exact).set(redirect.from, redirect);
  }

  isPage(path: string, query = ""): boolean {
    return this.pages !== null && (this.pages.has(path) || (query !== "" && this.pages.has(path + query)));
  }

  /** The longest prefix redirect of a folder that a path lies in, or that it is. */
  prefixOf(path: string): Redirect | undefined {
    if (this.prefixes.size === 0) return undefined;
    for (let at = path.lastIndexOf("/"); at >= 0; at = at === 0 ? -1 : path.lastIndexOf("/", at - 1)) {
      const found = this.prefixes.get(path.slice(0, at + 1));
      if (found) return found;
    }
    return undefined;
  }

  /** Whether a target is where it ends: at a page, elsewhere, gone, or where nothing leads on. */
  isEnd(target: string): boolean {
    if (target === "" || isElsewhere(target)) return true;
    const { path, query } = pathParts(target);
    return this.deciding(path, query) === undefined;
  }

  /** The redirect that decides at an address in normal form, where no page is. */
  deciding(path: string, query = ""): Redirect | undefined {
    if (this.isPage(path, query)) return undefined;
    return (query === "" ? undefined : this.exact.get(path + query)) ?? this.exact.get(path) ?? this.prefixOf(path);
  }

  /** The next hop of an address in normal form; `null` where a page is, or nothing leads on. */
  hop(address: string): Hop | null {
    const { path, query, fragment } = pathParts(address);
    const redirect = this.deciding(path, query);
    return redirect ? { redirect, to: leadOn(redirect, path, query, fragment) } : null;
  }

  /** Where an address in normal form leads in the end. */
  resolve(address: string): Answer {
    const hops: Hop[] = [];
    const seen = new Set([address]);
    let at = address;
    let status: RedirectStatus | null = null;
    for (let hop = this.hop(at); hop; hop = isElsewhere(at) ? null : this.hop(at)) {
      hops.push(hop);
      status = status === null ? hop.redirect.status : joinedStatus(status, hop.redirect.status);
      at = hop.to;
      const by = hops[0]!.redirect.prefix ? "prefix" : "exact";
      if (at === "") return { to: null, status: 410, by, hops };
      if (seen.has(at) || hops.length >= MOST_HOPS || at.length > MOST_LENGTH)
        return { to: null, status: 508, by, hops };
      seen.add(at);
    }
    if (status !== null) return { to: at, status, by: hops[0]!.redirect.prefix ? "prefix" : "exact", hops };
    const { path, query } = pathParts(address);
    return this.isPage(path, query)
      ? { to: at, status: 200, by: "page", hops }
      : { to: null, status: 404, by: null, hops };
  }
}

/** Where a redirect that decides leads: a query and a fragment are kept unless the target has its own. */
export function leadOn({ from, to, prefix }: Redirect, path: string, query: string, fragment: string): string {
  if (to === "") return "";
  const target = prefix ? to + path.slice(from.length) : to;
  // A redirect of a path with its query has used that query up.
  return carried(target, from.includes("?") ? "" : query, fragment);
}

/** A target with the query and the fragment of what was asked for, unless it has its own. */
export function carried(target: string, query: string, fragment: string): string {
  if (target === "" || (query === "" && fragment === "")) return target;
  const own = pathParts(target);
  return own.path + (own.query || query) + (own.fragment || fragment);
}
