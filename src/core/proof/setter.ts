import { type Form, type Keyword, placeKeyword, type Vocabulary } from "../keywords/place";
import { MOST_CHARACTERS } from "../lines/filters";
import { type Program, type Shape } from "../lines/program";
import { advanceUnits } from "../measure/advance";
import { type Font, fontById } from "../measure/font";
import { isCutInside, isSeen } from "../measure/cut";
import { fitsSurface } from "../measure/wrap";
import { cutSlug, keptWords, type SlugRules } from "../slugs/slug";
import { endOfCut } from "../text/ends";
import { hashText, type TextHash } from "../text/hash";
import {
  composeHash,
  composeLength,
  composePlace,
  composeSlug,
  composeSlugHash,
  composeSlugLength,
  composeText,
  composeUnits,
  partStart,
  unitsBefore,
  wordEnd,
} from "./compose";
import { type Column, type ItemSet } from "./items";
import { type ReadyPart, type ReadyShape, readyShape, wordsOf } from "./ready-shape";
import { overBy, type Room } from "./room";
import { charCount } from "../text/char-count";
import { FACTS, longestWord, UNITS, type ValueWords } from "./values";

/** Why a piece does not stand. */
export type Left = "incomplete" | "room" | "not needed";

/** With so many pieces that can give way it is worth a look whether all of them together make room. */
const WORTH_A_LOOK = 3;

/** Where a keyword stands in a text that was set. */
export interface SetPlace {
  readonly form: Form;
  /** How wide the text before it is, in the first font's units (characters for slugs); -1 where it is not there. */
  readonly before: number;
  /** Where its first match ends; known only of texts that do not fit, and where it is in the first part. */
  readonly end: number;
  /** Whether it is an exact match within the first part of a text that was put together from its parts. */
  readonly isExactInFirstPart: boolean;
}

/**
 * Sets one line for one item after another: decides which pieces stand, gives way for room, and measures. The result of
 * the last {@link set} stands in the public fields until the next. The text itself is written only when it is asked
 * for: widths, lengths, hashes and places are put together from those of its parts.
 */
export class LineSetter {
  /** The chosen alternative of each piece, -1 where it does not stand. */
  readonly state: Int16Array;
  /** Why a piece is off: 0 it is not, 1 incomplete, 2 room, 3 not needed. */
  readonly reasons: Uint8Array;
  /** Widths of the text in font units, one for each font of the room. */
  readonly units: Float64Array;
  fits = false;
  /** Whether the line comes to more than {@link MOST_CHARACTERS} for the item; then nothing is written, and nothing wants room. */
  isTooLong = false;
  shape: Shape;

  /** Those of the line's own fields, and of what else shapes asked for. */
  private readonly columns: Column[];
  private readonly chars: Int32Array[] | null;
  private readonly fonts: readonly Font[];
  private readonly ready: (ReadyShape | undefined)[] = [];
  private readonly words: (readonly ValueWords[] | undefined)[] = [];
  /** By piece and alternative: the codes of the fields that must have a value, and whether the fitted field is among them. */
  private readonly needs: readonly (readonly { readonly codes: readonly Int32Array[]; readonly fits: boolean }[])[];
  /** Of the program, laid out for fast reading: the bare fields' codes, and by piece its radix, the piece around it, its place among the `^apart` ones. */
  private readonly bareCodes: readonly Int32Array[];
  private readonly radices: Int32Array;
  private readonly around: Int16Array;
  private readonly aroundAlternative: Int16Array;
  private readonly apartPlace: Int16Array;
  private readonly apartPieces: readonly number[];
  private readonly before: Int16Array;
  private readonly bareFacts: readonly Int32Array[];
  /** About how wide the text outside of fields and pieces is, in the first font's units. */
  private readonly fixedUnits: number;
  private current: ReadyShape;
  private row = 0;
  /** What the fitted field is shortened to, or `null`. */
  private fitText: string | null = null;
  private dropFit = false;
  /** The text where it had to be written already. */
  private written: string | null = null;
  private readonly filled: (field: number) => boolean;

