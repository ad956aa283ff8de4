/** A record of a CSV text: its cells, and the physical line that it begins on. */
export interface CsvRecord {
  readonly line: number;
  readonly cells: readonly string[];
}

/** A stretch of a CSV text that is no record, up to the line from which on reading went on. */
export interface BrokenRecord {
  readonly line: number;
  readonly content: string;
  readonly reason: string;
}

export type ReadRecord = CsvRecord | BrokenRecord;

/** So much text of a broken record is kept. */
const MOST_CONTENT = 2000;
/** So many characters a record may have: beyond them a quote was opened and never closed. */
const MOST_RECORD = 8 * 1024 * 1024;
/** So much of what was read already is kept before it is let go. */
const MOST_BEHIND = 1 << 20;

/** Lines of so many columns each are no chance; with fewer columns it takes so many lines. */
const TELLING_COLUMNS = 4;
const TELLING_LINES = 10;

const QUOTE = 34;
const LINE_FEED = 10;
const RETURN = 13;

const STRAY = "Something stands behind a quote that closes a text: double the quotes inside a text that is in quotes.";
const UNCLOSED = "A quote opens here and never closes.";
const SWALLOWED = "A quote opens here and closes only in a later row: what it took in are rows of their own.";

type Parsed =
  | { readonly type: "record"; readonly cells: string[]; readonly end: number; readonly breaks: number }
  | { readonly type: "broken"; readonly reason: string }
  /** The text ends before the record does. */
  | { readonly type: "open" };

/**
 * Reads records of RFC 4180 from text that comes in pieces, and goes on after what is none: a record that breaks ends where a
 * line begins that is a record of as many cells as the header has. A quote inside a text that is not in quotes stands for itself:
 * `5" pipe`. Nothing is left out but empty lines.
 */
export class RecordReader {
  private text = "";
  private at = 0;

  /**
   * @param columns how many cells the header has; `null` where the first record says so.
   * @param line the physical line that the text begins on.
   */
  constructor(
    private readonly delimiter: string,
    private columns: number | null = null,
    private line = 1,
  ) {}

  /** Takes the next piece of the text; gives the records that are whole by now. */
  *push(piece: string): Generator<ReadRecord> {
    if (this.at > MOST_BEHIND || this.at === this.text.length) {
      this.text = this.text.slice(this.at);
      this.at = 0;
    }
    this.text += piece;
    yield* this.read(false);
  }

  /** The text is at its end: gives what is left of it. */
  *end(): Generator<ReadRecord> {
    yield* this.read(true);
  }

  private *read(isEnd: boolean): Generator<ReadRecord> {
    while (this.at < this.text.length) {
      const parsed = parseRecord(this.text, this.at, this.delimiter, isEnd);
      const tooLong = parsed.type === "open" && this.text.length - this.at > MOST_RECORD;
      if (parsed.type === "open" && !isEnd && !tooLong) return;
      if (parsed.type === "record" && !this.isSwallowed(parsed)) {
        const { cells, end, breaks } = parsed;
        const line = this.line;
        this.line += breaks + 1;
        this.at = end;
        if (cells.length === 1 && cells[0]!.trim() === "") continue;
        this.columns ??= cells.length;
        yield { line, cells };
        continue;
      }
      const next = this.nextRecord(isEnd);
      if (next === null) return;
      const reason = parsed.type === "broken" ? parsed.reason : parsed.type === "open" ? UNCLOSED : SWALLOWED;
      yield {
        line: this.line,
        content: this.text.slice(this.at, Math.min(next.at, this.at + MOST_CONTENT)).trimEnd(),
        reason,
      };
      this.line += next.lines;
      this.at = next.at;
    }
  }

