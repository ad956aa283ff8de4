import { limitsOf, type Site } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import { widthOf } from "../../core/measure/running-width";
import { fitsSurface } from "../../core/measure/wrap";
import { type ChangeWithName } from "../../store/runs";

/** A run's change with how wide both its texts are now: px, characters for what is measured by them. */
export interface DrawnRunChange extends ChangeWithName {
  readonly beforeSize: number;
  readonly afterSize: number;
  readonly beforeFits: boolean;
  readonly afterFits: boolean;
}

/** A run's change measured by a site's settings. */
export function drawnChange(change: ChangeWithName, site: Site): DrawnRunChange {
  const { text } = change;
  // A move's texts are its addresses.
  const [before, after] =
    text === "address" ? [change.path_before ?? "", change.path_after ?? ""] : [change.before, change.after];
  const own = { ...change, before, after };
  if (text === "title" || text === "description" || text === "slug")
    return {
      ...own,
      beforeSize: sizeOf(site, text, before),
      afterSize: sizeOf(site, text, after),
      beforeFits: fits(site, text, before),
      afterFits: fits(site, text, after),
    };
  return { ...own, beforeSize: before.length, afterSize: after.length, beforeFits: true, afterFits: true };
}

function sizeOf(site: Site, text: TextName, value: string): number {
  return widthOf(limitsOf(site, text).surfaces[0] ?? null, text === "slug", value);
}

function fits(site: Site, text: TextName, value: string): boolean {
  if (text === "slug") return value.length <= site.slug.max;
  return limitsOf(site, text).surfaces.every((surface) => fitsSurface(surface, value));
}
