/**
 * Polynomial hashes of texts that can be put together: the hash of a text is known from those of its parts, so texts
 * that lines make of known values are compared without being written out. Two hashes of 32 bits with other bases, each
 * over scrambled UTF-16 code units, once as written and once in lower case. Of a million different texts, two fall
 * together by chance once in some forty million sets.
 *
 * `H(ab) = H(a) · B^|b| + H(b)` modulo 2³² (Rabin and Karp's fingerprint, with an odd base).
 */
export interface TextHash {
  /** As written. */
  exact1: number;
  exact2: number;
  /** Case aside. */
  folded1: number;
  folded2: number;
}

const BASE1 = 0x2c1b3c6d;
const BASE2 = 0x297a2d39;

/** Powers of the bases by a text's length in code units; longer texts are worked out ({@link powerOf}). */
export const POWERS = 4096;
export const POWER1 = powers(BASE1);
export const POWER2 = powers(BASE2);

function powers(base: number): Int32Array {
  const table = new Int32Array(POWERS);
  table[0] = 1;
  for (let i = 1; i < POWERS; i++) table[i] = Math.imul(table[i - 1]!, base);
  return table;
}

/** The power of a base for a length in code units. */
export function powerOf(table: Int32Array, length: number): number {
  if (length < POWERS) return table[length]!;
  let power = 1;
  let rest = length;
  for (; rest >= POWERS; rest -= POWERS - 1) power = Math.imul(power, table[POWERS - 1]!);
  return Math.imul(power, table[rest]!);
}

/** Scrambled code units (the finaliser of MurmurHash3, which is in the public domain). */
const SCRAMBLED = new Int32Array(65536);
for (let code = 0; code < 65536; code++) SCRAMBLED[code] = scramble(code + 1);

/** The same in lower case. Whole blocks have none: the table is made where a page opens. */
const SCRAMBLED_LOWER = SCRAMBLED.slice();
for (let code = 0; code < 65536; code++) {
  if (code === 0x3000) code = 0xa640;
  if (code === 0xac00) code = 0xfb00;
  const lower = String.fromCharCode(code).toLowerCase();
  if (lower.length === 1) SCRAMBLED_LOWER[code] = SCRAMBLED[lower.charCodeAt(0)]!;
}

export function scramble(value: number): number {
  let h = value | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}

/** Writes a text's hashes into `out`. The empty text's are all 0. */
export function hashText(text: string, out: TextHash): void {
  let e1 = 0;
  let e2 = 0;
  let f1 = 0;
  let f2 = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    const exact = SCRAMBLED[code]!;
    const folded = SCRAMBLED_LOWER[code]!;
    e1 = (Math.imul(e1, BASE1) + exact) | 0;
    e2 = (Math.imul(e2, BASE2) + exact) | 0;
    f1 = (Math.imul(f1, BASE1) + folded) | 0;
    f2 = (Math.imul(f2, BASE2) + folded) | 0;
  }
  out.exact1 = e1;
  out.exact2 = e2;
  out.folded1 = f1;
  out.folded2 = f2;
}

/** A hash to write into. */
export function emptyHash(): TextHash {
  return { exact1: 0, exact2: 0, folded1: 0, folded2: 0 };
}
