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
  /** Begins beyond the share of the room in which it should. */
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
  alt: { size: 16, count: 100 },
  keywords: { size: 16, count: 100 },
  canonical: { size: 16, count: 100 },
};

/** The trade's rule of thumb: a keyword belongs within the first third of the room. */
export const LATE_SHARE = 1 / 3;

/** Figures while they are counted. */
class Count {
  readonly histogram: number[];
  total = 0;
  tooWide = 0;
  duplicates = 0;
  missing = 0;
  byHand = 0;
  changed = 0;
  emptyFields = 0;
  sum = 0;
  has = 0;
  absent = 0;
  late = 0;
  cut = 0;
  first = 0;

  constructor(private readonly bins: { readonly size: number; readonly count: number }) {
    this.histogram = new Array<number>(bins.count).fill(0);
  }

  see(proof: TextProof, live: TextProof, late: number, row: number): void {
    this.total++;
    if (proof.lengths[row] === 0) this.missing++;
    else {
      const size = proof.sizes[row]!;
      this.sum += size;
      const bin = Math.floor(size / this.bins.size);
      this.histogram[bin < this.bins.count ? bin : this.bins.count - 1]!++;
      if (proof.fits[row] === 0) this.tooWide++;
      if (proof.groups.countOf(row) > 1) this.duplicates++;
      if (differs(proof, live, row)) this.changed++;
    }
    if (proof.from[row] === HAND) this.byHand++;
    this.emptyFields += proof.emptyFields[row]!;
    if (proof.form[row] === 0) return;
    const flag = keywordFlag(proof, row, late);
    this.has++;
    if (flag === "absent") this.absent++;
    else if (flag === "cut") this.cut++;
    else if (flag === "late") this.late++;
    else if (proof.keywordAt[row] === 0) this.first++;
  }

  with(other: Count): Count {
    const both = new Count(this.bins);
    for (const name of [
      "total",
      "tooWide",
      "duplicates",
      "missing",
      "byHand",
      "changed",
      "emptyFields",
      "sum",
      "has",
      "absent",
      "late",
      "cut",
      "first",
    ] as const)
      both[name] = this[name] + other[name];
    this.histogram.forEach((count, bin) => (both.histogram[bin] = count + other.histogram[bin]!));
    return both;
  }

  get summary(): TextSummary {
    const {
      total,
      tooWide,
      duplicates,
      missing,
      byHand,
      changed,
      emptyFields,
      has,
      absent,
      late,
      cut,
      first,
      histogram,
    } = this;
    const average = total > missing ? this.sum / (total - missing) : 0;
    return {
      total,
      tooWide,
      duplicates,
      missing,
      byHand,
      changed,
      emptyFields,
      keyword: { has, absent, late, cut, first },
      average,
      histogram,
      binSize: this.bins.size,
    };
  }
}

/**
 * Sums a proof up, in one pass the whole set and the part of it that `include` marks with 1.
 *
 * @param late where a keyword has to begin at the latest, in px (characters for slugs) from the left.
 */
export function summariseParts(
  proof: TextProof,
  live: TextProof,
  late: number,
  include: Uint8Array,
): { whole: TextSummary; part: TextSummary } {
  const part = new Count(BINS[proof.text]);
  const rest = new Count(BINS[proof.text]);
  for (let row = 0; row < proof.size; row++) (include[row] === 1 ? part : rest).see(proof, live, late, row);
  return { whole: part.with(rest).summary, part: part.summary };
}

/** Sums a proof up over the whole set; `late` as in {@link summariseParts}. */
export function summarise(proof: TextProof, live: TextProof, late: number): TextSummary {
  const count = new Count(BINS[proof.text]);
  for (let row = 0; row < proof.size; row++) count.see(proof, live, late, row);
  return count.summary;
}

/** How an item's keyword stands: `none` without one, `absent` also where only some of its words stand. */
export function keywordFlag(proof: TextProof, row: number, late: number): "none" | "absent" | "cut" | "late" | "early" {
  const form = proof.form[row]!;
  if (form === 0) return "none";
  if (FORMS[form - 1] === "absent" || FORMS[form - 1] === "partial") return "absent";
  if (proof.keywordSeen[row] === 0) return "cut";
  return proof.keywordAt[row]! > late ? "late" : "early";
}
