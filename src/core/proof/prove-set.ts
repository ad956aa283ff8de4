import { type ExtraName, type TextName } from "../design/kinds";
import { FORMS, type Keyword, type Vocabulary } from "../keywords/place";
import { readsOtherFields } from "../lines/filters";
import { type Program } from "../lines/program";
import { unitsToPx } from "../measure/advance";
import { emptyHash } from "../text/hash";
import { tellApart } from "./apart";
import { type FolderHash, GIVEN_COLUMNS, type GivenColumns, GivenProver, writeHash } from "./given-prover";
import { type Column, type ItemSet } from "./items";
import { type Room } from "./room";
import { type SlugRules } from "../slugs/slug";
import { LineSetter } from "./setter";
import { TextGroups } from "./groups";
import { TextMeter } from "./text-meter";
import {
  blankColumns,
  copiedColumns,
  FROM,
  HAND,
  LIVE,
  type ProofColumns,
  type TextProof,
  TOO_LONG,
} from "./text-proof";
import { FACTS, FOLDED1, FOLDED2 } from "./values";

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
  readonly text: TextName | ExtraName;
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
  /** Told how many steps of how many are done: each row is set, then its keyword is placed. */
  readonly progress?: ((done: number, total: number) => void) | undefined;
  /** Told the number of the line that is being set, where it is another than before. */
  readonly setting?: ((line: number) => void) | undefined;
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
/** So many numbers of `^apart` pieces have their hashes remembered. */
const MOST_LEVELS = 8;
/** A row's keyword is placed; its text can be taken up from its shape; it has to be set again. */
const PLACED = 0;
const BY_SHAPE = 1;
const BY_SETTING = 2;

/**
 * Proves one text of every item of a set, again and again as its lines change: only rows whose line is another are set
 * anew, and of the others those that `^apart` tells apart otherwise.
 */
export class SetProver {
  private proof: ProofColumns;
  /** Whether the columns were given away: they stay as they are then, and the next proof is made on a copy. */
  private isGiven = false;
  private readonly groups: TextGroups;
  private readonly hash = emptyHash();
  /** Which line made each row's text: a number of {@link setters}, or one of the constants above. */
  private readonly setBy: Int32Array;
  /** The hashes, case aside, of each row's text without `^apart` pieces; what two rows are compared by at first. */
  private readonly plain1: Int32Array;
  private readonly plain2: Int32Array;
  /** The hashes of each row's text with one, two … `^apart` pieces, where `hashed` has the bit of that number. */
  private readonly levels: { readonly one: Int32Array; readonly two: Int32Array }[] = [];
  private readonly hashed: Uint8Array;
  /** What is still to be done to know where each row's keyword stands: a number of those above. */
  private readonly unplaced: Uint8Array;
  /** With how many `^apart` pieces each row's columns were written. */
  private readonly written: Uint8Array;
  /** Setters by the source of their line; those that no row needs any more are forgotten. */
  private setters = new Map<string, { id: number; setter: LineSetter }>();
  private nextId = 0;
  private byLine: (LineSetter | null)[] = [];
  private readonly meter: TextMeter;
  private readonly given: GivenProver;
  private readonly folder = { folded1: 0, folded2: 0 };
  private readonly keywords: (Keyword | null | undefined)[] = [];
  /** By the codes of the field that texts begin with. */
  private readonly exact = new Map<Int32Array, ExactPlaces>();
  private readonly byHand: Uint8Array;

  constructor(private source: ProofSource) {
    const { size } = source.items;
    this.proof = blankColumns(source.text, size);
    this.groups = new TextGroups(size);
    this.setBy = new Int32Array(size).fill(NOT_SET);
    this.plain1 = new Int32Array(size);
    this.plain2 = new Int32Array(size);
    this.written = new Uint8Array(size);
    this.hashed = new Uint8Array(size);
    this.unplaced = new Uint8Array(size);
    this.byHand = new Uint8Array(size);
    for (const row of source.hand.keys()) this.byHand[row] = 1;
    this.meter = new TextMeter(source.room, source.slug);
    this.given = new GivenProver(this.meter, source.vocabulary);
  }

