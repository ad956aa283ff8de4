import { type Node } from "../../core/lines/ast";
import { type KnownFields, parseLine } from "../../core/lines/parse";

export const MARKS = ["field", "piece", "bracket", "caret", "error"] as const;

/** A stretch of a line that is set off, by its offsets. */
export interface LineMark {
  readonly from: number;
  readonly to: number;
  readonly mark: (typeof MARKS)[number];
}

/** What of a line is set off: in order, and what lies within another after it. @param known the fields that it may use. */
export function lineMarks(source: string, known?: KnownFields): LineMark[] {
  const { nodes, errors } = parseLine(source, known);
  const found: LineMark[] = [];
  addNodes(nodes, source, found);
  for (const error of errors) {
    const to = Math.min(source.length, Math.max(error.to, error.from + 1));
    if (error.from < to) found.push({ from: error.from, to, mark: "error" });
  }
  return found.sort((a, b) => a.from - b.from || b.to - a.to);
}

function addNodes(nodes: readonly Node[], source: string, found: LineMark[]): void {
  for (const node of nodes) {
    if (node.type === "field") found.push({ from: node.from, to: node.to, mark: "field" });
    if (node.type !== "piece") continue;
    found.push(
      { from: node.from, to: node.to, mark: "piece" },
      { from: node.from, to: node.from + 1, mark: "bracket" },
    );
    const end = node.caret ? node.caret.from : node.to;
    if (source[end - 1] === "]") found.push({ from: end - 1, to: end, mark: "bracket" });
    if (node.caret) found.push({ from: node.caret.from, to: node.caret.to, mark: "caret" });
    for (const own of node.alternatives) addNodes(own, source, found);
  }
}
