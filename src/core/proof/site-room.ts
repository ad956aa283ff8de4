import { limitsOf, type Site } from "../design/design";
import { type TextName } from "../design/kinds";
import { type Surface } from "../measure/surface";

/** The room of a text in px (characters for slugs): what its ruler, histogram and rows are told against. */
export function roomOf(site: Site, text: TextName): { surface: Surface | null; width: number; unit: "px" | "ch" } {
  if (text === "slug") return { surface: null, width: site.slug.max, unit: "ch" };
  const surface = limitsOf(site, text).surfaces[0] ?? null;
  return { surface, width: surface ? (surface.total ?? surface.width) : 600, unit: "px" };
}
