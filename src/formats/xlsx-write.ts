import { strToU8, Zip, ZipDeflate } from "fflate";
import { Refusal } from "../core/refusal";

/** So many rows a sheet can have, and so many characters a cell (ECMA-376, as spreadsheet programs limit it). */
export const MOST_SHEET_ROWS = 1_048_576;
export const MOST_CELL_CHARS = 32_767;

const XML = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const OFFICE = "http://schemas.openxmlformats.org";
const MAIN = `${OFFICE}/spreadsheetml/2006/main`;
/** Text of a sheet that is packed at once. */
const CHUNK = 64 * 1024;

/**
 * A workbook of one sheet whose cells are all text, piece by piece (Office Open XML, ECMA-376): nothing in it is ever run
 * as a formula, and no figure read as another.
 *
 * @throws {Refusal} for more rows than a sheet can have, or a longer text than a cell.
 */
export async function* xlsxChunks(sheet: string, rows: AsyncIterable<readonly string[]>): AsyncGenerator<Uint8Array> {
  let made: Uint8Array[] = [];
  const zip = new Zip((error, chunk) => {
    if (error) throw error;
    made.push(chunk);
  });
  const put = (name: string, text: string) => {
    const file = new ZipDeflate(name, { level: 6 });
    zip.add(file);
    file.push(strToU8(text), true);
  };
  put("[Content_Types].xml", CONTENT_TYPES);
  put("_rels/.rels", relations(`${OFFICE}/officeDocument/2006/relationships/officeDocument`, "xl/workbook.xml"));
  put(
    "xl/_rels/workbook.xml.rels",
    relations(`${OFFICE}/officeDocument/2006/relationships/worksheet`, "worksheets/sheet1.xml"),
  );
  put("xl/workbook.xml", workbook(sheet));
  const file = new ZipDeflate("xl/worksheets/sheet1.xml", { level: 6 });
  zip.add(file);
  let text = `${XML}<worksheet xmlns="${MAIN}"><sheetData>`;
  let number = 0;
  for await (const row of rows) {
    if (++number > MOST_SHEET_ROWS)
      throw new Refusal("invalid", `A sheet has at most ${MOST_SHEET_ROWS} rows: export fewer pages, or choose CSV`);
    text += rowXml(row, number);
    if (text.length < CHUNK) continue;
    file.push(strToU8(text), false);
    text = "";
    yield* made;
    made = [];
  }
  file.push(strToU8(`${text}</sheetData></worksheet>`), true);
  zip.end();
  yield* made;
}

function rowXml(row: readonly string[], number: number): string {
  const cells = row.map((text, i) => {
    if (text === "") return "";
    if (text.length > MOST_CELL_CHARS)
      throw new Refusal(
        "invalid",
        `Row ${number} has a text of ${text.length} characters; a spreadsheet's cell holds ${MOST_CELL_CHARS}. Export as CSV.`,
      );
    return `<c r="${columnName(i)}${number}" t="inlineStr"><is><t xml:space="preserve">${escaped(text)}</t></is></c>`;
  });
  return `<row r="${number}">${cells.join("")}</row>`;
}

/** @example columnName(27) // "AB" */
export function columnName(index: number): string {
  let name = "";
  for (let left = index + 1; left > 0; left = Math.floor((left - 1) / 26))
    name = String.fromCharCode(65 + ((left - 1) % 26)) + name;
  return name;
}

const ENTITIES: Readonly<Record<string, string>> = { "&": "&amp;", "<": "&lt;", ">": "&gt;" };

/**
 * Text as XML 1.0 takes it. What no XML can hold is written as the format has it, `_x0007_`, and so is an underscore that would
 * be read as the beginning of such a thing (ECMA-376, 22.9.2.19).
 */
function escaped(text: string): string {
  return text
    .replace(/_(?=x[0-9A-Fa-f]{4}_)/g, "_x005F_")

    .replace(/[\u0000-\u0008\u000b\u000c\u000d\u000e-\u001f\ufffe\uffff]/g, hexed)
    .replace(/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g, "\ufffd")
    .replace(/[&<>]/g, (char) => ENTITIES[char]!);
}

function hexed(char: string): string {
  return `_x${char.charCodeAt(0).toString(16).toUpperCase().padStart(4, "0")}_`;
}

const CONTENT_TYPES = `${XML}<Types xmlns="${OFFICE}/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`;

function relations(type: string, target: string): string {
  return `${XML}<Relationships xmlns="${OFFICE}/package/2006/relationships"><Relationship Id="rId1" Type="${type}" Target="${target}"/></Relationships>`;
}

function workbook(sheet: string): string {
  return `${XML}<workbook xmlns="${MAIN}" xmlns:r="${OFFICE}/officeDocument/2006/relationships"><sheets><sheet name="${escaped(sheet)}" sheetId="1" r:id="rId1"/></sheets></workbook>`;
}
