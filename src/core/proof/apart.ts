import { type TextGroups } from "./groups";

/**
 * Tells items apart by their lines' `^apart` pieces: as long as items read the same, each of them that has a piece left
 * is set again with one more. Rounds, never a comparison of all with all.
 *
 * @param levels how many `^apart` pieces each row stands with; changed in place, 0 at first.
 * @param most how many such pieces the row's line has.
 * @param set sets the row's text anew with its level and puts it in its group.
 */
export function tellApart(
  groups: TextGroups,
  levels: Uint8Array,
  most: (row: number) => number,
  set: (row: number) => void,
): void {
  const waiting = new Int32Array(levels.length);
  let count = 0;
  for (let row = 0; row < levels.length; row++) if (groups.countOf(row) > 1 && most(row) > 0) waiting[count++] = row;
  while (count > 0) {
    for (let i = 0; i < count; i++) {
      levels[waiting[i]!]!++;
      set(waiting[i]!);
    }
    // Rows that read alike do so with others that wait, too: who is apart once stays so, unless another comes to read like it.
    count = 0;
    for (let row = 0; row < levels.length; row++)
      if (groups.countOf(row) > 1 && levels[row]! < most(row)) waiting[count++] = row;
  }
}
