import { FOLDED_WORD, isInnerApostrophe } from "../text/fold";
import { scramble } from "../text/hash";

/** Texts of fewer different words are never taken for near duplicates: a word or two is most of them. */
export const FEWEST_WORDS = 4;
/** The share of the words of the longer of two texts that both have, from which on they are nearly the same: no less, since fewer would be found. */
export const NEAR_SHARE = 0.8;
/** Keys of a text, each made of its words in so many orders: of two texts with two thirds of all their words in common 97 in 100 share one. */
const BANDS = 16;
const ROWS = 4;
/** Of the texts that share a key so many are compared, the last ones: fewer for a text that has a near one already. */
const MOST_COMPARED = 40;
const FEW_COMPARED = 4;

const SEEDS = Int32Array.from({ length: BANDS * ROWS }, (_, i) => scramble(0x9e3779b9 * (i + 1)));

/**
 * Finds texts that have most of their words in common with another: words that both have are at least a share of the different words of
 * the longer one. Candidates share a band of minimum hashes of their words (Broder, 1997), a look at a few bits of each tells
 * most of them apart, and the others are compared word by word: none is found that is not nearly the same, and at least 98 in 100
 * are found. Texts that are the same are not meant: give one of each.
 *
 * Words are told by 32 bits of hash, case and accents aside.
 *
 * @param textOf the text of a place, `""` for one that is left out.
 * @param share the least share, from {@link NEAR_SHARE} to 1.
 * @param alive called every few hundred texts; what it throws ends the search.
 * @returns for each place that of a text nearly like it, -1 where none was found.
 */
export function nearDuplicates(
  size: number,
  textOf: (place: number) => string,
  share = NEAR_SHARE,
  alive?: () => void,
): Int32Array {
  const near = new Int32Array(size).fill(-1);
  const texts = differentWords(size, textOf, alive);
  const bits = bitsOf(texts, size);
  const keys = keysOf(texts, size, alive);
  let capacity = 1024;
  while (capacity < size * 2) capacity *= 2;
  /** By slot the last text in it, by text the one before it there. */
  const last = new Int32Array(capacity);
  const before = new Int32Array(size);
  for (let band = 0; band < BANDS; band++) {
    last.fill(-1);
    const own = keys.subarray(band * size, (band + 1) * size);
    for (let place = 0; place < size; place++) {
      if (place % 4096 === 0) alive?.();
      if (texts.starts[place + 1]! - texts.starts[place]! < FEWEST_WORDS) continue;
      const key = own[place]!;
      const slot = key & (capacity - 1);
      // A text that has a near one already is looked at for those that have none.
      let left = near[place] === -1 ? MOST_COMPARED : FEW_COMPARED;
      for (let other = last[slot]!; other >= 0 && left > 0; other = before[other]!, left--) {
        if (own[other] !== key || (near[place] !== -1 && near[other] !== -1)) continue;
        if (!mayHaveInCommon(texts, bits, place, other, share) || !haveInCommon(texts, place, other, share)) continue;
        if (near[place] === -1) near[place] = other;
        if (near[other] === -1) near[other] = place;
        left = Math.min(left, FEW_COMPARED);
      }
      before[place] = last[slot]!;
      last[slot] = place;
    }
  }
  return near;
}

/** How many words a text of so many has to share at least with one that is no longer. */
function leastShared(words: number, share: number): number {
  return Math.ceil(share * words - 1e-9);
}

/** The different words of each text as their hashes: those of text `i` stand from `starts[i]` to `starts[i + 1]`, rising. */
interface TextWords {
  readonly words: Int32Array;
  readonly starts: Int32Array;
}

function differentWords(size: number, textOf: (place: number) => string, alive?: () => void): TextWords {
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
    const from = count;
    const end = hashWords(text, words, from);
    sortStretch(words, from, end);
    for (let i = from; i < end; i++) if (i === from || words[i] !== words[i - 1]) words[count++] = words[i]!;
  }
  starts[size] = count;
  return { words, starts };
}

