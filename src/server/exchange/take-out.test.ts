import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { MOST_CELL_CHARS } from "../../formats/xlsx-write";
import { readWorkbook, workbookRows } from "../../formats/xlsx-read";
import { ZipParts } from "../../formats/zip-file";
import { type Db, openStore } from "../../store/open";
import { type Outgoing, outgoingLines, outgoingSheet } from "./take-out";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-take-out-"));
let db: Db;
afterEach(() => db.close());
beforeEach(() => {
  db = openStore(":memory:");
  db.exec(`
    INSERT INTO items (id, key, kind, path, name) VALUES (1, 'a', 'product', '/a', 'Oar'), (2, 'b', 'product', '/b', 'Cleat');
    INSERT INTO runs (id, type, status, note, design, created_at) VALUES (1, 'apply', 'done', '', '{}', '2026-11-26');
    INSERT INTO run_changes (run_id, item_id, text, before, after, path_before, path_after, revision, status)
      VALUES (1, 1, 'title', '', '=Oar', NULL, NULL, 1, 'applied'), (1, 2, 'slug', 'b', 'cleat', '/b', '/cleat', 1, 'applied');
    INSERT INTO bodies VALUES (1, '<a href="/b">b</a>');
    INSERT INTO run_changes (run_id, item_id, text, before, after, part, image, tag, revision, status)
      VALUES (1, 1, 'body', '/a', '/b', 1, 'b', '<a href="/a">', 1, 'applied');
    INSERT INTO redirects (run_id, item_id, from_path, to_path, status) VALUES (1, 2, '/b', '/cleat', 301);
  `);
});

async function rowsOf(what: Outgoing): Promise<readonly (readonly string[])[]> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of outgoingSheet(db, what, 1)) chunks.push(chunk);
  const file = join(folder, `${what}.xlsx`);
  writeFileSync(file, Buffer.concat(chunks));
  const zip = await ZipParts.open(file);
  const book = await readWorkbook(zip);
  const rows: (readonly string[])[] = [];
  for await (const { cells } of workbookRows(zip, book, [...book.sheets.keys()][0]!)) rows.push(cells);
  return rows;
}

describe("a run as a workbook", () => {
  it.each(["changes", "bodies", "redirects"] as const)(
    "has the %s that the lines of JSON have, each a text",
    async (what) => {
      const records = [...outgoingLines(db, what, "jsonl", 1)].map(
        (line) => JSON.parse(line) as Record<string, string | number | null>,
      );
      expect(records.length).toBe(what === "changes" ? 3 : 1);
      const width = Object.keys(records[0]!).length;
      const whole = (cells: readonly string[]) => [...cells, ...Array<string>(width - cells.length).fill("")];
      expect((await rowsOf(what)).map(whole)).toEqual([
        Object.keys(records[0]!),
        ...records.map((record) => Object.values(record).map((cell) => String(cell ?? ""))),
      ]);
    },
  );

  it("is refused before it begins where a text is longer than a cell, and for pages", () => {
    db.prepare("UPDATE run_changes SET after = ? WHERE item_id = 2").run("x".repeat(MOST_CELL_CHARS + 1));
    expect(() => outgoingSheet(db, "changes", 1)).toThrow("the longest text has 32,768. Export as CSV.");
    expect(() => outgoingSheet(db, "items", null)).toThrow("from the Pages view");
    db.exec("UPDATE run_changes SET after = 'cleat' WHERE item_id = 2");
    db.prepare("UPDATE items SET name = ? WHERE id = 1").run("x".repeat(MOST_CELL_CHARS + 2));
    expect(() => outgoingSheet(db, "changes", 1)).toThrow("the longest text has 32,769. Export as CSV.");
  });
});
