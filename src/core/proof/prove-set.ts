import { type TextName } from "../design/kinds";
import { FORMS, type Form, type Keyword, placeKeyword, type Vocabulary } from "../keywords/place";
import { type Program } from "../lines/program";
import { advanceUnits, jointUnits, unitsToPx } from "../measure/advance";
import { isSeen } from "../measure/cut";
import { type Font, fontById } from "../measure/font";
import { fitsSurface } from "../measure/wrap";
import { tellApart } from "./apart";
import { TextGroups } from "./hash";
import { type ItemSet } from "./items";
import { type Room } from "./room";
import { LineSetter, type SlugRules } from "./setter";
import { charCount } from "./values";

/** Where an item's text comes from. `live`: no line is set, so it stays what the site has. */
export const FROM = ["live", "base", "rule", "hand"] as const;
export type From = (typeof FROM)[number];

/** What one text of every item of a set is, column by column. */
export interface TextProof {
  readonly text: TextName;
  readonly texts: string[];
  /** Width as one running line in px on the first surface; for slugs the length in characters. */
  readonly sizes: Float32Array;
  /** 1 where the text has room on all surfaces. */
  readonly fits: Uint8Array;
  /** Numbers of {@link FROM}. */
  readonly from: Uint8Array;
  /** Number of the line that decided: its place among the lines given; -1 for none. */
  readonly line: Int16Array;
  /** How many `^apart` pieces stand at most. */
  readonly apart: Uint8Array;
  /** 1 where a bare field of the line had no value. */
  readonly emptyFields: Uint8Array;
  /** Numbers of {@link FORMS} plus one; 0 where the item has no keyword. */
  readonly form: Uint8Array;
  /** Where the keyword begins, in px (characters for slugs) from the left; -1 where it is not. */
  readonly keywordAt: Float32Array;
  /** 1 where the whole first match is seen on the first surface. */
  readonly keywordSeen: Uint8Array;
  readonly groups: TextGroups;
}

/** One line among those that decide a text. */
export interface DecidingLine {
  readonly from: "base" | "rule";
  readonly program: Program;
}

/** What a set's proof is made from. */
export interface ProofInput {
  readonly text: TextName;
  readonly items: ItemSet;
  readonly room: Room;
  readonly slug: SlugRules | null;
  /** The lines, and for each row the number of the line that decides it (-1 for none); `null`: line 0 decides all. */
  readonly lines: readonly DecidingLine[];
  readonly decides: Int16Array | null;
  /** What the site has now. */
  readonly live: (row: number) => string;
  /** The text by hand, or `null`. */
  readonly hand: (row: number) => string | null;
  /** What is put before a slug when two are compared: the folder the page is in. */
  readonly folder: (row: number) => string;
  readonly keyword: (row: number) => string;
  readonly vocabulary: Vocabulary;
  /** Asked every few thousand rows; saying so ends the work with {@link Cancelled}. */
  readonly cancelled?: () => boolean;
  readonly progress?: (done: number) => void;
}

/** Thrown where a proof was no longer wanted. */
export class Cancelled extends Error {
  constructor() {
    super("The proof was cancelled");
  }
}

const STEP = 2048;

