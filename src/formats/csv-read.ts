import iconv from "iconv-lite";
import { createReadStream } from "node:fs";
import { open } from "node:fs/promises";
import { EncodingDetector, looksBinary, type Reading } from "./encoding";
import { lineBreaks, type ReadRecord, RecordReader } from "./records";
import { readRowFile, rowFileHead, type RowSource } from "./row-file";
import { type RefusedRow, TableError, type TableRow } from "./table";

export const DELIMITERS = [",", ";", "\t", "|"] as const;
export type Delimiter = (typeof DELIMITERS)[number];

/** Beyond this many columns a file is taken for something else. */
export const MOST_COLUMNS = 2000;

export interface TableShape extends Reading {
  readonly delimiter: Delimiter;
  readonly header: readonly string[];
  /** The line that the rows below the header begin on. */
  readonly rowsFrom: number;
  /** What was odd about the header, and how it was read. */
  readonly notes: readonly string[];
  /** What it was made of, where it is not read as text. */
  readonly source: RowSource | null;
}

const HEAD_BYTES = 256 * 1024;
const PIECE_BYTES = 1 << 20;
/** Rows of a spreadsheet or of objects that are given together. */
const MADE_ROWS = 1000;
const FIRST_ROWS = 20;
/** So much of a refused row is kept. */
const MOST_CONTENT = 2000;

/**
 * Looks at a file: its encoding, by all of its bytes; what parts its columns, and their names, by its beginning.
 *
 * @throws {TableError} for a file that is empty, no text, or no table.
 */
export async function tableShape(file: string): Promise<TableShape> {
  const made = await rowFileHead(file);
  if (made && made.header.length > MOST_COLUMNS)
    throw new TableError(
      `The table has ${made.header.length.toLocaleString("en")} columns; ${MOST_COLUMNS.toLocaleString("en")} are the most. Look whether it has one page to a row.`,
    );
  if (made && made.header.every((name) => name.trim() === "") && made.sheet !== null)
    return { ...MADE, header: [], source: made };
  if (made) return { ...MADE, header: made.header.map(tidyName), source: made };
  const { head, reading, isWhole } = await bytesOf(file);
  if (head.length === 0)
    throw new TableError("The file is empty. Choose a CSV file with a header row and at least one row below it.");
  if (looksBinary(head, reading.encoding))
    throw new TableError(
      "The file is not text, so it is no CSV. Export the table as CSV (UTF-8) and import that file.",
    );
  const text = iconv.decode(head, reading.encoding).replace(/^\ufeff/, "");
  if (text.trim() === "")
    throw new TableError(
      "The file has nothing but white space. Choose a CSV file with a header row and at least one row below it.",
    );
  const said = /^"?sep=([,;\t|])"?(?:\r\n|\n|\r)/i.exec(text);
  const body = said ? text.slice(said[0].length) : text;
  const { delimiter, header, line, lines, notes } = bestDelimiter(
    body,
    isWhole,
    said ? [said[1] as Delimiter] : DELIMITERS,
  );
  const headerLine = line + (said ? 1 : 0);
  if (header.length > MOST_COLUMNS)
    throw new TableError(
      `Line ${headerLine} has ${header.length.toLocaleString("en")} columns; ${MOST_COLUMNS.toLocaleString("en")} are the most. Look whether the file is a table of pages with one page to a line.`,
    );
  if (header.every((name) => name === ""))
    throw new TableError(
      `Line ${headerLine} has no column names. Put a header row with a name for each column at the top of the file.`,
    );
  return { ...reading, delimiter, header, rowsFrom: headerLine + lines, notes, source: null };
}

/** How a table is read that was written down by `row-file`. */
const MADE = { encoding: "utf-8", isDamaged: false, delimiter: ",", rowsFrom: 2, notes: [] } as const;

/** A file's beginning, and how the whole of it is to be read. */
async function bytesOf(file: string): Promise<{ head: Buffer; reading: Reading; isWhole: boolean }> {
  const detector = new EncodingDetector();
  const piece = Buffer.alloc(PIECE_BYTES);
  const handle = await open(file, "r");
  try {
    let head = Buffer.alloc(0);
    for (let at = 0; ;) {
      const { bytesRead } = await handle.read(piece, 0, PIECE_BYTES, at);
      if (bytesRead === 0) return { head, reading: detector.reading(), isWhole: at <= HEAD_BYTES };
      if (at === 0) head = Buffer.from(piece.subarray(0, Math.min(bytesRead, HEAD_BYTES)));
      detector.see(piece.subarray(0, bytesRead));
      at += bytesRead;
      if (detector.isSure) return { head, reading: detector.reading(), isWhole: at < PIECE_BYTES && at <= HEAD_BYTES };
    }
  } finally {
    await handle.close();
  }
}

interface Header {
  readonly header: string[];
  /** The line that it begins on, and how many it takes. */
  readonly line: number;
  readonly lines: number;
  readonly notes: string[];
}

