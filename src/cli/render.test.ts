import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { kindIds, TEXTS } from "../core/design/kinds";
import { linesFileOf } from "../core/design/lines-file";
import { type ItemRecord } from "../core/proof/items";
import { HAND } from "../core/proof/text-proof";
import { loadDemo } from "../demo/load";
import { readLinesFile } from "../formats/lines-file";
import { outgoingLines } from "../server/exchange/take-out";
import { Workspace } from "../server/workspace/workspace";
import { readDraft } from "../store/drafts";
import { openStore } from "../store/open";
import { readSite } from "../store/site";
import { itemRecords } from "./input";
import { render } from "./render";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-render-"));

describe("the application's own export", () => {
  it.each(["csv", "jsonl"] as const)(
    "as %s is rendered as the application shows it, every page of it",
    async (format) => {
      const db = openStore(":memory:");
      loadDemo(db, { products: 900 });
      db.prepare(
        "UPDATE items SET name = '=' || name, attributes = json_set(attributes, '$.Sold By', '-5 &amp; more') WHERE id % 50 = 0",
      ).run();
      db.prepare(
        "INSERT OR REPLACE INTO hand_texts (item_id, text, value) SELECT id, 'title', 'By hand ' || id FROM items WHERE id % 40 = 0",
      ).run();
      const site = readSite(db)!;
      const designs = Object.fromEntries(kindIds(null).map((kind) => [kind, readDraft(db, kind).design]));
      const file = readLinesFile("own.lines.json", JSON.stringify(linesFileOf(site, designs)));
      const path = join(folder, `own.${format}`);
      writeFileSync(path, [...outgoingLines(db, "items", format, null)].join(""));
      const records: ItemRecord[] = [];
      for await (const record of itemRecords(path)) records.push(record);
      const workspace = new Workspace(db);
      let compared = 0;
      let byHand = 0;
      for (const kind of kindIds(null)) {
        const { texts } = render(file, kind, records, () => {});
        const data = workspace.data(kind);
        expect(texts).toHaveLength(data.ids.length);
        for (const text of TEXTS) {
          const { proof } = workspace.textProof(kind, text, designs[kind]!);
          for (let row = 0; row < proof.size; row++) {
            const rendered = texts[row]![text];
            if (!rendered) continue;
            expect(rendered.text, `${kind} ${text} ${row}`).toBe(proof.textOf(row));
            expect(rendered.from === "hand").toBe(proof.from[row] === HAND);
            if (rendered.from !== "hand") expect(rendered.fits).toBe(text === "slug" || proof.fits[row] === 1);
            compared++;
            if (rendered.from === "hand") byHand++;
          }
        }
      }
      expect(compared).toBeGreaterThan(5000);
      expect(byHand).toBeGreaterThan(30);
    },
  );
});

describe("a text of more than 10,000 characters", () => {
  it("is written as nothing, and told as a fault with the number of items", () => {
    const file = readLinesFile(
      "own.lines.json",
      JSON.stringify({ format: "nine-lines/1", kinds: { product: { base: { title: "{name} – {name}" } } } }),
    );
    const said: string[] = [];
    const records = ["short", "x".repeat(6000)].map((name, i) => ({ id: String(i), name }));
    const { texts, faulty } = render(file, "product", records, (message) => said.push(message));
    expect(texts.map(({ title }) => title!.text)).toEqual(["short – short", ""]);
    expect(said).toEqual([expect.stringContaining("title line makes more than 10000 characters for 1 of the items")]);
    expect(faulty).toBe(true);
  });
});
