import { createWriteStream } from "node:fs";
import { open } from "node:fs/promises";
import { once } from "node:events";
import { textLines } from "./text-lines";
import { type RefusedRow, TableError, type TableRow } from "./table";

/** What a table was read from, and which of several it is. */
export interface RowSource {
  readonly type: "XLSX" | "ODS" | "JSON Lines" | "JSON";
  /** The sheets of a spreadsheet, and the one that was read. */
  readonly sheets: readonly string[];
  readonly sheet: string | null;
}

/** A row of a spreadsheet or of a file of objects: where it stands there, and its cells, or why it is refused. */
export type SourceRow = TableRow | RefusedRow;

const MAGIC = '{"nineLinesRows":1';

interface Head extends RowSource {
  readonly header: readonly string[];
}

/**
 * Writes a table down as it is read again: the header with where it came from, then a row to a line, each with its place in
 * the source.
 *
 * @throws {TableError} where there is no row below the header.
 */
export async function writeRowFile(
  file: string,
  source: RowSource,
  header: readonly string[],
  rows: AsyncIterable<SourceRow>,
): Promise<void> {
  const out = createWriteStream(file);
  const failed = once(out, "error").then(([error]) => Promise.reject(error as Error));
  failed.catch(() => {});
  const head = { ...source, header } satisfies Head;
  out.write(`${MAGIC},"head":${JSON.stringify(head)}}\n`);
  for await (const row of rows) {
    const line = JSON.stringify("cells" in row ? [row.line, row.cells, ...(row.absent ? [row.absent] : [])] : row);
    if (!out.write(`${line}\n`)) await Promise.race([once(out, "drain"), failed]);
  }
  out.end();
  await Promise.race([once(out, "finish"), failed]);
}

/** The head of a file that {@link writeRowFile} wrote; `null` for any other. */
export async function rowFileHead(file: string): Promise<Head | null> {
  const handle = await open(file, "r");
  try {
    const start = Buffer.alloc(MAGIC.length);
    await handle.read(start, 0, start.length, 0);
    if (start.toString("latin1") !== MAGIC) return null;
  } finally {
    await handle.close();
  }
  for await (const line of textLines(file)) return (JSON.parse(line) as { head: Head }).head;
  throw new TableError("The file is empty.");
}

/** The rows of a file that {@link writeRowFile} wrote, in their order. */
export async function* readRowFile(file: string): AsyncGenerator<SourceRow> {
  let isHead = true;
  for await (const line of textLines(file)) {
    if (!isHead) {
      const row = JSON.parse(line) as [number, string[], number[]?] | RefusedRow;
      if (!Array.isArray(row)) yield row;
      else yield { line: row[0], cells: row[1], ...(row[2] && { absent: row[2] }) };
    }
    isHead = false;
  }
}
