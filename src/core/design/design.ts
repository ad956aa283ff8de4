import { type Writing } from "../lines/filters";
import { type Surface, surfaceOf } from "../measure/surface";
import { type Limits } from "../proof/room";
import { type TextName } from "./kinds";
import { type KindDesign, type Lines, type Site } from "./schema";
import { fittedSurfaces } from "./site-surfaces";

export type { KindDesign, Lines, LinesFile, Rule, Site } from "./schema";

/** A design of base lines only. */
export function baseDesign(base: Lines): KindDesign {
  return { base, rules: [] };
}

export const EMPTY_DESIGN: KindDesign = { base: {}, rules: [] };

/** Which pages a design may move; those with an address stay unless it says otherwise. */
export function movesOf({ moves }: Pick<KindDesign, "moves">): NonNullable<KindDesign["moves"]> {
  return moves ?? "new";
}

/** The limits of a text on a site: the desktop surface unless the site says otherwise. A slug's length is in its own settings. */
export function limitsOf(site: Site, text: TextName): Limits {
  if (text === "slug") return { surfaces: [], chars: null };
  return {
    surfaces: fittedSurfaces(site, text)
      .map((id) => surfaceOf(site, id))
      .filter((s): s is Surface => s !== undefined),
    chars: site.limits[text]?.chars ?? null,
  };
}

/** How the site writes: its language, and the words that keep their spelling. */
export function writingOf({ language, fixedWords }: Pick<Site, "language" | "fixedWords">): Writing {
  return { locale: language, fixedWords };
}

/** The site's own fields, as a line reads them. */
export function siteConstants(site: Site): ReadonlyMap<string, string> {
  return new Map([
    ["site", site.name],
    ["tagline", site.tagline],
    ["sep", site.sep],
  ]);
}
