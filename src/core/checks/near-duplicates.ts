import { FOLDED_WORD, isInnerApostrophe } from "../text/fold";
import { scramble } from "../text/hash";

/** Texts of fewer words are never taken for near duplicates: a word or two is most of them. */
const FEWEST_WORDS = 4;
/** Words by which two texts may differ, counted in the longer one. */
const MOST_DIFFERENT = 2;
/** Minimum hashes in bands: two texts that share all of a band are looked at. */
const BANDS = 8;
const ROWS = 2;
/** Of a bucket the last so many texts are looked at: time grows with the texts, not with their square. */
const NEIGHBOURS = 4;

const SEEDS = Int32Array.from({ length: BANDS * ROWS }, (_, i) => scramble(0x9e3779b9 * (i + 1)));

/**
 * Finds texts that have the same words as another but for one or two, in near-linear time: candidates share a band of
 * minimum hashes of their words (Broder, 1997), and are compared word by word. Texts that are the same are not meant: give one of each.
 *
 * Words are told by 32 bits of hash, case and accents aside.
 *
 * @param textOf the text of a place, `""` for one that is left out.
 * @param alive called every few thousand texts; what it throws ends the search.
 * @returns for each place that of a text nearly like it, -1 where none was found.
 */
export function nearDuplicates(size: number, textOf: (place: number) => string, alive?: () => void): Int32Array {
  const near = new Int32Array(size).fill(-1);
  const starts = new Int32Array(size + 1);
  let words = new Int32Array(Math.max(64, size * 12));
  let count = 0;
  for (let place = 0; place < size; place++) {
    if (place % 4096 === 0) alive?.();
    starts[place] = count;
    const text = textOf(place);
    // A text has at most a word for every two characters.
    if (count + text.length / 2 + 1 > words.length) {
      const wider = new Int32Array(words.length * 2 + text.length);
      wider.set(words);
      words = wider;
    }
    count = hashWords(text, words, count);
    sortStretch(words, starts[place]!, count);
  }
  starts[size] = count;
  const hashes = new Int32Array(size * BANDS);
  for (let place = 0; place < size; place++) {
    if (place % 4096 === 0) alive?.();
    bandHashes(words, starts[place]!, starts[place + 1]!, hashes, place * BANDS);
  }
  let capacity = 64;
  while (capacity < size * 2) capacity *= 2;
  const buckets = new Int32Array(capacity);
  const before = new Int32Array(size);
  const met: Meeting = { near, hashes, words, starts, buckets, before, mask: capacity - 1 };
  for (let band = 0; band < BANDS; band++) {
    buckets.fill(-1);
    for (let place = 0; place < size; place++) {
      if (place % 4096 === 0) alive?.();
      if (starts[place + 1]! - starts[place]! >= FEWEST_WORDS) meet(met, band, place);
    }
  }
  return near;
}

/** What is known while texts are brought together: of each slot the last text in it, of each text the one before it there. */
interface Meeting {
  readonly near: Int32Array;
  readonly hashes: Int32Array;
  readonly words: Int32Array;
  readonly starts: Int32Array;
  readonly buckets: Int32Array;
  readonly before: Int32Array;
  readonly mask: number;
}

/** Compares a text with the last ones that share a band with it, and puts it with them. */
function meet({ near, hashes, words, starts, buckets, before, mask }: Meeting, band: number, place: number): void {
  const hash = hashes[place * BANDS + band]!;
  const slot = scramble(hash) & mask;
  let other = buckets[slot]!;
  for (let step = 0; other >= 0 && step < NEIGHBOURS; step++) {
    if (
      (near[place] === -1 || near[other] === -1) &&
      hashes[other * BANDS + band] === hash &&
      !metBefore(hashes, place, other, band) &&
      differByFew(words, starts, place, other)
    ) {
      if (near[place] === -1) near[place] = other;
      if (near[other] === -1) near[other] = place;
    }
    other = before[other]!;
  }
  before[place] = buckets[slot]!;
  buckets[slot] = place;
}

/** Writes a hash for each band of a text: of the least hashes that its words have in as many orders as a band has rows. */
function bandHashes(words: Int32Array, from: number, to: number, hashes: Int32Array, at: number): void {
  for (let band = 0; band < BANDS; band++) {
    let hash = band + 1;
    for (let r = 0; r < ROWS; r++) {
      const least = leastHash(words, from, to, SEEDS[band * ROWS + r]!);
      hash = Math.imul(hash ^ least, 0x297a2d39) ^ (least >>> 7);
    }
    hashes[at + band] = hash;
  }
}

function leastHash(words: Int32Array, from: number, to: number, seed: number): number {
  let least = 0x7fffffff;
  for (let w = from; w < to; w++) {
    // One multiplication and shift a word: enough to put them in another order for each seed.
    const own = Math.imul(words[w]! ^ seed, 0x2c1b3c6d);
    const mixed = (own ^ (own >>> 15)) & 0x7fffffff;
    if (mixed < least) least = mixed;
  }
  return least;
}

/** Whether two texts share a band before this one: then they were compared already. */
function metBefore(hashes: Int32Array, place: number, other: number, band: number): boolean {
  for (let b = 0; b < band; b++) if (hashes[place * BANDS + b] === hashes[other * BANDS + b]) return true;
  return false;
}

/** Writes a hash of each of a text's words; gives where the next text's begin. */
function hashWords(text: string, words: Int32Array, from: number): number {
  let at = from;
  let hash = 0;
  let inside = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    const folded = FOLDED_WORD[code]!;
    if (folded !== 0) {
      hash = Math.imul((inside ? hash : 0x811c9dc5) ^ folded, 0x01000193);
      inside = true;
    } else if (inside && !((code === 39 || code === 0x2019) && isInnerApostrophe(text, i))) {
      words[at++] = hash ^ (hash >>> 15);
      inside = false;
    }
  }
  if (inside) words[at++] = hash ^ (hash >>> 15);
  return at;
}

/** Puts a stretch in order; most are of few words, for which moving each to its place is quickest. */
function sortStretch(words: Int32Array, from: number, to: number): void {
  if (to - from > 48) {
    words.subarray(from, to).sort();
    return;
  }
  for (let i = from + 1; i < to; i++) {
    const own = words[i]!;
    let k = i - 1;
    for (; k >= from && words[k]! > own; k--) words[k + 1] = words[k]!;
    words[k + 1] = own;
  }
}

/** Whether two texts, their words in order of number, differ by one or two words: put in, taken out or put for one another. */
function differByFew(words: Int32Array, starts: Int32Array, a: number, b: number): boolean {
  let i = starts[a]!;
  let k = starts[b]!;
  const endA = starts[a + 1]!;
  const endB = starts[b + 1]!;
  if (Math.abs(endA - i - (endB - k)) > MOST_DIFFERENT) return false;
  let onlyA = 0;
  let onlyB = 0;
  while (i < endA || k < endB) {
    if (i < endA && k < endB && words[i] === words[k]) {
      i++;
      k++;
    } else if (k >= endB || (i < endA && words[i]! < words[k]!)) {
      i++;
      onlyA++;
    } else {
      k++;
      onlyB++;
    }
    if (onlyA > MOST_DIFFERENT || onlyB > MOST_DIFFERENT) return false;
  }
  return true;
}