  constructor(
    readonly program: Program,
    private readonly items: ItemSet,
    readonly room: Room,
    private readonly slug: SlugRules | null,
  ) {
    this.columns = program.fields.slice(0, program.own).map((field) => items.fieldColumn(field));
    this.fonts = room.fonts.map(fontById);
    this.chars = !slug && room.limits.chars !== null ? this.columns.map((column) => column.table.chars()) : null;
    this.state = new Int16Array(program.pieces.length);
    this.reasons = new Uint8Array(program.pieces.length);
    this.units = new Float64Array(room.fonts.length);
    const codes = this.columns.map((column) => column.codes);
    this.needs = program.pieces.map(({ alternatives }) =>
      alternatives.map(({ fields }) => ({
        codes: fields.map((field) => codes[field]!),
        fits: fields.includes(program.fitField),
      })),
    );
    this.bareCodes = program.bare.map((field) => codes[field]!);
    this.radices = Int32Array.from(program.pieces, (piece) => piece.radix);
    this.around = Int16Array.from(program.pieces, (piece) => piece.around?.piece ?? -1);
    this.aroundAlternative = Int16Array.from(program.pieces, (piece) => piece.around?.alternative ?? -1);
    this.apartPlace = Int16Array.from(program.pieces, (piece) => piece.apart);
    this.apartPieces = program.pieces.filter((piece) => piece.apart >= 0).map((piece) => piece.index);
    this.before = new Int16Array(program.pieces.length);
    this.bareFacts = program.bare.map((field) => this.columns[field]!.table.facts(slug ? null : room.fonts[0]!));
    this.fixedUnits = program.parts.reduce(
      (sum, part) => ("text" in part ? sum + advanceUnits(this.fonts[0]!, part.text.trim()) : sum),
      0,
    );
    this.filled = (field) => codes[field]![this.row] !== 0 && !(this.dropFit && field === program.fitField);
    this.shape = program.shape(this.state.fill(-1), () => false);
    this.current = this.readyFor(this.shape);
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
    this.isTooLong = this.slug === null && this.current.most > MOST_CHARACTERS && this.length() > MOST_CHARACTERS;
    if (this.isTooLong) this.writeNothing();
  }

  private length(): number {
    return this.written === null ? composeLength(this.current.parts, this.row) : this.written.length;
  }

  private writeNothing(): void {
    this.written = "";
    this.fitText = null;
    this.units.fill(0);
    this.fits = true;
  }

  /** The text. */
  get text(): string {
    if (this.written === null)
      this.written = this.slug
        ? composeSlug(this.current.slugParts!, this.row)
        : composeText(this.current.parts, this.row);
    return this.written;
  }

  /** Writes the text's hashes into `out`; gives its length in UTF-16 code units. */
  hash(out: TextHash): number {
    if (this.written !== null) {
      hashText(this.written, out);
      return this.written.length;
    }
    if (!this.slug) return composeHash(this.current.parts, this.row, out);
    composeSlugHash(this.current.slugParts!, this.row, out);
    return composeSlugLength(this.current.slugParts!, this.row);
  }

  /** Whether the text is put together from parts that words do not run over: it can be taken up again by {@link take}. */
  get composed(): boolean {
    return this.written === null && this.current.wordsApart && this.shape.id >= 0;
  }

  /** Takes up a text that was {@link composed} when it was set, without settling it again. Fields but for `fits` and `units` are as then. */
  take(row: number, shape: number, fits: boolean): void {
    this.isTooLong = false;
    this.row = row;
    this.shape = this.program.shapes()[shape]!;
    this.current = this.ready[shape]!;
    this.written = null;
    this.fitText = null;
    this.fits = fits;
  }

  /** The codes of the text's first part, where that is a field: what was found in its value alone holds for other lines, too. */
  firstCodes(): Int32Array | null {
    return ((this.slug ? this.current.slugParts : this.current.parts) ?? [])[0]?.codes ?? null;
  }

  /** Where a keyword stands in the text. */
  place(keyword: Keyword, vocabulary: Vocabulary): SetPlace {
    if (!this.composed) return this.placeInText(keyword, vocabulary);
    const { id } = this.shape;
    const hyphens = this.slug !== null;
    const parts = hyphens ? this.current.slugParts! : this.current.parts;
    const words = (this.words[id] ??= wordsOf(parts, vocabulary));
    const { form, firstPart, lastPart, firstToken, lastToken, exactFirst } = composePlace(
      parts,
      words,
      this.row,
      keyword,
      vocabulary,
    );
    if (firstPart < 0) return { form, before: -1, end: 0, isExactInFirstPart: false };
    const isInFirst = firstPart === 0 && lastPart === 0;
    const offset = words[firstPart]!.offsets[firstToken]!;
    const before = this.widthBefore(parts, firstPart, offset);
    const isEndWanted = !this.fits || isInFirst;
    const start = words[lastPart]!.offsets[lastToken]!;
    const end = isEndWanted
      ? partStart(parts, this.row, lastPart, hyphens) + wordEnd(this.valueOf(parts[lastPart]!), start)
      : 0;
    return { form, before, end, isExactInFirstPart: isInFirst && exactFirst };
  }

