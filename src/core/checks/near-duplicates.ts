import { FOLDED_WORD, isInnerApostrophe } from "../text/fold";
import { scramble } from "../text/hash";

/** Texts of fewer different words are never taken for near duplicates: a word or two is most of them. */
export const FEWEST_WORDS = 4;
/** The share of the words of the longer of two texts that both have, from which on they are nearly the same. */
export const NEAR_SHARE = 0.8;
/** Texts of up to so many words on average are brought together by three rare words that they share, longer ones by two. */
const SHORT = 14;
/** Of the texts that share the same rare words so many are compared: there are as many only where texts are made of few words. */
const MOST_COMPARED = 64;

/**
 * Finds texts that have most of their words in common with another: words that both have are at least a share of the different words of
 * the longer one. Two such texts have some of their rarest words in common (the prefix filter of similarity joins:
 * Chaudhuri, Ganti, Kaushik 2006; with several words: Wang, Li, Feng 2012), so that only texts that do are compared. Texts that are
 * the same are not meant: give one of each.
 *
 * Words are told by 32 bits of hash, case and accents aside.
 *
 * @param textOf the text of a place, `""` for one that is left out.
 * @param share the least share, above 0 and up to 1.
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
  const texts = rankedWords(size, textOf, alive);
  const together = texts.words.length <= SHORT * size ? 3 : 2;
  const meetings = new Meetings(size);
  const keys = new KeysOfRareWords(together);
  for (let place = 0; place < size; place++) {
    if (place % 512 === 0) alive?.();
    const from = texts.starts[place]!;
    const count = texts.starts[place + 1]! - from;
    if (count < FEWEST_WORDS) continue;
    const rare = Math.min(count, count - leastShared(count, share) + together);
    for (let i = 0, found = keys.of(texts.words, from, rare); i < found; i++) {
      const key = keys.found[i]!;
      let compared = 0;
      for (let at = meetings.last(key); at >= 0 && compared < MOST_COMPARED; at = meetings.before(at)) {
        const other = meetings.at(at, key);
        // Where both have one already nothing is to be found out.
        if (other < 0 || (near[place] !== -1 && near[other] !== -1)) continue;
        compared++;
        if (!haveInCommon(texts, place, other, share)) continue;
        if (near[place] === -1) near[place] = other;
        if (near[other] === -1) near[other] = place;
      }
      meetings.put(key, place);
    }
  }
  return near;
}

/** How many words a text of so many has to share at least with one that is no longer. */
function leastShared(words: number, share: number): number {
  return Math.ceil(share * words - 1e-9);
}

/** The different words of each text: those of text `i` stand from `starts[i]` to `starts[i + 1]`, rising. */
interface RankedWords {
  /** Words as ranks: the rarer a word is among all texts, the lower. */
  readonly words: Int32Array;
  readonly starts: Int32Array;
}

function rankedWords(size: number, textOf: (place: number) => string, alive?: () => void): RankedWords {
  const starts = new Int32Array(size + 1);
  let words = new Int32Array(Math.max(64, size * 12));
  let count = 0;
  const numbers = new WordNumbers();
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
    const end = hashWords(text, words, count);
    sortStretch(words, count, end);
    const from = count;
    for (let i = from; i < end; i++) if (i === from || words[i] !== words[i - 1]) words[count++] = words[i]!;
    for (let i = from; i < count; i++) words[i] = numbers.of(words[i]!);
  }
  starts[size] = count;
  const ranks = numbers.ranks();
  for (let place = 0; place < size; place++) {
    if (place % 4096 === 0) alive?.();
    for (let i = starts[place]!; i < starts[place + 1]!; i++) words[i] = ranks[words[i]!]!;
    sortStretch(words, starts[place]!, starts[place + 1]!);
  }
  return { words: words.subarray(0, count), starts };
}

/** Numbers the words met, and counts how many texts have each. */
class WordNumbers {
  private slots = new Int32Array(1 << 16).fill(-1);
  private hashes = new Int32Array(1 << 15);
  private counts = new Int32Array(1 << 15);
  private size = 0;

