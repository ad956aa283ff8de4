import { AddressBook, folderOf, lastSegment, splitQuery, withoutSlash } from "./addresses";

/** Why a page stays where it is though its slug is another one. */
export type HeldBack =
  /** Another page would be at the same address. */
  | { readonly why: "clash"; readonly path: string }
  /** A page above it cannot move. */
  | { readonly why: "below"; readonly path: string };

/** A page that moves, or gets its first address. */
export interface Move {
  /** The page's number. */
  readonly page: number;
  /** Where it was, `""` where it had no address. */
  readonly from: string;
  readonly to: string;
}

/** Where the pages of a site go. */
export interface AddressPlan {
  /** Every page that moves, those that only move along with one above them too, rising. */
  readonly moves: readonly Move[];
  /** The pages whose wanted slug is held back, and why. */
  readonly held: ReadonlyMap<number, HeldBack>;
}

/** Whether addresses end in a slash: as the line is written and the page has it now, always, or never. */
export const SLASH_ENDS = ["as-it-is", "always", "never"] as const;
export type SlashEnd = (typeof SLASH_ENDS)[number];

/** Pages whose whole address a line puts together. */
export interface ShapedPages {
  /** Whether their addresses end in a slash. */
  readonly end: SlashEnd;
  has(page: number): boolean;
  /** The address of a page that has this slug. @param slugOf the slug that a page has by then, for folders that are pages. */
  address(page: number, slug: string, slugOf: (page: number) => string): string;
}

/** What a plan is made of. Pages are told by their numbers: their places among the paths. */
export interface WantedAddresses {
  /** Where each page is now, `""` where it has no address. */
  readonly paths: readonly string[];
  /** The slugs that pages are to have. */
  readonly slugs: ReadonlyMap<number, string>;
  /** How the addresses of kinds are put together; without one a page stays in its folder. */
  readonly shaped?: ShapedPages;
  /** The folders that pages without an address go to, with a slash at the end. */
  readonly folders: ReadonlyMap<number, string>;
  /** Pages that cannot move in any case: all below them stays, too. */
  readonly fixed: ReadonlySet<number>;
}

/**
 * Where pages go when their slugs change: each page's last segment is its new slug, and what lies below a page that moves moves
 * along. Two pages never get one address, of whatever kind they are: what would bring that about is held back, and so is all
 * that lies below a page that cannot move. Worked out again as long as something more is held back.
 */
export function planAddresses(wanted: WantedAddresses): AddressPlan {
  const held = new Map<number, HeldBack>();
  const pageAt = pagesByPath(wanted.paths);
  holdBelow(wanted, pageAt, wanted.fixed, held);
  for (;;) {
    const targets = targetsOf(wanted, held);
    const blocked = clashing(wanted, targets, pageAt, held);
    if (blocked.size === 0) return { moves: movesOf(wanted.paths, targets), held };
    for (const [page, path] of blocked) held.set(page, { why: "clash", path });
    holdBelow(wanted, pageAt, new Set(blocked.keys()), held);
  }
}

/** The page at a path without a slash at its end; put in order when it is first asked for, since most plans hold nothing back. */
type PageAt = (path: string) => number | undefined;

function pagesByPath(paths: readonly string[]): PageAt {
  let pages: Map<string, number> | null = null;
  return (wanted) => {
    if (!pages) {
      pages = new Map();
      for (const [page, path] of paths.entries()) if (path !== "") pages.set(withoutSlash(path), page);
    }
    return pages.get(wanted);
  };
}

/** Where each page goes with what is held back staying. */
function targetsOf({ paths, slugs, folders, shaped }: WantedAddresses, held: ReadonlyMap<number, HeldBack>): string[] {
  const moving = new Map<string, string>();
  const whole = new Map<string, string>();
  const own = new Map<number, string>();
  const slugOf = (page: number) => (held.has(page) ? undefined : slugs.get(page)) ?? lastSegment(paths[page]!);
  const wanted = (page: number, slug: string) => (shaped?.has(page) ? shaped.address(page, slug, slugOf) : null);
  const isFolder = foldersOfOthers(paths, (page) => slugs.has(page) && !held.has(page) && shaped?.has(page) === true);
  for (const [page, slug] of slugs) {
    const path = paths[page]!;
    if (held.has(page) || path === "") continue;
    const address = wanted(page, slug);
    const bare = withoutSlash(path);
    if (address === null) moving.set(bare, slug);
    else {
      if (isFolder(bare)) whole.set(bare, withoutSlash(address));
      own.set(page, withEndOf(path, address, shaped!.end));
    }
  }
  const book = new AddressBook(moving, whole);
  return paths.map((path, page) => {
    if (path !== "") return own.get(page) ?? book.newPath(path);
    const slug = held.has(page) ? undefined : slugs.get(page);
    if (slug === undefined) return "";
    // The folder that it goes to may move itself.
    const address = wanted(page, slug);
    return address === null ? book.newFolder(folders.get(page) ?? "/") + slug : withEndOf("", address, shaped!.end);
  });
}

