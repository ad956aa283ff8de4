import { advanceUnits, isPlain, jointUnits, unitsToPx } from "../measure/advance";
import { type Font, fontById } from "../measure/font";
import { fitsSurface, wrapOnSurface } from "../measure/wrap";
import { dropTrailing } from "../lines/filters";
import { type Program, type Shape } from "../lines/program";
import { cutSlug, dropWords, type SlugOptions, slugWords } from "../slugs/slug";
import { FOLDED_WORD } from "../text/fold";
import { type Column, type ItemSet } from "./items";
import { type Room } from "./room";
import { charCount, longestWord, type ValueWidths } from "./values";

/** Why a piece does not stand. */
export type Left = "incomplete" | "room" | "not needed";

/** How slugs are made of a line's result. */
export interface SlugRules {
  readonly options: SlugOptions;
  readonly stopWords: ReadonlySet<string>;
}

interface ShapeWidths {
  /** Literal widths per font, summed; -1 where the literals cannot be measured apart. */
  readonly units: Int32Array;
  /** What literal text can add to a value's widest stretch without a space, per font; -1 where two values may run together. */
  readonly stretch: Int32Array;
  readonly chars: number;
  /** Whether slugs of the parts join by a hyphen: every literal begins and ends apart from its neighbours. */
  readonly slugParts: readonly (string | number)[] | null;
}

/**
 * Sets one line for one item after another: decides which pieces stand, gives way for room, and measures. The result of
 * the last {@link set} stands in the public fields until the next; nothing is allocated for an item but its text.
 */
export class LineSetter {
  /** The chosen alternative of each piece, -1 where it does not stand. */
  readonly state: Int8Array;
  /** Why a piece is off: 0 it is not, 1 incomplete, 2 room, 3 not needed. */
  readonly reasons: Uint8Array;
  /** Widths of the text in font units, one for each font of the room. */
  readonly units: Float64Array;
  fits = false;
  text = "";

  private readonly columns: readonly Column[];
  private readonly widths: readonly (readonly ValueWidths[])[];
  private readonly chars: readonly Int32Array[] | null;
  private readonly slugs: readonly string[][] | null;
  private readonly fonts: readonly Font[];
  private readonly shapes: (ShapeWidths | undefined)[] = [];
  private row = 0;
  private fitText: string | null = null;
  private dropFit = false;
  private shape: Shape;
  private readonly filled: (field: number) => boolean;

  constructor(
    readonly program: Program,
    items: ItemSet,
    readonly room: Room,
    private readonly slug: SlugRules | null,
  ) {
    this.columns = program.fields.map((field) => items.fieldColumn(field));
    this.fonts = room.fonts.map(fontById);
    this.widths = slug ? [] : room.fonts.map((font) => this.columns.map((column) => column.table.widths(font)));
    this.chars = !slug && room.limits.chars !== null ? this.columns.map((column) => column.table.chars()) : null;
    this.slugs = slug ? this.columns.map((column) => column.table.slugs(slug.options.keepUnicode)) : null;
    this.state = new Int8Array(program.pieces.length);
    this.reasons = new Uint8Array(program.pieces.length);
    this.units = new Float64Array(room.fonts.length);
    this.filled = (field) => this.columns[field]!.codes[this.row] !== 0 && !(this.dropFit && field === program.fitField);
    this.shape = program.shape(this.state.fill(-1), () => false);
  }

  /**
   * Settles the line for an item.
   *
   * @param apart how many of the `^apart` pieces, from the left, are asked to stand.
   */
  set(row: number, apart: number): void {
    this.row = row;
    this.dropFit = false;
    this.settle(apart);
    if (!this.fits && this.program.fitField >= 0 && this.filled(this.program.fitField)) {
      this.dropFit = true;
      this.settle(apart);
    }
  }

  /** The bare fields without a value, as the numbers of the program's fields. */
  emptyFields(): number[] {
    return this.program.bare.filter((field) => !this.filled(field));
  }

  /** Whether some bare field has no value. */
  hasEmptyField(): boolean {
    const { bare } = this.program;
    for (let i = 0; i < bare.length; i++) if (!this.filled(bare[i]!)) return true;
    return false;
  }

