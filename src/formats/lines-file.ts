import { LINES_FILE_KEYS, linesFileSchema } from "../core/design/schema";
import { Refusal } from "../core/refusal";
import { type LinesFile } from "../core/design/design";
import { nearest } from "../core/lines/near";
import { type Line } from "../core/lines/ast";

/** A file that cannot be used: what is wrong with it and where, with the line and column where they are known. */
export class FileError extends Refusal {
  constructor(file: string, message: string, place?: { line: number; column: number }) {
    super("invalid", place ? `${file}:${place.line}:${place.column}: ${message}` : `${file}: ${message}`);
  }
}

/** @throws {FileError} with line and column where the JSON is broken, or the path of the value that is wrong. */
export function readLinesFile(file: string, text: string): LinesFile {
  let json: unknown;
  try {
    json = JSON.parse(text.replace(/^\ufeff/, ""));
  } catch (error) {
    throw new FileError(
      file,
      `this is not JSON: ${error instanceof Error ? error.message : ""}`,
      jsonErrorPlace(text, error),
    );
  }
  json = withAddressLines(json);
  const parsed = linesFileSchema.safeParse(json);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    throw new FileError(
      file,
      `${issue.path.length > 0 ? `at ${issue.path.join(".")}: ` : ""}${issue.message}`,
      placeOfPath(text, issue.path),
    );
  }
  const unknown = unknownKey(json, parsed.data, []);
  if (unknown) {
    const key = String(unknown.at(-1));
    const near = nearest(key, LINES_FILE_KEYS);
    const inside = unknown.length > 1 ? `at ${unknown.slice(0, -1).join(".")}: ` : "";
    throw new FileError(
      file,
      `${inside}there is no key “${key}”${near ? `; did you mean “${near}”?` : ""}`,
      placeOfPath(text, unknown),
    );
  }
  return parsed.data;
}

/** An older file has a kind’s address line among the site’s settings, as a path. */
function withAddressLines(json: unknown): unknown {
  const file = json as { site?: { paths?: unknown }; kinds?: Record<string, object> } | null;
  const paths = file?.site?.paths;
  if (typeof paths !== "object" || paths === null) return json;
  const { paths: _, ...site } = file!.site!;
  const kinds = { ...file!.kinds };
  for (const [kind, address] of Object.entries(paths)) kinds[kind] = { address: address as string, ...kinds[kind] };
  return { ...file, site, kinds };
}

/** The path of the first key that a file has and its reading has not: reading leaves out what it does not know. */
function unknownKey(given: unknown, read: unknown, path: readonly PropertyKey[]): readonly PropertyKey[] | null {
  if (Array.isArray(given) && Array.isArray(read)) {
    for (const [i, own] of given.entries()) {
      const found = unknownKey(own, read[i], [...path, i]);
      if (found) return found;
    }
    return null;
  }
  if (typeof given !== "object" || given === null || typeof read !== "object" || read === null) return null;
  for (const [key, own] of Object.entries(given)) {
    if (!Object.hasOwn(read, key)) return [...path, key];
    const found = unknownKey(own, (read as Record<string, unknown>)[key], [...path, key]);
    if (found) return found;
  }
  return null;
}

/** Line and column, from 1, of an offset in a text. */
export function placeOf(text: string, offset: number): { line: number; column: number } {
  const before = text.slice(0, offset);
  const line = before.split("\n").length;
  return { line, column: offset - before.lastIndexOf("\n") };
}

function jsonErrorPlace(text: string, error: unknown): { line: number; column: number } {
  const at = /position (\d+)/.exec(error instanceof Error ? error.message : "");
  return placeOf(text, at ? Number(at[1]) : text.length);
}

/** Where the key that a path ends in stands, found key by key; the file's beginning where it is not found. */
function placeOfPath(text: string, path: readonly PropertyKey[]): { line: number; column: number } {
  let at = 0;
  for (const key of path) {
    if (typeof key !== "string") continue;
    const found = text.indexOf(JSON.stringify(key), at);
    if (found < 0) break;
    at = found;
  }
  return placeOf(text, at);
}

/** An error of a line inside a lines file, placed in the file. */
export function lineErrorIn(file: string, text: string, line: Line): FileError {
  const error = line.errors[0]!;
  const quoted = JSON.stringify(line.source);
  const start = text.indexOf(quoted);
  const place =
    start >= 0 ? placeOf(text, start + 1 + JSON.stringify(line.source.slice(0, error.from)).length - 2) : undefined;
  return new FileError(file, `${error.message} (character ${error.from + 1} of the line ${quoted})`, place);
}
