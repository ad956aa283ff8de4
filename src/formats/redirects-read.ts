import { hostOf, readRedirect, type Redirect, RedirectError, type WrittenRedirect } from "../core/addresses/redirect";
import { RecordReader } from "./records";

/** A row of a file of redirects as it is written there. */
export interface WrittenRow extends WrittenRedirect {
  /** The physical line that it begins on, from 1. */
  readonly line: number;
}

/** A row that is no redirect, and why in words. */
export interface RefusedRedirect {
  readonly line: number;
  readonly content: string;
  readonly reason: string;
}

/** What a file of redirects holds: each of its rows is in one of the two. */
export interface RedirectFile {
  readonly redirects: readonly { readonly line: number; readonly redirect: Redirect }[];
  readonly refused: readonly RefusedRedirect[];
}

const NAMES = {
  from: [
    "from",
    "old",
    "source",
    "src",
    "origin",
    "old url",
    "old path",
    "source url",
    "request",
    "from url",
    "von",
    "alt",
    "quelle",
    "de",
    "ancien",
    "origen",
    "van",
    "oud",
  ],
  to: [
    "to",
    "new",
    "target",
    "destination",
    "location",
    "new url",
    "new path",
    "target url",
    "redirect to",
    "to url",
    "nach",
    "neu",
    "ziel",
    "vers",
    "nouveau",
    "destino",
    "naar",
    "nieuw",
  ],
  status: ["status", "code", "type", "status code", "http status", "http code", "redirect type", "statut", "estado"],
  prefix: ["prefix", "is prefix"],
} as const;
type Column = keyof typeof NAMES;

/**
 * Reads redirects of a CSV with a header in any column order and naming, of pairs without a header, of plain lines `from to status`, or
 * of JSON Lines. What is no redirect is given back with its line and why; nothing is left out but empty lines and comments.
 *
 * @param pieces the text, in pieces of any size.
 * @param isOwn whether a host is the site’s own; hosts of old paths always are.
 */
export async function readRedirects(
  pieces: AsyncIterable<string> | Iterable<string>,
  isOwn: (host: string) => boolean = () => false,
): Promise<RedirectFile> {
  const rows: WrittenRow[] = [];
  const refused: RefusedRedirect[] = [];
  for await (const row of writtenRows(pieces)) ("reason" in row ? refused : rows).push(row as never);
  const hosts = new Set(rows.flatMap(({ from }) => hostOf(from) ?? []));
  const redirects: { line: number; redirect: Redirect }[] = [];
  for (const row of rows) {
    try {
      redirects.push({ line: row.line, redirect: readRedirect(row, (host) => hosts.has(host) || isOwn(host)) });
    } catch (error) {
      if (!(error instanceof RedirectError)) throw error;
      refused.push({
        line: row.line,
        content: [row.from, row.to, row.status].filter(Boolean).join(" "),
        reason: error.message,
      });
    }
  }
  return { redirects, refused: refused.sort((a, b) => a.line - b.line) };
}

async function* writtenRows(
  pieces: AsyncIterable<string> | Iterable<string>,
): AsyncGenerator<WrittenRow | RefusedRedirect> {
  let head = "";
  let rest: AsyncIterator<string> | Iterator<string> | null = null;
  const iterator = Symbol.asyncIterator in pieces ? pieces[Symbol.asyncIterator]() : pieces[Symbol.iterator]();
  // The first filled line says what the file is.
  while (rest === null) {
    const next = await iterator.next();
    if (next.done) break;
    head += next.value;
    if (firstRow(head, false) !== null) rest = iterator;
  }
  head = head.replace(/^\ufeff/, "");
  if (head.trim() === "") return;
  const all = rejoined(head, rest);
  const first = firstRow(head, true) ?? "";
  if (first.startsWith("{")) yield* jsonRows(all);
  else if (delimiterOf(first) === null) yield* plainRows(all);
  else yield* csvRows(all, delimiterOf(first)!);
}

/** The first line that is neither empty nor a comment. @param isWhole whether the last line of the text is at its end. */
function firstRow(text: string, isWhole: boolean): string | null {
  const lines = text.split("\n");
  if (!isWhole) lines.pop();
  return (
    lines.map((line) => line.replace(/^\ufeff/, "").trim()).find((line) => line !== "" && !line.startsWith("#")) ?? null
  );
}

async function* rejoined(head: string, rest: AsyncIterator<string> | Iterator<string> | null): AsyncGenerator<string> {
  yield head;
  for (let next = await rest?.next(); next && !next.done; next = await rest?.next()) yield next.value;
}

/** What stands between cells; `null` where white space does. */
function delimiterOf(line: string): string | null {
  const counted = [",", ";", "\t", "|"].map((sign) => ({ sign, count: line.split(sign).length - 1 }));
  const best = counted.reduce((a, b) => (b.count > a.count ? b : a));
  if (best.count === 0) return null;
  // A path may hold a comma or a semicolon: pairs with white space between are no table for it.
  return best.sign !== "\t" && /^\s*\/\S*\s+\S/.test(line) ? null : best.sign;
}

