import { type HandName, type Hands } from "../core/design/hands";
import { type Kind, kindIds, type KindInfo, kindsByWord, type WithKinds, wordKey } from "../core/design/kinds";
import { fieldName } from "../core/lines/fields";
import { addressOf, lastSegment } from "../core/addresses/addresses";
import { textValue } from "../core/proof/items";
import { foldedSpaces } from "../core/text/plain";
import { type ItemColumn, type ItemInput } from "../store/items";
import { type FieldFormat } from "../core/text/figures";
import { type RefusedRow, type TableRow } from "./table";
import { handOf, readHandCell } from "./hand-cell";
import { type Target, TARGETS } from "../core/design/import-targets";

/** For each column of the file, in order, what it becomes; and the kind where no column says it. */
export interface Mapping {
  readonly targets: readonly Target[];
  readonly kind: Kind;
  /** How each column writes its figures, `null` for one without any. */
  readonly formats?: readonly (FieldFormat | null)[];
  /** Kinds that the site gets before the first row: new ones, and known ones with other words for them. */
  readonly kinds?: readonly KindInfo[];
}

/** Names that columns have for our fields, as {@link fieldName} writes them: in English, German, French, Spanish and Dutch. */
const NAMES: Partial<Record<Target, readonly string[]>> = {
  id: [
    "id",
    "key",
    "item_id",
    "post_id",
    "product_id",
    "term_id",
    "sku",
    "article_number",
    "number",
    "nr",
    "artikelnummer",
    "artikelnr",
    "artikel_nr",
    "produktnummer",
    "numéro",
    "numero",
    "référence",
    "reference",
    "referencia",
    "número",
    "artikelcode",
  ],
  kind: [
    "kind",
    "type",
    "post_type",
    "content_type",
    "page_type",
    "typ",
    "art",
    "seitentyp",
    "seitenart",
    "inhaltstyp",
    "tipo",
    "soort",
  ],
  address: [
    "address",
    "url",
    "path",
    "permalink",
    "link",
    "uri",
    "loc",
    "page",
    "page_url",
    "adresse",
    "url_adresse",
    "seite",
    "pfad",
    "lien",
    "adresse_url",
    "dirección",
    "direccion",
    "enlace",
    "adres",
  ],
  name: [
    "name",
    "h1",
    "heading",
    "headline",
    "post_title",
    "product_name",
    "item_name",
    "label",
    "produktname",
    "artikelname",
    "bezeichnung",
    "überschrift",
    "nom",
    "nom_du_produit",
    "nombre",
    "nombre_del_producto",
    "naam",
    "productnaam",
  ],
  category: [
    "category",
    "category_name",
    "product_category",
    "collection",
    "section",
    "department",
    "kategorie",
    "rubrik",
    "warengruppe",
    "catégorie",
    "categorie",
    "categoría",
    "rubrique",
  ],
  "category.path": [
    "category_path",
    "category.path",
    "categories",
    "breadcrumb",
    "breadcrumbs",
    "product_type",
    "kategoriepfad",
    "brotkrumen",
    "fil_d_ariane",
    "ruta_de_navegación",
    "kruimelpad",
  ],
  keyword: [
    "keyword",
    "focus_keyword",
    "focus_keyphrase",
    "keyphrase",
    "main_keyword",
    "target_keyword",
    "focuskw",
    "fokus_keyword",
    "suchbegriff",
    "mot_clé",
    "mot_clé_principal",
    "palabra_clave",
    "zoekwoord",
  ],
  title: [
    "title",
    "seo_title",
    "meta_title",
    "page_title",
    "title_tag",
    "title_1",
    "seitentitel",
    "seo_titel",
    "meta_titel",
    "titre_seo",
    "titre_de_la_page",
    "título_seo",
    "paginatitel",
  ],
  description: [
    "description",
    "meta_description",
    "seo_description",
    "metadesc",
    "meta_description_1",
    "description_tag",
    "meta_beschreibung",
    "seo_beschreibung",
    "méta_description",
    "metadescripción",
    "meta_descripción",
    "metaomschrijving",
    "meta_omschrijving",
  ],
  slug: ["slug", "handle", "post_name", "url_key", "url_slug"],
  summary: [
    "summary",
    "excerpt",
    "short_description",
    "teaser",
    "abstract",
    "kurztext",
    "kurzbeschreibung",
    "auszug",
    "extrait",
    "description_courte",
    "extracto",
    "descripción_corta",
    "samenvatting",
    "korte_omschrijving",
  ],
  intro: ["intro", "first_paragraph", "lead", "introduction", "lede", "einleitung", "introducción", "inleiding"],
  body: [
    "body",
    "content",
    "text",
    "post_content",
    "long_description",
    "body_html",
    "body_text",
    "inhalt",
    "beschreibung",
    "langtext",
    "contenu",
    "contenido",
    "inhoud",
    "omschrijving",
  ],
  author: ["author", "writer", "byline", "autor", "auteur"],
  published: [
    "published",
    "date",
    "publish_date",
    "published_at",
    "post_date",
    "created",
    "created_at",
    "erschienen",
    "erscheinungsdatum",
    "veröffentlichungsdatum",
    "veröffentlicht",
    "datum",
    "publié",
    "date_de_publication",
    "publicado",
    "fecha",
    "gepubliceerd",
  ],
  updated: [
    "updated",
    "modified",
    "updated_at",
    "last_modified",
    "lastmod",
    "post_modified",
    "geändert",
    "aktualisiert",
    "modifié",
    "mis_à_jour",
    "actualizado",
    "bijgewerkt",
  ],
  price: ["price", "regular_price", "sale_price", "amount", "preis", "prix", "precio", "prijs"],
  count: ["count", "items", "item_count", "product_count", "anzahl", "nombre_d_articles", "cantidad", "aantal"],
  robots: ["robots", "meta_robots", "indexability", "robots_setting"],
  "meta-keywords": [
    "meta_keywords",
    "metakeywords",
    "keywords_meta",
    "meta_keyword",
    "mots_clés_meta",
    "meta_schlüsselwörter",
  ],
  canonical: [
    "canonical",
    "canonical_url",
    "canonical_link",
    "canonical_link_element",
    "canonical_link_element_1",
    "canonical_address",
    "rel_canonical",
    "url_canonique",
    "kanonische_url",
    "url_canónica",
    "canonieke_url",
  ],
  "by-hand": ["by_hand", "hand", "manual", "custom", "locked"],
  attributes: ["attributes"],
  "made-harmless": ["made_harmless"],
  "hand-texts": ["hand_texts"],
};

