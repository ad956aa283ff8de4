import { Refusal } from "../refusal";

/** The id of a kind of page: one that every site has, or one of the site's own. */
export type Kind = string;

/** What a kind of page is. */
export interface KindInfo {
  /** Names it in addresses, files and designs, and never changes. */
  readonly id: Kind;
  /** What one of its pages is called, in a sentence. */
  readonly one: string;
  readonly many: string;
  /** Whether its pages stand below one another, such as categories of categories. */
  readonly isTree: boolean;
  /** Whether there is one page of it at most, such as the home page. */
  readonly isSingle: boolean;
  /** What else files call it. */
  readonly words: string[];
}

/** The kinds of page that every site has from the start. */
export const KNOWN_KINDS: readonly KindInfo[] = [
  { id: "post", one: "post", many: "posts", isTree: false, isSingle: false, words: ["article"] },
  { id: "product", one: "product", many: "products", isTree: false, isSingle: false, words: ["variant"] },
  {
    id: "category",
    one: "category",
    many: "categories",
    isTree: true,
    isSingle: false,
    words: ["product_cat", "collection", "term"],
  },
  { id: "page", one: "page", many: "pages", isTree: false, isSingle: false, words: [] },
  { id: "tag", one: "tag", many: "tags", isTree: false, isSingle: false, words: [] },
  { id: "author", one: "author", many: "authors", isTree: false, isSingle: false, words: [] },
  { id: "home", one: "home page", many: "home pages", isTree: false, isSingle: true, words: ["homepage"] },
];

/** What files of other languages call the known kinds, in German, French, Spanish and Dutch; a site's own words go before. */
const WORDS_OF_LANGUAGES: Readonly<Record<Kind, readonly string[]>> = {
  post: ["beitrag", "beiträge", "blogbeitrag", "billet", "entrada", "entradas", "bericht", "berichten"],
  product: ["produkt", "produkte", "produit", "produits", "producto", "productos", "producten"],
  category: [
    "kategorie",
    "kategorien",
    "catégorie",
    "catégories",
    "categoría",
    "categorías",
    "categorie",
    "categorieën",
  ],
  page: ["seite", "seiten", "página", "páginas", "pagina"],
  tag: ["schlagwort", "schlagwörter", "étiquette", "étiquettes", "etiqueta", "etiquetas"],
  author: ["autor", "autorin", "autoren", "auteur", "auteurs", "autora", "autores"],
  home: ["startseite", "accueil", "page d’accueil", "inicio", "portada", "startpagina"],
};

/** So many kinds of its own a site may have. */
export const MOST_OWN_KINDS = 40;

/** The part of a site's settings that its kinds are in; `null` for a site without settings, which has the known ones. */
export type WithKinds = { readonly kinds: readonly KindInfo[] } | null;

/** Every kind of a site: the known ones, called as the site calls them, then its own. */
export function kindsOf(site: WithKinds): readonly KindInfo[] {
  const own = site?.kinds ?? [];
  if (own.length === 0) return KNOWN_KINDS;
  const byId = new Map(own.map((kind) => [kind.id, kind]));
  const known = KNOWN_KINDS.map((kind) => byId.get(kind.id) ?? kind);
  return [...known, ...own.filter(({ id }) => !KNOWN_KINDS.some((kind) => kind.id === id))];
}

/** The ids of a site's kinds, in the order in which they are shown. */
export function kindIds(site: WithKinds): readonly Kind[] {
  return kindsOf(site).map(({ id }) => id);
}

/** Kinds with others beside them; of two with the same id the other one. */
export function withKinds(kinds: readonly KindInfo[], others: readonly KindInfo[]): KindInfo[] {
  const byId = new Map([...kinds, ...others].map((kind) => [kind.id, kind]));
  return [...byId.values()];
}

/** What a site's kind is; `undefined` where the site has none with that id. */
export function kindOf(site: WithKinds, id: string | null): KindInfo | undefined {
  return kindsOf(site).find((kind) => kind.id === id);
}

/** @throws {Refusal} for a kind that the site has not. */
export function requireKind(site: WithKinds, kind: Kind): void {
  if (kindOf(site, kind)) return;
  throw new Refusal("not-found", `This site has no kind “${kind}”; it has ${kindIds(site).join(", ")}`);
}

/**
 * What a kind's pages are called; its id where the site has the kind no longer.
 *
 * @example kindWord(null, "category", 3) // "categories"
 */
export function kindWord(site: WithKinds, kind: Kind, count: number): string {
  const known = kindOf(site, kind);
  if (!known) return kind;
  return count === 1 ? known.one : known.many;
}

/**
 * The kinds that words of a file name: their ids, what their pages are called, and other words for them, in small letters.
 * Last come the words of other languages.
 *
 * @example kindsByWord(null).get("article") // "post"
 */
export function kindsByWord(site: WithKinds): ReadonlyMap<string, Kind> {
  const kinds = new Map<string, Kind>();
  const add = (word: string, id: Kind) => {
    const known = wordKey(word);
    if (!kinds.has(known)) kinds.set(known, id);
  };
  // An id is always its own kind's, whatever words others have.
  for (const { id } of kindsOf(site)) add(id, id);
  for (const { id, one, many, words } of kindsOf(site)) for (const word of [one, many, ...words]) add(word, id);
  for (const [id, words] of Object.entries(WORDS_OF_LANGUAGES)) for (const word of words) add(word, id);
  return kinds;
}

/** A word of a file as {@link kindsByWord} has it. */
export function wordKey(word: string): string {
  return word.trim().toLowerCase();
}

/** What is designed for an item. */
export const TEXTS = ["title", "description", "slug"] as const;
export type TextName = (typeof TEXTS)[number];

/** The texts that are designed for a kind: the home page is at the site's own address, and has no slug. */
export function textsOf(kind: Kind): readonly TextName[] {
  return kind === "home" ? ["title", "description"] : TEXTS;
}

/**
 * Texts beside the nine, off until a site switches them on: what is said of a page's images that have no description, meta keywords, and
 * canonicals.
 */
export const EXTRAS = ["alt", "keywords", "canonical"] as const;
export type ExtraName = (typeof EXTRAS)[number];

/** Extra texts of which a page has one, with the column that has what the site says. */
export const PAGE_EXTRAS = { keywords: "meta_keywords", canonical: "canonical" } as const satisfies Record<
  Exclude<ExtraName, "alt">,
  string
>;
export type PageExtra = keyof typeof PAGE_EXTRAS;
export const PAGE_EXTRA_NAMES = Object.keys(PAGE_EXTRAS) as PageExtra[];

export function isPageExtra(text: string): text is PageExtra {
  return Object.hasOwn(PAGE_EXTRAS, text);
}

export function isExtra(text: string): text is ExtraName {
  return text === "alt" || isPageExtra(text);
}
