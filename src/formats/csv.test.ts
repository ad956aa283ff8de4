import fc from "fast-check";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import iconv from "iconv-lite";
import { describe, expect, it } from "vitest";
import { readTable, tableShape } from "./csv-read";
import { type RefusedRow } from "./table";
import { csvLine, harmless } from "./csv-write";
import { guessTargets } from "./guess-by-names";
import { mappingError } from "./mapping";
import { rowReader } from "./row-reader";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-csv-"));
let files = 0;
const fileOf = (content: string | Buffer) => {
  const file = join(folder, `${++files}.csv`);
  writeFileSync(file, content);
  return file;
};
const read = async (content: string | Buffer) => {
  const file = fileOf(content);
  const shape = await tableShape(file);
  const refused: RefusedRow[] = [];
  const rows = [];
  for await (const piece of readTable(file, shape))
    for (const row of piece) {
      if ("cells" in row) rows.push(row);
      else refused.push(row);
    }
  return { shape, rows, refused };
};

describe("reading a table", () => {
  it.each([
    ["commas", "a,b\n1,2\n", ","],
    ["semicolons", "a;b\n1,5;2\n", ";"],
    ["tabs", "a\tb\n1\t2\n", "\t"],
  ])("finds %s", async (_, content, delimiter) => {
    const { shape, rows } = await read(content);
    expect(shape).toMatchObject({ delimiter, header: ["a", "b"] });
    expect(rows).toHaveLength(1);
  });

  it.each([
    ["utf-8", Buffer.from("\ufeffname,x\nÆrø,1\n")],
    ["windows-1252", iconv.encode("name,x\nÆrø,1\n", "windows-1252")],
    ["utf-16le", iconv.encode("name,x\nÆrø,1\n", "utf-16le", { addBOM: true })],
  ] as [string, Buffer][])("recognises %s", async (encoding, content) => {
    const { shape, rows } = await read(content);
    expect(shape.encoding).toBe(encoding);
    expect(shape.header[0]).toBe("name");
    expect(rows[0]!.cells[0]).toBe("Ærø");
  });

  it("reads quotes, line breaks in cells, and tells the line of each row", async () => {
    const { rows } = await read('id,text\n1,"two\nlines, ""quoted"""\n2,x\n');
    expect(rows).toEqual([
      { line: 2, cells: ["1", 'two\nlines, "quoted"'] },
      { line: 4, cells: ["2", "x"] },
    ]);
  });

  it("refuses rows that cannot be read, with line and reason, and keeps the others", async () => {
    const { rows, refused } = await read('id,text\n1,good\n2,a,b,c\n3,"x"y\n4,good\n');
    expect(rows.map((row) => row.cells[0])).toEqual(["1", "4"]);
    expect(rows.map((row) => row.line)).toEqual([2, 5]);
    expect(refused.find((row) => row.line === 3)).toMatchObject({ line: 3, reason: expect.stringMatching(/4 cells/) });
  });

  it.each([
    ["", /empty/],
    ["  \n ", /white space/],
    ["PK\u0003\u0004\u0000\u0000", /not text/],
    [`${"a,".repeat(3000)}\n1`, /3,001 columns/],
    [",,\n1,2,3\n", /no column names/],
    ['"never closed', /quote/],
  ])("says what is wrong with %j", (content, words) => expect(tableShape(fileOf(content))).rejects.toThrow(words));
});

describe("writing cells", () => {
  it("makes formulas harmless and reads back the same", async () => {
    expect(["=1+1", "+1", "-1", "@x", "\tx", "x"].map(harmless)).toEqual(["'=1+1", "'+1", "'-1", "'@x", "'\tx", "x"]);
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.string({ unit: fc.constantFrom(...'ab,;"\n é='), maxLength: 12 }).map((cell) => cell.trim() || "x"),
          { minLength: 2, maxLength: 5 },
        ),
        async (cells) => {
          const { rows } = await read(csvLine(cells.map((_, i) => `c${i}`)) + csvLine(cells));
          expect(rows[0]!.cells).toEqual(cells.map(harmless));
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe("mapping", () => {
  it("guesses columns by their names", () => {
    expect(
      guessTargets(["ID", "URL", "Title", "Meta Title", "Meta Description", "Focus keyword", "Sold by", ""]),
    ).toEqual(["id", "address", "name", "title", "description", "keyword", "attribute", "skip"]);
    expect(guessTargets(["url", "title"])).toEqual(["address", "title"]);
    expect(guessTargets(["URL", "Titel"])).toEqual(["address", "name"]);
    expect(guessTargets(["URL", "Bezeichnung", "Titel"])).toEqual(["address", "name", "title"]);
    expect(guessTargets(["URL", "Titre", "Titre SEO"])[1]).toBe("name");
    expect(guessTargets(["Nr.", "Adresse", "Produktname", "Kategorie", "Preis", "Erschienen", "Kurztext"])).toEqual([
      "id",
      "address",
      "name",
      "category",
      "price",
      "published",
      "summary",
    ]);
    expect(guessTargets(["Référence", "Lien", "Nom du produit", "Catégorie", "Prix"])).toEqual([
      "id",
      "address",
      "name",
      "category",
      "price",
    ]);
  });

  it("says what is wrong with a mapping", () => {
    expect(mappingError({ targets: ["name"], kind: "post" }, ["a"])).toMatch(/cannot be matched/);
    expect(mappingError({ targets: ["id", "name", "name"], kind: "post" }, ["a", "b", "c"])).toMatch(
      /Two columns.*“b” and “c”/,
    );
    expect(mappingError({ targets: ["id"], kind: "post" }, ["a", "b"])).toMatch(/2/);
  });

  it("makes items of rows and refuses those that cannot be one", () => {
    const read = rowReader(["id", "Address", "Kind", "Sold by", "Path"], {
      targets: ["id", "address", "kind", "attribute", "category.path"],
      kind: "post",
    });
    expect(
      read({ line: 2, cells: ["1", "https://x.example/rope/8-mm?x=1", "Products", "<b>metre</b>", "Rope > Twine"] }),
    ).toMatchObject({
      key: "1",
      kind: "product",
      path: "/rope/8-mm?x=1",
      attributes: { sold_by: "<b>metre</b>" },
      columns: { slug: "8-mm", category_path: "Rope › Twine", category: "Twine" },
    });
    expect(read({ line: 3, cells: ["1", "/a", "vessel", "", ""] })).toMatchObject({
      line: 3,
      reason: expect.stringMatching(/no kind/),
    });
    expect(read({ line: 4, cells: ["", "", "", "", ""] })).toMatchObject({
      reason: expect.stringMatching(/neither an id nor an address/),
    });
  });
});
