import { type FieldNode, type Line, type LineError, type Node } from "../lines/ast";
import { BUILT_IN_NAMES } from "../lines/fields";
import { type KnownFields, parseLine } from "../lines/parse";

/** A line that puts the addresses of a kind together: `/{category.path}/{slug}`. */
export interface Shape {
  readonly line: Line;
}

/** What may stand in a path as it is: RFC 3986, `pchar`. */
const NOT_IN_A_PATH = /[^A-Za-z0-9\-._~!$&'()*+,;=:@/\u0080-\uffff]/u;

/**
 * Parses a shape. It is a line whose slashes divide segments; `{slug}` stands in it once, in the last segment, outside pieces. Never
 * throws: what is wrong stands in the line’s errors.
 *
 * @param known the fields that there are; without it every well-formed name is taken.
 */
export function parseShape(source: string, known?: KnownFields): Shape {
  const read = parseLine(source, known && withSlug(known));
  if (read.errors.length > 0) return { line: read };
  const parsed = { ...read, nodes: read.nodes.map(trimmed) };
  const errors = [
    ...startErrors(parsed),
    ...slugErrors(parsed),
    ...textErrors(parsed.nodes),
    ...filterErrors(parsed.nodes),
    ...caretErrors(parsed.nodes),
  ];
  return { line: errors.length > 0 ? { ...parsed, errors: errors.sort((a, b) => a.from - b.from) } : parsed };
}

/** A piece without the spaces at the ends of its alternatives: they are there to be read. */
function trimmed(node: Node): Node {
  if (node.type !== "piece") return node;
  const alternatives = node.alternatives.map((nodes) =>
    nodes.map((inner, i) => {
      if (inner.type !== "text") return trimmed(inner);
      const start = i === 0 ? inner.value.trimStart() : inner.value;
      const value = i === nodes.length - 1 ? start.trimEnd() : start;
      return { ...inner, value, from: inner.from + inner.value.length - start.length };
    }),
  );
  return { ...node, alternatives };
}

/** The slug is the page’s own whether one is designed or not. */
function withSlug(known: KnownFields): KnownFields {
  return { has: (name) => known.has(name) || BUILT_IN_NAMES.has(name), names: () => known.names() };
}

function startErrors({ source, nodes }: Line): LineError[] {
  const isSlash = (node: Node | undefined) => node?.type === "text" && node.value.startsWith("/");
  // A piece may be left out: what follows it begins with a slash, too.
  const first = nodes.find((node) => node.type !== "piece");
  const pieces = nodes.slice(0, first ? nodes.indexOf(first) : nodes.length);
  const begins =
    isSlash(first) &&
    pieces.every((piece) => piece.type === "piece" && piece.alternatives.every(([node]) => isSlash(node)));
  return begins ? [] : [{ from: 0, to: Math.min(1, source.length), message: "An address begins with a slash" }];
}

function slugErrors({ source, nodes }: Line): LineError[] {
  const fields = fieldsOf(nodes).filter(({ node }) => isSlug(node));
  const whole = { from: 0, to: source.length };
  if (fields.length === 0)
    return [{ ...whole, message: "An address holds {slug} once, in its last segment: it is what tells pages apart" }];
  if (fields.length > 1)
    return [{ from: fields[1]!.node.from, to: fields[1]!.node.to, message: "{slug} stands in an address only once" }];
  const [{ node, inPiece }] = fields as [FoundField];
  if (inPiece)
    return [{ from: node.from, to: node.to, message: "{slug} stands outside of [ … ]: every address has one" }];
  if (node.filters.length > 0 || node.sources.length > 1)
    return [
      { from: node.from, to: node.to, message: "{slug} stands for itself: what it reads is the slug line’s matter" },
    ];
  const behind = nodes.slice(nodes.indexOf(node) + 1);
  const slash = textsOf(behind).find(({ value }) => value.replace(/\/$/, "").includes("/"));
  const piece = behind.find((own) => own.type === "piece" && textsOf([own]).some(({ value }) => value.includes("/")));
  const wrong = slash ?? piece;
  return wrong
    ? [{ from: wrong.from, to: wrong.to, message: "{slug} stands in the last segment: no other one follows it" }]
    : [];
}

/** Whether a field is the page’s slug. */
export function isSlug({ sources }: FieldNode): boolean {
  return sources.some((source) => source.type === "name" && source.name === "slug");
}

interface FoundField {
  readonly node: FieldNode;
  readonly inPiece: boolean;
}

function fieldsOf(nodes: readonly Node[], inPiece = false): FoundField[] {
  return nodes.flatMap((node) => {
    if (node.type === "field") return [{ node, inPiece }];
    return node.type === "piece" ? node.alternatives.flatMap((inner) => fieldsOf(inner, true)) : [];
  });
}

function textsOf(nodes: readonly Node[]) {
  return nodes.flatMap((node): (Node & { type: "text" })[] => {
    if (node.type === "text") return [node];
    return node.type === "piece" ? node.alternatives.flatMap(textsOf) : [];
  });
}

function textErrors(nodes: readonly Node[]): LineError[] {
  return textsOf(nodes).flatMap(({ value, from, to }) => {
    const wrong = NOT_IN_A_PATH.exec(value);
    if (!wrong) return [];
    const what = wrong[0] === " " ? "A space" : `“${wrong[0]}”`;
    return [
      {
        from: from + wrong.index,
        to: Math.min(to, from + wrong.index + 1),
        message: `${what} cannot stand in an address`,
      },
    ];
  });
}

function filterErrors(nodes: readonly Node[]): LineError[] {
  return fieldsOf(nodes).flatMap(({ node }) =>
    node.filters
      .filter(({ name }) => name === "fit")
      .map(({ from, to }) => ({ from, to, message: "An address has no room to fill: “fit” means nothing here" })),
  );
}

/** Nothing gives way in an address, and none is told from others by a piece: a mark behind one would do nothing. */
function caretErrors(nodes: readonly Node[]): LineError[] {
  return nodes.flatMap((node) => {
    if (node.type !== "piece") return [];
    const own = node.caret
      ? [
          {
            from: node.caret.from,
            to: node.caret.to,
            message: "A ^ means nothing in an address: no piece gives way there",
          },
        ]
      : [];
    return [...own, ...node.alternatives.flatMap(caretErrors)];
  });
}
