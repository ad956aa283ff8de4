import { type Left, type LineSetter } from "./setter";

const WHY: readonly (Left | null)[] = [null, "incomplete", "room", "not needed"];

/** A piece that does not stand, as written in the line, and why. */
export interface LeftPiece {
  readonly piece: string;
  readonly why: Left;
}

/** The pieces of the line that the setter last set that do not stand; of nested ones only those whose outer piece stands. */
export function leftPieces(setter: LineSetter): LeftPiece[] {
  return setter.program.pieces.flatMap((piece) => {
    const why = WHY[setter.reasons[piece.index]!];
    const inside = piece.around === null || setter.state[piece.around.piece] === piece.around.alternative;
    return why && inside && setter.state[piece.index]! < 0 ? [{ piece: piece.source, why }] : [];
  });
}

/** One step of how a text came about. */
export type Step =
  | { readonly type: "says"; readonly text: string }
  | { readonly type: "stands"; readonly text: string; readonly alternative: number }
  | { readonly type: "left"; readonly piece: string; readonly why: Left }
  | { readonly type: "too long" };

/**
 * How the text that was last set came about, from left to right: what always stands, the pieces that stand, those that
 * gave way and why.
 *
 * @param valueOf the value of a field of the program for the item.
 */
export function steps(setter: LineSetter, valueOf: (field: number) => string): Step[] {
  const { program, state } = setter;
  if (setter.isTooLong) return [{ type: "too long" }];
  const found: Step[] = [];
  let said = "";
  const flush = () => {
    if (said.trim() !== "") found.push({ type: "says", text: said.trim() });
    said = "";
  };
  const textOf = (parts: (typeof program)["parts"]): string =>
    parts
      .map((part) =>
        "text" in part
          ? part.text
          : "field" in part
            ? valueOf(part.field)
            : state[part.piece]! < 0
              ? ""
              : textOf(program.pieces[part.piece]!.alternatives[state[part.piece]!]!.parts),
      )
      .join("");
  const walk = (parts: (typeof program)["parts"], top: boolean) => {
    for (const part of parts) {
      if (!("piece" in part)) {
        if (top) said += "text" in part ? part.text : valueOf(part.field);
        continue;
      }
      flush();
      const piece = program.pieces[part.piece]!;
      const chosen = state[part.piece]!;
      const why = WHY[setter.reasons[part.piece]!];
      if (chosen >= 0) {
        found.push({ type: "stands", text: textOf(piece.alternatives[chosen]!.parts), alternative: chosen });
        walk(piece.alternatives[chosen]!.parts, false);
      } else if (why) found.push({ type: "left", piece: piece.source, why });
    }
  };
  walk(program.parts, true);
  flush();
  return found;
}