  /** How wide the text is before an offset in one of its parts: font units, characters for slugs. */
  private widthBefore(parts: readonly ReadyPart[], part: number, offset: number): number {
    if (this.slug !== null) return partStart(parts, this.row, part, true) + offset;
    if (part === 0) return offset === 0 ? 0 : unitsBefore(this.fonts[0]!, this.valueOf(parts[0]!), offset);
    return unitsBefore(this.fonts[0]!, this.text, partStart(parts, this.row, part, false) + offset);
  }

  /** Whether the text is seen up to an offset on the first surface, though it does not fit. */
  isSeen(end: number): boolean {
    const first = this.room.surfaces[0];
    if (!first) return true;
    // On one line what is seen is told by the width up to the next space; mostly that lies in the first part.
    if (this.composed && !this.slug && first.surface.lines === 1 && first.surface.total === null) {
      const value = this.valueOf(this.current.parts[0]!);
      const space = value.indexOf(" ", end);
      if (space >= 0 && !isCutInside(value)) {
        const start = value.slice(0, space) + first.surface.mark;
        return advanceUnits(this.fonts[0]!, start) <= first.widthUnits || fitsSurface(first.surface, this.text);
      }
    }
    return isSeen(first.surface, this.text, end);
  }

  private placeInText(keyword: Keyword, vocabulary: Vocabulary): SetPlace {
    const { form, char, end } = placeKeyword(vocabulary, keyword, this.text);
    const before = char === null ? -1 : this.slug ? char - 1 : unitsBefore(this.fonts[0]!, this.text, char - 1);
    return { form, before, end: end ?? 0, isExactInFirstPart: false };
  }

  private valueOf({ table, codes, code }: ReadyPart): string {
    return table.values[codes === null ? code : codes[this.row]!]!;
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
    return this.fits ? 0 : overBy(this.room, this.text);
  }

  private settle(apart: number): void {
    const { pieces, givingWay } = this.program;
    for (let i = 0; i < pieces.length; i++) this.begin(i, apart);
    if (this.measure() || givingWay.length === 0) return;
    if (givingWay.length >= WORTH_A_LOOK && this.isHopeless()) return;
    for (let i = 0; i < givingWay.length; i++) if (this.giveWay(givingWay[i]!, apart)) return;
  }

  /** Whether the line does not fit even with every piece off that can give way; then that is how it is set. */
  private isHopeless(): boolean {
    const { givingWay } = this.program;
    const { state, before, row } = this;
    const room = this.room.surfaces[0];
    if (!this.slug && room) {
      // What always stands is about so wide; where that leaves room, looking closer is not worth it.
      let units = this.fixedUnits;
      for (let i = 0; i < this.bareFacts.length; i++)
        units += this.bareFacts[i]![this.bareCodes[i]![row]! * FACTS + UNITS]!;
      if (units <= (room.surface.lines === 1 ? room.widthUnits : room.mostUnits)) return false;
    }
    before.set(state);
    for (let i = 0; i < givingWay.length; i++) state[givingWay[i]!] = -1;
    if (!this.measure()) {
      for (let i = 0; i < givingWay.length; i++) if (before[givingWay[i]!]! >= 0) this.reasons[givingWay[i]!] = 2;
      return true;
    }
    state.set(before);
    return false;
  }

  /** Whether a row's text can be another one with one more `^apart` piece asked for, the one of this number from 0. */
  canTellApart(row: number, apart: number): boolean {
    this.row = row;
    this.dropFit = false;
    return this.complete(this.apartPieces[apart]!, 0) >= 0;
  }

  /** A piece's first setting: its first complete alternative, off where it has none, is not asked for, or stands in nothing. */
  private begin(index: number, apart: number): void {
    this.reasons[index] = 0;
    this.state[index] = -1;
    const around = this.around[index]!;
    if (around >= 0 && this.state[around] !== this.aroundAlternative[index]) return;
    if (this.apartPlace[index]! >= apart) {
      this.reasons[index] = 3;
      return;
    }
    const complete = this.complete(index, 0);
    this.state[index] = complete;
    if (complete < 0) this.reasons[index] = 1;
  }

  /** The first complete alternative from a number on, or -1. */
  private complete(index: number, from: number): number {
    const alternatives = this.needs[index]!;
    const { row } = this;
    next: for (let a = from; a < alternatives.length; a++) {
      const { codes, fits } = alternatives[a]!;
      if (fits && this.dropFit) continue;
      for (let f = 0; f < codes.length; f++) if (codes[f]![row] === 0) continue next;
      return a;
    }
    return -1;
  }

