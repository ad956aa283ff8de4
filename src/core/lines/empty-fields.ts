import { type FieldNode, type Node } from "./ast";

/**
 * The fields of a line that no page has anything for, as they stand in it: none of their sources is filled, and no literal
 * stands in for them.
 *
 * @param filled the share of the pages that have a field, from 0 to 1; `undefined` for one that is not known.
 */
export function emptyFieldsOf(nodes: readonly Node[], filled: (field: string) => number | undefined): FieldNode[] {
  return nodes.flatMap((node) => {
    if (node.type === "piece") return node.alternatives.flatMap((own) => emptyFieldsOf(own, filled));
    if (node.type !== "field") return [];
    const isEmpty = node.sources.every((source) => source.type === "name" && filled(source.name) === 0);
    return isEmpty ? [node] : [];
  });
}
