import { readFile, stat } from "node:fs/promises";
import { type SourceRow } from "./row-file";
import { textLines } from "./text-lines";
import { TableError } from "./table";

/** A list of objects is read whole; a larger file has to be JSON Lines, which are not. In bytes. */
const MOST_WHOLE = 256 * 1024 ** 2;
const MOST_CONTENT = 2000;

/** Objects as a table: their keys in the order in which they first come up, and a row each. */
export interface ObjectTable {
  readonly header: readonly string[];
  readonly rows: AsyncIterable<SourceRow>;
}

/** A file with a JSON object to a line; a line that is none is refused, and costs no other. */
export async function jsonLinesTable(file: string): Promise<ObjectTable> {
  const keys = new Set<string>();
  for await (const row of parsedLines(file))
    if ("object" in row) for (const key of Object.keys(row.object)) keys.add(key);
  return tableOf([...keys], () => parsedLines(file));
}

/** A file with one JSON list of objects. @throws {TableError} where it is none. */
export async function jsonListTable(file: string): Promise<ObjectTable> {
  if ((await stat(file)).size > MOST_WHOLE)
    throw new TableError("A JSON list is read whole, up to 256 MB. Write it as JSON Lines, an object to a line.");
  let list: unknown;
  try {
    list = JSON.parse((await readFile(file, "utf8")).replace(/^\ufeff/, ""));
  } catch (error) {
    throw new TableError(`The file is not JSON: ${(error as Error).message}`);
  }
  if (!Array.isArray(list)) throw new TableError("The file holds no list of objects, one for each page.");
  const rows = list.map((value, i) => parsedRow(value, i + 1, JSON.stringify(value)));
  const keys = new Set(rows.flatMap((row) => ("object" in row ? Object.keys(row.object) : [])));

  return tableOf([...keys], async function* () {
    yield* rows;
  });
}

type ParsedRow =
  { readonly line: number; readonly object: Record<string, unknown> } | Exclude<SourceRow, { cells: unknown }>;

function tableOf(header: readonly string[], read: () => AsyncIterable<ParsedRow>): ObjectTable {
  if (header.length === 0) throw new TableError("No line of the file is a JSON object with the fields of a page.");
  async function* rows(): AsyncGenerator<SourceRow> {
    for await (const row of read()) yield "object" in row ? cellsOf(row.line, row.object) : row;
  }
  function cellsOf(line: number, object: Record<string, unknown>): SourceRow {
    const cells = header.map((key) => cellOf(object[key]));
    const absent = header.flatMap((key, i) => (Object.hasOwn(object, key) ? [] : [i]));
    return absent.length > 0 ? { line, cells, absent } : { line, cells };
  }
  return { header, rows: rows() };
}

async function* parsedLines(file: string): AsyncGenerator<ParsedRow> {
  let line = 0;
  for await (const text of textLines(file)) {
    line++;
    const own = line === 1 ? text.replace(/^\ufeff/, "") : text;
    if (own.trim() === "") continue;
    try {
      yield parsedRow(JSON.parse(own), line, own);
    } catch (error) {
      yield { line, reason: `The line is not JSON: ${(error as Error).message}`, content: own.slice(0, MOST_CONTENT) };
    }
  }
}

function parsedRow(value: unknown, line: number, text: string): ParsedRow {
  if (value !== null && typeof value === "object" && !Array.isArray(value))
    return { line, object: value as Record<string, unknown> };
  return { line, reason: "It is no JSON object with the fields of a page", content: text.slice(0, MOST_CONTENT) };
}

/** What is no text or figure itself, such as a list, is its JSON. */
function cellOf(value: unknown): string {
  if (value === null || value === undefined) return "";
  if (typeof value === "string") return value;
  return typeof value === "number" || typeof value === "boolean" ? String(value) : JSON.stringify(value);
}
