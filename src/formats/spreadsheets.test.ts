import fc from "fast-check";
import { strToU8, unzipSync, zipSync, type Zippable } from "fflate";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { readTable, tableShape } from "./csv-read";
import { jsonLinesTable, jsonListTable } from "./json-read";
import { sheetNames, sheetRows } from "./ods-read";
import { readRowFile, type SourceRow, writeRowFile } from "./row-file";
import { type TableRow } from "./table";
import { readWorkbook, workbookRows } from "./xlsx-read";
import { columnName, MOST_CELL_CHARS, xlsxChunks } from "./xlsx-write";
import { ZipParts } from "./zip-file";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-sheets-"));
let files = 0;
function saved(content: Uint8Array | string): string {
  const file = join(folder, `${files++}`);
  writeFileSync(file, content);
  return file;
}
async function all<T>(of: AsyncIterable<T>): Promise<T[]> {
  const out: T[] = [];
  for await (const one of of) out.push(one);
  return out;
}
const zipped = (parts: Record<string, string>) =>
  saved(zipSync(Object.fromEntries(Object.entries(parts).map(([name, text]) => [name, strToU8(text)])) as Zippable));

async function written(rows: readonly (readonly string[])[]): Promise<string> {
  const given = (async function* () {
    yield* rows;
  })();
  return saved(Buffer.concat(await all(xlsxChunks("Pages", given))));
}

async function workbook(file: string, sheet?: string): Promise<TableRow[]> {
  const zip = await ZipParts.open(file);
  const book = await readWorkbook(zip);
  const rows = await all(workbookRows(zip, book, sheet ?? [...book.sheets.keys()][0]!));
  zip.close();
  return rows;
}

const MAIN = 'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"';
const BOOK = {
  "xl/workbook.xml": `<workbook ${MAIN} xmlns:r="r"><sheets><sheet name="Notes" sheetId="1" r:id="a"/><sheet name="Pages &amp; more" sheetId="2" r:id="b"/></sheets></workbook>`,
  "xl/_rels/workbook.xml.rels":
    '<Relationships><Relationship Id="a" Target="worksheets/s1.xml"/><Relationship Id="b" Target="/xl/worksheets/s2.xml"/></Relationships>',
  "xl/sharedStrings.xml": `<sst ${MAIN}><si><t>id</t></si><si><r><t>Mooring </t></r><r><t xml:space="preserve">cleats</t></r></si><si><t>係船</t><rPh sb="0" eb="2"><t>けいせん</t></rPh></si></sst>`,
  "xl/styles.xml": `<styleSheet ${MAIN}><numFmts><numFmt numFmtId="170" formatCode="dd/mm/yyyy"/><numFmt numFmtId="171" formatCode="&quot;day&quot; 0.00"/></numFmts><cellStyleXfs><xf numFmtId="14"/></cellStyleXfs><cellXfs><xf numFmtId="0"/><xf numFmtId="170"/><xf numFmtId="22"/><xf numFmtId="171"/></cellXfs></styleSheet>`,
  "xl/worksheets/s1.xml": `<worksheet ${MAIN}><sheetData/></worksheet>`,
  "xl/worksheets/s2.xml": `<worksheet ${MAIN}><sheetData>
    <row r="2"><c r="A2" t="s"><v>0</v></c><c r="C2" t="inlineStr"><is><t>when_x000D_</t></is></c></row>
    <row r="5"><c r="A5"><v>6.2899999999999991</v></c><c r="B5" t="s"><v>1</v></c><c r="C5" s="1"><v>45000</v></c><c r="D5" s="2"><v>45000.5</v></c><c r="E5" s="3"><v>2</v></c></row>
    <row><c t="b"><v>1</v></c><c t="e"><v>#N/A</v></c><c t="str"><f>1+1</f><v>two</v></c><c t="s"><v>2</v></c><c r="AB6"><v>1E-7</v></c></row>
  </sheetData></worksheet>`,
};