/** The delimiter that gives the first rows the same number of cells, more than one. */
function bestDelimiter(
  text: string,
  isWhole: boolean,
  among: readonly Delimiter[],
): Header & { readonly delimiter: Delimiter } {
  let best: (Header & { delimiter: Delimiter; score: number }) | null = null;
  for (const delimiter of among) {
    const found = headerOf(text, delimiter);
    if (!found) continue;
    const { header, records } = found;
    const rows = records.length > 1 && !isWhole ? records.slice(0, -1) : records;
    const even = rows.filter((row) => "cells" in row && row.cells.length === header.length).length;
    const score =
      (header.length > 1 ? 1 : 0) + (rows.length > 0 ? even / rows.length : 1) + Math.min(header.length, 50) / 100;
    if (!best || score > best.score) best = { ...found, delimiter, score };
  }
  if (!best)
    throw new TableError(
      "Line 1 cannot be read as a row of a table: a quote opens there and never closes. Fix the quotes, or export the file again.",
    );
  return best;
}

/** The header by a delimiter, and the first records below it. A line with a quote too many is split at the delimiter, and that is said. */
function headerOf(text: string, delimiter: Delimiter): (Header & { readonly records: ReadRecord[] }) | null {
  const records: ReadRecord[] = [];
  const reader = new RecordReader(delimiter);
  for (const record of all(reader, text)) {
    records.push(record);
    if (records.length > FIRST_ROWS) break;
  }
  const [first, ...rest] = records;
  if (!first) return null;
  if ("cells" in first) {
    const lines = 1 + first.cells.reduce((sum, cell) => sum + lineBreaks(cell), 0);
    return { header: first.cells.map(tidyName), line: first.line, lines, notes: [], records: rest };
  }
  const line = first.content.split(/\r\n|\n|\r/)[0]!;
  const header = line.split(delimiter).map((name) => tidyName(name.replaceAll('"', "")));
  if (header.length < 2) return null;
  const notes = [`Line ${first.line} has a quote too many; its names were read without quotes.`];
  return { header, line: first.line, lines: 1, notes, records: rest };
}

function* all(reader: RecordReader, text: string): Generator<ReadRecord> {
  yield* reader.push(text);
  yield* reader.end();
}

function tidyName(name: string): string {
  return name
    .replace(/[\u200b\u200e\u200f\u2060\ufeff]/g, "")
    .replace(/[\u0000-\u0020]+/g, " ")
    .trim();
}

/**
 * Streams a table's rows below the header, many at a time, each read or refused: every row of the file is given in one of the two ways, in
 * its order.
 *
 * @throws {TableError} when the file as a whole cannot be read.
 */
export async function* readTable(file: string, shape: TableShape): AsyncGenerator<readonly (TableRow | RefusedRow)[]> {
  const least = 1 + shape.header.findLastIndex((name) => name !== "");
  const pieces = shape.source ? madeRecords(file, shape) : recordsBelowHeader(file, shape);
  for await (const records of pieces)
    yield records.map((record) => {
      const reason = reasonToRefuse(record, shape, least);
      if (reason === null && "cells" in record) return record;
      const content = "cells" in record ? record.cells.join(shape.delimiter).slice(0, MOST_CONTENT) : record.content;
      return { line: record.line, reason: reason!, content };
    });
}

function reasonToRefuse(record: ReadRecord, { header, isDamaged }: TableShape, least: number): string | null {
  if (!("cells" in record)) return record.reason;
  const { cells } = record;
  if (cells.length > header.length && cells.slice(header.length).some((cell) => cell.trim() !== ""))
    return `The row has ${cells.length} cells, the header only ${header.length}. A delimiter inside a text needs quotes around the text.`;
  if (cells.length < least)
    return `The row has ${cells.length} ${cells.length === 1 ? "cell" : "cells"}, the header ${header.length}. A line break inside a text needs quotes around the text.`;
  const at = (find: string) => cells.findIndex((cell) => cell.includes(find));
  const nul = at("\u0000");
  if (nul >= 0) return `“${header[nul] ?? nul + 1}” holds a NUL character, which no text has.`;
  const damaged = isDamaged ? at("\ufffd") : -1;
  if (damaged >= 0)
    return `“${header[damaged] ?? damaged + 1}” holds bytes that are no UTF-8, as the rest of the file is.`;
  return null;
}

/** Rows of a spreadsheet or of objects end where their last value does. */
async function* madeRecords(file: string, { header }: TableShape): AsyncGenerator<readonly ReadRecord[]> {
  const whole = (cells: readonly string[]) => [
    ...cells,
    ...Array<string>(Math.max(0, header.length - cells.length)).fill(""),
  ];
  let piece: ReadRecord[] = [];
  for await (const row of readRowFile(file)) {
    piece.push("cells" in row ? { ...row, cells: whole(row.cells) } : row);
    if (piece.length < MADE_ROWS) continue;
    yield piece;
    piece = [];
  }
  yield piece;
}

async function* recordsBelowHeader(file: string, shape: TableShape): AsyncGenerator<readonly ReadRecord[]> {
  const decoder = iconv.getDecoder(shape.encoding);
  const reader = new RecordReader(shape.delimiter, shape.header.length, shape.rowsFrom);
  let above = shape.rowsFrom - 1;
  let text = "";
  const below = (piece: string): string => {
    // The header, and what stands above it, was read already.
    if (above === 0) return piece;
    text += piece;
    while (above > 0) {
      const end = /\r\n|\n|\r(?=[^])/.exec(text);
      if (!end) return "";
      text = text.slice(end.index + end[0].length);
      above--;
    }
    return text;
  };
  const stream = createReadStream(file, { highWaterMark: PIECE_BYTES });
  for await (const piece of stream as AsyncIterable<Buffer>) yield [...reader.push(below(decoder.write(piece)))];
  yield [...reader.push(below(decoder.end() ?? "")), ...reader.end()];
}
