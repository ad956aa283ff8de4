import { type TextGroups } from "./groups";

/**
 * Tells items apart by their lines' `^apart` pieces: as long as items read the same, each of them that has a piece left
 * is set again with one more. Rounds, never a comparison of all with all.
 *
 * @param levels how many `^apart` pieces each row stands with; changed in place, 0 at first.
 * @param most how many such pieces the row's line has.
 * @param set sets the row's text anew with its level and puts it in its group.
 */
export function tellApart(groups: TextGroups, levels: Uint8Array, most: (row: number) => number, set: (row: number) => void): void {
  let waiting: number[] = [];
  for (let row = 0; row < levels.length; row++) if (most(row) > 0) waiting.push(row);
  while (waiting.length > 0) {
    const same = waiting.filter((row) => groups.countOf(row) > 1);
    if (same.length === 0) return;
    for (const row of same) {
      levels[row]!++;
      set(row);
    }
    waiting = waiting.filter((row) => levels[row]! < most(row));
  }
}