describe("a workbook", () => {
  it("is read cell by cell: shared and rich texts, figures as they were typed, dates as days, gaps", async () => {
    const rows = await workbook(zipped(BOOK), "Pages & more");
    expect(rows[0]).toEqual({ line: 2, cells: ["id", "", "when\r"] });
    expect(rows[1]).toEqual({ line: 5, cells: ["6.29", "Mooring cleats", "2023-03-15", "2023-03-15T12:00:00", "2"] });
    expect(rows[2]!.line).toBe(6);
    expect(rows[2]!.cells.slice(0, 4)).toEqual(["true", "#N/A", "two", "係船"]);
    expect([rows[2]!.cells.length, rows[2]!.cells[27]]).toEqual([28, "1e-7"]);
    expect(await workbook(zipped(BOOK))).toEqual([]);
  });

  it("counts days from 1904 where it says so", async () => {
    const parts = {
      ...BOOK,
      "xl/workbook.xml": BOOK["xl/workbook.xml"].replace("<sheets>", '<workbookPr date1904="1"/><sheets>'),
    };
    expect((await workbook(zipped(parts), "Pages & more"))[1]!.cells[2]).toBe("2027-03-16");
  });

  it.each([
    ["xl/worksheets/s2.xml", BOOK["xl/worksheets/s2.xml"].slice(0, 300), /damaged in “xl\/worksheets\/s2.xml”/],
    ["xl/_rels/workbook.xml.rels", "<Relationships/>", /has no sheet/],
    ["xl/workbook.xml", '<!DOCTYPE x [<!ENTITY e "e">]><workbook>&e;</workbook>', /damaged/],
  ])("that is damaged is refused in words: %s", async (part, text, words) => {
    await expect(workbook(zipped({ ...BOOK, [part]: text }), "Pages & more")).rejects.toThrow(words);
  });

  it("that is none is refused in words", async () => {
    await expect(ZipParts.open(saved("PK\u0003\u0004 and no more"))).rejects.toThrow(/damaged/);
  });

  it("holds every text as it is, and no formula", async () => {
    const cell = fc.oneof(
      fc.string({ unit: "binary", maxLength: 30 }),
      fc.constantFrom("=1+1", "_x000D_", " a ", "1.50", "a\r\nb"),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(fc.array(cell, { minLength: 1, maxLength: 6 }), { maxLength: 5 }), async (rows) => {
        const told = rows.map((cells, i) => ({
          line: i + 1,
          cells: cells.slice(0, 1 + cells.findLastIndex((text) => text !== "")),
        }));
        expect(await workbook(await written(rows))).toEqual(told.filter(({ cells }) => cells.length > 0));
      }),
      { numRuns: 200 },
    );
  });

  it("has cells of so many characters and no more", async () => {
    const long = "a".repeat(MOST_CELL_CHARS);
    expect((await workbook(await written([[long]])))[0]!.cells).toEqual([long]);
    await expect(written([["x"], [`${long}b`]])).rejects.toThrow(/Row 2 has a text of 32768 characters/);
  });

  it("is made of parts that every spreadsheet program looks for", async () => {
    const parts = unzipSync(readFileSync(await written([["a"]])));
    expect(Object.keys(parts)).toEqual([
      "[Content_Types].xml",
      "_rels/.rels",
      "xl/_rels/workbook.xml.rels",
      "xl/workbook.xml",
      "xl/worksheets/sheet1.xml",
    ]);
    expect([0, 25, 26, 701, 702].map(columnName)).toEqual(["A", "Z", "AA", "ZZ", "AAA"]);
  });
});

