import { nearDuplicates } from "../core/checks/near-duplicates";

/** A search for texts that read nearly the same, under way. */
export interface NearSearch {
  /** For each text the place of one nearly like it, -1 where none was found; waits for it where it is not done yet. */
  readonly partners: () => Int32Array;
}

/** Searches for texts that read nearly the same. */
export type NearFinder = (texts: readonly string[]) => NearSearch;

/** Searches where it is asked, when the result is asked for. */
export const nearHere: NearFinder = (texts) => {
  let found: Int32Array | null = null;
  return { partners: () => (found ??= nearDuplicates(texts.length, (place) => texts[place]!)) };
};
