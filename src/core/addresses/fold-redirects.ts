import { pathParts } from "./path-form";
import { PrefixFolder } from "./fold-prefixes";
import { isElsewhere, joinedStatus, type Redirect, redirectKey, type RedirectStatus } from "./redirect";
import { carried, type LivePaths, RedirectLookup } from "./redirect-lookup";

/** What is amiss with redirects, with the paths that it is about. */
export type RedirectReport =
  /** They lead round in a ring, none of them at a page: all are left out, and those that lead into it. */
  | { readonly what: "loop"; readonly ring: readonly string[]; readonly leadingIn: readonly string[] }
  /** The target is a path of the site at which no page is; kept. */
  | { readonly what: "dead end"; readonly from: string; readonly to: string }
  /** A page is at the old path: left out. */
  | { readonly what: "collision"; readonly from: string; readonly to: string }
  /** Two of the same path lead to different places: the later one holds. */
  | { readonly what: "double"; readonly from: string; readonly to: string; readonly earlier: string };

/** Redirects of which each leads in one hop, by their paths. */
export interface FoldedRedirects {
  readonly redirects: readonly Redirect[];
  readonly reports: readonly RedirectReport[];
}

/** All paths at which pages are, in normal form. */
export interface KnownPages extends LivePaths, Iterable<string> {}

/** Where a path leads in the end, and how. */
export interface Landing {
  /** `""` where it is gone for good. */
  readonly to: string;
  readonly status: RedirectStatus;
}

/**
 * Redirects so that each leads in one hop to where its path led before, no path with a page redirects, and none goes round in a
 * ring. What cannot be so is left out and told, and so is what leads to no page. Only a path that comes over one prefix redirect twice
 * (`/a/b/*` to `/a/*` takes `/a/b/b/c` twice) may take more hops: there are endlessly many of them.
 *
 * @param given in the order in which they were made: of two of one path the later one holds.
 * @param pages where pages are; `null` where nobody knows: nothing is a dead end then.
 */
export function foldRedirects(given: Iterable<Redirect>, pages: KnownPages | null): FoldedRedirects {
  const reports: RedirectReport[] = [];
  const held = new Map<string, Redirect>();
  for (const redirect of given) take(redirect, pages, held, reports);
  // What a ring leaves free a shorter prefix redirect may catch: all is followed anew without it.
  for (;;) {
    const { redirects, rings } = new Fold(held, pages).folded();
    if (rings.length === 0) {
      return { redirects, reports: [...reports, ...deadEnds(redirects, pages)] };
    }
    for (const { dropped, instead } of rings) {
      for (const redirect of dropped) held.delete(redirectKey(redirect));
      for (const redirect of instead) if (!held.has(redirectKey(redirect))) held.set(redirectKey(redirect), redirect);
    }
    for (const loop of loops(rings)) reports.push(loop);
  }
}

/** Takes a redirect in, unless a page is at its path. */
function take(
  redirect: Redirect,
  pages: LivePaths | null,
  held: Map<string, Redirect>,
  reports: RedirectReport[],
): void {
  const { from, to, status, prefix } = redirect;
  if (!prefix && pages?.has(from)) {
    reports.push({ what: "collision", from, to });
    return;
  }
  const key = redirectKey(redirect);
  const earlier = held.get(key);
  if (earlier && (earlier.to !== to || earlier.status !== status))
    reports.push({ what: "double", from: key, to, earlier: earlier.to });
  held.set(key, redirect);
}

/** Each ring once, with all that was dropped for leading into it. */
function loops(rings: readonly Ring[]): RedirectReport[] {
  const byMembers = new Map<string, { readonly ring: readonly string[]; readonly leadingIn: Set<string> }>();
  for (const { members, dropped } of rings) {
    const ring = members.map(redirectKey);
    const key = [...ring].sort().join(" ");
    let loop = byMembers.get(key);
    if (!loop) byMembers.set(key, (loop = { ring, leadingIn: new Set() }));
    for (const own of dropped.map(redirectKey)) if (!ring.includes(own)) loop.leadingIn.add(own);
  }
  return [...byMembers.values()].map(({ ring, leadingIn }) => ({ what: "loop", ring, leadingIn: [...leadingIn] }));
}

/** The exact redirects to a path of the site at which no page is. */
function deadEnds(redirects: readonly Redirect[], pages: LivePaths | null): RedirectReport[] {
  if (pages === null) return [];
  return redirects.flatMap(({ from, to, prefix }) => {
    if (prefix || to === "" || isElsewhere(to)) return [];
    const { path, query } = pathParts(to);
    return pages.has(path) || pages.has(path + query) ? [] : [{ what: "dead end", from, to } as const];
  });
}

/** Follows a set of redirects once. */
class Fold {
  private readonly lookup: RedirectLookup;
  /** Where exact redirects land; `null` for those that do not. */
  private readonly landings = new Map<Redirect, Landing | null>();
  private readonly rings: Ring[] = [];

  /** @param held by their keys. */
  constructor(
    private readonly held: ReadonlyMap<string, Redirect>,
    private readonly pages: KnownPages | null,
  ) {
    this.lookup = new RedirectLookup(held.values(), pages);
  }

