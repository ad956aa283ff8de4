import {
  type Caret,
  type FieldNode,
  type FilterCall,
  type Line,
  type LineError,
  type Node,
  type PieceNode,
  type Source,
  type Span,
} from "./ast";
import { argumentError, filterByName, FILTERS } from "./filters";
import { nearest } from "./near";

/** Beyond this many characters a line is refused: no text has room for it. */
export const MAX_LINE_LENGTH = 20_000;
/** Beyond this many pieces inside one another a line is refused. */
export const MAX_DEPTH = 40;
/** Beyond this many pieces a line is refused: each may have to give way for every item. */
export const MAX_PIECES = 120;

/** Which field names exist; without it every well-formed name is taken. */
export interface KnownFields {
  has(name: string): boolean;
  names(): Iterable<string>;
}

const SPECIAL = "{}[]|^\\";
const NAME = /[\p{L}\p{N}_.]/u;

/**
 * Parses a line of the line language. Never throws: what is wrong stands in `errors` with its place in the source, and
 * what could be read stands in `nodes`.
 *
 * @example parseLine("{name}[ – {category}]").nodes.length // 2
 */
export function parseLine(source: string, known?: KnownFields): Line {
  if (source.length > MAX_LINE_LENGTH) {
    const message = `The line is ${source.length.toLocaleString("en")} characters long; ${MAX_LINE_LENGTH.toLocaleString("en")} are the most`;
    return { source, nodes: [], errors: [{ from: MAX_LINE_LENGTH, to: source.length, message }] };
  }
  const parser = new Parser(source, known);
  const nodes = parser.parse();
  const errors = parser.errors.sort((a, b) => a.from - b.from);
  return { source, nodes, errors };
}

class Parser {
  readonly errors: LineError[] = [];
  private at = 0;
  private fitSeen = false;
  private pieces = 0;

  constructor(
    private readonly source: string,
    private readonly known: KnownFields | undefined,
  ) {}

  parse(): Node[] {
    const nodes: Node[] = [];
    for (;;) {
      nodes.push(...this.nodes(0, false));
      if (this.at >= this.source.length) return nodes;
      // Only a closing bracket without its opening stops the walk at the top.
      this.fail(
        this.at,
        this.at + 1,
        "This ] closes a piece that was never opened; write \\] for a bracket in the text",
      );
      this.at++;
    }
  }

  private nodes(depth: number, inPiece: boolean): Node[] {
    const nodes: Node[] = [];
    let text = "";
    let textFrom = this.at;
    const flush = () => {
      if (text) nodes.push({ type: "text", from: textFrom, to: this.at, value: text });
      text = "";
    };
    while (this.at < this.source.length) {
      const char = this.source[this.at]!;
      if (text === "") textFrom = this.at;
      if (char === "\\" && SPECIAL.includes(this.source[this.at + 1] ?? " ")) {
        text += this.source[this.at + 1];
        this.at += 2;
      } else if (char === "{") {
        flush();
        const field = this.field();
        if (field) nodes.push(field);
      } else if (char === "}") {
        this.fail(
          this.at,
          this.at + 1,
          "This } closes a field that was never opened; write \\} for a brace in the text",
        );
        this.at++;
      } else if (char === "[") {
        flush();
        const piece = this.piece(depth + 1);
        if (piece) nodes.push(piece);
      } else if (char === "]") {
        break;
      } else if (char === "|" && this.source[this.at + 1] === "|") {
        if (inPiece) break;
        this.fail(
          this.at,
          this.at + 2,
          "|| stands between alternatives inside [ … ]; write \\|\\| for bars in the text",
        );
        this.at += 2;
      } else {
        text += char;
        this.at++;
      }
    }
    flush();
    return nodes;
  }

