import { type Kind, KINDS, type TextName } from "../core/design/kinds";
import { fieldName } from "../core/lines/fields";
import { textValue } from "../core/proof/items";
import { type ItemColumn, type ItemInput } from "../store/items";
import { type RefusedRow, type TableRow } from "./csv-read";
import { type Target, TARGETS } from "../core/design/import-targets";

/** For each column of the file, in order, what it becomes; and the kind where no column says it. */
export interface Mapping {
  readonly targets: readonly Target[];
  readonly kind: Kind;
}

const NAMES: Partial<Record<Target, readonly string[]>> = {
  id: ["id", "key", "item_id", "post_id", "product_id", "term_id", "sku", "article_number", "number"],
  kind: ["kind", "type", "post_type", "content_type", "page_type"],
  address: ["address", "url", "path", "permalink", "link", "uri", "loc", "page", "page_url"],
  name: ["name", "h1", "heading", "headline", "post_title", "product_name", "item_name", "label"],
  category: ["category", "category_name", "product_category", "collection", "section", "department"],
  "category.path": ["category_path", "category.path", "categories", "breadcrumb", "breadcrumbs", "product_type"],
  keyword: ["keyword", "focus_keyword", "focus_keyphrase", "keyphrase", "main_keyword", "target_keyword", "focuskw"],
  title: ["title", "seo_title", "meta_title", "page_title", "title_tag", "title_1"],
  description: [
    "description",
    "meta_description",
    "seo_description",
    "metadesc",
    "meta_description_1",
    "description_tag",
  ],
  slug: ["slug", "handle", "post_name", "url_key", "url_slug"],
  summary: ["summary", "excerpt", "short_description", "teaser", "abstract"],
  intro: ["intro", "first_paragraph", "lead", "introduction", "lede"],
  body: ["body", "content", "text", "post_content", "long_description", "body_html", "body_text"],
  author: ["author", "writer", "byline"],
  published: ["published", "date", "publish_date", "published_at", "post_date", "created", "created_at"],
  updated: ["updated", "modified", "updated_at", "last_modified", "lastmod", "post_modified"],
  price: ["price", "regular_price", "sale_price", "amount"],
  count: ["count", "items", "item_count", "product_count"],
  robots: ["robots", "meta_robots", "indexability", "robots_setting"],
  "by-hand": ["by_hand", "hand", "manual", "custom", "locked"],
};

/**
 * A guess at what each column is, by its name; each of our fields is given once, to the nearest name. When there is a
 * title but no name, and a column such as `meta_title` beside it, the title is the page's name.
 */
export function guessTargets(header: readonly string[]): Target[] {
  const names = header.map((name) => fieldName(name));
  const targets: Target[] = names.map(() => "attribute");
  const used = new Set<Target>();
  for (const [target, aliases] of Object.entries(NAMES) as [Target, readonly string[]][]) {
    for (const alias of aliases) {
      const at = names.findIndex((name, i) => name === alias && targets[i] === "attribute");
      if (at >= 0 && !used.has(target)) {
        targets[at] = target;
        used.add(target);
      }
    }
  }
  const title = names.indexOf("title");
  const better = names.findIndex((name) => ["seo_title", "meta_title", "title_tag"].includes(name));
  if (title >= 0 && better >= 0 && !used.has("name")) {
    targets[title] = "name";
    targets[better] = "title";
  }
  names.forEach((name, i) => {
    if (name === "") targets[i] = "skip";
  });
  return targets;
}

/** What is wrong with a mapping as a whole, in words, or `null`. */
export function mappingError(mapping: Mapping, header: readonly string[]): string | null {
  if (mapping.targets.length !== header.length)
    return `The mapping names ${mapping.targets.length} columns, the file has ${header.length}. Look at the file again.`;
  for (const target of TARGETS) {
    if (target === "attribute" || target === "skip") continue;
    const columns = header.filter((_, i) => mapping.targets[i] === target);
    if (columns.length > 1)
      return `Two columns are mapped to ${target}: ${columns.map((c) => `“${c}”`).join(" and ")}. Choose one of them.`;
  }
  if (!mapping.targets.includes("id") && !mapping.targets.includes("address"))
    return "No column is mapped to id or address, so pages could not be told apart. Map one of them.";
  return null;
}

