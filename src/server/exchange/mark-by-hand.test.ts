import { beforeEach, expect, it } from "vitest";
import { type TextName } from "../../core/design/kinds";
import { type ByHandChoice } from "../../core/infer/by-hand";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { type Db, openStore } from "../../store/open";
import { nextRevision, revision, writeSite } from "../../store/site";
import { handsMarker } from "../../store/mark-hands";
import { markByHand } from "./mark-by-hand";

let db: Db;
let importId: number;
const ALL = new Set(["title", "description", "slug"] as const);

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  const put = db.prepare(
    "INSERT INTO imports (file, started_at, status, tracked) VALUES ('x.csv', '2026-11-26', 'running', 1)",
  );
  importId = Number(put.run().lastInsertRowid);
});

function put(from: number, to: number, title: (n: number) => string): number {
  const before = revision(db);
  const write = itemWriter(db);
  for (let n = from; n < to; n++) {
    const columns = { name: `Cleat of sort ${n}`, title: title(n), slug: `cleat-${n}` };
    write(
      {
        kind: "product",
        key: String(n),
        path: `/c/${n}`,
        columns,
        attributes: { colour: `tone ${n}` },
        body: null,
        byHand: null,
      },
      nextRevision(db),
    );
  }
  return before;
}
const mark = (choice: ByHandChoice, since: number, texts: ReadonlySet<TextName>) =>
  markByHand(db, DEMO_SITE, { choice, since, texts }, handsMarker(db, importId));
const hands = () =>
  db
    .prepare("SELECT key, text, value FROM hand_texts JOIN items ON items.id = item_id ORDER BY item_id, text")
    .raw()
    .all();

it("texts that no template explains are taken as written by hand, and no others", () => {
  const since = put(0, 60, (n) =>
    n === 7 ? "Our best, made to last" : n === 9 ? "" : `Cleat of sort ${n} | ${DEMO_SITE.name}`,
  );
  expect(mark("unexplained", since, ALL)).toBe(1);
  expect(hands()).toEqual([["7", "title", "Our best, made to last"]]);
});

it("all are, slugs too, or none, where that is the answer", () => {
  const since = put(0, 3, (n) => (n === 1 ? "" : `Title ${n}`));
  expect(mark("none", since, ALL)).toBe(0);
  expect(mark("all", since, ALL)).toBe(5);
  expect(hands()).toHaveLength(5);
  expect(hands()).toContainEqual(["0", "title", "Title 0"]);
  expect(hands()).toContainEqual(["1", "slug", "cleat-1"]);
});

it("only what the file had, and only pages that it changed, are looked at", () => {
  put(0, 60, (n) => (n < 3 ? `One of its own: ${"abc"[n]}` : `Cleat of sort ${n} | ${DEMO_SITE.name}`));
  const since = put(2, 61, (n) =>
    n === 60 ? "Quite another" : n === 2 ? "One of its own: c" : `Cleat of sort ${n} | ${DEMO_SITE.name}`,
  );
  expect(mark("unexplained", since, new Set(["slug"]))).toBe(0);
  expect(mark("unexplained", since, ALL)).toBe(1);
  expect(hands()).toEqual([["60", "title", "Quite another"]]);
});
