import { SLUG_DEFAULTS } from "../../core/slugs/options";
import naughty from "big-list-of-naughty-strings/blns.json";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { parseLine } from "../../core/lines/parse";
import { proveLine } from "../../core/proof/prove-line";
import { readCondition } from "../../core/rules/condition";
import { matchingRows } from "../../core/rules/match";
import { slugOf } from "../../core/slugs/slug";
import { languageByTag } from "../../core/text/language";
import { plainText } from "../../core/text/plain";
import { DEMO_SITE } from "../../demo/site";
import { tableShape } from "../../formats/csv-read";
import { csvLine } from "../../formats/csv-write";
import { guessTargets } from "../../formats/guess-by-names";
import { openStore } from "../../store/open";
import { searchItems, searchQuery, syncSearch } from "../../store/search";
import { revision, writeSite } from "../../store/site";
import { Workspace } from "../workspace/workspace";
import { bringIn } from "./bring-in";
import { outgoingLines } from "./take-out";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-naughty-"));
const now = () => "2026-11-25T10:00:00Z";
const texts = [...new Set(naughty)].filter((text) => plainText(text) !== "" && !text.includes("\u0000"));

const site = async () => {
  const db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  const file = join(folder, "naughty.csv");
  const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
  const rows = texts.map((text, i) => `${i + 1},/p/${i + 1},${quoted(text)},${quoted(text)},${quoted(text)}`);
  writeFileSync(file, `id,address,name,title,colour\n${rows.join("\n")}\n`);
  const shape = await tableShape(file);
  const mapping = { targets: guessTargets(shape.header), kind: "product" as const };
  const made = await bringIn(db, file, "naughty.csv", { mapping, byHand: "none" }, { now });
  return { db, made };
};

describe(`${texts.length} naughty strings`, () => {
  it("come in, each as it is, and out and in again the same", async () => {
    const { db, made } = await site();
    expect(made).toMatchObject({ rows: texts.length, added: texts.length, refused: 0 });
    const titles = () => db.prepare("SELECT title FROM items ORDER BY id").pluck().all();
    expect(titles()).toEqual(texts);
    const all = () => db.prepare("SELECT * FROM items ORDER BY id").all();
    const before = all();
    const file = join(folder, "again.csv");
    writeFileSync(file, [...outgoingLines(db, "items", "csv", null)].join(""));
    const targets = guessTargets((await tableShape(file)).header);
    expect(
      await bringIn(db, file, "again.csv", { mapping: { targets, kind: "post" }, byHand: "none" }, { now }),
    ).toMatchObject({
      unchanged: texts.length,
      refused: 0,
    });
    expect(all()).toEqual(before);
  });

  it("stand in lines, are found by conditions and searches, and make slugs", async () => {
    const { db } = await site();
    const { items } = new Workspace(db).data("product");
    const proved = proveLine(parseLine("{name}[ – {colour}]"), items, { limits: { surfaces: [], chars: null } });
    proved.forEach(({ text }, row) => {
      const plain = plainText(texts[row]!.trim());
      expect(text).toBe(`${plain} – ${plainText(texts[row]!.trim())}`);
    });
    texts.forEach((text, row) => {
      const value = plainText(text.trim());
      if (value.length > 2000) return;
      expect(matchingRows(readCondition({ field: "colour", is: value }), items)[row], text).toBe(1);
      const slug = slugOf(value, { options: SLUG_DEFAULTS, language: languageByTag("en") });
      expect(slug).toMatch(/^(?:[a-z0-9]+(?:-[a-z0-9]+)*)?$/);
    });
    syncSearch(db, revision(db));
    for (const text of texts) {
      const query = searchQuery(text);
      if (query !== null) expect(() => searchItems(db, query)).not.toThrow();
    }
  });

  it("are written as one row each", () => {
    for (const text of texts) expect(csvLine(["1", text]).endsWith("\r\n")).toBe(true);
  });
});
