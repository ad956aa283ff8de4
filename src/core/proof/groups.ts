import { emptyHash, hashText, scramble } from "../text/hash";

/** Which rows of a set read the same, as it was found once. */
export interface RowGroups {
  /** How many rows have the row's text, itself included; 0 where it is empty. */
  countOf(row: number): number;
  /** The row's group as a number that equal texts share, -1 where its text is empty. */
  groupOf(row: number): number;
}

/**
 * Texts grouped by equality, by 64 bits of hash ({@link hashText}): two passes over numbers, never a comparison of all
 * with all.
 */
export class TextGroups implements RowGroups {
  private slots: Int32Array;
  private mask: number;
  private high: Int32Array;
  private low: Int32Array;
  private counts: Int32Array;
  private readonly group: Int32Array;
  private groups = 0;
  private readonly hashed = emptyHash();

  /** @param size how many rows there are. */
  constructor(private readonly size: number) {
    let capacity = 16;
    while (capacity < size * 2) capacity *= 2;
    this.mask = capacity - 1;
    this.slots = new Int32Array(capacity).fill(-1);
    this.high = new Int32Array(capacity / 2);
    this.low = new Int32Array(capacity / 2);
    this.counts = new Int32Array(capacity / 2);
    this.group = new Int32Array(size).fill(-1);
  }

  /** Takes every row out of its group. */
  clear(): void {
    this.slots.fill(-1);
    this.group.fill(-1);
    this.groups = 0;
  }

  /** Whether so many rows were moved that starting anew is cheaper than to go on. */
  get worn(): boolean {
    return this.groups > this.size * 2 + 64;
  }

  /** Puts a row's text in its group, case aside; a row that has one already moves. */
  putText(row: number, text: string): void {
    hashText(text, this.hashed);
    this.put(row, this.hashed.folded1, this.hashed.folded2);
  }

  /** Puts a row in the group of a text by the text's two hashes; a row that has one already moves. Empty texts, hashes 0, are in none. */
  put(row: number, h1: number, h2: number): void {
    const old = this.group[row]!;
    if (old >= 0) {
      if (this.high[old] === h1 && this.low[old] === h2) return;
      this.counts[old]!--;
    }
    if (h1 === 0 && h2 === 0) {
      this.group[row] = -1;
      return;
    }
    if (this.groups === this.high.length) this.grow();
    let slot = scramble(h1 ^ h2) & this.mask;
    for (;;) {
      const number = this.slots[slot]!;
      if (number < 0) break;
      if (this.high[number] === h1 && this.low[number] === h2) {
        this.group[row] = number;
        this.counts[number]!++;
        return;
      }
      slot = (slot + 1) & this.mask;
    }
    const number = this.groups++;
    this.slots[slot] = number;
    this.high[number] = h1;
    this.low[number] = h2;
    this.counts[number] = 1;
    this.group[row] = number;
  }

  /** A group whose rows moved to others leaves its number behind; told apart often, there are more groups than rows. */
  private grow(): void {
    const wider = (old: Int32Array) => {
      const array = new Int32Array(old.length * 2);
      array.set(old);
      return array;
    };
    this.high = wider(this.high);
    this.low = wider(this.low);
    this.counts = wider(this.counts);
    this.slots = new Int32Array(this.slots.length * 2).fill(-1);
    this.mask = this.slots.length - 1;
    for (let number = 0; number < this.groups; number++) {
      let slot = scramble(this.high[number]! ^ this.low[number]!) & this.mask;
      while (this.slots[slot]! >= 0) slot = (slot + 1) & this.mask;
      this.slots[slot] = number;
    }
  }

  /** The groups as they are now; what is put afterwards does not change them. */
  frozen(): RowGroups {
    const group = this.group.slice();
    const counts = this.counts.slice(0, this.groups);
    return {
      countOf: (row) => (group[row]! < 0 ? 0 : counts[group[row]!]!),
      groupOf: (row) => group[row]!,
    };
  }

  countOf(row: number): number {
    const group = this.group[row]!;
    return group < 0 ? 0 : this.counts[group]!;
  }

  groupOf(row: number): number {
    return this.group[row]!;
  }
}