  /** The proof for the lines. Ended before it is done, the next one goes on from what is there. */
  prove({ lines, decides }: DecidingLines, watch: Watch = {}): TextProof {
    this.ownColumns();
    const { proof, setBy } = this;
    const { size } = proof;
    const ids = this.take(lines, watch);
    const froms = lines.map(({ from, program }) => (program ? FROM.indexOf(from) : LIVE));
    let setting = -1;
    for (let row = 0; row < size; row++) {
      if (row % STEP === 0) pause(watch, row, 2 * size);
      const line = lines.length === 0 ? -1 : decides ? decides[row]! : 0;
      const hand = this.byHand[row] === 1;
      const wanted = hand ? SET_BY_HAND : line < 0 ? SET_LIVE : ids[line]!;
      proof.line[row] = line;
      proof.from[row] = hand ? HAND : line < 0 ? LIVE : froms[line]!;
      if (setBy[row] === wanted) continue;
      if (setting !== line) watch.setting?.((setting = line));
      this.setRow(row, wanted);
    }
    this.compare(lines, watch);
    this.isGiven = true;
    return { ...proof, groups: this.groups.frozen(), textOf: textWriter(proof, this.byLine, this.source) };
  }

  /** Proves a stretch of rows as the site has them, before it is asked what the whole is. */
  proveLive(from: number, to: number): void {
    this.ownColumns();
    for (let row = from; row < to; row++) if (this.setBy[row] !== SET_LIVE) this.setRow(row, SET_LIVE);
  }

  /** Takes over what was found elsewhere of a stretch of rows as the site has them. */
  takeLive(found: GivenColumns, from: number, to: number): void {
    this.ownColumns();
    const { proof } = this;
    for (const column of GIVEN_COLUMNS) proof[column].set(found[column].subarray(from, to), from);
    proof.shape.fill(-1, from, to);
    proof.emptyFields.fill(0, from, to);
    this.plain1.set(found.compared1.subarray(from, to), from);
    this.plain2.set(found.compared2.subarray(from, to), from);
    this.written.fill(0, from, to);
    this.hashed.fill(0, from, to);
    this.unplaced.fill(PLACED, from, to);
    this.setBy.fill(SET_LIVE, from, to);
  }

  /** Makes the columns the prover's own where they were given away. */
  private ownColumns(): void {
    if (this.isGiven) this.proof = copiedColumns(this.proof);
    this.isGiven = false;
  }

  /** Sets a row's text anew: by the setter of a number, or as it is given. */
  private setRow(row: number, wanted: number): void {
    this.setBy[row] = NOT_SET;
    this.hashed[row] = 0;
    if (wanted === SET_BY_HAND) this.writeGiven(row, this.source.hand.get(row)!);
    else if (wanted === SET_LIVE) this.writeGiven(row, this.source.live[row]!);
    else this.writeSet(row, 0);
    this.plain1[row] = this.proof.compared1[row]!;
    this.plain2[row] = this.proof.compared2[row]!;
    this.setBy[row] = wanted;
  }

  /**
   * Notes that rows are no longer what they were when they were proved: the next proof sets them anew.
   *
   * @param fields the fields whose values changed: lines that read one of them are made ready again.
   * @param source the same items as they are now.
   */
  touch(rows: readonly number[], fields: ReadonlySet<string>, source: ProofSource): void {
    this.source = source;
    for (const row of rows) {
      this.setBy[row] = NOT_SET;
      this.hashed[row] = 0;
      this.byHand[row] = this.source.hand.has(row) ? 1 : 0;
      for (const { ends } of this.exact.values()) ends[row] = 0;
    }
    if (fields.size === 0) return;
    const { items, room, slug } = this.source;
    for (const [source, { id, setter }] of this.setters) {
      if (readsField(setter.program, fields))
        this.setters.set(source, { id, setter: new LineSetter(setter.program, items, room, slug) });
    }
  }

  /** The programs that the lines last proved were set with, `null` for one with an error: shapes in the proof are theirs. */
  programs(): (Program | null)[] {
    return this.byLine.map((setter) => setter?.program ?? null);
  }

