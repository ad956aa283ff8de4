import { type FieldNode, type Node, type PieceNode, type Source } from "./ast";

/** The nodes as a line in its plainest spelling: parsing it gives the same nodes again. */
export function printNodes(nodes: readonly Node[]): string {
  let line = "";
  for (const node of nodes) {
    if (node.type === "text") {
      const escaped = node.value.replace(/[{}[\]\\^]/g, "\\$&");
      line += escaped.replace(/\|{2,}|^\||\|$/g, (bars) => "\\|".repeat(bars.length));
    } else {
      line += node.type === "field" ? printField(node) : printPiece(node);
    }
  }
  return line;
}

/** A field in its plainest spelling; two fields that print alike have the same value for every item. */
export function printField(field: FieldNode): string {
  const sources = field.sources.map(printSource).join(" or ");
  const filters = field.filters
    .map((f) => `:${f.name}${f.args.length > 0 ? `(${f.args.map(quote).join(", ")})` : ""}`)
    .join("");
  return `{${sources}${filters}}`;
}

function printSource(source: Source): string {
  return source.type === "name" ? source.name : inQuotes(source.value);
}

function printPiece(piece: PieceNode): string {
  const caret =
    piece.caret === null ? "" : piece.caret.type === "order" ? `^${piece.caret.order}` : `^${piece.caret.type}`;
  return `[${piece.alternatives.map(printNodes).join("||")}]${caret}`;
}

function quote(text: string): string {
  return /^[\p{L}\p{N}_.]+$/u.test(text) ? text : inQuotes(text);
}

function inQuotes(text: string): string {
  return `"${text.replace(/["\\]/g, "\\$&")}"`;
}
