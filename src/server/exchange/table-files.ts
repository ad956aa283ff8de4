import { open } from "node:fs/promises";
import { Refusal } from "../../core/refusal";
import { jsonLinesTable, jsonListTable, type ObjectTable } from "../../formats/json-read";
import { sheetNames, sheetRows } from "../../formats/ods-read";
import { writeRowFile } from "../../formats/row-file";
import { TableError, type TableRow } from "../../formats/table";
import { readWorkbook, workbookRows } from "../../formats/xlsx-read";
import { ZipParts } from "../../formats/zip-file";
import { filesOf } from "./uploads";

const HEAD = 4096;

/**
 * Makes rows of a received file that is a spreadsheet, JSON Lines or a JSON list, beside it; any other is left as it is.
 *
 * @param sheet of a spreadsheet; `null` for its first.
 * @throws {TableError} for one that is damaged, or has nothing in it.
 */
export async function makeRows(token: string, sheet: string | null = null): Promise<void> {
  const { received, rows } = filesOf(token);
  switch (await fileType(received)) {
    case "zip":
      return spreadsheetRows(received, rows, sheet);
    case "old spreadsheet":
      throw new TableError(
        "This is a spreadsheet of the old binary kind. Save it as XLSX or ODS and import that file.",
      );
    case "JSON Lines":
      return objectRows(rows, "JSON Lines", await jsonLinesTable(received));
    case "JSON":
      return objectRows(rows, "JSON", await jsonListTable(received));
    case "text":
      return;
  }
}

/** Whether a received file has to be made rows of before it is read: one that is no text with delimiters. */
export async function needsRows(token: string): Promise<boolean> {
  return (await fileType(filesOf(token).received)) !== "text";
}

async function fileType(file: string): Promise<"zip" | "old spreadsheet" | "JSON Lines" | "JSON" | "text"> {
  const start = await startOf(file);
  if (start.startsWith("PK\u0003\u0004")) return "zip";
  if (start.startsWith("\u00d0\u00cf\u0011\u00e0")) return "old spreadsheet";
  if (/^(\u00ef\u00bb\u00bf)?\s*\{/.test(start)) return "JSON Lines";
  return /^(\u00ef\u00bb\u00bf)?\s*\[\s*[{\]]/.test(start) ? "JSON" : "text";
}

async function startOf(file: string): Promise<string> {
  const handle = await open(file, "r");
  try {
    const start = Buffer.alloc(HEAD);
    const { bytesRead } = await handle.read(start, 0, HEAD, 0);
    return start.toString("latin1", 0, bytesRead);
  } finally {
    await handle.close();
  }
}

function objectRows(file: string, type: "JSON" | "JSON Lines", { header, rows }: ObjectTable): Promise<void> {
  return writeRowFile(file, { type, sheets: [], sheet: null }, header, rows);
}

async function spreadsheetRows(received: string, file: string, asked: string | null): Promise<void> {
  const zip = await ZipParts.open(received);
  try {
    if (zip.has("xl/workbook.xml")) {
      const workbook = await readWorkbook(zip);
      const sheets = [...workbook.sheets.keys()];
      const sheet = chosen(sheets, asked);
      await sheetFile(file, { type: "XLSX", sheets, sheet }, workbookRows(zip, workbook, sheet));
    } else if (zip.has("content.xml")) {
      const sheets = await sheetNames(zip);
      const sheet = chosen(sheets, asked);
      await sheetFile(file, { type: "ODS", sheets, sheet }, sheetRows(zip, sheet));
    } else throw new TableError("The file is a zip archive, not a spreadsheet. Unpack it and import the table.");
  } finally {
    zip.close();
  }
}

function chosen(sheets: readonly string[], asked: string | null): string {
  if (asked !== null && !sheets.includes(asked)) throw new Refusal("invalid", `There is no sheet “${asked}”`);
  return asked ?? sheets[0]!;
}

/** The first row that has something in it is the header. */
async function sheetFile(
  file: string,
  source: { type: "XLSX" | "ODS"; sheets: readonly string[]; sheet: string },
  rows: AsyncGenerator<TableRow>,
): Promise<void> {
  const first = await rows.next();
  // A sheet without anything can be left for another one.
  const header = first.done ? [] : first.value.cells;
  await writeRowFile(file, source, header, rows);
}
