import { stringify } from "csv-stringify/sync";

/**
 * A cell that a spreadsheet would take for a formula begins with `= + - @`, a tab or a carriage return; an apostrophe
 * before it makes it text (the advice on CSV injection that security guides share).
 *
 * @example harmless("=1+1") // "'=1+1"
 */
export function harmless(cell: string): string {
  return /^[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell;
}

/** A row as a line of CSV (RFC 4180, CRLF), harmless for spreadsheets. */
export function csvLine(cells: readonly (string | number | null)[]): string {
  return rawCsvLine(cells.map((cell) => (typeof cell === "string" ? harmless(cell) : cell)));
}

/** A row as a line of CSV (RFC 4180, CRLF), its cells as they are. */
export function rawCsvLine(cells: readonly (string | number | null)[]): string {
  return stringify([[...cells]], {
    record_delimiter: "\r\n",
    quoted_match: /[\r\n]/,
  });
}
