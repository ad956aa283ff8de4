import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Cancelled } from "../../core/proof/prove-set";
import { guessTargets } from "../../formats/guess-by-names";
import { csvLine } from "../../formats/csv-write";
import { DEMO_SITE } from "../../demo/site";
import { type Db, openStore } from "../../store/open";
import { writeSite } from "../../store/site";
import { bringIn } from "./bring-in";
import { foresee } from "./foresee";
import { draws } from "../../test/draws";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-foresee-"));
const header = ["id", "address", "name", "title", "colour", "by_hand", "hand_texts", "kind", "body"];
const mapping = { targets: guessTargets(header), kind: "product" as const };
const now = () => "2026-11-26T10:00:00Z";
let files = 0;
const fileOf = (rows: readonly (readonly string[])[]) => {
  const file = join(folder, `${++files}.csv`);
  writeFileSync(file, csvLine(header) + rows.map((row) => csvLine([...row])).join(""));
  return file;
};
const fresh = (): Db => {
  const db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  return db;
};
const row = (own: Partial<Record<string, string>>) => header.map((name) => own[name] ?? "");
const sharedAddresses = (db: Db) =>
  db.prepare("SELECT path FROM items WHERE path IS NOT NULL GROUP BY path HAVING count(*) > 1").pluck().all();
const everything = (db: Db) =>
  ["items", "bodies", "hand_texts", "site"].map((table) => db.prepare(`SELECT * FROM ${table} ORDER BY 1, 2`).all());

