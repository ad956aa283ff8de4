import { type Filter, type Sort } from "./row-views";
import { differs, HAND, type TextProof } from "./text-proof";
import { keywordFlag } from "./summary";

/**
 * The rows of a part of a set in an order: `site` is the site's own, `changed` most first, `keyword` those whose keyword
 * is cut off, then absent, then latest. Equal ones stay in the site's order. Time grows with the set, not with its square.
 */
export function orderRows(
  proof: TextProof,
  live: TextProof,
  late: number,
  sort: Sort,
  filter: Filter,
  matches: ((row: number) => boolean) | null = null,
): Int32Array {
  const all = new Int32Array(proof.size);
  let count = 0;
  for (let row = 0; row < proof.size; row++)
    if (passes(proof, live, late, filter, row) && (!matches || matches(row))) all[count++] = row;
  const rows = all.subarray(0, count);
  if (sort === "site") return rows;
  return sortByKey(rows, (row) => {
    if (sort === "widest") return MOST_KEY - Math.round(proof.sizes[row]! * 8);
    if (sort === "shortest") return Math.round(proof.sizes[row]! * 8);
    if (sort === "changed")
      return MOST_KEY - 16 * (differs(proof, live, row) ? difference(live.textOf(row), proof.textOf(row)) : 0);
    const flag = keywordFlag(proof, row, late);
    if (flag === "none") return MOST_KEY;
    if (flag === "cut") return 0;
    if (flag === "absent") return 1;
    return MOST_KEY - 1 - Math.round(proof.keywordAt[row]! * 8);
  });
}

/** Whether a row belongs to a part of the set. */
export function passes(proof: TextProof, live: TextProof, late: number, filter: Filter, row: number): boolean {
  const missing = proof.lengths[row] === 0;
  switch (filter) {
    case "all":
      return true;
    case "too-wide":
      return !missing && proof.fits[row] === 0;
    case "duplicate":
      return proof.groups.countOf(row) > 1;
    case "missing":
      return missing;
    case "by-hand":
      return proof.from[row] === HAND;
    case "changed":
      return !missing && differs(proof, live, row);
    case "empty-field":
      return proof.emptyFields[row] === 1;
    default:
      return keywordFlag(proof, row, late) === filter.slice("keyword-".length);
  }
}

const MOST_KEY = 65535;

/** Counting sort by a whole-number key from 0 to 65,535; keys beyond are taken as the nearest. */
function sortByKey(rows: Int32Array, key: (row: number) => number): Int32Array {
  const starts = new Int32Array(MOST_KEY + 2);
  const keys = new Uint16Array(rows.length);
  rows.forEach((row, i) => {
    const k = Math.min(MOST_KEY, Math.max(0, key(row)));
    keys[i] = k;
    starts[k + 1]!++;
  });
  for (let k = 0; k <= MOST_KEY; k++) starts[k + 1]! += starts[k]!;
  const sorted = new Int32Array(rows.length);
  rows.forEach((row, i) => (sorted[starts[keys[i]!]!++] = row));
  return sorted;
}

/** How many characters stand between the common beginning and the common end of two texts, in the longer one. */
export function difference(before: string, after: string): number {
  const { from, beforeEnd, afterEnd } = changedSpan(before, after);
  return Math.max(beforeEnd, afterEnd) - from;
}

/**
 * The stretch in which two texts differ, widened to whole words: offsets in each.
 *
 * @example changedSpan("Rope 8 mm | Site", "Rope 8 mm – Rope") // { from: 10, beforeEnd: 16, afterEnd: 16 }
 */
export function changedSpan(before: string, after: string): { from: number; beforeEnd: number; afterEnd: number } {
  const shorter = Math.min(before.length, after.length);
  let from = 0;
  while (from < shorter && before.charCodeAt(from) === after.charCodeAt(from)) from++;
  if (from === before.length && from === after.length) return { from, beforeEnd: from, afterEnd: from };
  let tail = 0;
  while (
    tail < shorter - from &&
    before.charCodeAt(before.length - 1 - tail) === after.charCodeAt(after.length - 1 - tail)
  )
    tail++;
  const inWord = (at: number) =>
    (before[at] !== undefined && before[at] !== " ") || (after[at] !== undefined && after[at] !== " ");
  while (from > 0 && before[from - 1] !== " " && inWord(from)) from--;
  while (tail > 0 && before[before.length - tail] !== " ") tail--;
  return { from, beforeEnd: before.length - tail, afterEnd: after.length - tail };
}
