import { wordingBits } from "../../core/checks/check-text";
import { nearDuplicates } from "../../core/checks/near-duplicates";

/** A look at all texts of a kind, under way. */
export interface NearSearch {
  /** For each text the place of one nearly like it, -1 where none was found; waits for it where it is not done yet. */
  readonly partners: () => Int32Array;
  /** The bits of each text's wording, where they were asked for; waits like the other. */
  readonly wording: () => Int32Array | null;
}

/** Whose wording is looked at, too: titles' or descriptions', in a year. */
export interface WordingOf {
  readonly subject: "title" | "description";
  readonly year: number;
}

/** Searches for texts that read nearly the same, and looks their wording over where that is asked for. */
export type NearFinder = (texts: readonly string[], wording: WordingOf | null) => NearSearch;

/** Searches where it is asked, when the result is asked for. */
export const nearHere: NearFinder = (texts, wording) => {
  let found: Int32Array | null = null;
  return {
    partners: () => (found ??= nearDuplicates(texts.length, (place) => texts[place]!)),
    wording: () => wording && Int32Array.from(texts, (text) => wordingBits(wording.subject, text, wording.year)),
  };
};
