import { type Surface } from "./surface";
import { fitsSurface } from "./wrap";

/**
 * What is seen of a text on a surface: the text itself when it fits, otherwise its longest run of whole words that
 * fits with the surface's mark after it. A first word that is wider than the room leaves the mark alone.
 *
 * @example shownOnSurface(surfaceById("tab")!, "Mooring cleats in bronze and brass") // "Mooring cleats in bronze and…"
 */
export function shownOnSurface(surface: Surface, text: string): string {
  if (fitsSurface(surface, text)) return text;
  const ends = wordEnds(text);
  let low = 0;
  let high = ends.length;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (fitsSurface(surface, text.slice(0, ends[middle - 1]) + surface.mark)) low = middle;
    else high = middle - 1;
  }
  return low === 0 ? surface.mark.trimStart() : text.slice(0, ends[low - 1]) + surface.mark;
}

/** Whether the text up to an offset is seen on the surface: whole words of it stay when the rest is cut. */
export function isSeen(surface: Surface, text: string, end: number): boolean {
  const space = text.indexOf(" ", end);
  return space < 0 ? fitsSurface(surface, text) : fitsSurface(surface, text.slice(0, space) + surface.mark);
}

function wordEnds(text: string): number[] {
  const ends: number[] = [];
  for (let i = 1; i <= text.length; i++)
    if (text[i - 1] !== " " && (i === text.length || text[i] === " ")) ends.push(i);
  return ends;
}