/** Words that are a page's name in their languages as often as its title. */
const FOREIGN_TITLES: readonly string[] = ["titel", "titre", "título", "titulo"];

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
  const foreign = names.findIndex((name, i) => FOREIGN_TITLES.includes(name) && targets[i] === "attribute");
  if (foreign >= 0 && !used.has("name")) targets[foreign] = "name";
  else if (foreign >= 0 && !used.has("title")) targets[foreign] = "title";
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
    return "No column is mapped to id or address, so rows cannot be matched to pages. Map one of them.";
  return null;
}

/** So much of a word for a kind is kept. */
const MOST_WORD = 60;
const MOST_CELL = 2_000_000;

/** How a site's files are read. */
export interface ReadingRules {
  /** Whether the query does not belong to an address. */
  readonly dropsQueries: boolean;
  /** Whose kinds the words of a column of kinds name. */
  readonly site: WithKinds;
}

/**
 * The names that the attributes of a file get, one for each column: where two columns come to the same name, the second gets a number.
 *
 * @example attributeNames(["Sold by", "sold_by"]) // ["sold_by", "sold_by_2"]
 */
export function attributeNames(header: readonly string[]): string[] {
  const taken = new Set<string>();
  return header.map((heading) => {
    const name = fieldName(heading) || "column";
    let own = name;
    for (let number = 2; taken.has(own); number++) own = `${name}_${number}`;
    taken.add(own);
    return own;
  });
}

