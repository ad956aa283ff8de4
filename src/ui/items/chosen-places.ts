import type { Ranges } from "../../core/items/query";

/** The places with one taken in or left out. */
export function withPlace(ranges: Ranges, place: number, chosen: boolean): Ranges {
  return withStretch(ranges, place, place + 1, chosen);
}

/**
 * The places with a stretch of them taken in or left out; what touches is joined.
 *
 * @example withStretch([[0, 10]], 4, 6, false) // [[0, 4], [6, 10]]
 */
export function withStretch(ranges: Ranges, from: number, to: number, chosen: boolean): Ranges {
  if (from >= to) return ranges;
  const cut = ranges
    .flatMap(([a, b]): [number, number][] => [
      [a, Math.min(b, from)],
      [Math.max(a, to), b],
    ])
    .filter(([a, b]) => a < b);
  const all = chosen ? [...cut, [from, to] as [number, number]] : cut;
  all.sort((a, b) => a[0] - b[0]);
  const joined: [number, number][] = [];
  for (const [a, b] of all) {
    const last = joined.at(-1);
    if (last && last[1] >= a) last[1] = Math.max(last[1], b);
    else joined.push([a, b]);
  }
  return joined;
}

export function isChosen(ranges: Ranges, place: number): boolean {
  return ranges.some(([from, to]) => place >= from && place < to);
}

/** How many places there are. */
export function chosenCount(ranges: Ranges): number {
  return ranges.reduce((sum, [from, to]) => sum + to - from, 0);
}

/** The places of a stretch that are chosen. */
export function within(ranges: Ranges, from: number, to: number): Ranges {
  return ranges.flatMap(([a, b]): Ranges => {
    const [start, end] = [Math.max(a, from), Math.min(b, to)];
    return start < end ? [[start, end]] : [];
  });
}

/** What of all pages is chosen, as a tick says it. */
export function tickOf(chosen: number, of: number): boolean | "mixed" {
  return chosen === 0 ? false : chosen === of ? true : "mixed";
}
