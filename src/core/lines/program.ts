import { type Caret, type FieldNode, type Line, type Node, type PieceNode } from "./ast";
import { printField } from "./print";
import { type Part, tidyParts } from "./tidy";

/** A piece of a program, numbered in reading order. */
export interface ProgramPiece {
  readonly index: number;
  /** As written in the line, brackets and caret included, and where it stands there. */
  readonly source: string;
  readonly from: number;
  readonly to: number;
  readonly caret: Caret["type"] | null;
  /** Place among the `^apart` pieces from the left, from 0; -1 for others. */
  readonly apart: number;
  /** The piece around it and the alternative of that piece it stands in, or `null` at the top. */
  readonly around: { readonly piece: number; readonly alternative: number } | null;
  readonly alternatives: readonly ProgramAlternative[];
  /** How many settings it has: off, and one for each alternative. */
  readonly radix: number;
}

export interface ProgramAlternative {
  /** Numbers of the fields inside it that are not inside a nested piece. */
  readonly fields: readonly number[];
  /** Pieces nested in it, however deep, in reading order. */
  readonly inside: readonly number[];
  /** Those of them that give way for room, in the order in which they do. */
  readonly inner: readonly number[];
  readonly parts: readonly ProgramPart[];
}

type ProgramPart = { readonly text: string } | { readonly field: number } | { readonly piece: number };

/** A parsed line made ready to be settled for many items. Nothing in it is built anew for an item. */
export interface Program {
  readonly source: string;
  /** The distinct fields, each with what it takes its value from. Behind those of the line stand the same without a full stop, where a line can need that. */
  readonly fields: readonly FieldNode[];
  /** How many of the fields are the line's. */
  readonly own: number;
  readonly parts: readonly ProgramPart[];
  /** Numbers of the bare fields: outside every piece. */
  readonly bare: readonly number[];
  readonly pieces: readonly ProgramPiece[];
  /** Top-level pieces in the order in which they give way for room; `^keep` pieces are not among them. */
  readonly givingWay: readonly number[];
  readonly apartCount: number;
  /** The number of the field that takes the room that is left, or -1. */
  readonly fitField: number;
  /** Whether a part's number is that field's, with or without its full stop. */
  isFit(field: number): boolean;
  /** The tidied parts for a setting of pieces: memoised, since few settings occur. */
  shape(state: Int16Array, filled: (field: number) => boolean): Shape;
  /** The same by a key worked out already, as long as settings can be counted ({@link Program.countable}). */
  shapeByKey(key: number, state: Int16Array, filled: (field: number) => boolean): Shape;
  /** Whether a setting is a number: a digit for each bare field, 1 where it has a value, then one for each piece, its state plus 1, to the base of its radix. */
  readonly countable: boolean;
  /** The shapes that occurred so far, by their ids. */
  shapes(): readonly Shape[];
}

/** A line's tidied parts for one setting of its pieces. Fields are opaque; the number is the field's. */
export interface Shape {
  /** Counts from 0; -1 for a shape beyond the {@link MOST_SHAPES} that are remembered. */
  readonly id: number;
  readonly parts: readonly Part[];
  /** The chosen alternative of each piece, -1 where it does not stand. */
  readonly state: Int16Array;
}

/** So many shapes of a line are remembered: a line of many pieces can have more than there are items. */
export const MOST_SHAPES = 4096;

/**
 * Makes a program of a line without errors.
 *
 * @param constants values known beforehand that count as the line's own text, for tidying too: the site's separator.
 * @throws when the line has errors: such a line is never applied.
 */
export function compileLine(line: Line, constants: ReadonlyMap<string, string> = new Map()): Program {
  if (line.errors.length > 0) throw new Error(`A line with an error is not applied: ${line.errors[0]!.message}`);
  const builder = new Builder(line.source, constants);
  const parts = builder.parts(line.nodes, null);
  const bare = [...new Set(parts.flatMap((part) => ("field" in part ? [part.field] : [])))];
  const givingWay = builder.order(parts);
  const pieces = builder.finished();
  const shapes = new Map<number | string, Shape>();
  const small: (Shape | undefined)[] = [];
  const byId: Shape[] = [];
  const own = builder.fields.length;
  const fields = builder.hasFullStop
    ? [...builder.fields, ...builder.fields.map((field): FieldNode => ({ ...field, isLessStop: true }))]
    : builder.fields;
  const fitField = builder.fields.findIndex((field) => field.filters.at(-1)?.name === "fit");
  const wide = pieces.reduce((product, piece) => product * piece.radix, 2 ** bare.length) > Number.MAX_SAFE_INTEGER;
  const found = (key: number | string, state: Int16Array, filled: (field: number) => boolean): Shape => {
    const known = shapes.get(key);
    if (known) return known;
    const id = shapes.size < MOST_SHAPES ? shapes.size : -1;
    const shape = {
      id,
      parts: stopsJoined(tidyParts(flatten(parts, pieces, state, filled)), own),
      state: state.slice(),
    };
    if (id < 0) return shape;
    shapes.set(key, shape);
    byId.push(shape);
    if ((key as number) < MOST_SHAPES) small[key as number] = shape;
    return shape;
  };
  return {
    source: line.source,
    fields,
    own,
    parts,
    bare,
    pieces,
    givingWay,
    apartCount: builder.apartCount,
    fitField,
    isFit: (field) => fitField >= 0 && (field === fitField || field === fitField + own),
    countable: !wide,
    shape(state, filled) {
      let key: number | string = wide ? "" : 0;
      for (const field of bare)
        key = wide ? `${key}${filled(field) ? 1 : 0}` : (key as number) * 2 + (filled(field) ? 1 : 0);
      for (let i = 0; i < pieces.length; i++)
        key = wide ? `${key},${state[i]}` : (key as number) * pieces[i]!.radix + state[i]! + 1;
      return found(key, state, filled);
    },
    shapeByKey: (key, state, filled) => (key < MOST_SHAPES ? small[key] : undefined) ?? found(key, state, filled),
    shapes: () => byId,
  };
}