  /**
   * Whether a record of several lines is none: it has another number of cells than the header, or all of its lines have as many as the
   * header each, so that a quote that was never meant to open has taken them in. A text may have such lines, too: with few
   * columns it takes many of them.
   */
  private isSwallowed({ cells, end, breaks }: Parsed & { type: "record" }): boolean {
    const { columns } = this;
    if (breaks === 0 || columns === null) return false;
    if (cells.length !== columns) return true;
    if (breaks < (columns >= TELLING_COLUMNS ? 2 : TELLING_LINES)) return false;
    const lines = this.text.slice(this.at, end).split(/\r\n|\n|\r/);
    if (lines.at(-1) === "") lines.pop();
    return lines.every((line, i) => {
      if (i === 0 || i === lines.length - 1) return line.split(this.delimiter).length === columns;
      const inner = parseRecord(line, 0, this.delimiter, true);
      return inner.type === "record" && inner.cells.length === columns;
    });
  }

  /** Where the next record begins behind a broken one, and how many lines on that is; `null` where more text has to come first. */
  private nextRecord(isEnd: boolean): { readonly at: number; readonly lines: number } | null {
    for (let at = this.at, lines = 0; ;) {
      at = lineAfter(this.text, at);
      lines++;
      if (at >= this.text.length) return isEnd ? { at, lines } : null;
      const candidate = parseRecord(this.text, at, this.delimiter, isEnd);
      if (candidate.type === "open" && !isEnd && this.text.length - at <= MOST_RECORD) return null;
      if (candidate.type === "record" && (this.columns === null || candidate.cells.length === this.columns))
        return { at, lines };
    }
  }
}

/** Where the line after the one of an offset begins. */
function lineAfter(text: string, from: number): number {
  for (let at = from; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === LINE_FEED) return at + 1;
    if (code === RETURN) return text.charCodeAt(at + 1) === LINE_FEED ? at + 2 : at + 1;
  }
  return text.length;
}

/** The record that begins at an offset. */
function parseRecord(text: string, from: number, delimiter: string, isEnd: boolean): Parsed {
  const part = delimiter.charCodeAt(0);
  const cells: string[] = [];
  let breaks = 0;
  for (let at = from; ;) {
    let cell: string;
    if (text.charCodeAt(at) === QUOTE) {
      const closed = closingQuote(text, at, isEnd);
      if (closed < 0) return { type: "open" };
      cell = text.slice(at + 1, closed);
      breaks += lineBreaks(cell);
      if (cell.includes('"')) cell = cell.replaceAll('""', '"');
      at = closed + 1;
      while (text.charCodeAt(at) === 32) at++;
    } else {
      const start = at;
      for (; at < text.length; at++) {
        const code = text.charCodeAt(at);
        if (code === part || code === LINE_FEED || code === RETURN) break;
      }
      cell = text.slice(start, at);
    }
    if (at >= text.length) {
      if (!isEnd) return { type: "open" };
      cells.push(cell);
      return { type: "record", cells, end: at, breaks };
    }
    const code = text.charCodeAt(at);
    cells.push(cell);
    if (code === part) at++;
    else if (code === LINE_FEED) return { type: "record", cells, end: at + 1, breaks };
    else if (code === RETURN) {
      // The line feed that belongs to it may be in the next piece.
      if (at + 1 === text.length && !isEnd) return { type: "open" };
      return { type: "record", cells, end: text.charCodeAt(at + 1) === LINE_FEED ? at + 2 : at + 1, breaks };
    } else return { type: "broken", reason: STRAY };
  }
}

/** Where the quote is that closes the one at an offset, -1 where it is not there (yet). */
function closingQuote(text: string, open: number, isEnd: boolean): number {
  for (let at = open + 1; ; at += 2) {
    at = text.indexOf('"', at);
    if (at < 0 || (at + 1 === text.length && !isEnd)) return -1;
    if (text.charCodeAt(at + 1) !== QUOTE) return at;
  }
}

/** How many line breaks a text has. */
export function lineBreaks(cell: string): number {
  let count = 0;
  for (let at = 0; at < cell.length; at = lineAfter(cell, at)) {
    const next = lineAfter(cell, at);
    const last = cell.charCodeAt(next - 1);
    if (last === LINE_FEED || last === RETURN) count++;
  }
  return count;
}