/** Proves one text of every item: texts, widths, fit, keyword places, duplicates. */
export function proveSet(input: ProofInput): TextProof {
  const { items, room, lines } = input;
  const size = items.size;
  const proof: TextProof = {
    text: input.text,
    texts: new Array<string>(size),
    sizes: new Float32Array(size),
    fits: new Uint8Array(size),
    from: new Uint8Array(size),
    line: new Int16Array(size).fill(-1),
    apart: new Uint8Array(size),
    emptyFields: new Uint8Array(size),
    form: new Uint8Array(size),
    keywordAt: new Float32Array(size).fill(-1),
    keywordSeen: new Uint8Array(size),
    groups: new TextGroups(size),
  };
  const setters = lines.map(({ program }) => new LineSetter(program, items, room, input.slug));
  const meter = new TextMeter(room, input.slug);
  const keywords = new KeywordMeter(input, meter);
  const setByLine = (row: number) => {
    const line = proof.line[row]!;
    const setter = setters[line]!;
    setter.set(row, proof.apart[row]!);
    proof.texts[row] = setter.text;
    proof.fits[row] = setter.fits ? 1 : 0;
    proof.sizes[row] = meter.sizeOf(setter.text, setter.units[0]!);
    proof.emptyFields[row] = setter.hasEmptyField() ? 1 : 0;
    proof.groups.put(row, grouped(input, row, setter.text));
  };
  for (let row = 0; row < size; row++) {
    if (row % STEP === 0) pause(input, row);
    const hand = input.hand(row);
    const line = hand !== null || lines.length === 0 ? -1 : input.decides ? input.decides[row]! : 0;
    proof.line[row] = line;
    if (line >= 0) {
      proof.from[row] = FROM.indexOf(lines[line]!.from);
      setByLine(row);
    } else {
      const text = hand ?? input.live(row);
      proof.from[row] = hand === null ? 0 : 3;
      proof.texts[row] = text;
      meter.measure(text);
      proof.fits[row] = meter.fits ? 1 : 0;
      proof.sizes[row] = meter.size;
      proof.groups.put(row, grouped(input, row, text));
    }
  }
  if (lines.some(({ program }) => program.apartCount > 0)) {
    tellApart(proof.groups, proof.apart, (row) => (proof.line[row]! < 0 ? 0 : lines[proof.line[row]!]!.program.apartCount), setByLine);
  }
  for (let row = 0; row < size; row++) {
    if (row % STEP === 0) pause(input, size);
    keywords.place(row, proof);
  }
  return proof;
}

/** What the site has now, proved like a draft. */
export function proveLive(input: Omit<ProofInput, "lines" | "decides" | "hand">): TextProof {
  return proveSet({ ...input, lines: [], decides: null, hand: () => null });
}

function grouped(input: ProofInput, row: number, text: string): string {
  return input.text === "slug" && text !== "" ? input.folder(row) + text : text;
}

function pause(input: ProofInput, done: number): void {
  if (input.cancelled?.()) throw new Cancelled();
  input.progress?.(done);
}

/** Measures texts that no line made. */
class TextMeter {
  size = 0;
  fits = true;
  private readonly font: Font;
  private readonly px: number;

  constructor(
    private readonly room: Room,
    private readonly slug: SlugRules | null,
  ) {
    this.font = fontById(room.fonts[0]!);
    this.px = room.surfaces[0]?.surface.size ?? 20;
  }

  /** The figure that a text is told by: characters for slugs, px otherwise. */
  sizeOf(text: string, units: number): number {
    return this.slug ? text.length : unitsToPx(this.font, units, this.px);
  }

  measure(text: string): void {
    this.size = this.slug ? text.length : unitsToPx(this.font, advanceUnits(this.font, text), this.px);
    if (this.slug) this.fits = text.length <= this.slug.options.max;
    else {
      const { limits } = this.room;
      this.fits = (limits.chars === null || charCount(text) <= limits.chars) && limits.surfaces.every((surface) => fitsSurface(surface, text));
    }
  }

  widthOfStart(text: string, end: number): number {
    if (this.slug) return end;
    const head = text.slice(0, end);
    return unitsToPx(this.font, advanceUnits(this.font, head) + jointUnits(this.font, head, text.slice(end, end + 1)), this.px);
  }
}

const FORM_NUMBER: Record<Form, number> = Object.fromEntries(FORMS.map((form, i) => [form, i + 1])) as Record<Form, number>;

class KeywordMeter {
  constructor(
    private readonly input: ProofInput,
    private readonly meter: TextMeter,
  ) {}

  place(row: number, proof: TextProof): void {
    const text = this.input.keyword(row);
    const keyword: Keyword | null = text === "" ? null : this.input.vocabulary.keyword(text);
    if (!keyword) return;
    const own = proof.texts[row]!;
    const place = placeKeyword(this.input.vocabulary, keyword, own);
    proof.form[row] = FORM_NUMBER[place.form];
    if (place.char === null) return;
    proof.keywordAt[row] = this.meter.widthOfStart(own, place.char - 1);
    const surface = this.input.room.surfaces[0]?.surface;
    // What has room on every surface is seen whole; only a cut can hide a keyword.
    proof.keywordSeen[row] = proof.fits[row] === 1 || !surface || isSeen(surface, own, place.end!) ? 1 : 0;
  }
}
