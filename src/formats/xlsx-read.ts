import { TableError, type TableRow } from "./table";
import { readXml, seeXml } from "./xml-events";
import { type ZipParts } from "./zip-file";

/** A workbook's sheets by their names, and how their cells are read (Office Open XML, ECMA-376). */
export interface Workbook {
  readonly sheets: ReadonlyMap<string, string>;
  /** Days are counted from 1904 and not from 1900. */
  readonly is1904: boolean;
  readonly strings: readonly string[];
  /** By the number of a cell's style whether it shows a date, and whether with a time. */
  readonly dates: readonly (DateStyle | null)[];
}

type DateStyle = "day" | "time";

const RELATIONS = "xl/_rels/workbook.xml.rels";

/** @throws {TableError} for a file that is no workbook. */
export async function readWorkbook(zip: ZipParts): Promise<Workbook> {
  const targets = new Map<string, string>();
  await seeXml(zip.text(RELATIONS), RELATIONS, {
    open: (name, { Id, Target }) => {
      if (name === "Relationship") targets.set(Id!, Target!.startsWith("/") ? Target!.slice(1) : `xl/${Target!}`);
    },
  });
  const sheets = new Map<string, string>();
  let is1904 = false;
  await seeXml(zip.text("xl/workbook.xml"), "xl/workbook.xml", {
    open: (tag, { name, id, date1904 }) => {
      if (tag === "sheet" && targets.has(id ?? "")) sheets.set(name!, targets.get(id!)!);
      if (tag === "workbookPr") is1904 = date1904 === "1" || date1904 === "true";
    },
  });
  if (sheets.size === 0) throw new TableError("The workbook has no sheet.");
  return { sheets, is1904, strings: await sharedStrings(zip), dates: await dateStyles(zip) };
}

async function sharedStrings(zip: ZipParts): Promise<string[]> {
  const part = "xl/sharedStrings.xml";
  const strings: string[] = [];
  if (!zip.has(part)) return strings;
  const text = new TextRuns();
  await seeXml(zip.text(part), part, {
    open: (name) => {
      if (name === "si") text.begin();
      text.open(name);
    },
    text: (piece) => text.add(piece),
    close: (name) => {
      text.close(name);
      if (name === "si") strings.push(text.end());
    },
  });
  return strings;
}

/** The text of a cell that is made of runs; what is written above letters to say how they are read is none of it. */
class TextRuns {
  private text = "";
  private isText = false;
  private above = 0;

  begin(): void {
    this.text = "";
  }

  open(name: string): void {
    if (name === "rPh") this.above++;
    if (name === "t") this.isText = this.above === 0;
  }

  add(piece: string): void {
    if (this.isText) this.text += piece;
  }

  close(name: string): void {
    if (name === "rPh") this.above--;
    if (name === "t") this.isText = false;
  }

  end(): string {
    return unescaped(this.text);
  }
}

/** Characters that XML cannot hold, as the format writes them: `_x000D_` (ECMA-376, 22.9.2.19). */
function unescaped(text: string): string {
  return text.includes("_x")
    ? text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, code: string) => String.fromCharCode(Number.parseInt(code, 16)))
    : text;
}

/** The numbers of the formats that every workbook has for dates (ECMA-376, 18.8.30). */
const BUILT_IN_DAYS = [14, 15, 16, 17];
const BUILT_IN_TIMES = [18, 19, 20, 21, 22, 45, 46, 47];

async function dateStyles(zip: ZipParts): Promise<(DateStyle | null)[]> {
  const part = "xl/styles.xml";
  if (!zip.has(part)) return [];
  const formats = new Map<string, DateStyle | null>();
  const styles: (DateStyle | null)[] = [];
  let isCells = false;
  await seeXml(zip.text(part), part, {
    open: (name, { numFmtId, formatCode }) => {
      if (name === "numFmt") formats.set(numFmtId!, dateStyle(formatCode ?? ""));
      if (name === "cellXfs") isCells = true;
      if (name !== "xf" || !isCells) return;
      const id = Number(numFmtId);
      const builtIn = BUILT_IN_DAYS.includes(id) ? "day" : BUILT_IN_TIMES.includes(id) ? "time" : null;
      styles.push(formats.get(numFmtId ?? "") ?? builtIn);
    },
    close: (name) => {
      if (name === "cellXfs") isCells = false;
    },
  });
  return styles;
}

