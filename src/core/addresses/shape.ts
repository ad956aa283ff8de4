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
  private heads: { readonly of: SlugOfPage; readonly known: Map<number | string, string> } | null = null;

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
    this.tail = nodes.slice(slugAt + 1).map((node) => this.part(node));
  }

  /** The address of a page that has this slug. @param slugOf of the pages that categories are. */
  address(row: number, slug: string, slugOf: SlugOfPage = NO_PAGES): string {
    if (this.heads?.of !== slugOf) this.heads = { of: slugOf, known: new Map() };
    const key = this.headKey(row);
    let head = this.heads.known.get(key);
    if (head === undefined) this.heads.known.set(key, (head = joined(this.head, row, slug, slugOf)));
    return this.tail.length === 0 ? head + slug : withoutGaps(head + slug + joined(this.tail, row, slug, slugOf));
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

function namesOf(path: string): string[] {
  return path
    .split(BETWEEN_NAMES)
    .map((name) => name.trim())
    .filter(Boolean);
}