  private piece(depth: number): PieceNode | null {
    const from = this.at;
    if (depth > MAX_DEPTH) {
      this.fail(from, this.source.length, `More than ${MAX_DEPTH} pieces are nested`);
      this.at = this.source.length;
      return null;
    }
    if (++this.pieces > MAX_PIECES) {
      this.fail(from, this.source.length, `More than ${MAX_PIECES} pieces are in one line`);
      this.at = this.source.length;
      return null;
    }
    this.at++;
    const alternatives: Node[][] = [this.nodes(depth, true)];
    while (this.source.startsWith("||", this.at)) {
      this.at += 2;
      alternatives.push(this.nodes(depth, true));
    }
    if (this.source[this.at] !== "]") {
      if (this.errors.every((error) => error.to < this.source.length))
        this.fail(from, from + 1, "This [ is never closed; a piece ends with ]");
      return { type: "piece", from, to: this.at, alternatives, caret: null };
    }
    this.at++;
    const caret = this.caret();
    return { type: "piece", from, to: this.at, alternatives, caret };
  }

  private caret(): (Caret & Span) | null {
    if (this.source[this.at] !== "^") return null;
    const from = this.at;
    const word = /^\^(\p{L}+|\d+)?/u.exec(this.source.slice(from, from + 24))![1] ?? "";
    this.at += 1 + word.length;
    const to = this.at;
    if (/^\d+$/.test(word) && Number(word) >= 1 && Number(word) <= 99)
      return { type: "order", order: Number(word), from, to };
    const name = word.toLowerCase();
    if (name === "keep" || name === "apart") return { type: name, from, to };
    const near = nearest(name, ["keep", "apart"]);
    this.fail(
      from,
      to,
      near
        ? `There is no ^${word}; did you mean ^${near}?`
        : "After ] a ^ takes a number from 1 to 99, keep or apart; write \\^ for a caret in the text",
      near,
    );
    return null;
  }

  private field(): FieldNode | null {
    const from = this.at;
    const errorsBefore = this.errors.length;
    this.at++;
    const sources: Source[] = [];
    const filters: FilterCall[] = [];
    for (;;) {
      this.spaces();
      const source = this.fieldSource();
      if (!source) break;
      sources.push(source);
      this.spaces();
      if (!/^or(?![\p{L}\p{N}_.])/iu.test(this.source.slice(this.at, this.at + 4))) break;
      this.at += 2;
    }
    this.spaces();
    while (this.errors.length === errorsBefore && this.source[this.at] === ":") {
      this.at++;
      this.spaces();
      const call = this.filter();
      if (call) filters.push(call);
      this.spaces();
    }
    const fit = filters.findIndex((filter) => filter.name === "fit");
    if (fit >= 0) {
      const call = filters[fit]!;
      if (this.fitSeen) this.fail(call.from, call.to, "A line has room for one “fit” only");
      else if (fit < filters.length - 1)
        this.fail(call.from, call.to, "“fit” must come last: nothing can change the text after it is fitted");
      this.fitSeen = true;
    }
    if (this.source[this.at] === "}") {
      this.at++;
      return sources.length > 0 && this.errors.length === errorsBefore
        ? { type: "field", from, to: this.at, sources, filters }
        : null;
    }
    if (this.errors.length === errorsBefore) {
      const next = this.source[this.at];
      const closes = this.source.indexOf("}", this.at);
      if (closes < 0 || next === "{" || next === "[" || next === "]")
        this.fail(from, from + 1, "This { is never closed; a field ends with }");
      else
        this.fail(
          this.at,
          this.at + 1,
          `“${next}” does not belong in a field; after its name come “or”, “:” and a filter, or “}”`,
        );
    }
    // Go on behind the field's end, so that one slip is one error.
    const close = this.source.indexOf("}", this.at);
    const open = this.source.indexOf("{", this.at);
    this.at = close >= 0 && (open < 0 || close < open) ? close + 1 : open >= 0 ? open : this.source.length;
    return null;
  }