/** Whether a number format shows a date: its letters, outside of quotes, brackets and escapes, name days or hours. */
function dateStyle(format: string): DateStyle | null {
  const letters = format.split(";")[0]!.replace(/"[^"]*"|\[[^\]]*\]|\\.|_.|\*./g, "");
  if (/[hs]/i.test(letters)) return "time";
  return /[yd]/i.test(letters) ? "day" : null;
}

const DAY_MS = 24 * 3600 * 1000;
/** Day 0 of both ways to count; 1900 is taken for a leap year there, so that the count is right from 1 March 1900 on. */
const EPOCH_1900 = Date.UTC(1899, 11, 30);
const EPOCH_1904 = Date.UTC(1904, 0, 1);

/** @example serialDate(45000, "day", false) // "2023-03-15" */
function serialDate(serial: number, style: DateStyle, is1904: boolean): string {
  const ms = Math.round(((is1904 ? EPOCH_1904 : EPOCH_1900) + serial * DAY_MS) / 1000) * 1000;
  const date = new Date(ms);
  if (Number.isNaN(date.getTime())) return String(serial);
  const iso = date.toISOString();
  if (style === "day") return iso.slice(0, 10);
  return serial < 1 ? iso.slice(11, 19) : iso.slice(0, 19);
}

/** The rows of a sheet that have something in them, each with its number. */
export async function* workbookRows(zip: ZipParts, workbook: Workbook, sheet: string): AsyncGenerator<TableRow> {
  const part = workbook.sheets.get(sheet);
  if (!part) throw new TableError(`The workbook has no sheet “${sheet}”.`);
  const reader = new SheetReader(workbook);
  for await (const _ of readXml(zip.text(part), part, reader)) yield* reader.taken();
  yield* reader.taken();
}

class SheetReader {
  private rows: TableRow[] = [];
  private line = 0;
  private cells: string[] = [];
  private column = -1;
  private type = "n";
  private style = 0;
  private value = "";
  private isValue = false;
  private readonly inline = new TextRuns();

  constructor(private readonly workbook: Workbook) {}

  taken(): TableRow[] {
    const { rows } = this;
    this.rows = [];
    return rows;
  }

  open = (name: string, { r, t, s }: Readonly<Record<string, string>>): void => {
    if (name === "row") {
      this.line = r === undefined ? this.line + 1 : Number(r);
      this.cells = [];
      this.column = -1;
    } else if (name === "c") {
      this.column = r === undefined ? this.column + 1 : columnOf(r);
      this.type = t ?? "n";
      this.style = Number(s ?? -1);
      this.value = "";
      this.inline.begin();
    } else if (name === "v") this.isValue = true;
    else this.inline.open(name);
  };

  text = (piece: string): void => {
    if (this.isValue) this.value += piece;
    else this.inline.add(piece);
  };

  close = (name: string): void => {
    if (name === "v") this.isValue = false;
    else if (name === "c") {
      const text = this.cellText();
      if (text === "") return;
      while (this.cells.length < this.column) this.cells.push("");
      this.cells[this.column] = text;
    } else if (name === "row") {
      if (this.cells.length > 0) this.rows.push({ line: this.line, cells: this.cells });
    } else this.inline.close(name);
  };

  private cellText(): string {
    const { type, value, workbook } = this;
    if (type === "inlineStr") return this.inline.end();
    if (type === "s") return workbook.strings[Number(value)] ?? "";
    if (type === "b") return value === "1" ? "true" : "false";
    if (type !== "n" || value === "") return unescaped(value);
    const number = Number(value);
    const date = workbook.dates[this.style];
    if (date) return serialDate(number, date, workbook.is1904);
    // Spreadsheet programs count with 15 digits, and write down 17: 6.2899999999999991 was typed as 6.29.
    return Number.isFinite(number) ? String(Number(number.toPrecision(15))) : value;
  }
}

/** @example columnOf("AB12") // 27 */
function columnOf(reference: string): number {
  let column = 0;
  for (let i = 0; i < reference.length; i++) {
    const letter = reference.charCodeAt(i) - 64;
    if (letter < 1 || letter > 26) break;
    column = column * 26 + letter;
  }
  return column - 1;
}
