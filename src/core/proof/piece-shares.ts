import { type Program } from "../lines/program";
import { HAND, type TextProof } from "./text-proof";

/** On how many items a piece of a line stands. */
export interface PieceShare {
  /** As written in the line, brackets and caret included. */
  readonly piece: string;
  /** Where it is written: offsets in the line. */
  readonly from: number;
  readonly to: number;
  readonly stands: number;
  /** How many items have each of its alternatives. */
  readonly byAlternative: readonly number[];
}

/** For each piece of a line, on how many of the items that the line decides it stands, and how many items those are. */
export function pieceShares(
  proof: TextProof,
  program: Program,
  line: number,
): { items: number; pieces: readonly PieceShare[] } {
  const byShape = new Int32Array(program.shapes().length);
  let items = 0;
  for (let row = 0; row < proof.size; row++) {
    if (proof.line[row] !== line || proof.from[row] === HAND) continue;
    items++;
    const shape = proof.shape[row]!;
    if (shape >= 0) byShape[shape]!++;
  }
  const counts = program.pieces.map(({ alternatives }) => alternatives.map(() => 0));
  program.shapes().forEach(({ state }, shape) => {
    if (byShape[shape] === 0) return;
    state.forEach((alternative, piece) => {
      if (alternative >= 0) counts[piece]![alternative]! += byShape[shape]!;
    });
  });
  const pieces = program.pieces.map(({ source, from, to }, i) => ({
    piece: source,
    from,
    to,
    stands: counts[i]!.reduce((sum, n) => sum + n, 0),
    byAlternative: counts[i]!,
  }));
  return { items, pieces };
}
