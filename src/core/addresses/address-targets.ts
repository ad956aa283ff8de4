import {
  type AddressColumns,
  type AddressNumbers,
  blankAddresses,
  type KnownAddresses,
  NO_END,
  splitEnding,
  TOP,
  type WantedSlugs,
} from "./address-parts";
import { lastSegment } from "./addresses";

/** Whether addresses end in a slash: as the line is written and the page has it now, always, or never. */
export const SLASH_ENDS = ["as-it-is", "always", "never"] as const;
export type SlashEnd = (typeof SLASH_ENDS)[number];

/** Pages whose whole address a line puts together: its folder and its last segment, of a page that has this slug. */
export interface ShapedPages {
  /** Whether their addresses end in a slash. */
  readonly end: SlashEnd;
  has(page: number): boolean;
  /** @param slugOf the slug that a page has by then, for folders that are pages. */
  folder(page: number, slugOf: (page: number) => string): string;
  /** With a slash at its end where the line writes one. */
  last(page: number, slug: string, slugOf: (page: number) => string): string;
  /** What follows the slug where the last segment is the slug and an ending or a slash: `""`, `"/"`, `".html"`; `null` where it is more. */
  behind(page: number): string | null;
}

/** What addresses are to be. */
interface Wanted {
  readonly known: KnownAddresses;
  readonly slugs: WantedSlugs;
  readonly shaped?: ShapedPages;
}

/**
 * Where each page of a site goes.
 *
 * @param numbers what the targets are written in; goes on from those of the slugs.
 * @param isHeld whether a page whose slug is another one stays all the same.
 */
export function addressTargets(
  wanted: Wanted,
  numbers: AddressNumbers,
  isHeld: (page: number) => boolean,
): AddressColumns {
  return new Targets(wanted, numbers, isHeld).all();
}

class Targets {
  private readonly targets: AddressColumns;
  private readonly isGoing: Uint8Array;
  /** Where folders are by then, by their numbers; -1 where nobody asked yet. */
  private readonly newFolders: Int32Array;
  /** By what follows the slug and the end of the address before: the new end. */
  private readonly newEnds = new Map<string, number[]>();
  private readonly slugOf: (page: number) => string;

  constructor(
    private readonly wanted: Wanted,
    private readonly numbers: AddressNumbers,
    isHeld: (page: number) => boolean,
  ) {
    const { known, slugs } = wanted;
    this.targets = blankAddresses(known.paths.length);
    this.isGoing = new Uint8Array(known.paths.length);
    for (const page of slugs.slugs.keys()) if (!isHeld(page)) this.isGoing[page] = 1;
    this.newFolders = new Int32Array(known.numbers.folders.size).fill(-1);
    this.newFolders[TOP] = TOP;
    this.slugOf = (page) => (this.isGoing[page] ? slugs.slugs.get(page)! : lastSegment(known.paths[page]!));
  }

  all(): AddressColumns {
    const { folder, name, end } = this.wanted.known.columns;
    for (let page = 0; page < folder.length; page++) {
      if (this.isGoing[page]) this.go(page);
      else if (folder[page]! >= 0) this.put(page, this.newFolder(folder[page]!), name[page]!, end[page]!);
    }
    return this.targets;
  }

  private put(page: number, folder: number, name: number, end: number): void {
    const { targets } = this;
    targets.folder[page] = folder;
    targets.name[page] = name;
    targets.end[page] = end;
  }

  /** Puts where a page goes that gets another slug, or whose address a line puts together. */
  private go(page: number): void {
    if (this.targets.folder[page]! >= 0) return;
    const { known, slugs, shaped } = this.wanted;
    if (shaped?.has(page)) {
      this.goAsShaped(page, shaped);
      return;
    }
    const { folder, end } = known.columns;
    const isNew = folder[page]! < 0;
    // The folder that it goes to may move itself.
    const newFolder = this.newFolder(isNew ? (known.firstFolderOf.get(page) ?? TOP) : folder[page]!);
    const query = isNew ? NO_END : this.numbers.ends.of(withoutEnding(this.numbers.ends.text(end[page]!)));
    const ending = slugs.endingOf.get(page) ?? "";
    const newEnd = ending === "" ? query : this.numbers.ends.of(ending + this.numbers.ends.text(query));
    this.put(page, newFolder, slugs.nameOf[page]!, newEnd);
  }

  private goAsShaped(page: number, shaped: ShapedPages): void {
    const { known, slugs } = this.wanted;
    const folder = this.numbers.folders.of(shaped.folder(page, this.slugOf));
    const before = known.columns.folder[page]! < 0 ? NO_END : known.columns.end[page]!;
    const behind = shaped.behind(page);
    const isSimple = behind !== null && (slugs.endingOf.size === 0 || !slugs.endingOf.has(page));
    if (isSimple) {
      this.put(page, folder, slugs.nameOf[page]!, this.newEnd(behind, before, shaped.end));
      return;
    }
    const last = shaped.last(page, slugs.slugs.get(page)!, this.slugOf);
    const hasSlash = last.endsWith("/");
    const [name, ending] = splitEnding(hasSlash ? last.slice(0, -1) : last);
    const newEnd = this.newEnd(ending + (hasSlash ? "/" : ""), before, shaped.end);
    this.put(page, folder, this.numbers.names.of(name), newEnd);
  }

  /** What stands behind the name of an address: a slash as the site has it, where it does not end like a file, and the query of the one before. */
  private newEnd(behind: string, before: number, end: SlashEnd): number {
    let known = this.newEnds.get(behind);
    if (!known) this.newEnds.set(behind, (known = []));
    return (known[before] ??= this.numbers.ends.of(endFor(behind, this.numbers.ends.text(before), end)));
  }

  /** Where a folder is by then: the page that it is may go, and so may the one that it lies in. */
  private newFolder(folder: number): number {
    const done = this.newFolders[folder]!;
    return done >= 0 ? done : (this.newFolders[folder] = this.movedFolder(folder));
  }

  private movedFolder(folder: number): number {
    const { known } = this.wanted;
    const { folders, names, ends } = this.numbers;
    const page = known.pageOfFolder[folder]!;
    if (page >= 0 && this.isGoing[page]) {
      this.go(page);
      const { folder: above, name, end } = this.targets;
      const ending = endingOf(ends.text(end[page]!));
      return folders.of(`${folders.text(above[page]!)}${names.text(name[page]!)}${ending}/`);
    }
    const parent = known.parentOf[folder]!;
    const moved = this.newFolder(parent);
    return moved === parent ? folder : folders.of(`${folders.text(moved)}${names.text(known.nameOf[folder]!)}/`);
  }
}

/** The ending of what stands behind a name. @example endingOf(".html?p=1") // ".html" */
function endingOf(end: string): string {
  return /^[^/?]*/.exec(end)![0];
}

function withoutEnding(end: string): string {
  return end.slice(endingOf(end).length);
}

/** @param behind what the line writes behind the name: an ending, a slash. @param before what stood behind the name of the address before. */
function endFor(behind: string, before: string, end: SlashEnd): string {
  const ending = endingOf(behind);
  const isFile = ending !== "";
  const old = withoutEnding(before);
  const wanted = {
    always: !isFile,
    never: false,
    "as-it-is": behind.endsWith("/") || (old.startsWith("/") && !isFile),
  };
  return ending + (wanted[end] ? "/" : "") + old.replace(/^\//, "");
}
