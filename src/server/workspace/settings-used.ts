import { limitsOf, type Site, siteConstants, writingOf } from "../../core/design/design";
import { type Kind, kindIds, kindOf, type PageExtra, type TextName } from "../../core/design/kinds";

/** Whether a site’s items in memory are the same under two settings, whatever else is different. */
export function haveSameItems(one: Site, other: Site): boolean {
  return (
    JSON.stringify(one.kinds) === JSON.stringify(other.kinds) &&
    kindIds(one).every((kind) => settingsUsed.items(one, kind) === settingsUsed.items(other, kind))
  );
}

/**
 * Settings by what rests on them: each gives a string that is another one where those settings are, for the stamp of what
 * was made with them. What is not named here is read anew each time.
 */
export const settingsUsed = {
  /** By a kind's items in memory: how the site writes, the fields that it has itself, and which kinds are trees. */
  items: (site: Site, kind: Kind) =>
    JSON.stringify([
      writingOf(site),
      site.formats,
      [...siteConstants(site)],
      [kindOf(site, kind)?.isTree, kindOf(site, "category")?.isTree],
    ]),
  /** By the proof of a text. */
  proof: (site: Site, text: TextName) =>
    JSON.stringify(text === "slug" ? [site.slug, site.language] : limitsOf(site, text)),
  /** By the proof of an extra text: fields of a canonical's line are slugs. */
  pageExtra: (site: Site, extra: PageExtra) =>
    extra === "canonical" ? JSON.stringify([site.slug, site.language]) : "",
  /** By what is counted of a proof: where a keyword is late. */
  figures: (site: Site, text: TextName) =>
    JSON.stringify([site.checks.lateShare, text === "slug" ? site.slug.max : limitsOf(site, text).surfaces[0]]),
  /** By the findings. */
  findings: (site: Site) =>
    JSON.stringify([site.checks, site.name, site.reserved, site.language, site.limits, site.surfaces, site.slug]),
} as const;
