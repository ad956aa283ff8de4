import { kindIdSchema } from "./kind-schema";
import { SLUG_DEFAULTS } from "../slugs/options";
import { slugOf } from "../slugs/slug";
import { languageByTag } from "../text/language";
import { type Kind, type KindInfo } from "./kinds";

/** The most characters of an id. */
const MOST_ID = 40;

/**
 * A kind for a word that files have for it. Its id is of the word, with a number where that is taken; what its pages are called is a
 * first guess.
 *
 * @param taken ids that other kinds have.
 * @example newKind("Recipes", []) // id "recipes", one "recipe", many "recipes"
 */
export function newKind(word: string, taken: readonly Kind[]): KindInfo {
  const small = word.trim().replace(/\s+/gu, " ").toLowerCase();
  const isMany = small.length > 3 && small.endsWith("s") && !small.endsWith("ss");
  return {
    id: freeId(small, taken),
    one: isMany ? small.slice(0, -1) : small,
    many: isMany ? small : `${small}${/(s|x|ch|sh)$/.test(small) ? "es" : "s"}`,
    isTree: false,
    isSingle: false,
    words: [word.trim()],
  };
}

function freeId(word: string, taken: readonly Kind[]): Kind {
  const slug = slugOf(word, {
    options: { ...SLUG_DEFAULTS, max: MOST_ID - 3 },
    language: languageByTag("en"),
  });
  const base = kindIdSchema.safeParse(slug).success ? slug : `kind-${slug}`.replace(/-$/, "").slice(0, MOST_ID - 3);
  for (let number = 1; ; number++) {
    const id = number === 1 ? base : `${base}-${number}`;
    if (!taken.includes(id) && kindIdSchema.safeParse(id).success) return id;
  }
}
