import { diffArrays } from "diff";

/** A stretch of a text that stands in the other one, too, or only here. */
export interface Stretch {
  readonly text: string;
  readonly isChanged: boolean;
}

/** Words, what is between them, and the parts of a slug or a path. */
const WORDS = /(\s+|[-/])/;
const wordsOf = (text: string) => text.split(WORDS).filter((word) => word !== "");

/**
 * Two texts word by word: what of each the other has not. What parts two changed words from one another counts as changed with them.
 *
 * @example wordChanges("Rope 8 mm red", "Rope 9 mm blue").after // Rope · 9* · mm · blue*
 */
export function wordChanges(before: string, after: string): { before: Stretch[]; after: Stretch[] } {
  const changes = diffArrays(wordsOf(before), wordsOf(after));
  const side = (other: "added" | "removed"): Stretch[] => {
    const own = changes
      .filter((change) => !change[other])
      .map(({ value, added, removed }) => ({ text: value.join(""), isChanged: added || removed }));
    return joined(own.map((stretch, i) => (isGap(own, i) ? { ...stretch, isChanged: true } : stretch)));
  };
  return { before: side("added"), after: side("removed") };
}

/** Whether a stretch is but a space between two changed ones. */
function isGap(stretches: readonly Stretch[], i: number): boolean {
  const { text, isChanged } = stretches[i]!;
  return !isChanged && text.trim() === "" && Boolean(stretches[i - 1]?.isChanged && stretches[i + 1]?.isChanged);
}

function joined(stretches: readonly Stretch[]): Stretch[] {
  const out: Stretch[] = [];
  for (const stretch of stretches) {
    const last = out.at(-1);
    if (last?.isChanged === stretch.isChanged) out[out.length - 1] = { ...last, text: last.text + stretch.text };
    else out.push(stretch);
  }
  return out;
}
