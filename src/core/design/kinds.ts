/** The kinds of page. */
export const KINDS = ["post", "product", "category", "page", "tag", "author", "home"] as const;
export type Kind = (typeof KINDS)[number];

/** What is designed for an item. */
export const TEXTS = ["title", "description", "slug"] as const;
export type TextName = (typeof TEXTS)[number];

/** The texts that are designed for a kind: the home page is at the site's own address, and has no slug. */
export function textsOf(kind: Kind): readonly TextName[] {
  return kind === "home" ? ["title", "description"] : TEXTS;
}

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

/** Whether a word, such as one of an address, names a kind. */
export function isKind(word: string | null): word is Kind {
  return (KINDS as readonly (string | null)[]).includes(word);
}

/** @example kindWord("category", 3) // "categories" */
export function kindWord(kind: Kind, count: number): string {
  return KIND_WORDS[kind][count === 1 ? 0 : 1];
}
