import { type FontId } from "./font-id";

/**
 * Where a text is seen: the font it is set in and the room it has. Sizes and widths are CSS pixels.
 * The default figures are those of the desktop and phone results pages that the trade measures against (`shared/CLI.md`);
 * each is a setting of a site.
 */
export interface Surface {
  readonly id: string;
  readonly label: string;
  readonly font: FontId;
  readonly size: number;
  readonly width: number;
  readonly lines: number;
  /** Limits the running width of the whole text, besides the wrapping; `null` where only the wrapping does. */
  readonly total: number | null;
  /** What stands behind a text that was cut. */
  readonly mark: string;
}

export const SURFACES: readonly Surface[] = [
  {
    id: "desktop-title",
    label: "Title on desktop results",
    font: "arimo-400",
    size: 20,
    width: 600,
    lines: 1,
    total: null,
    mark: " …",
  },
  {
    id: "phone-title",
    label: "Title on phone results",
    font: "roboto-400",
    size: 20,
    width: 328,
    lines: 2,
    total: null,
    mark: " …",
  },
  {
    id: "desktop-description",
    label: "Description on desktop results",
    font: "arimo-400",
    size: 14,
    width: 600,
    lines: 2,
    total: 920,
    mark: " …",
  },
  {
    id: "phone-description",
    label: "Description on phone results",
    font: "roboto-400",
    size: 14,
    width: 328,
    lines: 3,
    total: 680,
    mark: " …",
  },
  { id: "tab", label: "Browser tab", font: "arimo-400", size: 12, width: 180, lines: 1, total: null, mark: "…" },
];

/** The surface with this id and its default figures, or `undefined`. */
export function surfaceById(id: string): Surface | undefined {
  return SURFACES.find((surface) => surface.id === id);
}

/** The part of a site's settings that its surfaces are in. */
interface WithSurfaces {
  readonly surfaces: readonly Surface[];
}

/** Every surface of a site: the known ones, with the site's figures where it has others, and its own. */
export function surfacesOf({ surfaces }: WithSurfaces): Surface[] {
  const own = new Map(surfaces.map((surface) => [surface.id, surface]));
  return [
    ...SURFACES.map((surface) => own.get(surface.id) ?? surface),
    ...surfaces.filter(({ id }) => !SURFACES.some((known) => known.id === id)),
  ];
}

export function surfaceOf(site: WithSurfaces, id: string): Surface | undefined {
  return surfacesOf(site).find((surface) => surface.id === id);
}
