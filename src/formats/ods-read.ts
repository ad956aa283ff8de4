import { TableError, type TableRow } from "./table";
import { readXml, seeXml } from "./xml-events";
import { type ZipParts } from "./zip-file";

const CONTENT = "content.xml";

/** The names of a spreadsheet's sheets (OpenDocument 1.3, part 3). */
export async function sheetNames(zip: ZipParts): Promise<string[]> {
  const names: string[] = [];
  await seeXml(zip.text(CONTENT), CONTENT, {
    open: (tag, { name }) => {
      if (tag === "table") names.push(name ?? `Sheet ${names.length + 1}`);
    },
  });
  if (names.length === 0) throw new TableError("The spreadsheet has no sheet.");
  return names;
}

/** The rows of a sheet that have something in them, each with its number. */
export async function* sheetRows(zip: ZipParts, sheet: string): AsyncGenerator<TableRow> {
  const reader = new OdsReader(sheet);
  for await (const _ of readXml(zip.text(CONTENT), CONTENT, reader)) yield* reader.taken();
  yield* reader.taken();
}

/** A cell that is repeated so often is formatting to the edge of the sheet, and empty. */
const MOST_REPEATED = 16_384;

class OdsReader {
  private rows: TableRow[] = [];
  private isWanted = false;
  private tables = 0;
  private line = 0;
  private rowTimes = 1;
  private cells: string[] = [];
  private column = 0;
  private cellTimes = 1;
  private given: string | null = null;
  private paragraphs: string[] = [];
  private isText = false;
  private notes = 0;

  constructor(private readonly sheet: string) {}

  taken(): TableRow[] {
    const { rows } = this;
    this.rows = [];
    return rows;
  }

  open = (tag: string, attributes: Readonly<Record<string, string>>): void => {
    if (tag === "table") {
      this.isWanted = (attributes["name"] ?? `Sheet ${this.tables + 1}`) === this.sheet;
      this.tables++;
      this.line = 0;
    }
    if (!this.isWanted) return;
    if (tag === "table-row") {
      this.rowTimes = Number(attributes["number-rows-repeated"] ?? 1);
      this.cells = [];
      this.column = 0;
    } else if (tag === "table-cell" || tag === "covered-table-cell") {
      this.cellTimes = Number(attributes["number-columns-repeated"] ?? 1);
      this.given = givenValue(attributes);
      this.paragraphs = [];
    } else if (tag === "annotation") this.notes++;
    else if (this.notes > 0) return;
    else if (tag === "p") {
      this.paragraphs.push("");
      this.isText = true;
    } else if (tag === "s") this.add(" ".repeat(Number(attributes["c"] ?? 1)));
    else if (tag === "tab") this.add("\t");
    else if (tag === "line-break") this.add("\n");
  };

  text = (piece: string): void => {
    if (this.isText) this.add(piece);
  };

  close = (tag: string): void => {
    if (!this.isWanted) return;
    if (tag === "annotation") this.notes--;
    else if (tag === "p" && this.notes === 0) this.isText = false;
    else if (tag === "table-cell" || tag === "covered-table-cell") this.endCell();
    else if (tag === "table-row") this.endRow();
    else if (tag === "table") this.isWanted = false;
  };

  private add(piece: string): void {
    if (this.paragraphs.length > 0) this.paragraphs[this.paragraphs.length - 1] += piece;
  }

  private endCell(): void {
    const text = this.given ?? this.paragraphs.join("\n");
    if (text !== "" && this.cellTimes <= MOST_REPEATED) {
      while (this.cells.length < this.column) this.cells.push("");
      for (let i = 0; i < this.cellTimes; i++) this.cells.push(text);
    }
    this.column += this.cellTimes;
  }

  private endRow(): void {
    if (this.cells.length > 0)
      for (let i = 0; i < this.rowTimes; i++) this.rows.push({ line: this.line + i + 1, cells: [...this.cells] });
    this.line += this.rowTimes;
  }
}

/** A cell's value where it has one besides what is shown of it: figures and dates as they are, not as they look. */
function givenValue(attributes: Readonly<Record<string, string>>): string | null {
  switch (attributes["value-type"]) {
    case "float":
    case "percentage":
    case "currency":
      return attributes["value"] === undefined ? null : String(Number(attributes["value"]));
    case "date":
      return attributes["date-value"] ?? null;
    case "boolean":
      return attributes["boolean-value"] ?? null;
    case "string":
      return attributes["string-value"] ?? null;
    default:
      return null;
  }
}
