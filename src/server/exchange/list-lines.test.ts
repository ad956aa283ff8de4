import { parse } from "csv-parse/sync";
import { describe, expect, it } from "vitest";
import { listLines } from "./list-lines";

const columns = { n: (n: number) => n, text: (n: number) => (n % 2 === 0 ? `=${n}` : `a "quoted", line\n${n}`) };
const listOf = (total: number, version: (from: number) => string = () => "one") => {
  return (from: number, count: number) =>
    Promise.resolve({
      rows: Array.from({ length: Math.max(0, Math.min(count, total - from)) }, (_, i) => from + i),
      total,
      version: version(from),
    });
};
const all = async (lines: AsyncGenerator<string>) => {
  const read: string[] = [];
  for await (const line of lines) read.push(line);
  return read;
};

describe("a list that is taken out", () => {
  it.each([0, 1, 9_999, 10_000, 10_001, 25_000])(
    "has each of %i rows once, as CSV and as JSON Lines",
    async (total) => {
      const jsonl = await all(listLines("jsonl", columns, listOf(total)));
      expect(jsonl.map((line) => (JSON.parse(line) as { n: number }).n)).toEqual([...Array(total).keys()]);
      const csv = (await all(listLines("csv", columns, listOf(total)))).join("");
      const rows = parse<Record<string, string>>(csv, { bom: true, columns: true });
      expect(rows.map(({ n }) => Number(n))).toEqual([...Array(total).keys()]);
      if (total > 1) expect(rows.slice(0, 2).map((row) => row["text"])).toEqual(["'=0", 'a "quoted", line\n1']);
    },
  );

  it("ends with an error where the site changes in between: no row is missing unsaid", async () => {
    const lines = listLines(
      "jsonl",
      columns,
      listOf(25_000, (from) => (from < 20_000 ? "one" : "two")),
    );
    await expect(all(lines)).rejects.toThrow("The site changed while the list was exported");
  });
});
