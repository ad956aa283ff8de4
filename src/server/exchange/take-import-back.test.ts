import fc from "fast-check";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { DEMO_SITE } from "../../demo/site";
import { csvLine } from "../../formats/csv-write";
import { guessTargets } from "../../formats/guess-by-names";
import { countGone, deleteGone, goneIds, listGone } from "../../store/gone";
import { readImport } from "../../store/imports";
import { type Db, openStore } from "../../store/open";
import { syncSearch, searchItems } from "../../store/search";
import { revision, writeSite } from "../../store/site";
import { Workspace } from "../workspace/workspace";
import { bringIn } from "./bring-in";
import { takeImportBack } from "./take-import-back";
import { draws } from "../../test/draws";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-back-"));
const now = () => "2026-11-26T10:00:00Z";
const HEADER = ["id", "address", "name", "title", "colour", "by_hand", "hand_texts", "kind", "body"] as const;
type Row = Partial<Record<(typeof HEADER)[number], string>>;
const mapping = { targets: guessTargets([...HEADER]), kind: "product" as const };
let files = 0;

function fileOf(rows: readonly Row[]): string {
  const file = join(folder, `${files++}.csv`);
  const lines = rows.map((row) => csvLine(HEADER.map((name) => row[name] ?? "")));
  writeFileSync(file, csvLine([...HEADER]) + lines.join(""));
  return file;
}

function fresh(): Db {
  const db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  return db;
}

const bring = (db: Db, rows: readonly Row[], areAll = false) =>
  bringIn(db, fileOf(rows), "x.csv", { mapping, byHand: "all", areAll }, { now });

/** All that the site has, revisions aside. */
function everything(db: Db): unknown {
  const items = db.prepare("SELECT * FROM items ORDER BY id").all() as Record<string, unknown>[];
  return {
    items: items.map(({ revision: _own, content_revision: _content, ...row }) => row),
    bodies: db.prepare("SELECT * FROM bodies WHERE body <> '' ORDER BY item_id").all(),
    hands: db.prepare("SELECT * FROM hand_texts ORDER BY item_id, text").all(),
    extras: db.prepare("SELECT * FROM hand_extras ORDER BY item_id, text, image").all(),
  };
}
const names = (db: Db) => db.prepare("SELECT name FROM items ORDER BY name").pluck().all();

const ROPE = { id: "1", address: "/rope", name: "Rope", title: "Rope now", body: "<p>Laid up here.</p>" };
const TWINE = { id: "2", address: "/twine", name: "Twine", title: "Twine now", colour: "red" };
const OAR = { id: "3", address: "/oar", name: "Oar" };

describe("pages that a file with all pages does not have", () => {
  it("are gone, with what they had, out of counts, lists and the search; their kind alone", async () => {
    const db = fresh();
    await bring(db, [ROPE, TWINE, { id: "9", address: "/knots", name: "Knots", kind: "post" }]);
    const workspace = new Workspace(db);
    expect(workspace.at(() => workspace.data("product").ids.length)).toBe(2);
    syncSearch(db, revision(db));
    expect(searchItems(db, '"twine"*')).toHaveLength(1);
    expect(await bring(db, [ROPE, OAR], true)).toMatchObject({ added: 1, unchanged: 1, gone: 1, stayed: 0 });
    expect(names(db)).toEqual(["Knots", "Oar", "Rope"]);
    expect(workspace.at(() => workspace.data("product").paths)).toEqual(["/rope", "/oar"]);
    syncSearch(db, revision(db));
    expect(searchItems(db, '"twine"*')).toEqual([]);
    expect(listGone(db, goneIds(db, ""))).toMatchObject([{ name: "Twine", path: "/twine", file: "x.csv", import: 2 }]);
  });

  it("stay where a row was refused, that may have been theirs", async () => {
    const db = fresh();
    await bring(db, [ROPE, TWINE]);
    const done = await bring(db, [ROPE, { id: "2", address: "nowhere at all", name: "Twine" }], true);
    expect(done).toMatchObject({ refused: 1, gone: 0, stayed: 1 });
    expect(names(db)).toEqual(["Rope", "Twine"]);
  });

  it("come back as they were, by id or address, and are told so", async () => {
    const db = fresh();
    await bring(db, [ROPE, TWINE]);
    const before = everything(db);
    await bring(db, [OAR], true);
    expect(names(db)).toEqual(["Oar"]);
    expect(await bring(db, [ROPE, { ...TWINE, id: "" }])).toMatchObject({ returned: 2, added: 0 });
    const { items, ...rest } = everything(db) as { items: { name: string }[] };
    expect({ items: items.filter(({ name }) => name !== "Oar"), ...rest }).toEqual(before);
    expect(countGone(db)).toBe(0);
  });

  it("are refused where another page is at their address by now", async () => {
    const db = fresh();
    await bring(db, [ROPE]);
    await bring(db, [{ ...OAR, address: "/other" }], true);
    await bring(db, [{ ...TWINE, address: "/rope" }]);
    expect(await bring(db, [ROPE])).toMatchObject({ returned: 0, refused: 1 });
    expect(countGone(db)).toBe(1);
  });

  it("never give their number to another page, deleted for good either", async () => {
    const db = fresh();
    await bring(db, [ROPE, TWINE]);
    await bring(db, [ROPE], true);
    expect(deleteGone(db, [2])).toBe(1);
    await bring(db, [OAR]);
    expect(db.prepare("SELECT id FROM items WHERE name = 'Oar'").pluck().get()).toBe(3);
  });
});

