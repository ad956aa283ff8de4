import { type Node } from "../lines/ast";
import { readingOf } from "../lines/reading";

/**
 * An address line in words: what stands for itself as it is, the rest as any line reads.
 *
 * @example addressReading(parseShape("/shop/{category.path}/{slug}").line.nodes) // "/ shop / the category path / the slug"
 */
export function addressReading(nodes: readonly Node[]): string {
  return nodes
    .map((node) => (node.type === "text" ? node.value : readingOf([node])))
    .join("")
    .replaceAll("/", " / ")
    .replace(/ {2,}/g, " ")
    .trim();
}