  /** How far the text is beyond its room: px on the surface it is furthest beyond, characters where only those are limited, 0 where it fits. */
  over(): number {
    if (this.fits) return 0;
    let most = 0;
    for (const { surface, font } of this.room.surfaces) {
      const px = unitsToPx(this.fonts[font]!, this.units[font]!, surface.size);
      if (surface.lines === 1) most = Math.max(most, px - surface.width);
      if (surface.total !== null) most = Math.max(most, px - surface.total);
      if (surface.lines > 1 && !fitsSurface(surface, this.text)) {
        const beyond = wrapOnSurface(surface, this.text).slice(surface.lines).join(" ");
        most = Math.max(most, unitsToPx(this.fonts[font]!, advanceUnits(this.fonts[font]!, beyond), surface.size));
      }
    }
    if (most > 0) return most;
    return this.room.limits.chars === null ? 0 : Math.max(0, charCount(this.text) - this.room.limits.chars);
  }

  private settle(apart: number): void {
    const { pieces, givingWay } = this.program;
    for (let i = 0; i < pieces.length; i++) this.begin(i, apart);
    if (this.measure()) return;
    for (let i = 0; i < givingWay.length; i++) if (this.giveWay(givingWay[i]!, apart)) return;
  }

  /** A piece's first setting: its first complete alternative, off where it has none, is not asked for, or stands in nothing. */
  private begin(index: number, apart: number): void {
    const piece = this.program.pieces[index]!;
    this.reasons[index] = 0;
    this.state[index] = -1;
    if (piece.around !== null && this.state[piece.around.piece] !== piece.around.alternative) return;
    if (piece.apart >= apart) {
      this.reasons[index] = 3;
      return;
    }
    const complete = this.complete(index, 0);
    this.state[index] = complete;
    if (complete < 0) this.reasons[index] = 1;
  }

  /** The first complete alternative from a number on, or -1. */
  private complete(index: number, from: number): number {
    const { alternatives } = this.program.pieces[index]!;
    next: for (let a = from; a < alternatives.length; a++) {
      const { fields } = alternatives[a]!;
      for (let f = 0; f < fields.length; f++) if (!this.filled(fields[f]!)) continue next;
      return a;
    }
    return -1;
  }

  /** Steps a piece down to its next complete alternative, and at last off. Says whether the text fits then. */
  private giveWay(index: number, apart: number): boolean {
    const piece = this.program.pieces[index]!;
    while (this.state[index]! >= 0) {
      const before = piece.alternatives[this.state[index]!]!;
      for (const inner of before.inner) this.state[inner] = -1;
      const next = this.complete(index, this.state[index]! + 1);
      this.state[index] = next;
      if (next < 0) this.reasons[index] = 2;
      else {
        const { inner } = piece.alternatives[next]!;
        for (let i = index + 1; i < this.program.pieces.length; i++) if (inner.includes(i)) this.begin(i, apart);
        if (this.measure()) return true;
        for (const nested of inner) if (this.giveWay(nested, apart)) return true;
        continue;
      }
      if (this.measure()) return true;
    }
    return false;
  }

  /** Measures the present setting and says whether it fits. */
  private measure(): boolean {
    this.shape = this.program.shape(this.state, this.filled);
    this.fitText = null;
    if (this.slug) return (this.fits = this.setSlug(this.slug));
    const fit = this.program.fitField;
    this.build();
    this.fits = this.hasRoom();
    if (!this.fits && fit >= 0 && this.shape.parts.includes(fit)) this.fits = this.shorten(fit);
    return this.fits;
  }

  private build(): void {
    const { parts } = this.shape;
    const { row, columns } = this;
    let text = "";
    for (let i = 0; i < parts.length; i++) {
      const part = parts[i]!;
      text += typeof part === "string" ? part : this.fitText !== null && part === this.program.fitField ? this.fitText : columns[part]!.table.values[columns[part]!.codes[row]!]!;
    }
    this.text = text;
    for (let f = 0; f < this.fonts.length; f++) this.units[f] = this.fitText === null ? this.sumUnits(f) : advanceUnits(this.fonts[f]!, text);
  }

  /** The text's width summed of its parts' widths and the kerning where they meet; exact, since all are whole font units. */
  private sumUnits(f: number): number {
    const { parts, id } = this.shape;
    const font = this.fonts[f]!;
    const known = (this.shapes[id] ??= this.shapeWidths());
    let units = known.units[f]!;
    if (units < 0) return advanceUnits(font, this.text);
    const widths = this.widths[f]!;
    let before = "";
    for (let i = 0; i < parts.length; i++) {
      const part = parts[i]!;
      let value: string;
      if (typeof part === "string") value = part;
      else {
        const column = this.columns[part]!;
        const code = column.codes[this.row]!;
        if (widths[part]!.plain[code] === 0) return advanceUnits(font, this.text);
        value = column.table.values[code]!;
        units += widths[part]!.units[code]!;
      }
      if (i > 0) units += jointUnits(font, before, value);
      before = value;
    }
    return units;
  }

