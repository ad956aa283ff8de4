import { type Site } from "../design/design";
import { languageByTag } from "../text/language";
import { type SlugRules } from "./slug";

/** How a site makes slugs. */
export function slugRulesOf({ slug, language }: Pick<Site, "slug" | "language">): SlugRules {
  return { options: slug, language: languageByTag(language) };
}
