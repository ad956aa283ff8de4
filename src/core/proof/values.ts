import { advanceUnits, isPlain } from "../measure/advance";
import { type FontId, fontById } from "../measure/font";
import { slugWords } from "../slugs/slug";

/** What measuring knows of each value of a table in one font. All widths are font units. */
export interface ValueWidths {
  readonly units: Int32Array;
  /** 1 where the value can be measured apart from its neighbours. */
  readonly plain: Uint8Array;
  /** Width of the widest stretch without a space. */
  readonly longest: Int32Array;
}

/**
 * The distinct values of a column, as plain text; number 0 is always the empty value. What is costly to know of a value
 * (its width, its slug) is worked out once, when first asked for.
 */
export class ValueTable {
  readonly values: string[];
  private readonly widthsByFont = new Map<FontId, ValueWidths>();
  private charCounts: Int32Array | null = null;
  private slugsAscii: string[] | null = null;
  private slugsUnicode: string[] | null = null;

  constructor(values: string[]) {
    this.values = values;
  }

  widths(id: FontId): ValueWidths {
    let known = this.widthsByFont.get(id);
    if (!known || known.units.length < this.values.length) {
      const font = fontById(id);
      const count = this.values.length;
      const space = advanceUnits(font, " ");
      const units = new Int32Array(count);
      const plain = new Uint8Array(count);
      const longest = new Int32Array(count);
      for (let i = 0; i < count; i++) {
        const value = this.values[i]!;
        const own = advanceUnits(font, value);
        units[i] = own;
        plain[i] = isPlain(font, value) ? 1 : 0;
        longest[i] = own <= space * 40 ? own : longestWord(font.id, value);
      }
      this.widthsByFont.set(id, (known = { units, plain, longest }));
    }
    return known;
  }

  /** Length of each value in characters (code points). */
  chars(): Int32Array {
    if (!this.charCounts || this.charCounts.length < this.values.length) this.charCounts = Int32Array.from(this.values, charCount);
    return this.charCounts;
  }

  /** Each value's words as a slug has them. */
  slugs(keepUnicode: boolean): string[] {
    let slugs = keepUnicode ? this.slugsUnicode : this.slugsAscii;
    if (!slugs || slugs.length < this.values.length) {
      slugs = this.values.map((value) => slugWords(value, keepUnicode));
      if (keepUnicode) this.slugsUnicode = slugs;
      else this.slugsAscii = slugs;
    }
    return slugs;
  }
}

/** Length in characters (code points), as a writer counts. */
export function charCount(text: string): number {
  let count = text.length;
  for (let i = 0; i < text.length; i++) if ((text.charCodeAt(i) & 0xfc00) === 0xdc00) count--;
  return count;
}

/** The width of the widest stretch without a space, in font units. */
export function longestWord(id: FontId, text: string): number {
  const font = fontById(id);
  let most = 0;
  let start = 0;
  for (let i = 0; i <= text.length; i++) {
    if (i === text.length || text.charCodeAt(i) === 32) {
      if (i - start > 0) most = Math.max(most, advanceUnits(font, text.slice(start, i)));
      start = i + 1;
    }
  }
  return most;
}
