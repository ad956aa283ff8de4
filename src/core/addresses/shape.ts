import { type FieldNode, type Node } from "../lines/ast";
import { type Column, type ItemSet } from "../proof/items";
import { slugOf, type SlugRules } from "../slugs/slug";
import { isSlug, type Shape } from "./parse-shape";

/** What stands between the names of categories, from the top down, whoever wrote them: `Rope > Twine`, `Rope › Twine`. */
const BETWEEN_NAMES = /\s*[>›»]\s*/;

/** What addresses are made with besides the pages. */
export interface ShapeContext {
  readonly slugRules: SlugRules;
  /** The pages of categories by their names from the top down, by number, `null` where no page is one. `null` where none are. */
  readonly folderPages: ((names: readonly string[]) => readonly (number | null)[]) | null;
  /** Whether the pages are categories themselves: their own name, the last of their categories, is no folder above them. */
  readonly areFolders?: boolean;
}

/** The slug of a category’s page, by the page’s number. */
export type SlugOfPage = (page: number) => string;

/** A folder of an address: the page whose slug it takes, or the slug of its name. */
type Folder = { readonly page: number } | { readonly slug: string };
/** What stands before the slug: whole segments, and how the last one begins. */
interface Head {
  readonly folder: string;
  readonly prefix: string;
}
type Part = (row: number, slug: string, slugOf: SlugOfPage) => string;

const NO_PAGES: SlugOfPage = () => "";

/** Puts addresses of pages together. Segments are worked out once for each value that occurs. */
export class AddressMaker {
  /** All before the slug, and all behind it. */
  private readonly head: readonly Part[];
  private readonly tail: readonly Part[];
  /** The columns that parts made so far read. */
  private readonly read: Column[] = [];
  /** Pages of the same values have the same head, as long as folders are called the same. */
  private readonly headKey: (row: number) => number | string;
  private heads: { readonly of: SlugOfPage; readonly known: Map<number | string, Head> } | null = null;
  /** Whether the slug begins its segment, of whatever page. */
  private readonly headEndsInSlash: boolean;
  /** What stands behind the slug where that is the same for all pages. */
  private readonly fixedTail: string | null;
  /** Whether something behind the slug may write slashes. */
  private readonly tailHasFolders: boolean;

  /** @throws when the shape has errors. */
  constructor(
    shape: Shape,
    private readonly items: ItemSet,
    private readonly context: ShapeContext,
  ) {
    if (shape.line.errors.length > 0)
      throw new Error(`A shape with an error is not used: ${shape.line.errors[0]!.message}`);
    const { nodes } = shape.line;
    const slugAt = nodes.findIndex((node) => node.type === "field" && isSlug(node));
    this.head = nodes.slice(0, slugAt).map((node) => this.part(node));
    this.headKey = keyOf(this.read);
    const ahead = nodes[slugAt - 1];
    this.headEndsInSlash = ahead?.type === "text" && ahead.value.endsWith("/");
    const behind = nodes.slice(slugAt + 1);
    this.tail = behind.map((node) => this.part(node));
    this.fixedTail = behind.every((node) => node.type === "text") ? behind.map(({ value }) => value).join("") : null;
    this.tailHasFolders = behind.some(writesFolders);
  }

  /** The address of a page that has this slug. @param slugOf of the pages that categories are. */
  address(row: number, slug: string, slugOf: SlugOfPage = NO_PAGES): string {
    return withoutGaps(this.folder(row, slugOf) + this.last(row, slug, slugOf));
  }

  /** The folder of a page’s address, with a slash at its end. */
  folder(row: number, slugOf: SlugOfPage): string {
    return this.tailHasFolders ? this.whole(row, "-", slugOf).folder : this.headOf(row, slugOf).folder;
  }

  /** The last segment of the address of a page that has this slug, with a slash at its end where the line writes one. */
  last(row: number, slug: string, slugOf: SlugOfPage): string {
    if (this.tailHasFolders) return this.whole(row, slug, slugOf).prefix;
    const { prefix } = this.headOf(row, slugOf);
    const begun = prefix === "" ? slug : prefix + slug;
    return begun + (this.fixedTail ?? joined(this.tail, row, slug, slugOf));
  }

  /** What follows the slug where the last segment of every page is its slug and an ending or a slash; `null` where it is more. */
  get behind(): string | null {
    return this.headEndsInSlash && this.fixedTail !== null && /^(\.[^./]+)?\/?$/.test(this.fixedTail)
      ? this.fixedTail
      : null;
  }

  private headOf(row: number, slugOf: SlugOfPage): Head {
    if (this.heads?.of !== slugOf) this.heads = { of: slugOf, known: new Map() };
    const key = this.headKey(row);
    let head = this.heads.known.get(key);
    if (head === undefined) this.heads.known.set(key, (head = splitFolder(joined(this.head, row, "", slugOf))));
    return head;
  }

  /** The address taken apart where what stands behind the slug may hold slashes. */
  private whole(row: number, slug: string, slugOf: SlugOfPage): Head {
    const address = joined([...this.head, () => slug, ...this.tail], row, slug, slugOf);
    return splitFolder(address, address.length - 2);
  }