describe("what bringing a file in would do", () => {
  it("is told row by row, field by field, with examples; nothing is written", async () => {
    const db = fresh();
    const first = [
      row({ id: "1", address: "/a", name: "Rope", title: "Rope now", colour: "red" }),
      row({ id: "2", address: "/b", name: "Twine", title: "Twine now", body: "<p>One</p>" }),
      row({ id: "3", address: "/c", name: "Cleat" }),
      row({ id: "4", address: "/d", name: "Oar" }),
    ];
    await bringIn(db, fileOf(first), "a.csv", { mapping, byHand: "none" }, { now });
    const before = everything(db);
    const seen = await foresee(
      db,
      fileOf([
        row({ id: "1", address: "/a", name: "Rope", title: "Rope for sale", colour: "blue" }),
        row({ id: "2", address: "/b-new", name: "Twine", title: "Twine for sale", body: "<p>Two</p>" }),
        row({ id: "3", address: "/c", name: "Cleat" }),
        row({ id: "5", address: "/e", name: "Lamp" }),
        row({ id: "5", address: "/f", name: "Lamp again" }),
        row({ name: "Nowhere" }),
      ]),
      mapping,
    );
    expect(seen).toMatchObject({ rows: 6, added: 1, updated: 2, unchanged: 1, refused: 2, untouched: 1 });
    expect(seen.fields.map(({ field, count }) => [field, count])).toEqual([
      ["title", 2],
      ["colour", 1],
      ["address", 1],
      ["slug", 1],
      ["body", 1],
    ]);
    expect(seen.fields[0]!.examples[0]).toEqual({ name: "Rope", before: "Rope now", after: "Rope for sale" });
    expect(seen.firstRefused.map(({ line }) => line)).toEqual([6, 7]);
    expect(everything(db)).toEqual(before);
  });

  it("is what it then does, whatever the file: pages that swap, come without an id, change their kind", async () => {
    const cell = fc.constantFrom("", "a", "b");
    const one = fc.record({
      id: fc.constantFrom("", "1", "2", "3", "4"),
      address: fc.constantFrom("", "/a", "/b", "/c", "/d"),
      name: cell,
      title: cell,
      colour: cell,
      by_hand: fc.constantFrom("", "title", "slug title", "robots"),
      hand_texts: fc.constantFrom("", '{"title":"mine"}', "no json", '{"alt":{"/a.jpg":"A rope"}}', '{"keywords":7}'),
      kind: fc.constantFrom("", "post"),
      body: fc.constantFrom("", "<p>x</p>", "<p>y</p>"),
    });
    const file = fc.array(one.map(row), { maxLength: 6 }).filter((rows) => rows.length > 0);
    const step = fc.record({ rows: file, areAll: fc.boolean() });
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 4 }), async (all) => {
        const db = fresh();
        for (const { rows, areAll } of all) {
          const path = fileOf(rows);
          const seen = await foresee(db, path, mapping);
          const done = await bringIn(db, path, "x.csv", { mapping, byHand: "none", areAll }, { now });
          const { added, returned, updated, unchanged, refused } = seen;
          expect({ added, returned, updated, unchanged, refused }).toEqual({
            added: done.added,
            returned: done.returned,
            updated: done.updated,
            unchanged: done.unchanged,
            refused: done.refused,
          });
          expect(seen.rows).toBe(added + returned + updated + unchanged + refused);
          if (areAll) expect(done.gone + done.stayed).toBe(seen.untouched);
          expect(sharedAddresses(db)).toEqual([]);
        }
      }),
      { numRuns: draws(400) },
    );
  });

  it("refuses a second row about a page, told by its id in one and by its address in the other, with both lines", async () => {
    const db = fresh();
    const page = row({ id: "4", address: "/d", name: "Oar", title: "One" });
    await bringIn(db, fileOf([page]), "a.csv", { mapping, byHand: "none" }, { now });
    const twice = fileOf([
      row({ address: "/d", name: "Oar", title: "Two" }),
      row({ id: "4", name: "Oar", title: "Three" }),
    ]);
    const seen = await foresee(db, twice, mapping);
    expect(seen).toMatchObject({ rows: 2, updated: 1, refused: 1 });
    expect(seen.firstRefused[0]).toMatchObject({
      line: 3,
      reason: expect.stringMatching(/^Line 2 .* the same page.*“Oar”/),
    });
    expect(await bringIn(db, twice, "b.csv", { mapping, byHand: "none" }, { now })).toMatchObject({
      updated: 1,
      refused: 1,
    });
    expect(db.prepare("SELECT title FROM items").pluck().all()).toEqual(["Two"]);
  });

  it("never puts two pages at one address: pages may swap theirs, but not come to where another stays", async () => {
    const db = fresh();
    const at = (id: string, address: string) => row({ id, address, name: `Page ${id}` });
    await bringIn(
      db,
      fileOf([at("1", "/a"), at("2", "/b"), at("3", "/c")]),
      "a.csv",
      { mapping, byHand: "none" },
      { now },
    );
    const swap = fileOf([at("1", "/b"), at("2", "/a"), at("9", "/c"), at("4", "/new")]);
    expect(await foresee(db, swap, mapping)).toMatchObject({ rows: 4, added: 1, updated: 2, refused: 1 });
    expect(await bringIn(db, swap, "b.csv", { mapping, byHand: "none" }, { now })).toMatchObject({
      rows: 4,
      added: 1,
      updated: 2,
      refused: 1,
    });
    expect(db.prepare("SELECT key, path FROM items ORDER BY key").raw().all()).toEqual([
      ["1", "/b"],
      ["2", "/a"],
      ["3", "/c"],
      ["4", "/new"],
    ]);
    expect(db.prepare("SELECT line, reason FROM refused_rows").all()).toEqual([
      {
        line: 4,
        reason: "The page with the id “3” is at /c already and stays there; two pages cannot be at one address",
      },
    ]);
    // In a ring of which one stays, none can move.
    const ring = fileOf([at("1", "/a"), at("2", "/c"), at("3", "/new")]);
    expect(await bringIn(db, ring, "c.csv", { mapping, byHand: "none" }, { now })).toMatchObject({
      updated: 0,
      refused: 3,
    });
  });

  it("is given up where nobody waits for it", async () => {
    const rows = Array.from({ length: 600 }, (_, i) => row({ id: `${i}`, address: `/p/${i}` }));
    const gone = new AbortController();
    const told: number[] = [];
    const progress = (count: number) => {
      told.push(count);
      gone.abort();
    };
    await expect(foresee(fresh(), fileOf(rows), mapping, { signal: gone.signal, progress })).rejects.toThrow(Cancelled);
    expect(told).toEqual([250]);
  });
});