  /** The number of a word's hash, which is counted once more. */
  of(hash: number): number {
    let mask = this.slots.length - 1;
    let slot = scramble(hash) & mask;
    for (; this.slots[slot]! >= 0; slot = (slot + 1) & mask) {
      const number = this.slots[slot]!;
      if (this.hashes[number] !== hash) continue;
      this.counts[number]!++;
      return number;
    }
    if (this.size === this.hashes.length) {
      this.grow();
      mask = this.slots.length - 1;
      for (slot = scramble(hash) & mask; this.slots[slot]! >= 0;) slot = (slot + 1) & mask;
    }
    this.slots[slot] = this.size;
    this.hashes[this.size] = hash;
    this.counts[this.size] = 1;
    return this.size++;
  }

  private grow(): void {
    const [hashes, counts] = [new Int32Array(this.size * 2), new Int32Array(this.size * 2)];
    hashes.set(this.hashes);
    counts.set(this.counts);
    [this.hashes, this.counts] = [hashes, counts];
    this.slots = new Int32Array(this.size * 4).fill(-1);
    const mask = this.slots.length - 1;
    for (let number = 0; number < this.size; number++) {
      let slot = scramble(hashes[number]!) & mask;
      while (this.slots[slot]! >= 0) slot = (slot + 1) & mask;
      this.slots[slot] = number;
    }
  }

  /** By number the rank of each word: the fewer texts have it, the lower. */
  ranks(): Int32Array {
    // One number holds count and word, so that the engine's own sort of numbers can be used.
    const SPAN = 2 ** 26;
    const order = Float64Array.from({ length: this.size }, (_, number) => this.counts[number]! * SPAN + number).sort();
    const ranks = new Int32Array(this.size);
    order.forEach((packed, rank) => (ranks[packed % SPAN] = rank));
    return ranks;
  }
}

/** The hashes of all choices of two, or of three, among the rare words of a text. */
class KeysOfRareWords {
  found = new Int32Array(64);

  constructor(private readonly together: 2 | 3) {}

  /** Works them out of the first so many words from a place on; says how many there are, in {@link found}. */
  of(words: Int32Array, from: number, rare: number): number {
    const most = this.together === 2 ? (rare * (rare - 1)) / 2 : (rare * (rare - 1) * (rare - 2)) / 6;
    if (most > this.found.length) this.found = new Int32Array(most * 2);
    let count = 0;
    for (let a = from; a < from + rare; a++)
      for (let b = a + 1; b < from + rare; b++) {
        const two = Math.imul(words[a]!, 0x2c1b3c6d) ^ Math.imul(words[b]! + 0x9e37, 0x297a2d39);
        if (this.together === 2) this.found[count++] = scramble(two);
        else
          for (let c = b + 1; c < from + rare; c++)
            this.found[count++] = scramble(two ^ Math.imul(words[c]! + 0x79b9, 0x3c6ef372));
      }
    return count;
  }
}

/** Which texts have a key, the last one first. */
class Meetings {
  private readonly heads: Int32Array;
  private keys: Int32Array;
  private places: Int32Array;
  private links: Int32Array;
  private size = 0;

  constructor(texts: number) {
    let capacity = 1024;
    while (capacity < texts * 8) capacity *= 2;
    this.heads = new Int32Array(capacity).fill(-1);
    this.keys = new Int32Array(capacity);
    this.places = new Int32Array(capacity);
    this.links = new Int32Array(capacity);
  }

  /** Where the last entry in a key's slot is, -1 for none. */
  last(key: number): number {
    return this.heads[key & (this.heads.length - 1)]!;
  }

  before(entry: number): number {
    return this.links[entry]!;
  }

  /** The place of an entry, -1 where it is another key's. */
  at(entry: number, key: number): number {
    return this.keys[entry] === key ? this.places[entry]! : -1;
  }

  put(key: number, place: number): void {
    if (this.size === this.keys.length) {
      const wider = (of: Int32Array): Int32Array => {
        const own = new Int32Array(of.length * 2);
        own.set(of);
        return own;
      };
      [this.keys, this.places, this.links] = [wider(this.keys), wider(this.places), wider(this.links)];
    }
    const slot = key & (this.heads.length - 1);
    this.keys[this.size] = key;
    this.places[this.size] = place;
    this.links[this.size] = this.heads[slot]!;
    this.heads[slot] = this.size++;
  }
}

/** Whether two texts share enough of the words of the longer one. */
function haveInCommon({ words, starts }: RankedWords, a: number, b: number, share: number): boolean {
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