/** Columns that get a number because another has their name already, in words. */
export function sameNames(header: readonly string[], mapping: Pick<Mapping, "targets">): string[] {
  const names = attributeNames(header);
  return header.flatMap((heading, i) => {
    if (mapping.targets[i] !== "attribute" || names[i] === (fieldName(heading) || "column")) return [];
    const first = header.findIndex((other) => (fieldName(other) || "column") === (fieldName(heading) || "column"));
    return [`“${heading}” and “${header[first]}” have the same name; this one is {${names[i]}}.`];
  });
}

/** What is read of one row, cell by cell. */
interface RowRead {
  key: string | null;
  path: string | null;
  kind: Kind;
  /** The word for a kind that the site has not. */
  unknownKind: string | null;
  body: string | null;
  byHand: HandName[] | null;
  hands: Hands | null;
  readonly columns: Partial<Record<ItemColumn, string>>;
  readonly attributes: Record<string, string>;
}

/** Takes a cell in; says why it cannot. */
type TakeCell = (row: RowRead, cell: string, column: number) => string | null;

function takers(names: readonly string[], { dropsQueries, site }: ReadingRules): Record<Target, TakeCell> {
  const kinds = kindsByWord(site);
  const raw =
    (column: ItemColumn): TakeCell =>
    (row, cell) => {
      row.columns[column] = cell;
      return null;
    };
  const trimmed =
    (column: ItemColumn): TakeCell =>
    (row, cell) => {
      row.columns[column] = cell.trim();
      return null;
    };
  return {
    id: (row, cell) => {
      row.key = foldedSpaces(cell) || null;
      return null;
    },
    address: (row, cell) => {
      if (cell.trim() === "") return null;
      row.path = addressOf(cell, dropsQueries);
      return row.path === null
        ? `“${cell.slice(0, 120)}” is no address; one such as /rope/mooring-line or https://site/rope/mooring-line is`
        : null;
    },
    kind: (row, cell) => {
      if (cell.trim() === "") return null;
      const known = kinds.get(wordKey(cell));
      if (known === undefined) {
        row.unknownKind = cell.trim().slice(0, MOST_WORD);
        return `“${cell.slice(0, 60)}” is no kind of page; there are ${kindIds(site).join(", ")}`;
      }
      row.kind = known;
      return null;
    },
    body: (row, cell) => {
      row.body = cell;
      return null;
    },
    "hand-texts": (row, cell) => {
      if (cell.trim() === "") return null;
      row.hands = readHandCell(cell);
      return row.hands === null ? `“${cell.slice(0, 60)}” is no JSON object of texts by hand` : null;
    },
    "by-hand": (row, cell) => {
      row.byHand = handOf(cell);
      return null;
    },
    "category.path": (row, cell) => {
      row.columns.category_path = cell.split(pathSeparator(cell)).filter(Boolean).join(" › ");
      return null;
    },
    attribute: (row, cell, column) => {
      // As it is in the file: it is cleaned once, when lines read it.
      if (textValue(cell) !== "") row.attributes[names[column]!] = cell.trim();
      return null;
    },
    attributes: (row, cell) => {
      if (cell.trim() === "") return null;
      const record = attributesOf(cell);
      if (record === null) return `“${cell.slice(0, 60)}” is no JSON object of attributes`;
      Object.assign(row.attributes, record);
      return null;
    },
    title: raw("title"),
    description: raw("description"),
    slug: raw("slug"),
    name: trimmed("name"),
    category: trimmed("category"),
    keyword: trimmed("keyword"),
    summary: trimmed("summary"),
    intro: trimmed("intro"),
    author: trimmed("author"),
    published: trimmed("published"),
    updated: trimmed("updated"),
    price: trimmed("price"),
    count: trimmed("count"),
    robots: trimmed("robots"),
    "meta-keywords": trimmed("meta_keywords"),
    canonical: trimmed("canonical"),
    "made-harmless": () => null,
    skip: () => null,
  };
}

