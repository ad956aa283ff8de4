import { type FontId } from "../measure/font-id";
import { type Shape } from "../lines/program";
import { FOLDED_WORD } from "../text/fold";
import { type SlugSpelling } from "../slugs/slug";
import { type Column } from "./items";
import { longestWord, type ValueFacts, ValueTable, type ValueWidths, type ValueWords } from "./values";
import { type Vocabulary } from "../keywords/place";

/** One part of a text: a value of a table. `codes` gives an item's value; without it the part is literal, value `code`. */
export interface ReadyPart {
  /** The program's field, -1 for literal text. */
  readonly field: number;
  readonly codes: Int32Array | null;
  readonly code: number;
  readonly table: ValueTable;
  /** One for each font of the room; for slugs one, without widths. */
  readonly facts: readonly ValueFacts[];
  /** One for each font of the room; none for slugs. */
  readonly widths: readonly ValueWidths[];
}

/** A shape made ready to be composed for many items: what is known of its parts stands in tables, nothing is read from texts. */
export interface ReadyShape {
  readonly shape: Shape;
  readonly parts: readonly ReadyPart[];
  /** Characters (code points) of the literals. */
  readonly chars: number;
  /** No text of the shape is longer, in UTF-16 code units. */
  readonly most: number;
  /** What literal text can add to a value's widest stretch without a space, per font; -1 where two values may run together. */
  readonly stretch: readonly number[];
  /** Whether no word can run over the joint of two parts. */
  readonly wordsApart: boolean;
  /** For slugs: the parts' own slugs, to be joined by hyphens; `null` where words may run over a joint, so that only the whole text tells. */
  readonly slugParts: readonly ReadyPart[] | null;
}

/** Makes a shape ready. `columns` are those of the program's fields; `fonts` those of the room, none for slugs. */
export function readyShape(
  shape: Shape,
  columns: readonly Column[],
  fonts: readonly FontId[],
  slug: SlugSpelling | null,
): ReadyShape {
  const literals = new ValueTable(shape.parts.map((part) => (typeof part === "string" ? part : "")));
  const part = (of: ValueTable, field: number, code: number): ReadyPart => ({
    field,
    codes: field < 0 ? null : columns[field]!.codes,
    code,
    table: of,
    facts: fonts.length === 0 ? [of.facts(null)] : fonts.map((font) => of.facts(font)),
    widths: fonts.map((font) => of.widths(font)),
  });
  const parts = shape.parts.map((own, i) =>
    typeof own === "string" ? part(literals, -1, i) : part(columns[own]!.table, own, 0),
  );
  const texts = shape.parts.filter((own) => typeof own === "string");
  const spaced = shape.parts.every((own, i, all) =>
    typeof own === "string" ? own.includes(" ") || i === 0 || i === all.length - 1 : typeof all[i + 1] !== "number",
  );
  const wordsApart = areWordsApart(shape);
  let slugParts: ReadyPart[] | null = null;
  if (slug && wordsApart) {
    const own = literals.slugs(slug);
    slugParts = parts.map((p, i) =>
      p.field < 0 ? part(own, -1, i) : part(columns[p.field]!.table.slugs(slug), p.field, 0),
    );
  }
  return {
    shape,
    parts,
    chars: literals.chars().reduce((sum, count) => sum + count, 0),
    most: parts.reduce(
      (sum, { field, code, table }) => sum + (field < 0 ? table.values[code]!.length : table.longest()),
      0,
    ),
    stretch: fonts.map((font) => (spaced ? 2 * Math.max(0, ...texts.map((text) => longestWord(font, text))) : -1)),
    wordsApart,
    slugParts,
  };
}

/** Every literal begins and ends apart from the values beside it: with what is no part of a word. */
function areWordsApart({ parts }: Shape): boolean {
  const joins = (char: string) => FOLDED_WORD[char.charCodeAt(0)] !== 0 || /['’ʼ`´\ud800-\udfff\p{M}]/u.test(char);
  return parts.every((part, i) => {
    if (typeof part === "number") return typeof parts[i + 1] !== "number";
    return !((i > 0 && joins(part[0]!)) || (i < parts.length - 1 && joins(part.at(-1)!)));
  });
}

/** The words of each part, for looking keywords up. */
export function wordsOf(parts: readonly ReadyPart[], vocabulary: Vocabulary): ValueWords[] {
  return parts.map(({ table }) => table.words(vocabulary));
}
