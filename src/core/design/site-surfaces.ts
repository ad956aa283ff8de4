import { type Surface, SURFACES, surfaceById, surfacesOf } from "../measure/surface";
import { type Site } from "./schema";

/** Texts that have a width to keep to. */
export const MEASURED_TEXTS = ["title", "description"] as const;
export type MeasuredText = (typeof MEASURED_TEXTS)[number];

/** What a text has to fit where the site says nothing. */
const FITTED_AT_FIRST: Record<MeasuredText, string> = { title: "desktop-title", description: "desktop-description" };

type Surfaces = Pick<Site, "surfaces">;
type SurfacesAndLimits = Pick<Site, "surfaces" | "limits">;

/** The ids of the surfaces that a text has to fit: that of the desktop unless the site says otherwise. */
export function fittedSurfaces({ limits }: Pick<Site, "limits">, text: MeasuredText): readonly string[] {
  return limits[text]?.surfaces ?? [FITTED_AT_FIRST[text]];
}

/** With other figures of a surface. One with the figures that it has anyway is none of the site's own. */
export function withSurface({ surfaces }: Surfaces, surface: Surface): Surfaces {
  const known = surfaceById(surface.id);
  if (known && sameFigures(known, surface)) return withKnownFigures({ surfaces }, surface.id);
  if (!surfaces.some(({ id }) => id === surface.id)) return { surfaces: [...surfaces, surface] };
  return { surfaces: surfaces.map((own) => (own.id === surface.id ? surface : own)) };
}

function sameFigures(one: Surface, other: Surface): boolean {
  return (Object.keys(one) as (keyof Surface)[]).every((name) => one[name] === other[name]);
}

/** With the figures that a known surface has where the site says nothing. */
export function withKnownFigures({ surfaces }: Surfaces, id: string): Surfaces {
  return { surfaces: surfaces.filter((own) => own.id !== id) };
}

/** Without a surface of the site's own; no text has to fit it any more. */
export function withoutSurface({ surfaces, limits }: SurfacesAndLimits, id: string): SurfacesAndLimits {
  const left = { ...limits };
  for (const text of MEASURED_TEXTS) {
    const own = limits[text];
    if (own?.surfaces) left[text] = { ...own, surfaces: own.surfaces.filter((fitted) => fitted !== id) };
  }
  return { surfaces: surfaces.filter((own) => own.id !== id), limits: left };
}

/** With one more surface of the site's own. */
export function withNewSurface({ surfaces }: Surfaces): Surfaces {
  const all = surfacesOf({ surfaces });
  let number = 1;
  while (all.some(({ id }) => id === `own-${number}`)) number++;
  const surface: Surface = {
    ...SURFACES[0]!,
    id: `own-${number}`,
    label: `Own surface ${number}`,
    size: 16,
    width: 500,
  };
  return { surfaces: [...surfaces, surface] };
}

/** With a surface that a text has to fit, or no longer. They stand in the order of all surfaces: rulers show the first. */
export function withFitted(
  site: SurfacesAndLimits,
  text: MeasuredText,
  id: string,
  isFitted: boolean,
): Pick<Site, "limits"> {
  const now = fittedSurfaces(site, text);
  const ids = surfacesOf(site).map((surface) => surface.id);
  const surfaces = ids.filter((own) => (own === id ? isFitted : now.includes(own)));
  return { limits: { ...site.limits, [text]: { ...site.limits[text], surfaces } } };
}
