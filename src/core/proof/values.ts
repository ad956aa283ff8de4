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

/** The words of a table's values as a vocabulary's numbers. Those of a value are read when they are first asked for. */
export class ValueWords {
  /** Where each value's words begin among all that were read; -1 for a value that was not read yet. */
  readonly starts: Int32Array;
  readonly counts: Int32Array;
  /** All words that were read, and where each begins in its value. Both are others when more were read. */
  words = new Int32Array(16);
  offsets: Uint16Array | Int32Array;
  private size = 0;

  /** @param told of each value that was read a bit for each stem in it, by {@link stemBit}: a stem whose bit is not there is not in the value. */
  constructor(
    private readonly values: readonly string[],
    readonly vocabulary: Vocabulary,
    private readonly told: (code: number, stemBits: number) => void,
  ) {
    this.starts = new Int32Array(values.length).fill(-1);
    this.counts = new Int32Array(values.length);
    this.offsets = values.every((value) => value.length < 65536) ? new Uint16Array(16) : new Int32Array(16);
  }

  /** Reads a value's words. */
  read(code: number): void {
    const value = this.values[code]!;
    const offsets = wordOffsets(value);
    const count = offsets.length / 2;
    if (this.size + count > this.words.length) this.grow(count);
    this.starts[code] = this.size;
    this.counts[code] = count;
    for (let o = 0; o < offsets.length; o += 2) {
      this.offsets[this.size] = offsets[o]!;
      this.words[this.size++] = this.vocabulary.word(value.slice(offsets[o], offsets[o + 1]));
    }
    this.told(code, this.stemBits(code));
  }

  /** The bits of a value that was read, 0 of one that was not. */
  stemBits(code: number): number {
    const from = this.starts[code]!;
    let bits = 0;
    for (let at = from; at < from + this.counts[code]!; at++) bits |= stemBit(this.vocabulary.stemOf[this.words[at]!]!);
    return bits;
  }

  private grow(by: number): void {
    const size = Math.max(this.words.length * 2, this.size + by);
    const words = new Int32Array(size);
    words.set(this.words);
    this.words = words;
    const offsets = this.offsets instanceof Uint16Array ? new Uint16Array(size) : new Int32Array(size);
    offsets.set(this.offsets);
    this.offsets = offsets;
  }
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

  /** What composing needs of each value in a font; without one, of slugs, widths are 0 or those of some font. */
  facts(id: FontId | null): ValueFacts {
    const known = this.factsByFont.get(id);
    if (known) return known;
    const other = this.factsByFont.values().next().value;
    if (id === null && other) return other;
    const facts = other?.slice() ?? this.textFacts();
    if (id !== null) this.writeWidths(facts, id);
    this.factsByFont.set(id, facts);
    return facts;
  }

  /** What is known of each value's text, whatever it is set in. */
  private textFacts(): ValueFacts {
    const facts = new Int32Array(this.values.length * FACTS);
    const hash = emptyHash();
    for (let i = 0, at = 0; i < this.values.length; i++, at += FACTS) {
      hashText(this.values[i]!, hash);
      facts[at + EXACT1] = hash.exact1;
      facts[at + EXACT2] = hash.exact2;
      facts[at + FOLDED1] = hash.folded1;
      facts[at + FOLDED2] = hash.folded2;
      facts[at + LENGTH] = this.values[i]!.length;
      facts[at + STEM_BITS] = this.worded?.stemBits(i) ?? 0;
    }
    return facts;
  }

  private writeWidths(facts: ValueFacts, id: FontId): void {
    const { plain, units } = this.widths(id);
    const font = fontById(id);
    for (let i = 0, at = 0; i < this.values.length; i++, at += FACTS) {
      const value = this.values[i]!;
      facts[at + EDGES] = value === "" ? 0 : edges(font, value);
      facts[at + UNITS] = plain[i] === 1 ? units[i]! : -1;
    }
  }

  words(vocabulary: Vocabulary): ValueWords {
    if (this.worded?.vocabulary === vocabulary) return this.worded;
    const tell = (code: number, stemBits: number) => {
      for (const facts of this.factsByFont.values()) facts[code * FACTS + STEM_BITS] = stemBits;
    };
    return (this.worded = new ValueWords(this.values, vocabulary, tell));
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