const KIND_WORDS = new Map<string, Kind>([
  ...KINDS.map((kind): [string, Kind] => [kind, kind]),
  ["posts", "post"],
  ["article", "post"],
  ["products", "product"],
  ["variant", "product"],
  ["categories", "category"],
  ["product_cat", "category"],
  ["collection", "category"],
  ["term", "category"],
  ["pages", "page"],
  ["tags", "tag"],
  ["authors", "author"],
  ["homepage", "home"],
]);
const COLUMNS: Partial<Record<Target, ItemColumn>> = { "category.path": "category_path" };
const MOST_CELL = 2_000_000;

/** Makes items of rows; a row that cannot be one is given back with its line and the reason. */
export function rowReader(header: readonly string[], mapping: Mapping): (row: TableRow) => ItemInput | RefusedRow {
  const attributeNames = header.map((name) => fieldName(name));
  return ({ line, cells }) => {
    const refuse = (reason: string): RefusedRow => ({ line, reason, content: cells.join(" | ").slice(0, 2000) });
    let key: string | null = null;
    let path: string | null = null;
    let kind: Kind = mapping.kind;
    let body: string | null = null;
    let byHand: TextName[] | null = null;
    const columns: Partial<Record<ItemColumn, string>> = {};
    const attributes: Record<string, string> = {};
    for (let i = 0; i < mapping.targets.length; i++) {
      const target = mapping.targets[i]!;
      const cell = cells[i] ?? "";
      if (target === "skip") continue;
      if (cell.length > MOST_CELL)
        return refuse(
          `The cell “${header[i]}” has ${cell.length.toLocaleString("en")} characters; ${MOST_CELL.toLocaleString("en")} are the most`,
        );
      if (target === "attribute") {
        const value = textValue(cell);
        if (value !== "") attributes[attributeNames[i]!] = value;
      } else if (target === "id") key = cell.trim() || null;
      else if (target === "address") {
        if (cell.trim() === "") continue;
        path = pathOf(cell.trim());
        if (path === null)
          return refuse(
            `“${cell.slice(0, 120)}” is no address; one such as /rope/mooring-line or https://site/rope/mooring-line is`,
          );
      } else if (target === "kind") {
        if (cell.trim() === "") continue;
        const known = KIND_WORDS.get(cell.trim().toLowerCase());
        if (!known) return refuse(`“${cell.slice(0, 60)}” is no kind of page; there are ${KINDS.join(", ")}`);
        kind = known;
      } else if (target === "body") body = cell;
      else if (target === "by-hand") byHand = handOf(cell);
      else if (target === "title" || target === "description" || target === "slug") columns[target] = cell;
      else
        columns[COLUMNS[target] ?? (target as ItemColumn)] =
          target === "category.path"
            ? cell
                .split(/\s*(?:>|›|»|\/|\|)\s*/)
                .filter(Boolean)
                .join(" › ")
            : cell.trim();
    }
    if (key === null && path === null)
      return refuse("The row has neither an id nor an address, so it cannot be told which page it is");
    if (path !== null && columns.slug === undefined && !mapping.targets.includes("slug"))
      columns.slug = decodeSegment(path.replace(/\/$/, "").split("/").at(-1) ?? "");
    if (columns.category_path !== undefined && columns.category === undefined)
      columns.category = columns.category_path.split(" › ").at(-1) ?? "";
    return {
      key,
      kind,
      path,
      columns,
      attributes: Object.keys(attributes).length > 0 ? attributes : null,
      body,
      byHand,
    };
  };
}

/** The path of an address, query and fragment left off; `null` for what is none. @example pathOf("https://x.example/rope/") // "/rope/" */
export function pathOf(address: string): string | null {
  if (address.startsWith("/")) return /\s/.test(address) ? null : address.replace(/[?#].*$/, "");
  try {
    const url = new URL(/^[a-z][a-z0-9+.-]*:/i.test(address) ? address : `https://${address}`);
    return url.protocol === "http:" || url.protocol === "https:"
      ? url.hostname.includes(".") || url.hostname === "localhost"
        ? decodeSegment(url.pathname)
        : null
      : null;
  } catch {
    return null;
  }
}

function decodeSegment(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

/** @example handOf("title, slug") // ["title", "slug"] */
function handOf(cell: string): TextName[] {
  const words = cell.toLowerCase();
  if (["yes", "true", "1", "all"].includes(words.trim())) return ["title", "description", "slug"];
  return (["title", "description", "slug"] as const).filter((text) => words.includes(text));
}
