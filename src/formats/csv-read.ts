import { Refusal } from "../core/refusal";
import { parse, type Parser } from "csv-parse";
import iconv from "iconv-lite";
import { createReadStream, openSync, readSync, closeSync } from "node:fs";
import { type Readable } from "node:stream";
import { detectEncoding, type Encoding, looksBinary } from "./encoding";

/** A file that cannot be read as a table: what is wrong, where, and what to do. */
export class TableError extends Refusal {
  constructor(message: string) {
    super("invalid", message);
  }
}

export const DELIMITERS = [",", ";", "\t"] as const;
export type Delimiter = (typeof DELIMITERS)[number];

/** Beyond this many columns a file is taken for something else. */
export const MOST_COLUMNS = 2000;
const MOST_RECORD_SIZE = 8 * 1024 * 1024;

export interface TableShape {
  readonly encoding: Encoding;
  readonly delimiter: Delimiter;
  readonly header: readonly string[];
}

/** One row of a table, with the line of the file it begins on. */
export interface TableRow {
  readonly line: number;
  readonly cells: readonly string[];
}

/** A row that could not be read, with its line and why. */
export interface RefusedRow {
  readonly line: number;
  readonly reason: string;
  readonly content: string;
}

const HEAD_BYTES = 256 * 1024;

/**
 * Looks at a file's beginning: its encoding, what parts its columns, their names.
 *
 * @throws {TableError} for a file that is empty, no text, or no table.
 */
export function tableShape(file: string): TableShape {
  const head = Buffer.alloc(HEAD_BYTES);
  const handle = openSync(file, "r");
  const size = readSync(handle, head, 0, HEAD_BYTES, 0);
  closeSync(handle);
  const bytes = head.subarray(0, size);
  if (size === 0)
    throw new TableError("The file is empty. Choose a CSV file with a header row and at least one row below it.");
  const encoding = detectEncoding(bytes);
  if (looksBinary(bytes, encoding))
    throw new TableError(
      "The file is not text, so it is no CSV. Export the table as CSV (UTF-8) and bring that file in.",
    );
  const text = iconv.decode(bytes, encoding).replace(/^\ufeff/, "");
  if (text.trim() === "")
    throw new TableError(
      "The file holds nothing but white space. Choose a CSV file with a header row and at least one row below it.",
    );
  const { delimiter, header } = bestDelimiter(text, size === HEAD_BYTES);
  if (header.length > MOST_COLUMNS)
    throw new TableError(
      `Line 1 has ${header.length.toLocaleString("en")} columns; ${MOST_COLUMNS.toLocaleString("en")} are the most. Look whether the file is a table of pages with one page to a line.`,
    );
  if (header.every((name) => name === ""))
    throw new TableError(
      "Line 1 has no column names. Put a header row with a name for each column at the top of the file.",
    );
  return { encoding, delimiter, header };
}

/** The delimiter that gives the first lines the same number of cells, more than one. */
function bestDelimiter(text: string, partial: boolean): { delimiter: Delimiter; header: string[] } {
  let best: { delimiter: Delimiter; header: string[]; score: number } | null = null;
  for (const delimiter of DELIMITERS) {
    const rows = firstRecords(text, delimiter, 20, partial);
    const header = rows[0];
    if (!header) continue;
    const even = rows.filter((row) => row.length === header.length).length / rows.length;
    const score = (header.length > 1 ? 1 : 0) + even + Math.min(header.length, 50) / 100;
    if (!best || score > best.score) best = { delimiter, header, score };
  }
  if (!best)
    throw new TableError(
      "Line 1 cannot be read as a row of a table: a quote opens there and never closes. Mend the quotes, or export the file again.",
    );
  return best;
}

/** Reads the first rows of a text without a library's stream, by RFC 4180: quotes, doubled quotes, line breaks in cells. */
function firstRecords(text: string, delimiter: string, most: number, partial: boolean): string[][] {
  const rows: string[][] = [];
  let row: string[] = [];
  let cell = "";
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const char = text[i]!;
    if (quoted) {
      if (char === '"' && text[i + 1] === '"') cell += text[++i];
      else if (char === '"') quoted = false;
      else cell += char;
    } else if (char === '"' && cell === "") quoted = true;
    else if (char === delimiter) {
      row.push(cell.trim());
      cell = "";
      if (row.length > MOST_COLUMNS * 2 && rows.length > 0) return rows;
    } else if (char === "\n" || char === "\r") {
      if (char === "\r" && text[i + 1] === "\n") i++;
      row.push(cell.trim());
      if (row.length > 1 || row[0] !== "") rows.push(row);
      if (rows.length >= most) return rows;
      row = [];
      cell = "";
    } else cell += char;
  }
  if (!quoted && !(partial && rows.length > 0) && (row.length > 0 || cell.trim() !== ""))
    rows.push([...row, cell.trim()]);
  return rows;
}

/**
 * Streams a table's rows below the header. Rows that cannot be read go to `refused` and never stop the others.
 *
 * @throws {TableError} when the file as a whole cannot be read.
 */
export async function* readTable(
  file: string,
  shape: TableShape,
  refused: (row: RefusedRow) => void,
  signal?: AbortSignal,
): AsyncGenerator<TableRow> {
  const parser = parse({
    delimiter: shape.delimiter,
    bom: true,
    info: true,
    relax_column_count: true,
    skip_empty_lines: true,
    skip_records_with_error: true,
    max_record_size: MOST_RECORD_SIZE,
    record_delimiter: ["\r\n", "\n", "\r"],
    on_skip: (error, raw) => {
      const line = (error as { lines?: number } | undefined)?.lines ?? 0;
      refused({ line, reason: csvReason(error?.message ?? ""), content: (raw ?? "").slice(0, 2000) });
    },
  });
  const source: Readable = createReadStream(file, signal ? { signal } : {});
  source.on("error", (error) => parser.destroy(error));
  pipeDecoded(source, shape.encoding, parser);
  let first = true;
  for await (const { record, info } of parser as AsyncIterable<{ record: string[]; info: { lines: number } }>) {
    // The parser counts to the record's end; line breaks inside its cells lead back to its beginning.
    const line = info.lines - record.reduce((sum, cell) => sum + (cell.match(/\r\n|\r|\n/g)?.length ?? 0), 0);
    if (first) {
      first = false;
      continue;
    }
    if (record.length > shape.header.length && record.slice(shape.header.length).some((cell) => cell.trim() !== "")) {
      refused({
        line,
        reason: `The row has ${record.length} cells, the header only ${shape.header.length}. A delimiter inside a text needs quotes around the text.`,
        content: record.join(shape.delimiter).slice(0, 2000),
      });
      continue;
    }
    yield { line, cells: record };
  }
}

function pipeDecoded(source: Readable, encoding: Encoding, parser: Parser): void {
  if (encoding === "utf-8") source.pipe(parser);
  else source.pipe(iconv.decodeStream(encoding)).pipe(parser);
}

function csvReason(message: string): string {
  if (/quote/i.test(message))
    return "A quote stands where none can: double the quotes inside a text, or put the whole text in quotes.";
  if (/max_record_size/i.test(message))
    return "The row is larger than 8 MB: a quote that opens and never closes swallows the rows below it.";
  return `The row cannot be read: ${message}`;
}
