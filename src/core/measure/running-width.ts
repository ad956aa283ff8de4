import { advanceUnits, unitsToPx } from "./advance";
import { fontById } from "./font";
import { type Surface } from "./surface";

/** A text's running width in px on a surface, its length in characters for slugs and where it is seen nowhere. */
export function widthOf(surface: Surface | null, slug: boolean, text: string): number {
  if (slug || !surface) return text.length;
  const font = fontById(surface.font);
  return unitsToPx(font, advanceUnits(font, text), surface.size);
}
