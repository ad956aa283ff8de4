import fc from "fast-check";
import { beforeAll, describe, expect, it } from "vitest";
import { loadDemo } from "../demo/load";
import { type Db, openStore } from "./open";
import { searchItems, searchQuery, syncSearch } from "./search";
import { nextRevision, revision } from "./site";

let db: Db;
beforeAll(() => {
  db = openStore(":memory:");
  loadDemo(db, { products: 84 });
  syncSearch(db, revision(db));
});

const found = (typed: string) => searchItems(db, searchQuery(typed)!);

describe("a query", () => {
  it.each([
    ["bronze cle", '"bronze"* "cle"*'],
    ["“mooring cleat” oak", '"mooring cleat" "oak"*'],
    ["name:x OR (y) NEAR", '"name x"* "OR"* "y"* "NEAR"*'],
    ["half-inch", '"half inch"*'],
  ])("%s", (typed, query) => expect(searchQuery(typed)).toBe(query));

  it.each(["", "  ", "“", '"" -', "—"])("is none of %j", (typed) => expect(searchQuery(typed)).toBeNull());

  it("can be asked whatever was typed", () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ maxLength: 40 }),
          fc.string({ unit: fc.constantFrom(..."\"'*^:()-+ aNOTORé".split("")), maxLength: 30 }),
        ),
        (typed) => {
          const query = searchQuery(typed);
          if (query !== null) expect(() => searchItems(db, query)).not.toThrow();
        },
      ),
      { numRuns: 2000 },
    );
  });
});

describe("the full text index", () => {
  it("finds words, their beginnings and phrases, case and accents aside, in all that a page holds", () => {
    const item = db.prepare("SELECT id, name, path FROM items WHERE name LIKE 'Fjällräv%' LIMIT 1").get() as {
      id: number;
      name: string;
      path: string;
    };
    for (const typed of ["FJALLRAV", "fjäll", `"${item.name}"`, item.path]) expect(found(typed)).toContain(item.id);
    expect(found('"rope the splicing"')).toEqual([]);
    const words = db
      .prepare("SELECT count(*) FROM items WHERE name LIKE '%anchor%' OR name LIKE 'anchor%'")
      .pluck()
      .get() as number;
    expect(found("anchor").length).toBeGreaterThanOrEqual(words);
  });

  it("follows what changes, and forgets what was", () => {
    const id = found("anchor")[0]!;
    db.prepare("UPDATE items SET name = 'Quixotic winch', title = '', description = '', revision = ? WHERE id = ?").run(
      nextRevision(db),
      id,
    );
    db.prepare("INSERT INTO hand_texts VALUES (?, 'title', 'Zymotic wonder')").run(id);
    syncSearch(db, revision(db));
    expect(found("quixotic")).toEqual([id]);
    expect(found("zymotic")).toEqual([id]);
    db.prepare("INSERT INTO hand_extras VALUES (?, 'alt', '/a.jpg', 'A psaltery at dusk')").run(id);
    db.prepare("UPDATE items SET revision = ? WHERE id = ?").run(nextRevision(db), id);
    syncSearch(db, revision(db));
    expect([found("psaltery"), found("zymotic")]).toEqual([[id], [id]]);
  });

  it("is whole and holds nothing twice, however many bring it up to date, and wherever one stops", () => {
    const other = openStore(":memory:");
    loadDemo(other, { products: 1260 });
    const state = other.prepare("SELECT revision, target, after FROM item_search_state");
    // One that ended half-way leaves behind how far it was.
    other.prepare("UPDATE item_search_state SET target = ?, after = 0 WHERE id = 1").run(revision(other));
    syncSearch(other, revision(other));
    syncSearch(other, revision(other));
    expect(state.get()).toMatchObject({ revision: revision(other), target: null });
    const ids = searchItems(other, '"a"* OR "b"* OR "c"* OR "r"* OR "s"* OR "o"* OR "t"*');
    expect(ids).toHaveLength(other.prepare("SELECT count(*) FROM items").pluck().get() as number);
    expect(new Set(ids).size).toBe(ids.length);
  });
});
