/**
 * Texts grouped by equality, case and white space aside, by 64 bits of hash: two passes over numbers, never a comparison
 * of all with all. Of a million different texts, two fall together by chance once in some forty million sets.
 */
export class TextGroups {
  private slots: Int32Array;
  private mask: number;
  private high: Int32Array;
  private low: Int32Array;
  private counts: Int32Array;
  private readonly group: Int32Array;
  private groups = 0;

  /** @param size how many rows there are. */
  constructor(size: number) {
    let capacity = 16;
    while (capacity < size * 2) capacity *= 2;
    this.mask = capacity - 1;
    this.slots = new Int32Array(capacity).fill(-1);
    this.high = new Int32Array(capacity / 2);
    this.low = new Int32Array(capacity / 2);
    this.counts = new Int32Array(capacity / 2);
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
    if (this.groups === this.high.length) this.grow();
    let slot = slotOf(h1, h2) & this.mask;
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

  /** A row's group moved to other rows leaves its number behind; told apart often, there are more groups than rows. */
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
      let slot = slotOf(this.high[number]!, this.low[number]!) & this.mask;
      while (this.slots[slot]! >= 0) slot = (slot + 1) & this.mask;
      this.slots[slot] = number;
    }
  }

  /** How many rows have the row's text, itself included; 0 where it is empty. */
  countOf(row: number): number {
    const group = this.group[row]!;
    return group < 0 ? 0 : this.counts[group]!;
  }
}

function slotOf(h1: number, h2: number): number {
  return h1 ^ (h2 >>> 7);
}

const LOWER = Uint16Array.from({ length: 65536 }, (_, code) => {
  const lower = String.fromCharCode(code).toLowerCase();
  return lower.length === 1 ? lower.charCodeAt(0) : code;
});
