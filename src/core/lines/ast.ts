/** A half-open stretch of a line's source, in UTF-16 code units from 0. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

/** Literal text, escapes resolved. */
export interface TextNode extends Span {
  readonly type: "text";
  readonly value: string;
}

/** One of the values that a field may take: a field of the item, or a literal in quotes. */
export type Source =
  | (Span & { readonly type: "name"; readonly name: string })
  | (Span & { readonly type: "literal"; readonly value: string });

/** A filter with its arguments as written, quotes resolved. */
export interface FilterCall extends Span {
  readonly name: string;
  readonly args: readonly string[];
}

/** `{a or b or "c":filter}`: the first source that is not empty, passed through the filters from left to right. */
export interface FieldNode extends Span {
  readonly type: "field";
  readonly sources: readonly Source[];
  readonly filters: readonly FilterCall[];
  /** The value without the full stop at its end: one of the line's own follows it. Never written in a line. */
  readonly isLessStop?: true;
}

/** What the mark behind a piece asks for: a place in the order of giving way, to stay, or to stand only to tell items apart. */
export type Caret =
  { readonly type: "order"; readonly order: number } | { readonly type: "keep" } | { readonly type: "apart" };

/** `[ a || b ]^n`: alternatives, the best first. `from` and `to` take in the brackets and the caret. */
export interface PieceNode extends Span {
  readonly type: "piece";
  readonly alternatives: readonly (readonly Node[])[];
  readonly caret: (Caret & Span) | null;
}

export type Node = TextNode | FieldNode | PieceNode;

/** What is wrong with a line: where, in words, and the name that was probably meant. */
export interface LineError extends Span {
  readonly message: string;
  readonly near?: string;
}

/** A parsed line. One with errors is never applied. */
export interface Line {
  readonly source: string;
  readonly nodes: readonly Node[];
  readonly errors: readonly LineError[];
}