  /** What each leads to in one hop, by path; and the rings, whose members are not among them. */
  folded(): { readonly redirects: Redirect[]; readonly rings: readonly Ring[] } {
    const exact: Redirect[] = [];
    const prefixes: Redirect[] = [];
    for (const redirect of this.held.values()) {
      const landing = redirect.prefix ? null : this.land(redirect);
      if (redirect.prefix) prefixes.push(redirect);
      else if (landing) exact.push(isAsItWas(redirect, landing) ? redirect : { ...redirect, ...landing });
    }
    if (prefixes.length === 0) return { redirects: exact.sort(byPath), rings: this.rings };
    const folder = new PrefixFolder(exact, prefixes, this.lookup, this.pages);
    const leadingIn: Ring[] = [];
    for (const prefix of prefixes) {
      const round = folder.fold(prefix);
      if (!round) continue;
      const ring = { members: round.ring, dropped: [prefix], instead: round.instead };
      (round.ring.includes(prefix) ? this.rings : leadingIn).push(ring);
    }
    // What only leads into a ring may come to an end when the ring is broken: it is followed again then.
    if (this.rings.length === 0) this.rings.push(...leadingIn);
    return { redirects: [...exact, ...folder.made()].sort(byPath), rings: this.rings };
  }

  /** Where an exact redirect lands; each on the way is worked out once, so that a chain costs as many steps as it has hops. */
  private land(start: Redirect): Landing | null {
    const known = this.landings.get(start);
    if (known !== undefined) return known;
    // Most lead to a page at once.
    if (this.lookup.isEnd(start.to)) {
      this.landings.set(start, start);
      return start;
    }
    const way = [stepOf(start)];
    const onWay = new Map([[start, 0]]);
    let landed: Landing | null | undefined;
    while (way.length > 0) {
      const step = way.at(-1)!;
      if (landed === undefined) {
        const next = this.next(step);
        if (next === "ring") landed = this.ringOf([step.redirect]);
        else if (next === null) landed = { to: step.at, status: step.status };
        else {
          const done = this.landings.get(next);
          const place = onWay.get(next);
          if (done !== undefined) landed = this.continued(step, done, next);
          else if (place !== undefined) landed = this.ringOf(way.slice(place).map(({ redirect }) => redirect));
          else {
            onWay.set(next, way.length);
            way.push(stepOf(next));
            continue;
          }
        }
      } else landed = this.continued(step, landed, null);
      this.landings.set(step.redirect, landed);
      way.pop();
    }
    return landed ?? null;
  }

  /** Goes on from a step over prefix redirects up to the next exact one; `null` where it ends. */
  private next(step: Step): Redirect | "ring" | null {
    for (let rounds = 0; !isElsewhere(step.at) && step.at !== ""; rounds++) {
      const hop = this.lookup.hop(step.at);
      if (!hop) return null;
      if (!hop.redirect.prefix) {
        const { query, fragment } = pathParts(step.at);
        step.query = hop.redirect.from.includes("?") ? "" : query;
        step.fragment = fragment;
        return hop.redirect;
      }
      if (rounds >= MOST_ROUNDS || hop.to.length > step.at.length + MOST_GROWTH) return "ring";
      step.at = hop.to;
      step.status = joinedStatus(step.status, hop.redirect.status);
    }
    return null;
  }

  /** Where a step lands when the exact redirect that it leads to lands there. */
  private continued(step: Step, landed: Landing | null, next: Redirect | null): Landing | null {
    if (!landed) {
      this.noteLeadingIn(step.redirect, next);
      return null;
    }
    return { to: carried(landed.to, step.query, step.fragment), status: joinedStatus(step.status, landed.status) };
  }

  private ringOf(members: readonly Redirect[]): null {
    this.rings.push({ members, dropped: [...members], instead: [] });
    return null;
  }

  /** What leads into a ring is told with it. @param next what it leads to, `null` for what was looked at just before. */
  private noteLeadingIn(redirect: Redirect, next: Redirect | null): void {
    if (this.rings.some(({ members }) => members.includes(redirect))) return;
    const ring = (next && this.rings.find(({ dropped }) => dropped.includes(next))) ?? this.rings.at(-1)!;
    ring.dropped.push(redirect);
  }
}

interface Ring {
  readonly members: readonly Redirect[];
  /** What cannot hold: of prefix redirects those whose every path comes into the ring. */
  readonly dropped: Redirect[];
  /** Redirects that take their place for single paths. */
  readonly instead: readonly Redirect[];
}

/** How far one exact redirect was followed. */
interface Step {
  readonly redirect: Redirect;
  at: string;
  status: RedirectStatus;
  /** What goes along to the next exact one. */
  query: string;
  fragment: string;
}

const MOST_ROUNDS = 50;
const MOST_GROWTH = 2000;

function stepOf(redirect: Redirect): Step {
  return { redirect, at: redirect.to, status: redirect.status, query: "", fragment: "" };
}

function isAsItWas(redirect: Redirect, { to, status }: Landing): boolean {
  return redirect.to === to && redirect.status === status;
}

function byPath(a: Redirect, b: Redirect): number {
  return a.from < b.from ? -1 : a.from > b.from ? 1 : Number(b.prefix) - Number(a.prefix);
}