async function* textRows(pieces: AsyncIterable<string>): AsyncGenerator<{ line: number; text: string }> {
  let open = "";
  let line = 0;
  for await (const piece of pieces) {
    const lines = (open + piece).split("\n");
    open = lines.pop()!;
    for (const text of lines) yield { line: ++line, text: text.trim() };
  }
  if (open !== "") yield { line: line + 1, text: open.trim() };
}

async function* plainRows(pieces: AsyncIterable<string>): AsyncGenerator<WrittenRow | RefusedRedirect> {
  for await (const { line, text } of textRows(pieces)) {
    if (text === "" || text.startsWith("#")) continue;
    const cells = text.split(/\s+/).filter((cell) => cell !== "->" && cell !== "→");
    const [from = "", second = "", third = ""] = cells;
    // What says that a page stays is no redirect.
    if (third === "200" && from === second) continue;
    const isGone = second === "410" && third === "";
    if (cells.length > 3)
      yield { line, content: text, reason: "There are more than an old path, a new one and a status" };
    else yield { line, from, to: isGone ? "" : starOf(second), status: isGone ? second : third.replace(/!$/, "") };
  }
}

/** The plain form that static hosts read writes what was kept as a name. */
function starOf(target: string): string {
  return target.endsWith("/:splat") ? `${target.slice(0, -":splat".length)}*` : target;
}

async function* jsonRows(pieces: AsyncIterable<string>): AsyncGenerator<WrittenRow | RefusedRedirect> {
  for await (const { line, text } of textRows(pieces)) {
    if (text === "") continue;
    let value: unknown;
    try {
      value = JSON.parse(text);
    } catch (error) {
      yield { line, content: text.slice(0, 2000), reason: `This line is not JSON: ${(error as Error).message}` };
      continue;
    }
    if (typeof value !== "object" || value === null || Array.isArray(value)) {
      yield {
        line,
        content: text.slice(0, 2000),
        reason: 'A redirect is an object such as {"from": "/a", "to": "/b"}',
      };
      continue;
    }
    const entries = Object.entries(value as Record<string, unknown>);
    const names = columnsOf(entries.map(([name]) => name));
    const of = (column: Column) => {
      const own = names[column] === undefined ? undefined : entries[names[column]]![1];
      return own === null || own === undefined
        ? ""
        : typeof own === "object"
          ? JSON.stringify(own)
          : String(own as string);
    };
    yield { line, from: of("from"), to: of("to"), status: of("status"), prefix: saidOf(of("prefix")) };
  }
}

async function* csvRows(
  pieces: AsyncIterable<string>,
  delimiter: string,
): AsyncGenerator<WrittenRow | RefusedRedirect> {
  const reader = new RecordReader(delimiter);
  let columns: Partial<Record<Column, number>> | null = null;
  const rowsOf = function* (records: ReturnType<RecordReader["end"]>): Generator<WrittenRow | RefusedRedirect> {
    for (const record of records) {
      if ("reason" in record) {
        yield record;
        continue;
      }
      const cells = record.cells.map((cell) => cell.trim());
      if (cells.every((cell) => cell === "") || cells[0]!.startsWith("#")) continue;
      if (columns === null) {
        const named = columnsOf(cells);
        const isHeader = named.from !== undefined || !cells.some(looksLikePath);
        columns = named.from !== undefined && named.to !== undefined ? named : { from: 0, to: 1, status: 2 };
        if (isHeader) continue;
      }
      const of = (column: Column) => cells[columns![column] ?? -1] ?? "";
      yield {
        line: record.line,
        from: ownText(of("from")),
        to: ownText(of("to")),
        status: of("status"),
        prefix: saidOf(of("prefix")),
      };
    }
  };
  for await (const piece of pieces) yield* rowsOf(reader.push(piece));
  yield* rowsOf(reader.end());
}

/** What a cell says of a yes or no; nothing where it is empty. */
function saidOf(cell: string): boolean | undefined {
  return cell === "" ? undefined : /^(?:true|1|yes|y)$/i.test(cell);
}

/** A cell without the apostrophe that kept a spreadsheet from reading it as a formula. */
function ownText(cell: string): string {
  return /^'[=+\-@]/.test(cell) ? cell.slice(1) : cell;
}

function looksLikePath(cell: string): boolean {
  return cell.startsWith("/") || /^https?:\/\//i.test(cell);
}

/** Which place each column has, told by its name. */
function columnsOf(names: readonly string[]): Partial<Record<Column, number>> {
  const plain = names.map((name) =>
    name
      .trim()
      .toLowerCase()
      .replace(/[_\-.\s]+/g, " "),
  );
  const found: Partial<Record<Column, number>> = {};
  for (const column of Object.keys(NAMES) as Column[]) {
    const at = NAMES[column].map((name) => plain.indexOf(name)).find((place) => place >= 0);
    if (at !== undefined) found[column] = at;
  }
  return found;
}
