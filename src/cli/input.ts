import { parse } from "csv-parse";
import { createReadStream } from "node:fs";
import { createInterface } from "node:readline";
import { FileError } from "../formats/lines-file";
import { fieldName } from "../core/lines/fields";
import { type ItemRecord } from "../core/proof/items";

/** Lines of standard input or of files, one after another, as streams; `-` is standard input. */
export async function* textLines(files: readonly string[]): AsyncGenerator<string> {
  for (const file of files.length > 0 ? files : ["-"]) {
    const input = file === "-" ? process.stdin : createReadStream(file, "utf8");
    let first = true;
    try {
      for await (const line of createInterface({ input, crlfDelay: Infinity })) {
        yield first ? line.replace(/^\ufeff/, "") : line;
        first = false;
      }
    } catch (error) {
      throw new FileError(file, reason(error as NodeJS.ErrnoException));
    }
  }
}

/** The text of a file or of standard input (`-`), in pieces. */
export async function* textPieces(file: string): AsyncGenerator<string> {
  const input = file === "-" ? process.stdin.setEncoding("utf8") : createReadStream(file, "utf8");
  try {
    for await (const piece of input) yield piece as string;
  } catch (error) {
    throw new FileError(file, reason(error as NodeJS.ErrnoException));
  }
}

export function reason(error: NodeJS.ErrnoException): string {
  if (error.code === "ENOENT") return "there is no such file";
  if (error.code === "EACCES") return "this file may not be read";
  if (error.code === "EISDIR") return "this is a folder, not a file";
  return error.message;
}

/** Items of a file: JSON Lines, or CSV with a header row. @throws {FileError} with line and column of what is wrong. */
export async function* itemRecords(file: string): AsyncGenerator<ItemRecord> {
  const lines = textLines([file]);
  const first = await nextFilled(lines);
  if (first === null) return;
  if (first.text.trimStart().startsWith("{")) {
    yield jsonRecord(file, first.text, first.number);
    let number = first.number;
    for await (const text of lines) {
      number++;
      if (text.trim() !== "") yield jsonRecord(file, text, number);
    }
    return;
  }
  yield* csvRecords(file, first, lines);
}

async function nextFilled(lines: AsyncGenerator<string>): Promise<{ text: string; number: number } | null> {
  for (let number = 1; ; number++) {
    const next = await lines.next();
    if (next.done) return null;
    if (next.value.trim() !== "") return { text: next.value, number };
  }
}

function jsonRecord(file: string, text: string, line: number): ItemRecord {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    const at = /position (\d+)/.exec(error instanceof Error ? error.message : "");
    throw new FileError(file, `this line is not JSON: ${error instanceof Error ? error.message : ""}`, {
      line,
      column: at ? Number(at[1]) + 1 : 1,
    });
  }
  if (typeof value !== "object" || value === null || Array.isArray(value))
    throw new FileError(file, 'an item is an object such as {"id": 1, "name": "Deck cleat"}', { line, column: 1 });
  return flattened(value as Record<string, unknown>);
}

const MOST_DEPTH = 100;

/** Objects inside an item become fields with a dot: `{size: {range}}` is `size.range`. */
function flattened(value: Record<string, unknown>, prefix = "", depth = 0): ItemRecord {
  const entries: [string, unknown][] = [];
  // Deeper than any field's name can be written: what is below is left behind.
  if (depth > MOST_DEPTH) return {};
  for (const [key, inner] of Object.entries(value)) {
    if (typeof inner === "object" && inner !== null && !Array.isArray(inner))
      entries.push(...Object.entries(flattened(inner as Record<string, unknown>, `${prefix}${key}.`, depth + 1)));
    else entries.push([`${prefix}${key}`, inner]);
  }
  return Object.fromEntries(entries);
}

async function* csvRecords(
  file: string,
  first: { text: string; number: number },
  rest: AsyncGenerator<string>,
): AsyncGenerator<ItemRecord> {
  const delimiter = [",", ";", "\t"].reduce(
    (best, d) => (first.text.split(d).length > first.text.split(best).length ? d : best),
    ",",
  );
  const parser = parse({ delimiter, relax_column_count_less: true, skip_empty_lines: true });
  void (async () => {
    try {
      parser.write(`${first.text}\n`);
      for await (const text of rest)
        if (!parser.write(`${text}\n`)) await new Promise((resolve) => parser.once("drain", resolve));
      parser.end();
    } catch (error) {
      parser.destroy(error as Error);
    }
  })();
  let header: string[] | null = null;
  try {
    for await (const row of parser as AsyncIterable<string[]>) {
      if (header === null) header = row.map((name) => (/^[\p{L}\p{N}_.]+$/u.test(name) ? name : fieldName(name)));
      else yield Object.fromEntries(header.map((name, i) => [name, row[i] ?? ""]));
    }
  } catch (error) {
    const { lines: line, column, message } = error as { lines?: number; column?: number | string; message: string };
    if (error instanceof FileError) throw error;
    throw new FileError(
      file,
      message,
      line === undefined
        ? undefined
        : { line: line + first.number - 1, column: typeof column === "number" ? column + 1 : 1 },
    );
  }
}