/** Whether some page that may only move along lies below a path: the others are many, and none asks for their folders. */
function foldersOfOthers(paths: readonly string[], goesByItself: (page: number) => boolean): (path: string) => boolean {
  const folders = new Set<string>();
  paths.forEach((path, page) => {
    if (goesByItself(page)) return;
    for (let folder = folderOf(path); folder.length > 1 && !folders.has(folder); folder = folderOf(folder))
      folders.add(folder);
  });
  return (path) => folders.has(`${path}/`);
}

/** An address with the query of the one before it, and with a slash at its end as the site has it; what ends like a file has none. */
function withEndOf(path: string, address: string, end: SlashEnd): string {
  if (end === "as-it-is" && withoutSlash(path) === path && !path.includes("?")) return address;
  const [plain, query] = splitQuery(path);
  const bare = withoutSlash(address);
  const isFile = lastSegment(bare).includes(".");
  const hasSlash = {
    always: !isFile,
    never: false,
    "as-it-is": address !== bare || (plain.endsWith("/") && !isFile),
  }[end];
  return bare + (hasSlash && bare !== "/" ? "/" : "") + query;
}

/** The pages that have to stay so that no two have one address, and the address. */
function clashing(
  { paths, slugs }: WantedAddresses,
  targets: readonly string[],
  pageAt: PageAt,
  held: ReadonlyMap<number, HeldBack>,
): Map<number, string> {
  const first = new Map<string, number>();
  const shared = new Map<string, number[]>();
  targets.forEach((target, page) => {
    if (target === "") return;
    const path = withoutSlash(target);
    const other = first.get(path);
    if (other === undefined) first.set(path, page);
    else shared.set(path, [...(shared.get(path) ?? [other]), page]);
  });
  const blocked = new Map<number, string>();
  for (const [path, pages] of shared) {
    for (const page of pages) {
      if (withoutSlash(paths[page]!) === path) continue;
      const cause = causeOf(page, paths, pageAt, (own) => slugs.has(own) && !held.has(own));
      if (cause !== null) blocked.set(cause, path);
    }
  }
  return blocked;
}

/** Which wanted slug moves a page: its own, or that of the nearest page above it. */
function causeOf(
  page: number,
  paths: readonly string[],
  pageAt: PageAt,
  isMoving: (page: number) => boolean,
): number | null {
  if (isMoving(page)) return page;
  for (const above of pathsAbove(paths[page]!)) {
    const own = pageAt(above);
    if (own !== undefined && isMoving(own)) return own;
  }
  return null;
}

/** Holds the wanted slugs of all pages below some back. */
function holdBelow(
  { paths, slugs, shaped }: WantedAddresses,
  pageAt: PageAt,
  above: ReadonlySet<number>,
  held: Map<number, HeldBack>,
): void {
  if (above.size === 0) return;
  for (const page of slugs.keys()) {
    // An address that is put together as a whole does not rest on where the page is now.
    if (held.has(page) || shaped?.has(page)) continue;
    const cause = pathsAbove(paths[page]!).find((path) => above.has(pageAt(path) ?? -1));
    if (cause !== undefined) held.set(page, { why: "below", path: cause });
  }
}

/** The paths of the folders that a path lies in, the nearest first. @example pathsAbove("/a/b/c") // ["/a/b", "/a"] */
function pathsAbove(path: string): string[] {
  const above: string[] = [];
  for (let folder = folderOf(path); folder.length > 1; folder = folderOf(folder)) above.push(withoutSlash(folder));
  return above;
}

function movesOf(paths: readonly string[], targets: readonly string[]): Move[] {
  const moves: Move[] = [];
  targets.forEach((to, page) => {
    if (to !== paths[page]) moves.push({ page, from: paths[page]!, to });
  });
  return moves;
}

/**
 * The folders that pages without an address go to: where most pages of the same category are, else most of all; with how most
 * addresses end.
 *
 * @param groups of each page what it has in common with others (a category's number); pages of different kinds share none.
 */
export function likelyFolders(
  paths: readonly string[],
  groups: readonly (number | string)[],
  without: readonly number[],
): Map<number, string> {
  const counts = new Map<number | string, Map<string, number>>();
  const all = new Map<string, number>();
  const count = (of: Map<string, number>, folder: string) => of.set(folder, (of.get(folder) ?? 0) + 1);
  paths.forEach((path, page) => {
    if (path === "" || path === "/") return;
    let own = counts.get(groups[page]!);
    if (!own) counts.set(groups[page]!, (own = new Map()));
    count(own, folderOf(path));
    count(all, folderOf(path));
  });
  const most = (of: Map<string, number> | undefined) =>
    [...(of ?? [])].reduce<[string, number]>((best, own) => (own[1] > best[1] ? own : best), ["", 0])[0];
  return new Map(without.map((page) => [page, most(counts.get(groups[page]!)) || most(all) || "/"]));
}