  /** Puts rows that read the same in groups, and tells those apart whose lines have pieces for it. */
  private compare(lines: readonly DecidingLine[], watch: Watch): void {
    const { proof, written, groups } = this;
    const { apart, size } = proof;
    if (groups.worn) groups.clear();
    for (let row = 0; row < size; row++) groups.put(row, this.plain1[row]!, this.plain2[row]!);
    apart.fill(0);
    const counts = lines.map(({ program }) => program?.apartCount ?? 0);
    if (counts.some((count) => count > 0)) {
      let done = 0;
      tellApart(
        groups,
        apart,
        (row) => (proof.from[row] === HAND || proof.line[row]! < 0 ? 0 : counts[proof.line[row]!]!),
        (row) => {
          if (++done % STEP === 0) pause(watch, size, 2 * size);
          this.group(row, apart[row]!);
        },
      );
    }
    for (let row = 0; row < size; row++) if (written[row] !== apart[row]) this.writeSet(row, apart[row]!);
    for (let row = 0; row < size; row++) {
      if (row % STEP === 0) pause(watch, size + row, 2 * size);
      if (this.unplaced[row] !== PLACED) this.place(row);
    }
  }

  /** Puts a row in the group of its text with so many `^apart` pieces; texts are hashed once, as long as the line stays. */
  private group(row: number, apart: number): void {
    const level =
      apart <= MOST_LEVELS
        ? (this.levels[apart - 1] ??= { one: new Int32Array(this.proof.size), two: new Int32Array(this.proof.size) })
        : null;
    const bit = 1 << (apart - 1);
    if (!level || (this.hashed[row]! & bit) === 0) {
      // Where there was no room without the piece there is none with it, and an incomplete one says nothing.
      const same =
        this.written[row] === apart - 1 &&
        (this.proof.fits[row] === 0 || !this.byLine[this.proof.line[row]!]!.canTellApart(row, apart - 1));
      if (same) this.written[row] = apart;
      else this.writeSet(row, apart);
      if (level) {
        level.one[row] = this.proof.compared1[row]!;
        level.two[row] = this.proof.compared2[row]!;
        this.hashed[row]! |= bit;
      }
    }
    if (level) this.groups.put(row, level.one[row]!, level.two[row]!);
    else this.groups.put(row, this.proof.compared1[row]!, this.proof.compared2[row]!);
  }