  /** Steps a piece down to its next complete alternative, and at last off. Says whether the text fits then. */
  private giveWay(index: number, apart: number): boolean {
    const piece = this.program.pieces[index]!;
    while (this.state[index]! >= 0) {
      const before = piece.alternatives[this.state[index]!]!;
      for (const inside of before.inside) this.state[inside] = -1;
      const next = this.complete(index, this.state[index]! + 1);
      this.state[index] = next;
      if (next < 0) this.reasons[index] = 2;
      else {
        const { inside, inner } = piece.alternatives[next]!;
        for (const nested of inside) this.begin(nested, apart);
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
    this.shape = this.shapeNow();
    this.current = this.readyFor(this.shape);
    this.fitText = null;
    this.written = null;
    if (this.slug) return (this.fits = this.measureSlug(this.slug));
    for (let f = 0; f < this.fonts.length; f++) {
      const units = composeUnits(this.current.parts, this.row, this.fonts[f]!, f);
      this.units[f] = units >= 0 ? units : advanceUnits(this.fonts[f]!, this.text);
    }
    this.fits = this.hasRoom();
    const { program } = this;
    if (
      !this.fits &&
      program.fitField >= 0 &&
      this.shape.parts.some((part) => typeof part === "number" && program.isFit(part))
    )
      this.fits = this.shorten(program.fitField);
    return this.fits;
  }

  private shapeNow(): Shape {
    const { program, bareCodes, radices, state, row } = this;
    if (!program.countable || this.dropFit) return program.shape(state, this.filled);
    let key = 0;
    for (let i = 0; i < bareCodes.length; i++) key = key * 2 + (bareCodes[i]![row] === 0 ? 0 : 1);
    for (let i = 0; i < radices.length; i++) key = key * radices[i]! + state[i]! + 1;
    return program.shapeByKey(key, state, this.filled);
  }

  private readyFor(shape: Shape): ReadyShape {
    let ready = shape.id < 0 ? undefined : this.ready[shape.id];
    if (!ready) {
      for (const part of shape.parts) if (typeof part === "number") this.bringIn(part);
      ready = readyShape(shape, this.columns, this.slug ? [] : this.room.fonts, this.slug);
      if (shape.id >= 0) this.ready[shape.id] = ready;
    }
    return ready;
  }

  /** Brings a field's column in that is not one of the line's own. */
  private bringIn(field: number): void {
    if (this.columns[field]) return;
    const column = this.items.fieldColumn(this.program.fields[field]!);
    this.columns[field] = column;
    if (this.chars) this.chars[field] = column.table.chars();
  }

  private hasRoom(): boolean {
    const { limits, surfaces } = this.room;
    if (limits.chars !== null && this.charCount() > limits.chars) return false;
    for (let s = 0; s < surfaces.length; s++) {
      const room = surfaces[s]!;
      const units = this.units[room.font]!;
      if (units > room.mostUnits) return false;
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
    let count = this.current.chars;
    for (const part of this.shape.parts)
      if (typeof part === "number") count += this.chars[part]![this.columns[part]!.codes[this.row]!]!;
    return count;
  }

  /** At least the width of the text's widest stretch without a space. */
  private longest(f: number): number {
    const { parts, stretch } = this.current;
    if (this.fitText !== null || stretch[f]! < 0) return longestWord(this.fonts[f]!.id, this.text);
    let most = 0;
    for (let i = 0; i < parts.length; i++) {
      const { field, codes, widths } = parts[i]!;
      if (field >= 0) most = Math.max(most, widths[f]!.longest[codes![this.row]!]!);
    }
    return most + stretch[f]!;
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
    const fitText = (this.fitText = endOfCut(words.slice(0, count).join(" ")));
    this.written = "";
    for (const { field, codes, code, table } of this.current.parts)
      this.written += this.program.isFit(field) ? fitText : table.values[codes === null ? code : codes[this.row]!]!;
    for (let f = 0; f < this.fonts.length; f++) this.units[f] = advanceUnits(this.fonts[f]!, this.written);
    return fitText !== "" && this.hasRoom();
  }

  private measureSlug(rules: SlugRules): boolean {
    const { options, language } = rules;
    const { slugParts, parts } = this.current;
    const drops = options.dropStopWords || options.dropNumbers;
    if (slugParts && !drops && composeSlugLength(slugParts, this.row) <= options.max) return true;
    const words =
      drops || !slugParts ? keptWords(composeText(parts, this.row), rules) : composeSlug(slugParts, this.row);
    this.written = cutSlug(words, options.max, language);
    return words.length <= options.max;
  }
}