/**
 * Two full stops become one: a field that one of the line's own full stops follows stands without its own.
 *
 * @param own how many fields the line has; behind them stand the same without a full stop.
 */
function stopsJoined(parts: readonly Part[], own: number): readonly Part[] {
  return parts.map((part, i) => {
    const next = parts[i + 1];
    return typeof part === "number" && typeof next === "string" && beginsWithStop(next) ? part + own : part;
  });
}

function beginsWithStop(text: string): boolean {
  return text.startsWith(".") && !text.startsWith("..");
}

function flatten(
  parts: readonly ProgramPart[],
  pieces: readonly ProgramPiece[],
  state: Int16Array,
  filled: (field: number) => boolean,
): Part[] {
  const out: Part[] = [];
  for (const part of parts) {
    if ("text" in part) out.push(part.text);
    else if ("field" in part) {
      if (filled(part.field)) out.push(part.field);
    } else {
      const chosen = state[part.piece]!;
      if (chosen >= 0) out.push(...flatten(pieces[part.piece]!.alternatives[chosen]!.parts, pieces, state, filled));
    }
  }
  return out;
}

class Builder {
  readonly fields: FieldNode[] = [];
  apartCount = 0;
  /** Whether some text of the line begins with a full stop: a value before it may end with one, too. */
  hasFullStop = false;
  private readonly fieldNumbers = new Map<string, number>();
  private readonly pieces: (ProgramPiece | undefined)[] = [];

  constructor(
    private readonly source: string,
    private readonly constants: ReadonlyMap<string, string>,
  ) {}

  finished(): ProgramPiece[] {
    return this.pieces as ProgramPiece[];
  }

  parts(nodes: readonly Node[], around: ProgramPiece["around"]): ProgramPart[] {
    return nodes.map((node): ProgramPart => {
      if (node.type === "text") {
        this.hasFullStop ||= beginsWithStop(node.value.trimStart());
        return { text: node.value };
      }
      if (node.type === "piece") return { piece: this.piece(node, around) };
      const only = node.sources[0]!;
      const constant =
        node.sources.length === 1 && node.filters.length === 0 && only.type === "name"
          ? this.constants.get(only.name)
          : undefined;
      return constant ? { text: constant } : { field: this.field(node) };
    });
  }

  private field(node: FieldNode): number {
    const key = printField(node);
    let number = this.fieldNumbers.get(key);
    if (number === undefined) {
      number = this.fields.length;
      this.fieldNumbers.set(key, number);
      this.fields.push(node);
    }
    return number;
  }

  private piece(node: PieceNode, around: ProgramPiece["around"]): number {
    const index = this.pieces.length;
    this.pieces.push(undefined);
    const caret = node.caret;
    const apart = caret?.type === "apart" ? this.apartCount++ : -1;
    const alternatives = node.alternatives.map((nodes, alternative): ProgramAlternative => {
      const parts = this.parts(nodes, { piece: index, alternative });
      return {
        parts,
        fields: parts.flatMap((part) => ("field" in part ? [part.field] : [])),
        inside: this.inside(parts),
        inner: this.order(parts),
      };
    });
    const source = this.source.slice(node.from, node.to);
    this.orders.set(index, caret?.type === "order" ? caret.order : null);
    this.pieces[index] = {
      index,
      source,
      from: node.from,
      to: node.to,
      caret: caret?.type ?? null,
      apart,
      around,
      alternatives,
      radix: alternatives.length + 1,
    };
    return index;
  }

  private readonly orders = new Map<number, number | null>();

  /** The pieces among and inside the parts. */
  private inside(parts: readonly ProgramPart[]): number[] {
    return parts.flatMap((part) => {
      if (!("piece" in part)) return [];
      const { alternatives } = this.pieces[part.piece]!;
      return [part.piece, ...alternatives.flatMap(({ inside }) => inside)];
    });
  }

  /**
   * The pieces among and inside the parts in the order of giving way: numbered ones by number, then the others; the
   * rightmost first, an inner one before the one around it, whichever of the two has a number.
   */
  order(parts: readonly ProgramPart[]): number[] {
    const found: { readonly piece: number; readonly rank: number }[] = [];
    // An inner piece goes at the latest when the one around it does.
    const walk = (inside: readonly ProgramPart[], latest: number) => {
      const pieces = inside.flatMap((part) => ("piece" in part ? [this.pieces[part.piece]!] : [])).reverse();
      const rankOf = (piece: ProgramPiece) => this.orders.get(piece.index) ?? Number.MAX_SAFE_INTEGER;
      for (const piece of pieces.sort((a, b) => rankOf(a) - rankOf(b))) {
        const rank = Math.min(rankOf(piece), latest);
        for (const alternative of piece.alternatives) walk(alternative.parts, rank);
        if (piece.caret !== "keep") found.push({ piece: piece.index, rank });
      }
    };
    walk(parts, Number.MAX_SAFE_INTEGER);
    return found.sort((a, b) => a.rank - b.rank).map(({ piece }) => piece);
  }
}