describe("a bringing in that is taken back", () => {
  it("leaves the site as it was, whatever the files did", async () => {
    const cell = fc.constantFrom("", "a", "b");
    const row = fc.record({
      id: fc.constantFrom("", "1", "2", "3", "4"),
      address: fc.constantFrom("", "/a", "/b", "/c", "/d"),
      name: cell,
      title: cell,
      colour: cell,
      by_hand: fc.constantFrom("", "title", "slug title", "robots"),
      hand_texts: fc.constantFrom("", '{"title":"mine"}', '{"alt":{"/a.jpg":"A rope"}}'),
      kind: fc.constantFrom("", "post"),
      body: fc.constantFrom("", "<p>x</p>", "<p>y</p>"),
    });
    const step = fc.record({ rows: fc.array(row, { minLength: 1, maxLength: 6 }), areAll: fc.boolean() });
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 4 }), async (steps) => {
        const db = fresh();
        const states: unknown[] = [];
        for (const { rows, areAll } of steps) {
          states.push(everything(db));
          await bring(db, rows, areAll);
        }
        for (let id = steps.length; id >= 1; id--) {
          expect(await takeImportBack(db, id, { now })).toMatchObject({ status: "done", kept: 0 });
          expect(everything(db)).toEqual(states[id - 1]);
        }
      }),
      { numRuns: draws(400) },
    );
  });

  it("keeps what was changed again since, and says of how many pages", async () => {
    const db = fresh();
    await bring(db, [ROPE, TWINE]);
    await bring(db, [
      { ...ROPE, title: "Second", colour: "blue" },
      { ...TWINE, title: "Second" },
    ]);
    await bring(db, [{ ...ROPE, title: "Third", colour: "blue" }]);
    expect(await takeImportBack(db, 2, { now })).toMatchObject({ back: 1, kept: 1 });
    expect(db.prepare("SELECT title, attributes FROM items ORDER BY id").all()).toEqual([
      { title: "Third", attributes: expect.not.stringContaining("blue") as string },
      { title: "Twine now", attributes: expect.stringContaining("red") as string },
    ]);
    expect(readImport(db, 2)).toMatchObject({ open: 0, kept: 1, takenBackAt: now() });
  });

  it("goes on where it was stopped", async () => {
    const db = fresh();
    const many = Array.from({ length: 1200 }, (_, i) => ({ id: `${i}`, address: `/p/${i}`, name: `Page ${i}` }));
    await bring(db, many);
    expect(await takeImportBack(db, 1, { now, stopped: () => true })).toMatchObject({ status: "stopped", pages: 500 });
    expect(readImport(db, 1)).toMatchObject({ open: 700, takenBackAt: null });
    expect(await takeImportBack(db, 1, { now })).toMatchObject({ status: "done", pages: 700 });
    expect(names(db)).toEqual([]);
    expect(await bring(db, many)).toMatchObject({ returned: 1200 });
  });

  it("can be so of the last twenty files; what older ones did is let go of", async () => {
    const db = fresh();
    for (let i = 0; i < 22; i++) await bring(db, [{ ...ROPE, title: `Title ${i}` }]);
    expect([1, 2, 3, 22].map((id) => readImport(db, id)!.open)).toEqual([0, 1, 1, 1]);
    await bring(db, [ROPE]);
    expect([2, 3].map((id) => readImport(db, id)!.open)).toEqual([0, 1]);
    expect(db.prepare("SELECT count(*) FROM import_changes WHERE import_id = 2").pluck().get()).toBe(0);
  });

  it("is refused in words where there is none", async () => {
    await expect(takeImportBack(fresh(), 7, { now })).rejects.toThrow("There is no import with the number 7");
  });
});
