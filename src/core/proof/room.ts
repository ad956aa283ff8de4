import { type FontId } from "../measure/font-id";
import { advanceUnits, unitsToPx } from "../measure/advance";
import { fontById } from "../measure/font";
import { type Surface } from "../measure/surface";
import { fitsSurface, TOLERANCE, wrapOnSurface } from "../measure/wrap";
import { charCount } from "../text/char-count";

/** What a text may take: pixels on each surface, and characters. All limits must hold; `null` and `[]` switch one off. */
export interface Limits {
  readonly surfaces: readonly Surface[];
  readonly chars: number | null;
}

/** A surface with its limits as whole font units, so that fitting is a comparison of integers. */
export interface SurfaceRoom {
  readonly surface: Surface;
  /** Place of the surface's font in {@link Room.fonts}. */
  readonly font: number;
  readonly widthUnits: number;
  /** No text whose running width is beyond this has room; within it only wrapping tells. */
  readonly mostUnits: number;
}

/** Limits made ready for measuring: each font is measured once, however many surfaces are set in it. */
export interface Room {
  readonly limits: Limits;
  readonly fonts: readonly FontId[];
  readonly surfaces: readonly SurfaceRoom[];
}

/** The first surface is the one that figures are told of; without any, texts are measured in Arimo at 20 px. */
export function roomFor(limits: Limits): Room {
  const fonts: FontId[] = [];
  const surfaces = limits.surfaces.map((surface): SurfaceRoom => {
    if (!fonts.includes(surface.font)) fonts.push(surface.font);
    const perPx = fontById(surface.font).unitsPerEm / surface.size;
    const widthUnits = Math.floor((surface.width + TOLERANCE) * perPx);
    // A line's last space hangs over its edge, and takes room in the running width only.
    const byLines = widthUnits * surface.lines + fontById(surface.font).widest * (surface.lines - 1);
    const mostUnits =
      surface.total === null ? byLines : Math.min(byLines, Math.floor((surface.total + TOLERANCE) * perPx));
    return { surface, font: fonts.indexOf(surface.font), widthUnits, mostUnits };
  });
  if (fonts.length === 0) fonts.push("arimo-400");
  return { limits, fonts, surfaces };
}

/** How far a text that does not fit is beyond its room: px on the surface it is furthest beyond, characters where only those are limited. */
export function overBy(room: Room, text: string): number {
  let most = 0;
  for (const { surface, font } of room.surfaces) {
    const own = fontById(room.fonts[font]!);
    const px = unitsToPx(own, advanceUnits(own, text), surface.size);
    if (surface.lines === 1) most = Math.max(most, px - surface.width);
    if (surface.total !== null) most = Math.max(most, px - surface.total);
    if (surface.lines > 1 && !fitsSurface(surface, text)) {
      const beyond = wrapOnSurface(surface, text).slice(surface.lines).join(" ");
      most = Math.max(most, unitsToPx(own, advanceUnits(own, beyond), surface.size));
    }
  }
  if (most > 0) return most;
  return room.limits.chars === null ? 0 : Math.max(0, charCount(text) - room.limits.chars);
}

/**
 * Whether a text whose running width is known has room on a surface. It is wrapped only where that can tell: lines are
 * filled greedily, so every line but the last lacks less than the widest word, and no letter is wider than the widest.
 */
export function hasRoomFor({ surface, widthUnits, mostUnits }: SurfaceRoom, units: number, text: string): boolean {
  // Several spaces in a row may hang over an edge.
  if (units > mostUnits && !text.includes("  ")) return false;
  if (units <= widthUnits) return true;
  const { widest } = fontById(surface.font);
  if (units + (surface.lines - 1) * longestStretch(text) * widest <= surface.lines * widthUnits) return true;
  return fitsSurface(surface, text);
}

/** The most characters in a row without a space. */
function longestStretch(text: string): number {
  let most = 0;
  let start = 0;
  for (let at = text.indexOf(" "); at >= 0; at = text.indexOf(" ", start)) {
    if (at - start > most) most = at - start;
    start = at + 1;
  }
  return Math.max(most, text.length - start);
}
