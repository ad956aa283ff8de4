import { wordingBits } from "../../core/checks/check-text";
import { nearDuplicates } from "../../core/checks/near-duplicates";

/** What a look at all texts of a kind found. */
export interface NearFound {
  /** For each text the place of one nearly like it, -1 where none was found. */
  readonly partners: Int32Array;
  /** The bits of each text's wording, where they were asked for. */
  readonly wording: Int32Array | null;
}

/** Whose wording is looked at, too: titles' or descriptions', in a year. */
export interface WordingOf {
  readonly subject: "title" | "description";
  readonly year: number;
}

/** What is asked of a look. */
export interface NearAsked {
  readonly texts: readonly string[];
  /** The share of the longer text's words from which on two are nearly the same. */
  readonly share: number;
  readonly wording: WordingOf | null;
}

/** A look under way. */
export interface NearSearch {
  /** Gives what was found, once it is there. @throws what `alive` throws */
  readonly found: (alive: () => void) => NearFound;
  /** Says that nobody waits for it any more. */
  readonly abandon: () => void;
}

/** Searches for texts that read nearly the same, and looks their wording over where that is asked for. */
export type NearFinder = (asked: NearAsked) => NearSearch;

/** Searches where it is asked, when the result is asked for. */
export const nearHere: NearFinder = (asked) => ({
  found: (alive) => findNear(asked, alive),
  abandon: () => {},
});

/** @param alive called every few thousand texts; what it throws ends the search. */
export function findNear({ texts, share, wording }: NearAsked, alive: () => void): NearFound {
  const partners = nearDuplicates(texts.length, (place) => texts[place]!, share, alive);
  if (!wording) return { partners, wording: null };
  const bits = new Int32Array(texts.length);
  for (let place = 0; place < texts.length; place++) {
    if (place % 4096 === 0) alive();
    bits[place] = wordingBits(wording.subject, texts[place]!, wording.year);
  }
  return { partners, wording: bits };
}
