import fc from "fast-check";
import { expect, it } from "vitest";
import { type ItemBringer, itemBringer } from "./bring-items";
import { ItemConflict } from "./compare-items";
import { goneMarker } from "./gone";
import { DEMO_SITE } from "../demo/site";
import { type ItemInput } from "./items";
import { type Db, openStore } from "./open";
import { nextRevision, writeSite } from "./site";
import { draws } from "../test/draws";

// A letter beyond 16 bits, and a character that ends texts elsewhere.
const KEYS = [null, "1", "2", "3", "😀", "a\u0000b"];
const PATHS = [null, "/a", "/b", "/c", "/😀", "/a\u0000b"];

const row = fc
  .record({
    kind: fc.constantFrom("product", "post"),
    key: fc.constantFrom(...KEYS),
    path: fc.constantFrom(...PATHS),
    name: fc.constantFrom("Oar", "Cleat", "Shackle"),
  })
  .filter(({ key, path }) => key !== null || path !== null);
type Row = typeof row extends fc.Arbitrary<infer T> ? T : never;

const inputOf = ({ kind, key, path, name }: Row): ItemInput => ({
  kind,
  key,
  path,
  columns: { name },
  attributes: null,
  body: null,
  byHand: null,
});

/** What comes of rows that are brought in, in stretches of so many; some pages go before the last one. */
function broughtIn(rows: readonly Row[], size: number, isAsked: boolean): { results: string[]; pages: unknown[] } {
  const db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  db.exec("INSERT INTO imports (id, file, started_at, status) VALUES (1, 'x.csv', '', 'running')");
  const results: string[] = [];
  for (let from = 0; from < rows.length; from += size) {
    const part = rows.slice(from, from + size).map(inputOf);
    if (from + size >= rows.length) goEverySecond(db);
    // Each stretch is a file of its own: a page may come again in the next.
    const { together } = itemBringer(db);
    inOneTransaction(db, together, part, isAsked, results);
  }
  const pages = db.prepare("SELECT id, kind, key, path, name FROM items ORDER BY id").all();
  db.close();
  return { results, pages };
}

function goEverySecond(db: Db): void {
  const ids = db.prepare("SELECT id FROM items WHERE id % 2 = 0").pluck().all() as number[];
  db.transaction(() => {
    nextRevision(db);
    goneMarker(db, 1, "2026-11-26")(ids);
  })();
}

function inOneTransaction(
  db: Db,
  together: ItemBringer["together"],
  part: readonly ItemInput[],
  isAsked: boolean,
  results: string[],
): void {
  db.transaction(() =>
    together(isAsked ? part : [], nextRevision(db), (bring) => {
      for (const [line, input] of part.entries()) {
        try {
          results.push(bring(input, false, line));
        } catch (error) {
          if (!(error instanceof ItemConflict)) throw error;
          results.push(error.message);
        }
      }
    }),
  )();
}

it("rows whose places are looked up together come to the same as rows that are looked up one by one", () => {
  fc.assert(
    fc.property(fc.array(row, { maxLength: 24 }), fc.integer({ min: 1, max: 9 }), (rows, size) => {
      expect(broughtIn(rows, size, true)).toEqual(broughtIn(rows, size, false));
    }),
    { numRuns: draws(200) },
  );
});
