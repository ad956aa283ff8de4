import { folderOf, lastSegment, splitQuery, withoutSlash } from "./addresses";

/** Gives each text a number, from 0. One that goes on from another knows its texts, too, and adds none to it. */
export class TextNumbers {
  private readonly numbers = new Map<string, number>();
  private readonly texts: string[] = [];
  private readonly first: number;

  /** @param base what this goes on from: nothing may be added to it any more. */
  constructor(private readonly base?: TextNumbers) {
    this.first = base?.size ?? 0;
  }

  get size(): number {
    return this.first + this.texts.length;
  }

  /** The number of a text, a new one where it has none. */
  of(text: string): number {
    const known = this.find(text);
    if (known !== undefined) return known;
    this.numbers.set(text, this.size);
    return this.texts.push(text) - 1 + this.first;
  }

  find(text: string): number | undefined {
    return this.base?.find(text) ?? this.numbers.get(text);
  }

  text(number: number): string {
    return number < this.first ? this.base!.text(number) : this.texts[number - this.first]!;
  }
}

/** Addresses taken apart, a row each: numbers of its folder, its last segment without an ending, and what stands behind that. */
export interface AddressColumns {
  /** -1 where there is no address. */
  readonly folder: Int32Array;
  readonly name: Int32Array;
  /** An ending as of a file, a slash, a query: `""`, `"/"`, `".html"`, `"/?p=1"`. */
  readonly end: Int32Array;
}

/** Columns for so many rows, none of which has an address. */
export function blankAddresses(size: number): AddressColumns {
  return { folder: new Int32Array(size).fill(-1), name: new Int32Array(size), end: new Int32Array(size) };
}

/** A segment without its ending, such as `.html`, and the ending; a dot at its beginning is none. */
export function splitEnding(segment: string): readonly [name: string, ending: string] {
  const dot = segment.lastIndexOf(".");
  return dot > 0 ? [segment.slice(0, dot), segment.slice(dot)] : [segment, ""];
}

/** What the numbers of {@link AddressColumns} stand for. */
export class AddressNumbers {
  /** Folders with a slash at both ends: `/rope/twine/`. */
  readonly folders: TextNumbers;
  readonly names: TextNumbers;
  readonly ends: TextNumbers;
  /** Of each end the one without its slash, which addresses are told apart by; asked for every address. */
  private readonly bareEnds: number[] = [];

  /** @param base what this goes on from: nothing may be added to it any more. */
  constructor(base?: AddressNumbers) {
    this.folders = new TextNumbers(base?.folders);
    this.names = new TextNumbers(base?.names);
    this.ends = new TextNumbers(base?.ends);
    if (base) return;
    this.ends.of("");
    this.folders.of("/");
  }