  private part(node: Node): Part {
    if (node.type === "text") return () => node.value;
    if (node.type === "field") return this.field(node);
    const alternatives = node.alternatives.map((nodes) => ({
      parts: nodes.map((inner) => this.part(inner)),
      fields: nodes.flatMap((inner) => (inner.type === "field" ? [this.field(inner)] : [])),
    }));
    return (row, slug, slugOf) => {
      const chosen = alternatives.find(({ fields }) => fields.every((field) => field(row, slug, slugOf) !== ""));
      return chosen ? chosen.parts.map((part) => part(row, slug, slugOf)).join("") : "";
    };
  }

  private field(node: FieldNode): Part {
    if (isSlug(node)) return (_, slug) => slug;
    const column = this.items.fieldColumn(node);
    this.read.push(column);
    const { codes, table } = column;
    const names = node.sources.map((source) => (source.type === "name" ? source.name : ""));
    if (names.includes("category.path")) {
      const folders = remembered(table.values.length, (code) => this.folders(namesOf(table.values[code]!)));
      if (!this.context.areFolders) return (row, _, slugOf) => written(folders(codes[row]!), slugOf);
      this.read.push(this.items.column("name"));
      const last = remembered(table.values.length, (code) => folded(namesOf(table.values[code]!).at(-1) ?? ""));
      return (row, _, slugOf) => {
        const all = folders(codes[row]!);
        const isOwn = last(codes[row]!) === folded(this.items.value("name", row));
        return written(isOwn ? all.slice(0, -1) : all, slugOf);
      };
    }
    const isCategory = names.some((name) => name === "category" || name === "category.parent");
    if (isCategory && node.filters.length === 0 && this.context.folderPages) return this.category(column);
    const segments = remembered(table.values.length, (code) => this.segment(table.values[code]!));
    return (row) => segments(codes[row]!);
  }

  /** One of a page’s categories by its name: which page that is the names from the top down to it tell. */
  private category({ codes, table }: Column): Part {
    const paths = this.items.column("category.path");
    this.read.push(paths);
    const known = new Map<number, Folder>();
    return (row, _, slugOf) => {
      const key = codes[row]! * paths.table.values.length + paths.codes[row]!;
      let folder = known.get(key);
      if (folder === undefined) {
        const names = namesOf(paths.table.values[paths.codes[row]!]!);
        const name = table.values[codes[row]!]!;
        const at = names.lastIndexOf(name);
        folder = name === "" ? { slug: "" } : this.folders(at < 0 ? [name] : names.slice(0, at + 1)).at(-1)!;
        known.set(key, folder);
      }
      return written([folder], slugOf);
    };
  }

  private folders(names: readonly string[]): readonly Folder[] {
    const pages = this.context.folderPages?.(names) ?? [];
    return names.map((name, i) => {
      const page = pages[i] ?? null;
      return page === null ? { slug: this.segment(name) } : { page };
    });
  }

  private segment(value: string): string {
    return value === "" ? "" : slugOf(value, this.context.slugRules);
  }
}

/** Whether a node may come to several segments. */
function writesFolders(node: Node): boolean {
  if (node.type === "piece") return node.alternatives.some((nodes) => nodes.some(writesFolders));
  return (
    node.type === "field" && node.sources.some((source) => source.type === "name" && source.name === "category.path")
  );
}

/** All up to a slash, and what follows it. @param last the last place at which the slash may be. */
function splitFolder(address: string, last: number = address.length): Head {
  const at = address.lastIndexOf("/", last) + 1;
  return { folder: address.slice(0, at), prefix: address.slice(at) };
}

function joined(parts: readonly Part[], row: number, slug: string, slugOf: SlugOfPage): string {
  return withoutGaps(parts.map((part) => part(row, slug, slugOf)).join(""));
}

/** A segment without anything in it vanishes. */
function withoutGaps(address: string): string {
  return address.includes("//") ? address.replace(/\/{2,}/g, "/") : address;
}

/** Tells rows apart by what they have in some columns: a number where so many combinations can be counted. */
function keyOf(columns: readonly Column[]): (row: number) => number | string {
  const own = [...new Set(columns)];
  const combinations = own.reduce((product, { table }) => product * Math.max(1, table.values.length), 1);
  const [only] = own;
  if (own.length === 1) return (row) => only!.codes[row]!;
  return combinations <= Number.MAX_SAFE_INTEGER
    ? (row) => own.reduce((key, { codes, table }) => key * table.values.length + codes[row]!, 0)
    : (row) => own.map(({ codes }) => codes[row]).join();
}

function remembered<T>(size: number, of: (code: number) => T): (code: number) => T {
  const known = new Array<T | undefined>(size);
  return (code) => (known[code] ??= of(code));
}

function written(folders: readonly Folder[], slugOf: SlugOfPage): string {
  let path = "";
  for (const folder of folders) {
    const slug = "page" in folder ? slugOf(folder.page) : folder.slug;
    if (slug !== "") path += path === "" ? slug : `/${slug}`;
  }
  return path;
}

function folded(name: string): string {
  return name.trim().normalize("NFC").toLowerCase();
}

/** The names of categories in a path of them. @example namesOf("Rope > Twine") // ["Rope", "Twine"] */
export function namesOf(path: string): string[] {
  return path
    .split(BETWEEN_NAMES)
    .map((name) => name.trim())
    .filter(Boolean);
}