  private fieldSource(): Source | null {
    const from = this.at;
    if (this.source[from] === '"') {
      const value = this.quoted();
      return value === null ? null : { type: "literal", value, from, to: this.at };
    }
    const word = this.word();
    if (word === "") {
      if (this.at >= this.source.length) return null;
      this.fail(
        from,
        Math.min(from + 1, this.source.length),
        this.source[from] === "}"
          ? "A field needs a name, such as {name}"
          : `A field's name begins with a letter, not “${this.source[from]}”`,
      );
      return null;
    }
    const name = word.toLowerCase().normalize("NFC");
    if (this.known && !this.known.has(name)) {
      const near = nearest(name, this.known.names());
      this.fail(
        from,
        this.at,
        near ? `There is no field “${word}”; did you mean “${near}”?` : `There is no field “${word}”`,
        near,
      );
    }
    return { type: "name", name, from, to: this.at };
  }

  private filter(): FilterCall | null {
    const from = this.at;
    const word = this.word();
    const name = word.toLowerCase();
    const nameEnd = this.at;
    const args: string[] = [];
    if (this.source[this.at] === "(") {
      this.at++;
      this.spaces();
      while (this.at < this.source.length && this.source[this.at] !== ")") {
        const arg = this.argument();
        if (arg === null) return null;
        args.push(arg);
        this.spaces();
        if (this.source[this.at] === ",") {
          this.at++;
          this.spaces();
          if (this.source[this.at] === ")") args.push("");
        }
      }
      if (this.source[this.at] !== ")") {
        this.fail(nameEnd, nameEnd + 1, "This ( is never closed; a filter's arguments end with )");
        return null;
      }
      this.at++;
    }
    const filter = filterByName(name);
    if (!filter) {
      const near = nearest(
        name,
        FILTERS.map((f) => f.name),
      );
      const message =
        word === ""
          ? "After : comes a filter, such as lower"
          : near
            ? `There is no filter “${word}”; did you mean “${near}”?`
            : `There is no filter “${word}”`;
      this.fail(from, Math.max(nameEnd, Math.min(from + 1, this.source.length)), message, near);
      return null;
    }
    const wrong = argumentError(filter, args);
    if (wrong) {
      this.fail(from, this.at, wrong);
      return null;
    }
    if (name === "without") {
      const field = args[0]!.toLowerCase().normalize("NFC");
      if (this.known && !this.known.has(field)) {
        const near = nearest(field, this.known.names());
        this.fail(
          nameEnd + 1,
          this.at - 1,
          near ? `There is no field “${field}”; did you mean “${near}”?` : `There is no field “${field}”`,
          near,
        );
        return null;
      }
      return { name, args: [field], from, to: this.at };
    }
    return { name, args, from, to: this.at };
  }

  private argument(): string | null {
    if (this.source[this.at] === '"') return this.quoted();
    const from = this.at;
    while (this.at < this.source.length && !",){}[]".includes(this.source[this.at]!)) this.at++;
    if (this.at >= this.source.length || "{}[]".includes(this.source[this.at]!)) {
      this.fail(
        from,
        Math.min(from + 1, this.source.length),
        "A filter's arguments end with ); put “\"” around a text that holds brackets",
      );
      return null;
    }
    return this.source.slice(from, this.at).trim();
  }

  private quoted(): string | null {
    const from = this.at;
    let value = "";
    this.at++;
    while (this.at < this.source.length) {
      const char = this.source[this.at]!;
      if (char === '"') {
        this.at++;
        return value;
      }
      if (char === "\\" && '"\\'.includes(this.source[this.at + 1] ?? " ")) this.at++;
      value += this.source[this.at];
      this.at++;
    }
    this.fail(from, from + 1, "This quote is never closed");
    return null;
  }

  private word(): string {
    const from = this.at;
    while (this.at < this.source.length && NAME.test(this.source[this.at]!)) this.at++;
    return this.source.slice(from, this.at);
  }

  private spaces(): void {
    while (this.source[this.at] === " " || this.source[this.at] === "\t" || this.source[this.at] === "\n") this.at++;
  }

  private fail(from: number, to: number, message: string, near?: string): void {
    this.errors.push(near === undefined ? { from, to, message } : { from, to, message, near });
  }
}
