/**
 * Texts grouped by equality, case and white space aside, by 64 bits of hash: two passes over numbers, never a comparison
 * of all with all. Of a million different texts, two fall together by chance once in some forty million sets.
 */
export class TextGroups {
  private readonly slots: Int32Array;
  private readonly mask: number;
  private readonly high: Int32Array;
  private readonly low: Int32Array;
  private readonly counts: Int32Array;
  private readonly group: Int32Array;
  private groups = 0;

  /** @param size how many texts there are at most. */
  constructor(size: number) {
    let capacity = 16;
    while (capacity < size * 2) capacity *= 2;
    this.mask = capacity - 1;
    this.slots = new Int32Array(capacity).fill(-1);
    this.high = new Int32Array(size * 4 + 16);
    this.low = new Int32Array(size * 4 + 16);
    this.counts = new Int32Array(size * 4 + 16);
    this.group = new Int32Array(size).fill(-1);
  }

  /** Puts a row's text in its group; a row that has one already moves. Empty texts are in none. */
  put(row: number, text: string): void {
    if (this.group[row]! >= 0) this.counts[this.group[row]!]!--;
    this.group[row] = -1;
    if (text === "") return;
    let h1 = 0x811c9dc5;
    let h2 = 0x9e3779b9;
    for (let i = 0; i < text.length; i++) {
      const code = LOWER[text.charCodeAt(i)]!;
      h1 = Math.imul(h1 ^ code, 0x01000193);
      h2 = Math.imul(h2 ^ code, 0x85ebca6b);
      h2 = (h2 << 13) | (h2 >>> 19);
    }
    let slot = (h1 ^ (h2 >>> 7)) & this.mask;
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

  /** Number of the row's group, -1 where its text is empty. */
  groupOf(row: number): number {
    return this.group[row]!;
  }

  /** How many rows have the row's text, itself included; 0 where it is empty. */
  countOf(row: number): number {
    const group = this.group[row]!;
    return group < 0 ? 0 : this.counts[group]!;
  }
}

const LOWER = Uint16Array.from({ length: 65536 }, (_, code) => {
  const lower = String.fromCharCode(code).toLowerCase();
  return lower.length === 1 ? lower.charCodeAt(0) : code;
});
