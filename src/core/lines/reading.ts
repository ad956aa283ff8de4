import { type FieldNode, type FilterCall, type Node, type PieceNode } from "./ast";
import { fieldsOfNodes } from "./field-names";

/** What a built-in field is called in a sentence; any other goes by its own name. */
const NOUNS: Readonly<Record<string, string>> = {
  "category.path": "category path",
  "category.parent": "parent category",
  summary: "excerpt",
  intro: "first paragraph",
  body: "whole text",
  published: "day of publication",
  updated: "day of the last change",
  count: "number of items",
  id: "number",
  site: "site name",
  sep: "separator",
};

/** @example fieldNoun("sold_by") // "sold by" */
export function fieldNoun(name: string): string {
  return Object.hasOwn(NOUNS, name) ? NOUNS[name]! : name.replaceAll("_", " ").replaceAll(".", " ");
}

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
  const order = piece.caret?.type === "order" ? ` (gives way ${ordinal(piece.caret.order)})` : "";
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
  const [a, b] = args;
  switch (name) {
    case "lower":
      return "in lower case";
    case "upper":
      return "in capitals";
    case "title":
      return "each word with a capital";
    case "sentence":
      return "with one capital, at its start";
    case "words":
      return `at most ${a} ${a === "1" ? "word" : "words"}`;
    case "chars":
      return `at most ${a} ${a === "1" ? "character" : "characters"}`;
    case "first":
      return "its first sentence";
    case "sentences":
      return a === "1" ? "its first sentence" : `its first ${a} sentences`;
    case "number":
      return a === undefined ? "as a number" : `as a number with ${a} ${a === "1" ? "decimal" : "decimals"}`;
    case "money":
      return `as money in ${a!.toUpperCase()}`;
    case "date":
      return `as a date, “${a}”`;
    case "plural":
      return `counted: “${a}” or “${b}”`;
    case "replace":
      return `“${b}” put for “${a}”`;
    case "without":
      return `less what the ${fieldNoun(a!)} says`;
    case "ascii":
      return "in plain Latin letters";
    default:
      return "as much of it as there is room for";
  }
}
