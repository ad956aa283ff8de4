import { type FieldNode, type FilterCall, type Node, type PieceNode } from "./ast";
import { fieldsOfNodes } from "./field-names";
import { fieldNoun } from "./fields";
import { filterByName } from "./filters";

/**
 * A parsed line in plain words.
 *
 * @example readingOf(parseLine("{name}[ – {category}]").nodes) // "the name; then, if there is room, “ – category”"
 */
export function readingOf(nodes: readonly Node[]): string {
  const steps: string[] = [];
  let said: string[] = [];
  const flush = () => {
    if (said.length > 0) steps.push(said.join(" "));
    said = [];
  };
  for (const node of nodes) {
    if (node.type === "text") {
      if (node.value.trim() !== "") said.push(`“${node.value}”`);
    } else if (node.type === "field") said.push(fieldWords(node));
    else {
      flush();
      steps.push(pieceWords(node, steps.length > 0));
    }
  }
  flush();
  return steps.join("; ");
}

function fieldWords(field: FieldNode): string {
  const sources = field.sources.map((source) =>
    source.type === "name" ? `the ${fieldNoun(source.name)}` : `“${source.value}”`,
  );
  const value =
    sources.length === 1 ? sources[0]! : `${sources.slice(0, -1).join(", or else ")}, or else ${sources.at(-1)}`;
  const filters = field.filters.map(filterWords);
  return filters.length === 0 ? value : `${value} (${filters.join(", ")})`;
}

function pieceWords(piece: PieceNode, follows: boolean): string {
  const conditions = {
    order: "if there is room",
    keep: fieldsOfNodes(piece.alternatives.flat()).length > 0 ? "if it is known" : "always",
    apart: "only where another page would read the same",
    none: "if there is room",
  };
  const condition = conditions[piece.caret?.type ?? "none"];
  const order = piece.caret?.type === "order" ? ` (dropped ${ordinal(piece.caret.order)})` : "";
  const alternatives = piece.alternatives.map((nodes) => `“${shortWords(nodes)}”`);
  return `${follows ? "then, " : ""}${condition}${order}, ${alternatives.join(", or else ")}`;
}

/** What a piece holds, fields by their names only. */
function shortWords(nodes: readonly Node[]): string {
  return nodes
    .map((node) => {
      if (node.type === "text") return node.value;
      if (node.type === "field")
        return node.sources
          .map((source) => (source.type === "name" ? fieldNoun(source.name) : source.value))
          .join(" or ");
      return `[${node.alternatives.map(shortWords).join(" or else ")}]`;
    })
    .join("");
}

function ordinal(n: number): string {
  return n === 1 ? "first" : n === 2 ? "second" : n === 3 ? "third" : `as number ${n}`;
}

function filterWords({ name, args }: FilterCall): string {
  return filterByName(name)!.inWords(args);
}
