import { type Vocabulary } from "../keywords/place";
import { wordOffsets } from "../text/fold";
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
 * @param textOf the text of a place, `""` for one that is left out.
 * @returns for each place that of a text nearly like it, -1 where none was found.
 */
export function nearDuplicates(size: number, textOf: (place: number) => string, vocabulary: Vocabulary, cancelled?: () => void): Int32Array {
  const near = new Int32Array(size).fill(-1);
  const starts = new Int32Array(size + 1);
  let words = new Int32Array(Math.max(64, size * 8));
  let count = 0;
  for (let place = 0; place < size; place++) {
    if (place % 4096 === 0) cancelled?.();
    starts[place] = count;
    const text = textOf(place);
    const offsets = wordOffsets(text);
    if (count + offsets.length / 2 > words.length) {
      const wider = new Int32Array(words.length * 2 + offsets.length);
      wider.set(words);
      words = wider;
    }
    for (let o = 0; o < offsets.length; o += 2) words[count++] = vocabulary.word(text.slice(offsets[o], offsets[o + 1]));
    words.subarray(starts[place], count).sort();
  }
  starts[size] = count;
  const hashes = new Int32Array(size * BANDS);
  for (let place = 0; place < size; place++) {
    const from = starts[place]!;
    const to = starts[place + 1]!;
    for (let band = 0; band < BANDS; band++) {
      let hash = band + 1;
      for (let r = 0; r < ROWS; r++) {
        const seed = SEEDS[band * ROWS + r]!;
        let least = 0x7fffffff;
        for (let w = from; w < to; w++) {
          // One multiplication and shift a word: enough to put them in another order for each seed.
          const own = Math.imul(words[w]! ^ seed, 0x2c1b3c6d);
          const mixed = (own ^ (own >>> 15)) & 0x7fffffff;
          if (mixed < least) least = mixed;
        }
        hash = Math.imul(hash ^ least, 0x297a2d39) ^ (least >>> 7);
      }
      hashes[place * BANDS + band] = hash;
    }
  }
  let capacity = 64;
  while (capacity < size * 2) capacity *= 2;
  const buckets = new Int32Array(capacity);
  const before = new Int32Array(size);
  for (let band = 0; band < BANDS; band++) {
    cancelled?.();
    buckets.fill(-1);
    for (let place = 0; place < size; place++) {
      if (starts[place + 1]! - starts[place]! < FEWEST_WORDS) continue;
      const hash = hashes[place * BANDS + band]!;
      const slot = scramble(hash) & (capacity - 1);
      let other = buckets[slot]!;
      for (let step = 0; other >= 0 && step < NEIGHBOURS; step++) {
        if ((near[place] === -1 || near[other] === -1) && hashes[other * BANDS + band] === hash && differByFew(words, starts, place, other)) {
          if (near[place] === -1) near[place] = other;
          if (near[other] === -1) near[other] = place;
        }
        other = before[other]!;
      }
      before[place] = buckets[slot]!;
      buckets[slot] = place;
    }
  }
  return near;
}

/** Whether two texts, their words in order of number, differ by one or two words: put in, taken out or put for one another. */
function differByFew(words: Int32Array, starts: Int32Array, a: number, b: number): boolean {
  let i = starts[a]!;
  let k = starts[b]!;
  const endA = starts[a + 1]!;
  const endB = starts[b + 1]!;
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
