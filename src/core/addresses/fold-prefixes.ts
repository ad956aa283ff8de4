import { isElsewhere, joinedStatus, type Redirect, redirectKey, type RedirectStatus } from "./redirect";
import { type RedirectLookup } from "./redirect-lookup";

/** How a prefix redirect leads on by now. */
interface Stage {
  readonly to: string;
  readonly status: RedirectStatus;
}

/** Which prefix redirect catches the paths of a folder, and those that they came over so far. */
interface Caught {
  readonly owner: Redirect;
  readonly used: readonly Redirect[];
  /** What was made on their behalf. */
  readonly put: Redirect[];
}

/** A folder at one of its stages. */
interface Halt {
  readonly folder: string;
  readonly stage: Stage;
  /** Whether a path of the folder comes to the stage at all. */
  readonly comes: (path: string) => boolean;
}

/** A ring that prefix redirects go round in. */
export interface Round {
  readonly ring: readonly Redirect[];
  /** For the paths that come to an end before they come round. */
  readonly instead: readonly Redirect[];
}

/** So many times a path is led on by prefix redirects before it counts as going round. */
const MOST_STAGES = 50;

/**
 * Makes prefix redirects lead in one hop. What lies below a prefix redirect’s target may go elsewhere than the rest of it, by an exact
 * redirect, a longer prefix one or a page that stands there: for each such path the old one gets a redirect of its own.
 */
export class PrefixFolder {
  private readonly results = new Map<string, Redirect>();
  /** Exact redirects that hold already, by path: each lands. */
  private readonly exact: ReadonlyMap<string, Redirect>;
  private readonly exactPaths: SortedPaths;
  private readonly prefixPaths: SortedPaths;
  private readonly pagePaths: SortedPaths;
  private readonly prefixByPath: ReadonlyMap<string, Redirect>;

  constructor(
    exact: readonly Redirect[],
    prefixes: readonly Redirect[],
    private readonly lookup: RedirectLookup,
    pages: Iterable<string> | null,
  ) {
    this.exact = new Map(exact.map((redirect) => [redirect.from, redirect]));
    this.exactPaths = new SortedPaths(this.exact.keys());
    this.prefixByPath = new Map(prefixes.map((redirect) => [redirect.from, redirect]));
    this.prefixPaths = new SortedPaths(this.prefixByPath.keys());
    this.pagePaths = new SortedPaths(pages ?? []);
  }

  /** All that came of the folding. */
  made(): Iterable<Redirect> {
    return this.results.values();
  }

  /**
   * Folds one.
   *
   * @returns the ring that its paths go round in, with redirects for those that come to a page all the same; `null` where they come to an end.
   */
  fold(redirect: Redirect): Round | null {
    const put: Redirect[] = [];
    const ring = this.follow(redirect.from, redirect, { owner: redirect, used: [redirect], put });
    return ring && { ring, instead: put };
  }

  /** Follows all that lies in a folder, a stage after the other; gives the ring that it goes round in, or `null`. */
  private follow(folder: string, first: Stage, caught: Caught): readonly Redirect[] | null {
    const seen: string[] = [];
    const way: Redirect[] = [...caught.used];
    const diverted: string[] = [];
    let stage: Stage = first;
    while (stage.to !== "" && !isElsewhere(stage.to)) {
      const place = seen.indexOf(stage.to);
      if (place >= 0 || seen.length >= MOST_STAGES)
        return [...new Set(way.slice(caught.used.length + Math.max(0, place)))];
      seen.push(stage.to);
      // What was led elsewhere at an earlier stage does not come to this one.
      const comes = (path: string) => !diverted.some((elsewhere) => path.startsWith(elsewhere));
      const elsewhere = this.except({ folder, stage, comes }, { ...caught, used: way });
      const next = this.lookup.prefixOf(stage.to);
      if (!next) break;
      this.leadToPages({ folder, stage, comes }, caught);
      diverted.push(...elsewhere);
      way.push(next);
      stage = {
        to: next.to === "" ? "" : next.to + stage.to.slice(next.from.length),
        status: joinedStatus(stage.status, next.status),
      };
    }
    this.put({ from: folder, to: stage.to, status: stage.status, prefix: true }, caught);
    return null;
  }

  /** Leads the paths below a stage that go elsewhere than the rest; gives the folders among them. */
  private except(halt: Halt, caught: Caught): readonly string[] {
    const { folder, stage } = halt;
    for (const path of this.exactPaths.below(stage.to)) {
      const redirect = this.exact.get(path)!;
      if (path.includes("?")) continue;
      this.lead(halt, path, { to: redirect.to, status: joinedStatus(stage.status, redirect.status) }, caught);
    }
    const diverted: string[] = [];
    for (const path of this.prefixPaths.below(stage.to)) {
      const inner = this.prefixByPath.get(path)!;
      // What comes to a prefix redirect twice does so with any number of folders: a rule for each there cannot be.
      if (path === stage.to || caught.used.includes(inner)) continue;
      const old = folder + path.slice(stage.to.length);
      if (!halt.comes(old) || this.prefixByPath.has(old) || this.results.has(`${old}*`)) continue;
      if (this.lookup.prefixOf(old) !== caught.owner) continue;
      diverted.push(old);
      this.leadToPages({ ...halt, folder: old, stage: { to: path, status: stage.status } }, caught);
      const status = joinedStatus(stage.status, inner.status);
      this.follow(old, { to: inner.to, status }, { ...caught, used: [...caught.used, inner] });
    }
    return diverted;
  }

  /** Leads to each page that stands below a stage though the rest goes on. */
  private leadToPages(halt: Halt, caught: Caught): void {
    const { to, status } = halt.stage;
    for (const page of this.pagePaths.below(to))
      if (!page.includes("?")) this.lead(halt, page, { to: page, status }, caught);
  }

  /** Gives the old path of one below a stage a redirect of its own, if it is the prefix redirect that catches it. */
  private lead({ folder, stage, comes }: Halt, below: string, { to, status }: Stage, caught: Caught): void {
    const path = folder + below.slice(stage.to.length);
    if (path === to || !comes(path) || this.exact.has(path) || this.results.has(path) || this.lookup.isPage(path))
      return;
    if (this.lookup.prefixOf(path) === caught.owner) this.put({ from: path, to, status, prefix: false }, caught);
  }

  private put(redirect: Redirect, { put }: Caught): void {
    this.results.set(redirectKey(redirect), redirect);
    put.push(redirect);
  }
}

/** Paths in order, so that all below a folder are found at once. */
class SortedPaths {
  private readonly paths: string[];

  constructor(paths: Iterable<string>) {
    this.paths = [...paths].sort();
  }

  *below(folder: string): Generator<string> {
    for (let at = this.firstFrom(folder); at < this.paths.length && this.paths[at]!.startsWith(folder); at++)
      yield this.paths[at]!;
  }

  private firstFrom(folder: string): number {
    let from = 0;
    let to = this.paths.length;
    while (from < to) {
      const middle = (from + to) >> 1;
      if (this.paths[middle]! < folder) from = middle + 1;
      else to = middle;
    }
    return from;
  }
}
