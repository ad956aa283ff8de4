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
}

/** A row that could not be read, with its line and why. */
export interface RefusedRow {
  readonly line: number;
  readonly reason: string;
  readonly content: string;
  /** The word for a kind of page, where it is refused because no kind is called so. */
  readonly unknownKind?: string;
}
