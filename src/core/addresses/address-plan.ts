import { type AddressChange, countChanges } from "./address-change";
import {
  type AddressColumns,
  AddressIndex,
  AddressNumbers,
  type KnownAddresses,
  type WantedSlugs,
} from "./address-parts";
import { addressTargets, type ShapedPages } from "./address-targets";
import { folderOf, withoutSlash } from "./addresses";

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

/** What a plan is made of. Pages are told by their numbers: their places among the paths. */
export interface WantedAddresses {
  /** Where each page is now. */
  readonly known: KnownAddresses;
  readonly slugs: WantedSlugs;
  /** How the addresses of kinds are put together; without one a page stays in its folder. */
  readonly shaped?: ShapedPages;
  /** Pages that cannot move in any case: all below them stays, too. */
  readonly fixed: ReadonlySet<number>;
}

/** Where the pages of a site go. */
export class AddressPlan {
  private list: readonly Move[] | null = null;

  constructor(
    private readonly known: KnownAddresses,
    private readonly numbers: AddressNumbers,
    private readonly targets: AddressColumns,
    /** The pages whose wanted slug is held back, and why. */
    readonly held: ReadonlyMap<number, HeldBack>,
    /** Every page that moves, those that only move along with one above them too, rising. */
    readonly pages: readonly number[],
  ) {}

  /** Where a page is by then. */
  to(page: number): string {
    const { folder, name, end } = this.targets;
    return folder[page]! < 0 ? "" : this.numbers.address(folder[page]!, name[page]!, end[page]!);
  }

  /** The folder that a page is in by then, with a slash at its end; not for pages without an address. */
  folderOf(page: number): string {
    return this.numbers.folders.text(this.targets.folder[page]!);
  }

  /** The pages that move, each with its addresses. */
  get moves(): readonly Move[] {
    return (this.list ??= this.pages.map((page) => ({ page, from: this.known.paths[page]!, to: this.to(page) })));
  }

  /** What becomes of the addresses of pages that have one, in how many of them. */
  changesOf(pages: readonly number[]): ReadonlyMap<AddressChange, number> {
    return countChanges(pages, this.known.columns, this.targets, this.numbers);
  }
}

/** The plan of a site in which nothing moves. */
export function nothingMoves(known: KnownAddresses): AddressPlan {
  return new AddressPlan(known, known.numbers, known.columns, new Map(), []);
}

/**
 * Where pages go when their slugs change: each page's last segment is its new slug, and what lies below a page that moves moves
 * along. Two pages never get one address, of whatever kind they are: what would bring that about is held back, and so is all
 * that lies below a page that cannot move. Worked out again as long as something more is held back.
 */
export function planAddresses(wanted: WantedAddresses): AddressPlan {
  const { known } = wanted;
  const numbers = new AddressNumbers(wanted.slugs.numbers);
  const held = new Map<number, HeldBack>();
  holdBelow(wanted, wanted.fixed, held);
  for (;;) {
    const targets = addressTargets(wanted, numbers, (page) => held.has(page));
    const blocked = clashing(wanted, targets, numbers, held);
    if (blocked.size === 0) return new AddressPlan(known, numbers, targets, held, movingPages(known, targets));
    for (const [page, path] of blocked) held.set(page, { why: "clash", path });
    holdBelow(wanted, new Set(blocked.keys()), held);
  }
}

/** The pages that have to stay so that no two have one address, and the address. */
function clashing(
  { known, slugs: { slugs } }: WantedAddresses,
  targets: AddressColumns,
  numbers: AddressNumbers,
  held: ReadonlyMap<number, HeldBack>,
): Map<number, string> {
  const index = new AddressIndex(targets, numbers);
  const shared = new Map<number, number[]>();
  for (let page = 0; page < targets.folder.length; page++) {
    if (targets.folder[page]! < 0) continue;
    const first = index.add(page);
    if (first < 0) continue;
    const pages = shared.get(first);
    if (pages) pages.push(page);
    else shared.set(first, [first, page]);
  }
  const blocked = new Map<number, string>();
  for (const [first, pages] of shared) {
    const path = numbers.address(targets.folder[first]!, targets.name[first]!, numbers.bareEnd(targets.end[first]!));
    for (const page of pages) {
      if (isSamePlace(page, known.columns, targets, numbers)) continue;
      const cause = causeOf(page, known, (own) => slugs.has(own) && !held.has(own));
      if (cause !== null) blocked.set(cause, path);
    }
  }
  return blocked;
}

/** Whether a page stays where it is, a slash at the end aside. */
function isSamePlace(page: number, now: AddressColumns, then: AddressColumns, numbers: AddressNumbers): boolean {
  return (
    now.folder[page] === then.folder[page] &&
    now.name[page] === then.name[page] &&
    numbers.bareEnd(now.end[page]!) === numbers.bareEnd(then.end[page]!)
  );
}

/** Which wanted slug moves a page: its own, or that of the nearest page above it. */
function causeOf(page: number, known: KnownAddresses, isMoving: (page: number) => boolean): number | null {
  if (isMoving(page)) return page;
  for (const folder of known.foldersFrom(known.columns.folder[page]!)) {
    const own = known.pageOfFolder[folder]!;
    if (own >= 0 && isMoving(own)) return own;
  }
  return null;
}

/** Holds the wanted slugs of all pages below some back. */
function holdBelow(
  { known, slugs: { slugs }, shaped }: WantedAddresses,
  above: ReadonlySet<number>,
  held: Map<number, HeldBack>,
): void {
  if (above.size === 0) return;
  for (const page of slugs.keys()) {
    // An address that is put together as a whole does not rest on where the page is now.
    if (held.has(page) || shaped?.has(page)) continue;
    for (const folder of known.foldersFrom(known.columns.folder[page]!)) {
      if (!above.has(known.pageOfFolder[folder]!)) continue;
      held.set(page, { why: "below", path: withoutSlash(known.numbers.folders.text(folder)) });
      break;
    }
  }
}

function movingPages({ columns }: KnownAddresses, targets: AddressColumns): number[] {
  const pages: number[] = [];
  for (let page = 0; page < targets.folder.length; page++) {
    const stays =
      columns.folder[page] === targets.folder[page] &&
      (targets.folder[page]! < 0 ||
        (columns.name[page] === targets.name[page] && columns.end[page] === targets.end[page]));
    if (!stays) pages.push(page);
  }
  return pages;
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