/** The keys of all texts, band by band: each is made of the least that a text's words are in four orders. */
function keysOf({ words, starts }: TextWords, size: number, alive?: () => void): Int32Array {
  const keys = new Int32Array(size * BANDS);
  for (let band = 0, seed = 0; band < BANDS; band++) {
    const [s1, s2, s3, s4] = [SEEDS[seed++]!, SEEDS[seed++]!, SEEDS[seed++]!, SEEDS[seed++]!];
    for (let place = 0; place < size; place++) {
      if (place % 4096 === 0) alive?.();
      let one = 0x7fffffff;
      let two = 0x7fffffff;
      let three = 0x7fffffff;
      let four = 0x7fffffff;
      for (let i = starts[place]!; i < starts[place + 1]!; i++) {
        const word = words[i]!;
        one = Math.min(one, placeOf(word, s1));
        two = Math.min(two, placeOf(word, s2));
        three = Math.min(three, placeOf(word, s3));
        four = Math.min(four, placeOf(word, s4));
      }
      const key = Math.imul(Math.imul(Math.imul(one ^ band, 0x297a2d39) ^ two, 0x3c6ef372) ^ three, 0x2c1b3c6d) ^ four;
      keys[band * size + place] = scramble(key);
    }
  }
  return keys;
}

/** Where a word is in the order of a seed: words are scrambled already, so that one multiplication and a shift put them in another order. */
function placeOf(word: number, seed: number): number {
  const own = Math.imul(word ^ seed, 0x2c1b3c6d);
  return (own ^ (own >>> 15)) & 0x7fffffff;
}

/** So many numbers of 32 bits tell at a glance about which words a text has. */
const GLANCE = 4;

/** Of each text a bit for each word, of as many as {@link GLANCE} has; words may have the same one. */
function bitsOf({ words, starts }: TextWords, size: number): Int32Array {
  const bits = new Int32Array(size * GLANCE);
  for (let place = 0; place < size; place++)
    for (let i = starts[place]!; i < starts[place + 1]!; i++) {
      const bit = scramble(words[i]!) & (GLANCE * 32 - 1);
      bits[place * GLANCE + (bit >> 5)]! |= 1 << (bit & 31);
    }
  return bits;
}

/** Whether two texts can share enough words: `false` is sure. */
function mayHaveInCommon({ starts }: TextWords, bits: Int32Array, a: number, b: number, share: number): boolean {
  const [sizeA, sizeB] = [starts[a + 1]! - starts[a]!, starts[b + 1]! - starts[b]!];
  const wanted = leastShared(Math.max(sizeA, sizeB), share);
  if (Math.min(sizeA, sizeB) < wanted) return false;
  let onlyA = 0;
  let onlyB = 0;
  for (let i = 0; i < GLANCE; i++) {
    const [one, two] = [bits[a * GLANCE + i]!, bits[b * GLANCE + i]!];
    onlyA += bitCount(one & ~two);
    onlyB += bitCount(two & ~one);
  }
  return onlyA <= sizeA - wanted && onlyB <= sizeB - wanted;
}

function bitCount(bits: number): number {
  let n = bits - ((bits >>> 1) & 0x55555555);
  n = (n & 0x33333333) + ((n >>> 2) & 0x33333333);
  return Math.imul((n + (n >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}

/** Whether two texts share enough of the words of the longer one. */
function haveInCommon({ words, starts }: TextWords, a: number, b: number, share: number): boolean {
  let i = starts[a]!;
  let k = starts[b]!;
  const endA = starts[a + 1]!;
  const endB = starts[b + 1]!;
  const [sizeA, sizeB] = [endA - i, endB - k];
  const wanted = leastShared(Math.max(sizeA, sizeB), share);
  if (Math.min(sizeA, sizeB) < wanted) return false;
  let missesA = sizeA - wanted;
  let missesB = sizeB - wanted;
  while (i < endA && k < endB) {
    if (words[i] === words[k]) {
      i++;
      k++;
    } else if (words[i]! < words[k]!) {
      i++;
      if (--missesA < 0) return false;
    } else {
      k++;
      if (--missesB < 0) return false;
    }
  }
  return endA - i <= missesA && endB - k <= missesB;
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
