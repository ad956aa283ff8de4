import arimo400 from "./tables/arimo-400.json" with { type: "json" };
import arimo700 from "./tables/arimo-700.json" with { type: "json" };
import symbolTable from "./tables/symbols.json" with { type: "json" };
import { type FontId } from "./font-id";
import roboto400 from "./tables/roboto-400.json" with { type: "json" };

interface FontTable {
  unitsPerEm: number;
  /** Every covered character; glyph numbers are positions in this string, counted in code points. */
  chars: string;
  advances: number[];
  left: number[];
  right: number[];
  rightCount: number;
  kern: number[];
  /** Ligatures, as the letters they stand for; their glyph numbers follow the characters'. */
  ligatures: string[];
}

/** A font laid out for fast reading: everything is looked up by glyph number in typed arrays. Widths are font units. */
export interface Font {
  readonly id: FontId;
  readonly unitsPerEm: number;
  /** Glyph number by UTF-16 code unit; 0 where the font has none. Glyph numbers here start at 1. */
  readonly glyphOf: Uint16Array;
  readonly advance: Int32Array;
  /** Advances of signs that the font lacks and the font of symbols has, by UTF-16 code unit. */
  readonly symbols: ReadonlyMap<number, number>;
  /** The widest advance of a single UTF-16 code unit, those of characters that no font covers among them. */
  readonly widest: number;
  /** Script by glyph: 0 common (spaces, digits, punctuation), otherwise a number a script. Kerning stops where the script changes. */
  readonly script: Uint8Array;
  readonly leftClass: Uint16Array;
  readonly rightClass: Uint16Array;
  readonly rightCount: number;
  readonly kern: Int16Array;
  /** Ligatures that begin with `f`, longest first: the letters after the f, and the glyph that replaces all of them. */
  readonly ligatures: readonly { readonly rest: string; readonly glyph: number }[];
}

const TABLES: Record<FontId, FontTable> = {
  "arimo-400": arimo400,
  "arimo-700": arimo700,
  "roboto-400": roboto400,
};

const loaded = new Map<FontId, Font>();

/** The font's table, unpacked on first use. */
export function fontById(id: FontId): Font {
  let font = loaded.get(id);
  if (!font) loaded.set(id, (font = unpack(id, TABLES[id])));
  return font;
}

/** The number of the Latin script in {@link Font.script}. */
export const LATIN = 1;

const SCRIPTS = [/\p{Script=Latin}/u, /\p{Script=Greek}/u, /\p{Script=Cyrillic}/u, /\p{Script=Hebrew}/u];

/** 0 for what all scripts share, otherwise the number of the character's script. */
function scriptNumber(char: string): number {
  return SCRIPTS.findIndex((script) => script.test(char)) + 1;
}

/** The symbols' advances in another font's units. */
function symbolAdvances(unitsPerEm: number): Map<number, number> {
  const { chars, advances } = symbolTable;
  const advance = (i: number) => Math.round((advances[i]! * unitsPerEm) / symbolTable.unitsPerEm);
  return new Map(Array.from(chars, (char, i) => [char.charCodeAt(0), advance(i)]));
}

function unpack(id: FontId, table: FontTable): Font {
  const glyphOf = new Uint16Array(65536);
  let count = 0;
  for (const char of table.chars) {
    count++;
    if (char.length === 1) glyphOf[char.charCodeAt(0)] = count;
  }
  const symbols = symbolAdvances(table.unitsPerEm);
  const shifted = (values: number[]) => [0, ...values];
  return {
    id,
    unitsPerEm: table.unitsPerEm,
    glyphOf,
    advance: Int32Array.from(shifted(table.advances)),
    symbols,
    widest: Math.max(table.unitsPerEm * 1.25, ...table.advances, ...symbols.values()),
    script: Uint8Array.from([0, ...Array.from(table.chars, scriptNumber), ...table.ligatures.map(() => LATIN)]),
    leftClass: Uint16Array.from(shifted(table.left)),
    rightClass: Uint16Array.from(shifted(table.right)),
    rightCount: table.rightCount,
    kern: Int16Array.from(table.kern),
    ligatures: table.ligatures
      .map((text, i) => ({ rest: text.slice(1), glyph: count + 1 + i }))
      .sort((a, b) => b.rest.length - a.rest.length),
  };
}