  /** The end without its slash: two addresses are one where folder, name and this are the same. */
  bareEnd(end: number): number {
    return (this.bareEnds[end] ??= this.ends.of(this.ends.text(end).replace(/^([^/?]*)\//, "$1")));
  }

  address(folder: number, name: number, end: number): string {
    return this.folders.text(folder) + this.names.text(name) + this.ends.text(end);
  }
}

/** Nothing stands behind the last segment. */
export const NO_END = 0;
/** The folder `/`, which lies in none. */
export const TOP = 0;

/** The addresses of pages, taken apart once for all plans that are made of them. Pages are told by their numbers: their places among the paths. */
export class KnownAddresses {
  readonly numbers = new AddressNumbers();
  readonly columns: AddressColumns;
  /** The page that a folder is, by the folder's number; -1 where it is none. */
  readonly pageOfFolder: Int32Array;
  /** The folder that a folder lies in, and its own name in there; of {@link TOP} nothing. */
  readonly parentOf: readonly number[];
  readonly nameOf: readonly number[];

  /** The folders that pages without an address go to. */
  readonly firstFolderOf: ReadonlyMap<number, number>;

  /**
   * @param paths where each page is, `""` where it has no address.
   * @param firstFolders the folders that pages without an address go to, with a slash at the end; without one it is the top.
   */
  constructor(
    readonly paths: readonly string[],
    firstFolders: ReadonlyMap<number, string> = new Map(),
  ) {
    this.columns = blankAddresses(paths.length);
    const { folders, names, ends } = this.numbers;
    const parentOf = [TOP];
    const nameOf = [names.of("")];
    const folderNumber = (folder: string): number => {
      const known = folders.find(folder);
      if (known !== undefined) return known;
      const parent = folderNumber(folderOf(folder));
      const number = folders.of(folder);
      parentOf[number] = parent;
      nameOf[number] = names.of(lastSegment(folder));
      return number;
    };
    paths.forEach((path, page) => {
      if (path === "") return;
      const [name] = splitEnding(lastSegment(path));
      const folder = folderOf(path);
      this.columns.folder[page] = folderNumber(folder);
      this.columns.name[page] = names.of(name);
      this.columns.end[page] = ends.of(path.slice(folder.length + name.length));
    });
    this.firstFolderOf = new Map([...firstFolders].map(([page, folder]) => [page, folderNumber(folder)]));
    // All are known before plans go on from these numbers.
    for (let end = 0; end < ends.size; end++) this.numbers.bareEnd(end);
    this.parentOf = parentOf;
    this.nameOf = nameOf;
    this.pageOfFolder = this.pagesOfFolders();
  }

  /** The numbers of the folders that an address in a folder lies in, the nearest first, {@link TOP} aside. */
  *foldersFrom(folder: number): Generator<number> {
    for (let own = folder; own > TOP; own = this.parentOf[own]!) yield own;
  }

  private pagesOfFolders(): Int32Array {
    const pages = new Int32Array(this.numbers.folders.size).fill(-1);
    this.paths.forEach((path, page) => {
      // Nothing lies below an address with a query.
      if (path.length < 2 || splitQuery(path)[1] !== "") return;
      const folder = this.numbers.folders.find(`${withoutSlash(path)}/`);
      if (folder !== undefined) pages[folder] = page;
    });
    return pages;
  }
}

/** The slugs that pages are to have, taken apart once for all plans that are made with them. */
export class WantedSlugs {
  /** What {@link nameOf} and {@link endingOf} stand for. */
  readonly numbers: AddressNumbers;
  /** By page the number of its slug without an ending. */
  readonly nameOf: Int32Array;
  /** By page the ending of its slug; hardly any has one. */
  readonly endingOf: ReadonlyMap<number, string>;

  /** @param slugs by page. */
  constructor(
    known: KnownAddresses,
    readonly slugs: ReadonlyMap<number, string>,
  ) {
    this.numbers = new AddressNumbers(known.numbers);
    this.nameOf = new Int32Array(known.paths.length);
    const endings = new Map<number, string>();
    for (const [page, slug] of slugs) {
      const [name, ending] = splitEnding(slug);
      this.nameOf[page] = this.numbers.names.of(name);
      if (ending !== "") endings.set(page, ending);
    }
    this.endingOf = endings;
  }
}

/** Finds addresses that are one, the slash at their end aside. */
export class AddressIndex {
  private readonly slots: Int32Array;
  private readonly mask: number;

  constructor(
    private readonly columns: AddressColumns,
    private readonly numbers: AddressNumbers,
  ) {
    let size = 16;
    while (size < columns.folder.length * 2) size *= 2;
    this.slots = new Int32Array(size).fill(-1);
    this.mask = size - 1;
  }

  /** Puts a row's address in. @returns the row that was put in with the same address before; -1 where there is none. */
  add(row: number): number {
    const { folder, name, end } = this.columns;
    const [ownFolder, ownName] = [folder[row]!, name[row]!];
    const bare = end[row] === NO_END ? NO_END : this.numbers.bareEnd(end[row]!);
    let slot = (Math.imul(ownFolder, 0x9e3779b1) ^ Math.imul(ownName, 0x85ebca6b) ^ Math.imul(bare, 0xc2b2ae35)) >>> 0;
    slot = (slot ^ (slot >>> 15)) & this.mask;
    for (;;) {
      const other = this.slots[slot]!;
      if (other < 0) {
        this.slots[slot] = row;
        return -1;
      }
      const isSame =
        name[other] === ownName && folder[other] === ownFolder && this.numbers.bareEnd(end[other]!) === bare;
      if (isSame) return other;
      slot = (slot + 1) & this.mask;
    }
  }
}
