import { type ExtraName, type TextName } from "../design/kinds";
import { type RowGroups } from "./groups";

/** Where an item's text comes from. `live`: no line is set, so it stays what the site has. */
export const FROM = ["live", "base", "rule", "hand"] as const;
export type From = (typeof FROM)[number];

/** The numbers of {@link FROM}. */
export const LIVE = 0;
export const HAND = 3;

/** In place of a shape: the line comes to more characters than a text may have, and nothing was written. */
export const TOO_LONG = -2;

/**
 * What one text of every item of a set is, column by column. The texts themselves are not held: `textOf` writes one out.
 * It stays as it was given, whatever is proved afterwards and whatever becomes of the items.
 */
export interface TextProof extends ProofColumns {
  readonly textOf: (row: number) => string;
  /** Rows that read the same. */
  readonly groups: RowGroups;
}

/** The columns of a proof: of each row what is known of its text. */
export interface ProofColumns {
  readonly text: TextName | ExtraName;
  /** How many items there are. */
  readonly size: number;
  /** Width as one running line in px on the first surface; for slugs the length in characters. */
  readonly sizes: Float32Array;
  /** Length in UTF-16 code units; 0 where the text is missing. */
  readonly lengths: Int32Array;
  /** 64 bits of hash of the text as written. */
  readonly exact1: Int32Array;
  readonly exact2: Int32Array;
  /** 64 bits of hash by which two texts are compared: case aside, and for slugs with the folder they are in; 0 where the text is missing. */
  readonly compared1: Int32Array;
  readonly compared2: Int32Array;
  /** 1 where the text has room on all surfaces. */
  readonly fits: Uint8Array;
  /** Numbers of {@link FROM}. */
  readonly from: Uint8Array;
  /** Number of the line that decides: its place among the lines given; -1 for none. A text by hand stands before it. */
  readonly line: Int16Array;
  /** How many `^apart` pieces stand at most. */
  readonly apart: Uint8Array;
  /** The shape that the line has for the item: a number of the line's program; -1 where no line made the text, {@link TOO_LONG}. */
  readonly shape: Int16Array;
  /** 1 where a bare field of the line had no value. */
  readonly emptyFields: Uint8Array;
  /** Numbers of the keyword's forms plus one; 0 where the item has no keyword. */
  readonly form: Uint8Array;
  /** Where the keyword begins, in px (characters for slugs) from the left; -1 where it is not. */
  readonly keywordAt: Float32Array;
  /** 1 where the whole first match is seen on the first surface. */
  readonly keywordSeen: Uint8Array;
}

/** Columns for a set of items in which nothing is known yet. */
export function blankColumns(text: TextName | ExtraName, size: number): ProofColumns {
  return {
    text,
    size,
    sizes: new Float32Array(size),
    lengths: new Int32Array(size),
    exact1: new Int32Array(size),
    exact2: new Int32Array(size),
    compared1: new Int32Array(size),
    compared2: new Int32Array(size),
    fits: new Uint8Array(size),
    from: new Uint8Array(size),
    line: new Int16Array(size).fill(-1),
    apart: new Uint8Array(size),
    shape: new Int16Array(size).fill(-1),
    emptyFields: new Uint8Array(size),
    form: new Uint8Array(size),
    keywordAt: new Float32Array(size).fill(-1),
    keywordSeen: new Uint8Array(size),
  };
}

/** The same columns in memory of their own. */
export function copiedColumns(columns: ProofColumns): ProofColumns {
  return {
    text: columns.text,
    size: columns.size,
    sizes: columns.sizes.slice(),
    lengths: columns.lengths.slice(),
    exact1: columns.exact1.slice(),
    exact2: columns.exact2.slice(),
    compared1: columns.compared1.slice(),
    compared2: columns.compared2.slice(),
    fits: columns.fits.slice(),
    from: columns.from.slice(),
    line: columns.line.slice(),
    apart: columns.apart.slice(),
    shape: columns.shape.slice(),
    emptyFields: columns.emptyFields.slice(),
    form: columns.form.slice(),
    keywordAt: columns.keywordAt.slice(),
    keywordSeen: columns.keywordSeen.slice(),
  };
}

/** Whether a row's text is not that of a row of the other proof, of the same row unless another is named. */
export function differs(proof: TextProof, other: TextProof, row: number, otherRow = row): boolean {
  return (
    proof.exact1[row] !== other.exact1[otherRow] ||
    proof.exact2[row] !== other.exact2[otherRow] ||
    proof.lengths[row] !== other.lengths[otherRow]
  );
}