describe("an OpenDocument spreadsheet", () => {
  const content = `<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x"><office:body><office:spreadsheet>
    <table:table table:name="One"><table:table-row><table:table-cell><text:p>elsewhere</text:p></table:table-cell></table:table-row></table:table>
    <table:table table:name="Two">
      <table:table-row><table:table-cell table:number-columns-repeated="2"/><table:table-cell office:value-type="string"><text:p>id</text:p></table:table-cell></table:table-row>
      <table:table-row table:number-rows-repeated="3"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>
      <table:table-row table:number-rows-repeated="2">
        <table:table-cell office:value-type="float" office:value="6.29"><text:p>6,29 €</text:p></table:table-cell>
        <table:table-cell office:value-type="date" office:date-value="2026-11-26"><text:p>26.11.26</text:p></table:table-cell>
        <table:table-cell office:value-type="string"><office:annotation><text:p>a note</text:p></office:annotation><text:p>two<text:s text:c="2"/><text:span>spaces</text:span></text:p><text:p>and a line</text:p></table:table-cell>
        <table:covered-table-cell/><table:table-cell office:value-type="string" table:number-columns-repeated="2"><text:p>twice</text:p></table:table-cell>
      </table:table-row>
      <table:table-row table:number-rows-repeated="1048000"><table:table-cell/></table:table-row>
    </table:table></office:spreadsheet></office:body></office:document-content>`;

  it("is read cell by cell: repeated ones, figures and dates as they are, lines, no notes", async () => {
    const zip = await ZipParts.open(zipped({ "content.xml": content }));
    expect(await sheetNames(zip)).toEqual(["One", "Two"]);
    const cells = ["6.29", "2026-11-26", "two  spaces\nand a line", "", "twice", "twice"];
    expect(await all(sheetRows(zip, "Two"))).toEqual([
      { line: 1, cells: ["", "", "id"] },
      { line: 5, cells },
      { line: 6, cells },
    ]);
    zip.close();
  });
});

describe("JSON", () => {
  it("of an object to a line is a table of all keys; a line that is none is refused alone", async () => {
    const file = saved(
      '\ufeff{"id":1,"name":"Oar\u2028s"}\r\n\n{"id":2,"tags":["a"],"body":null}\nnot json\n[1]\n{"id":3}',
    );
    const { header, rows } = await jsonLinesTable(file);
    expect(header).toEqual(["id", "name", "tags", "body"]);
    const found: SourceRow[] = await all(rows);
    expect(found.slice(0, 2)).toEqual([
      { line: 1, cells: ["1", "Oar\u2028s", "", ""], absent: [2, 3] },
      { line: 3, cells: ["2", "", '["a"]', ""], absent: [1] },
    ]);
    expect(found[2]).toMatchObject({
      line: 4,
      content: "not json",
      reason: expect.stringMatching(/not JSON/) as string,
    });
    expect(found[3]).toMatchObject({ line: 5, content: "[1]" });
    expect(found[4]).toEqual({ line: 6, cells: ["3", "", "", ""], absent: [1, 2, 3] });
    await expect(jsonLinesTable(saved("[]\n7"))).rejects.toThrow(/No line of the file is a JSON object/);
  });

  it("of one list is a table, too", async () => {
    const { rows } = await jsonListTable(saved('[{"id":"a"},7]'));
    expect(await all(rows)).toMatchObject([
      { line: 1, cells: ["a"] },
      { line: 2, content: "7" },
    ]);
    await expect(jsonListTable(saved("{"))).rejects.toThrow(/not JSON/);
  });
});

describe("rows that were written down", () => {
  it("are read like those of any table, with their places in the source, short ones filled up", async () => {
    const file = join(folder, "made.rows");

    const rows = (async function* (): AsyncGenerator<SourceRow> {
      yield { line: 4, cells: ["1", "Oar\u2028s\n"] };
      yield { line: 7, reason: "It is none", content: "x" };
      yield { line: 9, cells: ["2"] };
      yield { line: 10, cells: ["3", "a", "b"] };
    })();
    await writeRowFile(file, { type: "XLSX", sheets: ["A"], sheet: "A" }, ["id", "name "], rows);
    const shape = await tableShape(file);
    expect(shape).toMatchObject({ header: ["id", "name"], source: { type: "XLSX", sheet: "A" } });
    expect((await all(readTable(file, shape))).flat()).toMatchObject([
      { line: 4, cells: ["1", "Oar\u2028s\n"] },
      { line: 7, reason: "It is none" },
      { line: 9, cells: ["2", ""] },
      { line: 10, reason: expect.stringContaining("The row has 3 cells") },
    ]);
    expect((await all(readRowFile(file))).length).toBe(4);
  });
});
