/** The kinds of page. Posts, products and categories make the board. */
export const KINDS = ["post", "product", "category", "page", "tag", "author", "home"] as const;
export type Kind = (typeof KINDS)[number];

/** The kinds that the board shows. */
export const BOARD_KINDS = ["post", "product", "category"] as const satisfies readonly Kind[];
export type BoardKind = (typeof BOARD_KINDS)[number];

/** What is designed for an item. */
export const TEXTS = ["title", "description", "slug"] as const;
export type TextName = (typeof TEXTS)[number];

/** Texts beside the nine, off until a site switches them on: what is said of a page's images that have no description, and meta keywords. */
export const EXTRAS = ["alt", "keywords"] as const;
export type ExtraName = (typeof EXTRAS)[number];

const KIND_WORDS: Record<Kind, readonly [one: string, many: string]> = {
  post: ["post", "posts"],
  product: ["product", "products"],
  category: ["category", "categories"],
  page: ["page", "pages"],
  tag: ["tag", "tags"],
  author: ["author", "authors"],
  home: ["home page", "home pages"],
};

/** @example kindWord("category", 3) // "categories" */
export function kindWord(kind: Kind, count: number): string {
  return KIND_WORDS[kind][count === 1 ? 0 : 1];
}