  private shapeWidths(): ShapeWidths {
    const literals = this.shape.parts.filter((part) => typeof part === "string");
    const units = Int32Array.from(this.fonts, (font) => (literals.every((text) => isPlain(font, text)) ? literals.reduce((sum, text) => sum + advanceUnits(font, text), 0) : -1));
    const apart = this.shape.parts.every((part, i, all) => (typeof part === "string" ? part.includes(" ") || i === 0 || i === all.length - 1 : typeof all[i + 1] !== "number"));
    const stretch = Int32Array.from(this.fonts, (font) => (apart ? 2 * Math.max(0, ...literals.map((text) => longestWord(font.id, text))) : -1));
    return { units, stretch, chars: literals.reduce((sum, text) => sum + charCount(text), 0), slugParts: this.slug ? this.slugParts(this.slug) : null };
  }

  private hasRoom(): boolean {
    const { limits, surfaces } = this.room;
    if (limits.chars !== null && this.charCount() > limits.chars) return false;
    for (let s = 0; s < surfaces.length; s++) {
      const room = surfaces[s]!;
      const units = this.units[room.font]!;
      if (units > room.totalUnits) return false;
      if (units <= room.widthUnits) continue;
      // Wrapped greedily, every line but the last lacks less than the widest word; where even that leaves room, it fits.
      const { lines } = room.surface;
      if (units + (lines - 1) * this.longest(room.font) <= lines * room.widthUnits) continue;
      if (!fitsSurface(room.surface, this.text)) return false;
    }
    return true;
  }

  private charCount(): number {
    if (this.fitText !== null || !this.chars) return charCount(this.text);
    let count = (this.shapes[this.shape.id] ??= this.shapeWidths()).chars;
    for (const part of this.shape.parts) if (typeof part === "number") count += this.chars[part]![this.columns[part]!.codes[this.row]!]!;
    return count;
  }

  /** At least the width of the text's widest stretch without a space. */
  private longest(f: number): number {
    const known = (this.shapes[this.shape.id] ??= this.shapeWidths());
    if (this.fitText !== null || known.stretch[f]! < 0) return longestWord(this.fonts[f]!.id, this.text);
    let most = 0;
    for (const part of this.shape.parts) {
      if (typeof part === "number") most = Math.max(most, this.widths[f]![part]!.longest[this.columns[part]!.codes[this.row]!]!);
    }
    return most + known.stretch[f]!;
  }

  /** Gives the fitted field as many whole words as there is room for; says whether at least one found room. */
  private shorten(fit: number): boolean {
    const column = this.columns[fit]!;
    const words = column.table.values[column.codes[this.row]!]!.split(" ");
    let low = 0;
    let high = words.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.fitsWith(words, middle)) low = middle;
      else high = middle - 1;
    }
    return low > 0 && this.fitsWith(words, low);
  }

  private fitsWith(words: readonly string[], count: number): boolean {
    this.fitText = dropTrailing(words.slice(0, count).join(" "));
    this.build();
    return this.fitText !== "" && this.hasRoom();
  }

  private setSlug(rules: SlugRules): boolean {
    const { options } = rules;
    const known = (this.shapes[this.shape.id] ??= this.shapeWidths());
    let words = "";
    if (known.slugParts) {
      for (const part of known.slugParts) {
        const own = typeof part === "string" ? part : this.slugs![part]![this.columns[part]!.codes[this.row]!]!;
        if (own) words = words ? `${words}-${own}` : own;
      }
    } else {
      this.build();
      words = slugWords(this.text, options.keepUnicode);
    }
    words = dropWords(words, options, rules.stopWords);
    this.text = cutSlug(words, options.max);
    return words.length <= options.max;
  }

  private slugParts(rules: SlugRules): (string | number)[] | null {
    const { parts } = this.shape;
    const isWord = (char: string | undefined) => char !== undefined && (FOLDED_WORD[char.charCodeAt(0)] !== 0 || /['’ʼ`´\ud800-\udfff]/.test(char));
    for (const [i, part] of parts.entries()) {
      if (typeof part === "number") {
        if (typeof parts[i + 1] === "number") return null;
        continue;
      }
      if ((i > 0 && isWord(part[0])) || (i < parts.length - 1 && isWord(part.at(-1)))) return null;
    }
    return parts.map((part) => (typeof part === "string" ? slugWords(part, rules.options.keepUnicode) : part));
  }
}
