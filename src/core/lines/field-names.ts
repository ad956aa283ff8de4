import { type Node } from "./ast";

/**
 * The names of the fields that nodes read, each once, in the order in which they stand; those that `without` looks at too.
 *
 * @example fieldsOfNodes(parseLine("{summary or intro:without(name)}").nodes) // ["summary", "intro", "name"]
 */
export function fieldsOfNodes(nodes: readonly Node[]): string[] {
  const found = new Set<string>();
  const walk = (list: readonly Node[]) => {
    for (const node of list) {
      if (node.type === "piece") node.alternatives.forEach(walk);
      if (node.type !== "field") continue;
      for (const source of node.sources) if (source.type === "name") found.add(source.name);
      for (const filter of node.filters) if (filter.name === "without") found.add(filter.args[0]!);
    }
  };
  walk(nodes);
  return [...found];
}
