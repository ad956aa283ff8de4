import { type TextName } from "../design/kinds";
import { FORMS, type Keyword, type Place, placeKeyword, type Vocabulary } from "../keywords/place";
import { type Program } from "../lines/program";
import { advanceUnits, unitsToPx } from "../measure/advance";
import { isSeen } from "../measure/cut";
import { type Font, fontById } from "../measure/font";
import { fitsSurface } from "../measure/wrap";
import { emptyHash, hashText } from "../text/hash";
import { tellApart } from "./apart";
import { append, unitsBefore } from "./compose";
import { type Column, type ItemSet } from "./items";
import { type Room } from "./room";
import { LineSetter, type SlugRules } from "./setter";
import { blankProof, FROM, HAND, LIVE, type TextProof } from "./text-proof";
import { charCount } from "./values";

/** One line among those that decide a text. */
export interface DecidingLine {
  readonly from: "base" | "rule";
  /** `null` for a line with an error: what it would decide keeps its live text. */
  readonly program: Program | null;
}

/** The lines of a text, and for each row the number of the line that decides it, -1 for none; `null`: line 0 decides all. */
export interface DecidingLines {
  readonly lines: readonly DecidingLine[];
  readonly decides: Int16Array | null;
}

/** What a text of a set is proved from, whatever its lines are. */
export interface ProofSource {
  readonly text: TextName;
  readonly items: ItemSet;
  readonly room: Room;
  readonly slug: SlugRules | null;
  /** What the site has now, by row. */
  readonly live: readonly string[];
  /** The texts by hand, by row. */
  readonly hand: ReadonlyMap<number, string>;
  /** What is put before a slug when two are compared: the folder the page is in. */
  readonly folders: Column;
  /** The items' focus keywords. */
  readonly keywords: Column;
  readonly vocabulary: Vocabulary;
}

/** How a proof is watched. */
export interface Watch {
  /** Asked every few hundred rows; saying so ends the work with {@link Cancelled}. */
  readonly cancelled?: (() => boolean) | undefined;
  /** Told how many rows of how many are done. */
  readonly progress?: ((done: number, total: number) => void) | undefined;
}

/** Thrown where a proof was no longer wanted. */
export class Cancelled extends Error {
  constructor() {
    super("The proof was cancelled");
  }
}

const STEP = 1024;
/** What stands for a line's number where no line made a row's text. */
const NOT_SET = -1;
const SET_LIVE = -2;
const SET_BY_HAND = -3;

/**
 * Proves one text of every item of a set, again and again as its lines change: only rows whose line is another are set
 * anew, and of the others those that `^apart` tells apart otherwise.
 */
export class SetProver {
  private readonly proof: TextProof;
  /** Which line made each row's text: a number of {@link setters}, or one of the constants above. */
  private readonly setBy: Int32Array;
  /** The hashes, case aside, of each row's text without `^apart` pieces; what two rows are compared by at first. */
  private readonly plain1: Int32Array;
  private readonly plain2: Int32Array;
  /** The hashes of each row's text as it stands. */
  private readonly own1: Int32Array;
  private readonly own2: Int32Array;
  /** With how many `^apart` pieces each row's columns were written. */
  private readonly written: Uint8Array;
  /** Setters by the source of their line; those that no row needs any more are forgotten. */
  private setters = new Map<string, { id: number; setter: LineSetter }>();
  private nextId = 0;
  private byLine: (LineSetter | null)[] = [];
  private readonly meter: TextMeter;
  private readonly keywords: (Keyword | null | undefined)[] = [];

  constructor(private readonly source: ProofSource) {
    const { size } = source.items;
    this.proof = blankProof(source.text, size, (row) => this.textOf(row));
    this.setBy = new Int32Array(size).fill(NOT_SET);
    this.plain1 = new Int32Array(size);
    this.plain2 = new Int32Array(size);
    this.own1 = new Int32Array(size);
    this.own2 = new Int32Array(size);
    this.written = new Uint8Array(size);
    this.meter = new TextMeter(source.room, source.slug);
  }