/** Makes items of rows; a row that cannot be one is given back with its line and the reason. */
export function rowReader(
  header: readonly string[],
  mapping: Mapping,
  rules: ReadingRules = { dropsQueries: false, site: null },
): (row: TableRow) => ItemInput | RefusedRow {
  const ownNames = attributeNames(header);
  const take = takers(ownNames, rules);
  const spokenOf = ownNames.filter((_, i) => mapping.targets[i] === "attribute");
  const namesHarmless = mapping.targets.indexOf("made-harmless");
  const names = header.map((heading) => heading.trim());
  const givesPath = mapping.targets.includes("category.path") && !mapping.targets.includes("category");
  return ({ line, cells, absent = [] }) => {
    const refuse = (reason: string): RefusedRow => ({ line, reason, content: cells.join(" | ").slice(0, 2000) });
    const row: RowRead = {
      key: null,
      path: null,
      kind: mapping.kind,
      unknownKind: null,
      body: null,
      byHand: null,
      hands: null,
      columns: {},
      attributes: {},
    };
    const harmless = namesHarmless < 0 ? null : new Set((cells[namesHarmless] ?? "").split(" "));
    for (let i = 0; i < mapping.targets.length; i++) {
      const target = mapping.targets[i]!;
      if (target === "skip" || absent.includes(i)) continue;
      // Half of a letter beyond 16 bits, which JSON can hold: the database has no such, and would give another text back.
      const given = (cells[i] ?? "").toWellFormed();
      const cell = harmless?.has(names[i]!) && given.startsWith("'") ? given.slice(1) : given;
      if (cell.length > MOST_CELL)
        return refuse(
          `The cell “${header[i]}” has ${cell.length.toLocaleString("en")} characters; ${MOST_CELL.toLocaleString("en")} are the most`,
        );
      const wrong = take[target](row, cell, i);
      if (wrong !== null)
        return row.unknownKind === null ? refuse(wrong) : { ...refuse(wrong), unknownKind: row.unknownKind };
    }
    const { key, path, kind, body, byHand, hands, columns, attributes } = row;
    if (key === null && path === null)
      return refuse("The row has neither an id nor an address, so its page is unknown");
    if (path !== null) columns.slug ??= lastSegment(path);
    if (givesPath && columns.category_path !== undefined)
      columns.category = columns.category_path.split(" › ").at(-1) ?? "";
    return {
      key,
      kind,
      path,
      columns,
      attributes: Object.keys(attributes).length > 0 ? attributes : null,
      spokenOf: absent.length === 0 ? spokenOf : spokenOf.filter((name) => !absent.includes(ownNames.indexOf(name))),
      body,
      byHand,
      hands,
    };
  };
}

/** The field that a column becomes, `null` for one that becomes none. */
export function fieldOfColumn(
  header: readonly string[],
  mapping: Pick<Mapping, "targets">,
  column: number,
): string | null {
  const target = mapping.targets[column]!;
  if (target === "attribute") return attributeNames(header)[column]!;
  return FIELDS.has(target) ? target : null;
}

const FIELDS: ReadonlySet<Target> = new Set<Target>([
  "id",
  "name",
  "category",
  "category.path",
  "keyword",
  "slug",
  "summary",
  "intro",
  "body",
  "author",
  "published",
  "updated",
  "price",
  "count",
  "robots",
]);

/** What parts the categories of a path: the first of these that stands in it, since a name may hold the others. */
function pathSeparator(path: string): RegExp {
  const sign = ["›", "»", ">", "|", "/"].find((own) => path.includes(own)) ?? "›";
  return new RegExp(`\\s*${sign === "|" ? "\\|" : sign}\\s*`);
}

/** A JSON object of texts; numbers and the like are written as texts. `null` for what is none. */
function attributesOf(json: string): Record<string, string> | null {
  let value: unknown;
  try {
    value = JSON.parse(json);
  } catch {
    return null;
  }
  if (typeof value !== "object" || value === null || Array.isArray(value)) return null;
  return Object.fromEntries(
    Object.entries(value).map(([name, own]) => [name, typeof own === "string" ? own : JSON.stringify(own)]),
  );
}
