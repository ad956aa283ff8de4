import { charCount } from "../text/char-count";
import { type FontId } from "../measure/font-id";
import { type Vocabulary } from "../keywords/place";
import { stemBit } from "../keywords/stem-bit";
import { advanceUnits, isPlain } from "../measure/advance";
import { type Font, fontById } from "../measure/font";
import { type SlugSpelling, slugWords } from "../slugs/slug";
import { wordOffsets } from "../text/fold";
import { emptyHash, hashText } from "../text/hash";

/** What measuring knows of each value of a table in one font. All widths are font units. */
export interface ValueWidths {
  readonly units: Int32Array;
  /** 1 where the value can be measured apart from its neighbours. */
  readonly plain: Uint8Array;
  /** Width of the widest stretch without a space. */
  readonly longest: Int32Array;
}

/**
 * What composing needs of each value, side by side, so that one look at memory gets all of it: {@link FACTS} numbers a value.
 * Hashes are those of {@link hashText}; lengths count UTF-16 code units.
 */
export type ValueFacts = Int32Array;
export const FACTS = 8;
export const EXACT1 = 0;
export const EXACT2 = 1;
export const FOLDED1 = 2;
export const FOLDED2 = 3;
export const LENGTH = 4;
/** What kerns with the neighbours: the right class of the first glyph in the low 16 bits, the left class of the last in the high ones. */
export const EDGES = 5;
/** A class for an edge at which only the texts themselves tell: no glyph is there, or a ligature may be. */
export const SPECIAL_EDGE = 0xffff;
/** The width in the font that the facts were asked for, in font units; -1 where the value cannot be measured apart from its neighbours. */
export const UNITS = 6;
/** A bit for each stem of the value's words ({@link stemBit}), as far as words were asked for. */
export const STEM_BITS = 7;

/** The words of each value as a vocabulary's numbers: those of value `i` stand from `starts[i]` to `starts[i + 1]`. */
export interface ValueWords {
  readonly vocabulary: Vocabulary;
  readonly starts: Int32Array;
  readonly words: Int32Array;
  /** Where each word begins in its value. */
  readonly offsets: Uint16Array | Int32Array;
  /** Of each value a bit for each stem in it, by {@link stemBit}: a stem whose bit is not there is not in the value. */
  readonly stemBits: Int32Array;
}

/**
 * The distinct values of a column, as plain text; number 0 is always the empty value. What is costly to know of a value
 * (its width, its hash, its words, its slug) is worked out once, when first asked for.
 */
export class ValueTable {
  private readonly widthsByFont = new Map<FontId, ValueWidths>();
  private charCounts: Int32Array | null = null;
  private mostUnits = -1;
  private readonly factsByFont = new Map<FontId | null, ValueFacts>();
  private worded: ValueWords | null = null;
  private readonly slugTables = new Map<string, ValueTable>();

  constructor(readonly values: readonly string[]) {}

  /** A table with values behind these, whose numbers stay. */
  extended(values: readonly string[]): ValueTable {
    return new ValueTable([...this.values, ...values]);
  }

  widths(id: FontId): ValueWidths {
    let known = this.widthsByFont.get(id);
    if (!known) {
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
    return (this.charCounts ??= Int32Array.from(this.values, charCount));
  }

  /** How long the longest value is, in UTF-16 code units. */
  longest(): number {
    if (this.mostUnits < 0) this.mostUnits = this.values.reduce((most, { length }) => Math.max(most, length), 0);
    return this.mostUnits;
  }

  /** What composing needs of each value in a font; without one, of slugs, widths are 0. */
  facts(id: FontId | null): ValueFacts {
    let facts = this.factsByFont.get(id);
    if (facts) return facts;
    const count = this.values.length;
    facts = new Int32Array(count * FACTS);
    const widths = id === null ? null : this.widths(id);
    const hash = emptyHash();
    for (let i = 0, at = 0; i < count; i++, at += FACTS) {
      const value = this.values[i]!;
      hashText(value, hash);
      facts[at + EXACT1] = hash.exact1;
      facts[at + EXACT2] = hash.exact2;
      facts[at + FOLDED1] = hash.folded1;
      facts[at + FOLDED2] = hash.folded2;
      facts[at + LENGTH] = value.length;
      facts[at + EDGES] = id === null || value === "" ? 0 : edges(fontById(id), value);
      facts[at + UNITS] = widths === null ? 0 : widths.plain[i] === 1 ? widths.units[i]! : -1;
      facts[at + STEM_BITS] = this.worded ? this.worded.stemBits[i]! : 0;
    }
    this.factsByFont.set(id, facts);
    return facts;
  }

  words(vocabulary: Vocabulary): ValueWords {
    if (this.worded?.vocabulary === vocabulary) return this.worded;
    const starts = new Int32Array(this.values.length + 1);
    const stemBits = new Int32Array(this.values.length);
    const short = this.values.every((value) => value.length < 65536);
    let words = new Int32Array(Math.max(16, this.values.length * 4));
    let at = short ? new Uint16Array(words.length) : new Int32Array(words.length);
    let count = 0;
    for (let i = 0; i < this.values.length; i++) {
      starts[i] = count;
      const value = this.values[i]!;
      const offsets = wordOffsets(value);
      if (count + offsets.length / 2 > words.length) {
        const size = Math.max(words.length * 2, count + offsets.length);
        const [widerWords, widerAt] = [new Int32Array(size), short ? new Uint16Array(size) : new Int32Array(size)];
        widerWords.set(words);
        widerAt.set(at);
        words = widerWords;
        at = widerAt;
      }
      let bits = 0;
      for (let o = 0; o < offsets.length; o += 2) {
        const word = vocabulary.word(value.slice(offsets[o], offsets[o + 1]));
        at[count] = offsets[o]!;
        words[count++] = word;
        bits |= stemBit(vocabulary.stemOf[word]!);
      }
      stemBits[i] = bits;
    }
    starts[this.values.length] = count;
    for (const facts of this.factsByFont.values())
      for (let i = 0; i < stemBits.length; i++) facts[i * FACTS + STEM_BITS] = stemBits[i]!;
    return (this.worded = { vocabulary, starts, words: words.slice(0, count), offsets: at.slice(0, count), stemBits });
  }

  /** Each value's words as a slug has them, under the value's own number. */
  slugs(spelling: SlugSpelling): ValueTable {
    const key = `${spelling.language.tag} ${spelling.options.keepUnicode}`;
    let table = this.slugTables.get(key);
    if (!table)
      this.slugTables.set(key, (table = new ValueTable(this.values.map((value) => slugWords(value, spelling)))));
    return table;
  }
}

function edges(font: Font, value: string): number {
  const first = value.charCodeAt(0);
  const last = value.charCodeAt(value.length - 1);
  const [left, right] = [font.glyphOf[last]!, font.glyphOf[first]!];
  const ligatures = font.ligatures.length > 0;
  const leading = right === 0 || (ligatures && first === 102) ? SPECIAL_EDGE : font.rightClass[right]!;
  const trailing =
    left === 0 || (ligatures && (last === 102 || last === 105 || last === 108)) ? SPECIAL_EDGE : font.leftClass[left]!;
  return leading | (trailing << 16);
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