  /** The proof for the lines. Ended before it is done, the next one goes on from what is there. */
  prove({ lines, decides }: DecidingLines, watch: Watch = {}): TextProof {
    const { proof, setBy } = this;
    const { size } = proof;
    const ids = this.take(lines);
    const froms = lines.map(({ from, program }) => (program ? FROM.indexOf(from) : LIVE));
    const byHand = this.source.hand;
    const some = byHand.size > 0;
    for (let row = 0; row < size; row++) {
      if (row % STEP === 0) pause(watch, row, size);
      const line = lines.length === 0 ? -1 : decides ? decides[row]! : 0;
      const hand = some ? byHand.get(row) : undefined;
      const wanted = hand !== undefined ? SET_BY_HAND : line < 0 ? SET_LIVE : ids[line]!;
      proof.line[row] = line;
      proof.from[row] = hand !== undefined ? HAND : line < 0 ? LIVE : froms[line]!;
      if (setBy[row] === wanted) continue;
      setBy[row] = NOT_SET;
      if (wanted < 0) this.writeGiven(row, hand ?? this.source.live[row]!);
      else this.writeSet(row, 0);
      this.plain1[row] = this.own1[row]!;
      this.plain2[row] = this.own2[row]!;
      setBy[row] = wanted;
    }
    this.compare(lines, watch);
    return proof;
  }

  /** Puts rows that read the same in groups, and tells those apart whose lines have pieces for it. */
  private compare(lines: readonly DecidingLine[], watch: Watch): void {
    const { proof, written } = this;
    const { groups, apart, size } = proof;
    if (groups.worn) groups.clear();
    for (let row = 0; row < size; row++) groups.put(row, this.plain1[row]!, this.plain2[row]!);
    apart.fill(0);
    const counts = lines.map(({ program }) => program?.apartCount ?? 0);
    if (counts.some((count) => count > 0)) {
      let done = 0;
      tellApart(groups, apart, (row) => (proof.from[row] === HAND || proof.line[row]! < 0 ? 0 : counts[proof.line[row]!]!), (row) => {
        if (++done % STEP === 0) pause(watch, size, size);
        if (written[row] !== apart[row]) this.writeSet(row, apart[row]!);
        groups.put(row, this.own1[row]!, this.own2[row]!);
      });
    }
    for (let row = 0; row < size; row++) if (written[row] !== apart[row]) this.writeSet(row, apart[row]!);
  }

  /** The lines' setters; a line that is known already keeps its own. */
  private take(lines: readonly DecidingLine[]): number[] {
    const { items, room, slug } = this.source;
    const kept = new Map<string, { id: number; setter: LineSetter }>();
    for (const { program } of lines) {
      if (!program) continue;
      const known = kept.get(program.source) ?? this.setters.get(program.source);
      kept.set(program.source, known ?? { id: this.nextId++, setter: new LineSetter(program, items, room, slug) });
    }
    this.setters = kept;
    this.byLine = lines.map(({ program }) => (program ? kept.get(program.source)!.setter : null));
    return lines.map(({ program }) => (program ? kept.get(program.source)!.id : SET_LIVE));
  }

  private writeSet(row: number, apart: number): void {
    const { proof, meter } = this;
    const setter = this.byLine[proof.line[row]!]!;
    setter.set(row, apart);
    proof.lengths[row] = setter.hash(hash);
    proof.fits[row] = setter.fits ? 1 : 0;
    proof.sizes[row] = meter.slug ? proof.lengths[row]! : unitsToPx(meter.font, setter.units[0]!, meter.px);
    proof.shape[row] = setter.shape.id;
    proof.emptyFields[row] = setter.hasEmptyField() ? 1 : 0;
    this.writeHash(row, apart);
    const keyword = this.keywordOf(row);
    proof.form[row] = 0;
    proof.keywordAt[row] = -1;
    proof.keywordSeen[row] = 0;
    if (!keyword) return;
    const place = setter.place(keyword, this.source.vocabulary);
    proof.form[row] = FORMS.indexOf(place.form) + 1;
    if (place.char === null) return;
    proof.keywordAt[row] = meter.slug ? place.char - 1 : unitsToPx(meter.font, setter.unitsBefore(place.char - 1), meter.px);
    proof.keywordSeen[row] = setter.fits || meter.isSeen(setter.text, place) ? 1 : 0;
  }

