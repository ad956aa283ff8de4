import { Refusal } from "../core/refusal";

/** A file that cannot be read as a table: what is wrong, where, and what to do. */
export class TableError extends Refusal {
  constructor(message: string) {
    super("invalid", message);
  }
}

/** One row of a table, with the line of the file, or the row of the sheet, it begins on. */
export interface TableRow {
  readonly line: number;
  readonly cells: readonly string[];
  /** Columns that the row does not speak of at all, as objects may leave a key out: that is not an empty cell. */
  readonly absent?: readonly number[];
}

/** A row that could not be read, with its line and why. */
export interface RefusedRow {
  readonly line: number;
  readonly reason: string;
  readonly content: string;
  /** The word for a kind of page, where it is refused because no kind is called so. */
  readonly unknownKind?: string;
}