  /** The lines' setters; a line that is known already keeps its own. */
  private take(lines: readonly DecidingLine[], watch: Watch): number[] {
    const { items, room, slug } = this.source;
    const kept = new Map<string, { id: number; setter: LineSetter }>();
    for (const [place, { program }] of lines.entries()) {
      if (!program) continue;
      watch.setting?.(place);
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
    proof.lengths[row] = setter.hash(this.hash);
    proof.fits[row] = setter.fits ? 1 : 0;
    proof.sizes[row] = meter.slug ? proof.lengths[row]! : unitsToPx(meter.font, setter.units[0]!, meter.px);
    proof.shape[row] = setter.isTooLong ? TOO_LONG : setter.shape.id;
    proof.emptyFields[row] = setter.hasEmptyField() ? 1 : 0;
    writeHash(proof, row, this.hash, this.folderOf(row));
    this.written[row] = apart;
    this.unplaced[row] = setter.composed ? BY_SHAPE : BY_SETTING;
  }

  /** Finds the keyword in a row's text that a line made. */
  private place(row: number): void {
    const { proof, meter, unplaced } = this;
    const keyword = this.keywordOf(row);
    proof.form[row] = 0;
    proof.keywordAt[row] = -1;
    proof.keywordSeen[row] = 0;
    if (keyword) {
      const setter = this.byLine[proof.line[row]!]!;
      const fits = proof.fits[row] === 1;
      if (unplaced[row] === BY_SHAPE) setter.take(row, proof.shape[row]!, fits);
      else setter.set(row, proof.apart[row]!);
      const known = setter.composed ? this.exactIn(setter.firstCodes()) : null;
      if (known && known.ends[row] !== 0) {
        proof.form[row] = EXACT;
        proof.keywordAt[row] = meter.slug ? known.before[row]! : unitsToPx(meter.font, known.before[row]!, meter.px);
        proof.keywordSeen[row] = fits || setter.isSeen(known.ends[row]!) ? 1 : 0;
      } else {
        const { form, before, end, isExactInFirstPart } = setter.place(keyword, this.source.vocabulary);
        proof.form[row] = FORMS.indexOf(form) + 1;
        if (before >= 0) {
          proof.keywordAt[row] = meter.slug ? before : unitsToPx(meter.font, before, meter.px);
          proof.keywordSeen[row] = fits || setter.isSeen(end) ? 1 : 0;
          if (known && isExactInFirstPart) {
            known.before[row] = before;
            known.ends[row] = end;
          }
        }
      }
    }
    unplaced[row] = PLACED;
  }

  /** What is known of exact keywords in the values of a field that lines begin with. */
  private exactIn(codes: Int32Array | null): ExactPlaces | null {
    if (codes === null) return null;
    let known = this.exact.get(codes);
    if (this.exact.size >= MOST_LEVELS && !known) this.exact.clear();
    if (!known)
      this.exact.set(codes, (known = { before: new Int32Array(codes.length), ends: new Int32Array(codes.length) }));
    return known;
  }

  /** Takes the row's text as it is given: from the site, or by hand. */
  private writeGiven(row: number, text: string): void {
    const { proof } = this;
    proof.shape[row] = -1;
    proof.emptyFields[row] = 0;
    this.given.write(proof, row, text, this.keywordOf(row), this.folderOf(row));
    this.written[row] = 0;
    this.unplaced[row] = PLACED;
  }

  /** What a slug is compared with: the folder it is in. */
  private folderOf(row: number): FolderHash | null {
    if (!this.source.slug) return null;
    const { codes, table } = this.source.folders;
    const facts = table.facts(null);
    const at = codes[row]! * FACTS;
    this.folder.folded1 = facts[at + FOLDED1]!;
    this.folder.folded2 = facts[at + FOLDED2]!;
    return this.folder;
  }

  private keywordOf(row: number): Keyword | null {
    const { codes, table } = this.source.keywords;
    const code = codes[row]!;
    if (code === 0) return null;
    let keyword = this.keywords[code];
    if (keyword === undefined) this.keywords[code] = keyword = this.source.vocabulary.keyword(table.values[code]!);
    return keyword;
  }
}

/** Writes a row's text out, as the lines and items were when the proof was made. */
function textWriter(
  { from, line, apart }: ProofColumns,
  byLine: readonly (LineSetter | null)[],
  { hand, live }: ProofSource,
): (row: number) => string {
  return (row) => {
    if (from[row] === HAND) return hand.get(row)!;
    const setter = line[row]! < 0 ? null : byLine[line[row]!]!;
    if (!setter) return live[row]!;
    setter.set(row, apart[row]!);
    return setter.text;
  };
}

/** Whether a line reads one of the fields, itself or through a filter. */
function readsField({ fields }: Program, names: ReadonlySet<string>): boolean {
  return fields.some(
    ({ sources, filters }) =>
      sources.some((source) => source.type === "name" && names.has(source.name)) ||
      filters.some((filter) => readsOtherFields(filter.name) && filter.args.some((arg) => names.has(String(arg)))),
  );
}

/**
 * Exact keywords found in the values of a field: by row how wide the value is before it (in font units; characters for
 * slugs), and where it ends, 0 where none is known. A text that begins with the value has its keyword there, whatever follows.
 */
interface ExactPlaces {
  readonly before: Int32Array;
  readonly ends: Int32Array;
}

const EXACT = FORMS.indexOf("exact") + 1;

/** Proves one text of every item once: texts, widths, fit, keyword places, duplicates. */
export function proveSet(source: ProofSource, lines: DecidingLines, watch: Watch = {}): TextProof {
  return new SetProver(source).prove(lines, watch);
}

function pause(watch: Watch, done: number, total: number): void {
  if (watch.cancelled?.()) throw new Cancelled();
  watch.progress?.(done, total);
}
