import { FORMS } from "../keywords/place";
import { differs, HAND, type TextProof } from "./text-proof";

/** The figures of one text over a whole set. */
export interface TextSummary {
  readonly total: number;
  readonly tooWide: number;
  /** Items that read the same as another. For slugs: pages that would have one address. */
  readonly duplicates: number;
  readonly missing: number;
  readonly byHand: number;
  /** Items whose text is not what the site has. */
  readonly changed: number;
  /** Items whose line has a bare field without a value. */
  readonly emptyFields: number;
  readonly keyword: KeywordSummary;
  /** Mean width in px, of the texts that are not empty; characters for slugs. */
  readonly average: number;
  /** Counts by size, `binSize` px (characters for slugs) to a bin from 0; what is wider than the last bin stands in it. */
  readonly histogram: readonly number[];
  readonly binSize: number;
}

/** How the items' focus keywords stand. */
export interface KeywordSummary {
  /** Items that have a keyword. */
  readonly has: number;
  readonly absent: number;
  /** Begins beyond the first third of the room. */
  readonly late: number;
  /** Stands in the text, but behind its cut. */
  readonly cut: number;
  /** The text begins with it. */
  readonly first: number;
}

/** The bins of a text's histogram: px for titles and descriptions, characters for slugs. */
export const BINS: Record<TextProof["text"], { readonly size: number; readonly count: number }> = {
  title: { size: 10, count: 100 },
  description: { size: 16, count: 100 },
  slug: { size: 1, count: 100 },
};

/** The trade's rule of thumb: a keyword belongs within the first third of the room. */
export const LATE_SHARE = 1 / 3;

/**
 * Sums a proof up, or the part of it that `include` marks with 1. `room` is the width of the first surface in px
 * (characters for slugs), its total where it has one.
 */
export function summarise(proof: TextProof, live: TextProof, room: number, include: Uint8Array | null = null): TextSummary {
  const bins = BINS[proof.text];
  const histogram = new Array<number>(bins.count).fill(0);
  let total = 0, tooWide = 0, duplicates = 0, missing = 0, byHand = 0, changed = 0, emptyFields = 0, sum = 0;
  let has = 0, absent = 0, late = 0, cut = 0, first = 0;
  for (let row = 0; row < proof.size; row++) {
    if (include !== null && include[row] === 0) continue;
    total++;
    if (proof.lengths[row] === 0) missing++;
    else {
      const size = proof.sizes[row]!;
      sum += size;
      const bin = Math.floor(size / bins.size);
      histogram[bin < bins.count ? bin : bins.count - 1]!++;
      if (proof.fits[row] === 0) tooWide++;
      if (proof.groups.countOf(row) > 1) duplicates++;
      if (differs(proof, live, row)) changed++;
    }
    if (proof.from[row] === HAND) byHand++;
    emptyFields += proof.emptyFields[row]!;
    const flag = keywordFlag(proof, row, room);
    if (flag === "none") continue;
    has++;
    if (flag === "absent") absent++;
    else if (flag === "cut") cut++;
    else if (flag === "late") late++;
    else if (proof.keywordAt[row] === 0) first++;
  }
  const average = total > missing ? sum / (total - missing) : 0;
  return { total, tooWide, duplicates, missing, byHand, changed, emptyFields, keyword: { has, absent, late, cut, first }, average, histogram, binSize: bins.size };
}

/** How an item's keyword stands: `none` without one, `absent` also where only some of its words stand. */
export function keywordFlag(proof: TextProof, row: number, room: number): "none" | "absent" | "cut" | "late" | "early" {
  const form = proof.form[row]!;
  if (form === 0) return "none";
  if (FORMS[form - 1] === "absent" || FORMS[form - 1] === "partial") return "absent";
  if (proof.keywordSeen[row] === 0) return "cut";
  return proof.keywordAt[row]! > room * LATE_SHARE ? "late" : "early";
}