  private writeGiven(row: number, text: string): void {
    const { proof, meter } = this;
    hashText(text, hash);
    proof.lengths[row] = text.length;
    proof.fits[row] = meter.hasRoom(text) ? 1 : 0;
    proof.sizes[row] = meter.sizeOf(text);
    proof.shape[row] = -1;
    proof.emptyFields[row] = 0;
    this.writeHash(row, 0);
    proof.form[row] = 0;
    proof.keywordAt[row] = -1;
    proof.keywordSeen[row] = 0;
    const keyword = this.keywordOf(row);
    if (!keyword) return;
    const place = placeKeyword(this.source.vocabulary, keyword, text);
    proof.form[row] = FORMS.indexOf(place.form) + 1;
    if (place.char === null) return;
    proof.keywordAt[row] = meter.slug ? place.char - 1 : unitsToPx(meter.font, unitsBefore(meter.font, text, place.char - 1), meter.px);
    proof.keywordSeen[row] = proof.fits[row] === 1 || meter.isSeen(text, place) ? 1 : 0;
  }

  /** Takes the hash last made as the row's; slugs are compared with the folder they are in. */
  private writeHash(row: number, apart: number): void {
    const { proof } = this;
    proof.exact1[row] = hash.exact1;
    proof.exact2[row] = hash.exact2;
    if (this.source.slug && proof.lengths[row] !== 0) {
      const { codes, table } = this.source.folders;
      const code = codes[row]!;
      const folders = table.hashes();
      const { folded1, folded2 } = hash;
      hash.folded1 = folders.folded1[code]!;
      hash.folded2 = folders.folded2[code]!;
      append(hash, 0, 0, folded1, folded2, proof.lengths[row]!);
    }
    this.own1[row] = hash.folded1;
    this.own2[row] = hash.folded2;
    this.written[row] = apart;
  }

  private keywordOf(row: number): Keyword | null {
    const { codes, table } = this.source.keywords;
    const code = codes[row]!;
    if (code === 0) return null;
    let keyword = this.keywords[code];
    if (keyword === undefined) this.keywords[code] = keyword = this.source.vocabulary.keyword(table.values[code]!);
    return keyword;
  }

  private textOf(row: number): string {
    const { proof } = this;
    if (proof.from[row] === HAND) return this.source.hand.get(row)!;
    const line = proof.line[row]!;
    const setter = line < 0 ? null : this.byLine[line]!;
    if (!setter) return this.source.live[row]!;
    setter.set(row, proof.apart[row]!);
    return setter.text;
  }
}

const hash = emptyHash();

/** Proves one text of every item once: texts, widths, fit, keyword places, duplicates. */
export function proveSet(source: ProofSource, lines: DecidingLines, watch: Watch = {}): TextProof {
  return new SetProver(source).prove(lines, watch);
}

/** What the site has now, proved like a draft. */
export function proveLive(source: ProofSource, watch: Watch = {}): TextProof {
  return proveSet({ ...source, hand: new Map() }, { lines: [], decides: null }, watch);
}

function pause(watch: Watch, done: number, total: number): void {
  if (watch.cancelled?.()) throw new Cancelled();
  watch.progress?.(done, total);
}

/** Measures texts that no line made, and tells what of a text is seen. */
class TextMeter {
  readonly font: Font;
  readonly px: number;

  constructor(
    private readonly room: Room,
    readonly slug: SlugRules | null,
  ) {
    this.font = fontById(room.fonts[0]!);
    this.px = room.surfaces[0]?.surface.size ?? 20;
  }

  /** The figure that a text is told by: characters for slugs, px otherwise. */
  sizeOf(text: string): number {
    return this.slug ? text.length : unitsToPx(this.font, advanceUnits(this.font, text), this.px);
  }

  hasRoom(text: string): boolean {
    if (this.slug) return text.length <= this.slug.options.max;
    const { limits } = this.room;
    return (limits.chars === null || charCount(text) <= limits.chars) && limits.surfaces.every((surface) => fitsSurface(surface, text));
  }

  /** Whether the place is seen on the first surface, of a text that does not fit: only a cut can hide a keyword. */
  isSeen(text: string, place: Place): boolean {
    const surface = this.room.surfaces[0]?.surface;
    return !surface || isSeen(surface, text, place.end!);
  }
}
