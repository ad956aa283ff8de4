import { parse } from "csv-parse/sync";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type ReadRecord, RecordReader } from "./records";

/** Reads a text that comes in pieces of so many characters. */
const read = (text: string, columns: number | null = null, piece = text.length || 1): ReadRecord[] => {
  const reader = new RecordReader(",", columns);
  const found: ReadRecord[] = [];
  for (let at = 0; at < text.length; at += piece) found.push(...reader.push(text.slice(at, at + piece)));
  return [...found, ...reader.end()];
};
const cells = (records: readonly ReadRecord[]) =>
  records.flatMap((record) => ("cells" in record ? [record.cells] : []));
const broken = (records: readonly ReadRecord[]) => records.flatMap((record) => ("reason" in record ? [record] : []));

describe("records", () => {
  it("are those that a CSV library reads, in whatever pieces they come", () => {
    const cell = fc.string({ unit: fc.constantFrom(...'ab,"\n\r é '), maxLength: 8 });
    const row = fc.array(cell, { minLength: 2, maxLength: 4 });
    fc.assert(
      fc.property(
        fc.array(row, { maxLength: 6 }),
        fc.constantFrom("\n", "\r\n", "\r"),
        fc.integer({ min: 1, max: 9 }),
        (rows, end, piece) => {
          const text = rows.map((own) => own.map((c) => `"${c.replaceAll('"', '""')}"`).join(",") + end).join("");
          const expected = parse(text, {
            relax_column_count: true,
            record_delimiter: ["\r\n", "\n", "\r"],
          }) as string[][];
          const found = read(text, null, piece).filter((record) => "cells" in record);
          // Without a header's width every record stands; with one, those of several lines need it.
          const widths = new Set(rows.map((own) => own.length));
          if (widths.size <= 1) expect(cells(found)).toEqual(expected);
        },
      ),
      { numRuns: 1500 },
    );
  });

  it("tell the line that each begins on", () => {
    const records = read('a,b\r\n1,"x\r\ny"\r\n\r\n2,z\r\n');
    expect(records.map(({ line }) => line)).toEqual([1, 2, 5]);
  });

  it.each([
    [
      "a quote that never closes",
      'a,b,c\n1,x,y\n2,"open,z\n3,x,y\n4,x,y\n',
      [
        ["a", "b", "c"],
        ["1", "x", "y"],
        ["3", "x", "y"],
        ["4", "x", "y"],
      ],
      [3],
    ],
    [
      "text behind a closing quote",
      'a,b\n1,"x"y\n2,x\n',
      [
        ["a", "b"],
        ["2", "x"],
      ],
      [2],
    ],
    [
      "a quote that closes in a later row",
      'a,b,c,d\n1,"open,x,y\n2,x,y,z\n3,5",y,z\n4,x,y,z\n',
      [
        ["a", "b", "c", "d"],
        ["2", "x", "y", "z"],
        ["3", '5"', "y", "z"],
        ["4", "x", "y", "z"],
      ],
      [2],
    ],
    [
      "a broken text of several lines",
      'a,b\n1,"x\ny" z\nq\n2,x\n',
      [
        ["a", "b"],
        ["2", "x"],
      ],
      [2],
    ],
  ])("go on after %s", (_, text, good, lines) => {
    for (const piece of [1, 3, 7, text.length]) {
      const records = read(text, null, piece);
      expect(cells(records)).toEqual(good);
      expect(broken(records).map(({ line }) => line)).toEqual(lines);
    }
  });

  it("keep a quote inside a text that is not in quotes", () =>
    expect(cells(read('a,b\n1,5" pipe\n2,36\'37.8"N\n'))).toEqual([
      ["a", "b"],
      ["1", '5" pipe'],
      ["2", "36'37.8\"N"],
    ]));

  it("say what is wrong, with the text", () => {
    const [one] = broken(read('a,b\n1,"never closed\n2,x\n'));
    expect(one).toMatchObject({ line: 2, content: '1,"never closed', reason: expect.stringMatching(/never closes/) });
  });

  it("keep a text that holds a table of another width, or a few lines", () => {
    expect(cells(read('a,b,c\n1,"x,y\nz",w\n'))[1]).toEqual(["1", "x,y\nz", "w"]);
    expect(cells(read('a,b\n1,"one, two\nthree, four\nfive"\n'))[1]).toEqual(["1", "one, two\nthree, four\nfive"]);
  });

  it("lose no line, whatever stands in the text", () => {
    const line = fc
      .string({ unit: fc.constantFrom(...'a1,,"" '), minLength: 1, maxLength: 9 })
      .filter((own) => /[^"\s]/.test(own));
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 12 }), fc.integer({ min: 1, max: 11 }), (lines, piece) => {
        const text = `${lines.join("\n")}\n`;
        const records = read(text, 3, piece);
        const covered = records.flatMap((record) =>
          "cells" in record
            ? Array.from({ length: 1 + record.cells.join("").split("\n").length - 1 }, (_, i) => record.line + i)
            : record.content.split("\n").map((_, i) => record.line + i),
        );
        expect(covered).toEqual(lines.map((_, i) => i + 1));
      }),
      { numRuns: 3000 },
    );
  });

  it("go on after 50,000 rows behind a quote that never closes", () => {
    const rows = Array.from({ length: 50_000 }, (_, i) => `${i},x,y`);
    const records = read(`a,b,c\nbad,"open,y\n${rows.join("\n")}\n`, null, 1 << 16);
    expect(cells(records)).toHaveLength(50_001);
    expect(broken(records)).toHaveLength(1);
  });
});
