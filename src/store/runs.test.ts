import { readFileSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEMO_SITE } from "../demo/site";
import { itemWriter } from "./bring-items";
import { goneMarker } from "./gone";
import { type Db, migrationsFolder, openStore } from "./open";
import {
  changesAfter,
  type ChangedText,
  countRun,
  historyOfItem,
  listRuns,
  type NewChange,
  readRun,
  setRunStatus,
  skipWaiting,
  stopInterruptedRuns,
} from "./runs";
import { writeSite } from "./site";
import { storedRun } from "../test/stored-run";

const TEXTS: readonly ChangedText[] = ["title", "description", "slug", "robots", "address"];
const change = (item: number, text: ChangedText): NewChange => ({
  item_id: item,
  text,
  before: "before",
  after: "after",
  path_before: null,
  path_after: null,
  revision: 1,
});
const anyChange = fc
  .record({ item: fc.integer({ min: 1, max: 6 }), text: fc.constantFrom(...TEXTS) })
  .map(({ item, text }) => change(item, text));
const run = (db: Db, changes: Iterable<NewChange>) => storedRun(db, changes);

function fresh(): Db {
  const db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  const put = itemWriter(db);
  for (let n = 1; n <= 6; n++)
    put(
      {
        kind: "product",
        key: String(n),
        path: `/p${n}`,
        columns: { name: `Page ${n}` },
        attributes: null,
        body: null,
        byHand: null,
      },
      1,
    );
  return db;
}

/** A run's figures counted from its changes. */
function counted(db: Db, id: number) {
  const count = (where: string, what = "*") =>
    db.prepare(`SELECT count(${what}) FROM run_changes WHERE run_id = ? AND ${where}`).pluck().get(id) as number;
  return {
    changes: count("1"),
    waiting: count("status = 'waiting'"),
    applied: count("status = 'applied'"),
    skipped: count("status = 'skipped'"),
    items: count("1", "DISTINCT item_id"),
    titles: count("text = 'title'"),
    descriptions: count("text = 'description'"),
    slugs: count("text = 'slug'"),
    robots: count("text = 'robots'"),
  };
}

describe("a run’s figures", () => {
  it("are those of its changes, whatever they are and whatever becomes of them", () => {
    fc.assert(
      fc.property(fc.array(anyChange, { maxLength: 25 }), fc.nat(25), fc.nat(25), (changes, applied, skipped) => {
        const db = fresh();
        const other = run(db, [change(1, "title")]);
        const id = run(db, changes);
        expect(readRun(db, id)).toMatchObject(counted(db, id));
        const settle = (status: string, most: number) =>
          db
            .prepare(
              "UPDATE run_changes SET status = ? WHERE id IN (SELECT id FROM run_changes WHERE run_id = ? AND status = 'waiting' LIMIT ?)",
            )
            .run(status, id, most).changes;
        countRun(db, id, { applied: settle("applied", applied), skipped: settle("skipped", skipped), redirects: 2 });
        expect(readRun(db, id)).toMatchObject({ ...counted(db, id), redirects: 2 });
        skipWaiting(db, id, "No longer wanted");
        expect(readRun(db, id)).toMatchObject({ ...counted(db, id), waiting: 0 });
        expect(readRun(db, other)).toMatchObject({ waiting: 1, applied: 0, skipped: 0, redirects: 0 });
        db.close();
      }),
      { numRuns: 60 },
    );
  });

  it("are counted once for runs that an older version wrote", () => {
    const db = new Database(":memory:");
    for (const file of ["001-start.sql", "002-named-drafts.sql", "003-edits.sql"])
      db.exec(readFileSync(join(migrationsFolder(), file), "utf8"));
    db.exec(
      "INSERT INTO runs (id, type, status, note, design, created_at) VALUES (1, 'apply', 'stopped', '', '{}', ''), (2, 'apply', 'ready', '', '{}', '')",
    );
    const put = db.prepare(
      "INSERT INTO run_changes (run_id, item_id, text, before, after, revision, status) VALUES (?, ?, ?, '', '', 1, ?)",
    );
    for (const [item, text, status] of [
      [1, "title", "applied"],
      [1, "slug", "applied"],
      [2, "title", "skipped"],
      [3, "robots", "waiting"],
      [4, "address", "applied"],
    ] as const)
      put.run(1, item, text, status);
    put.run(2, 9, "description", "waiting");
    db.exec("INSERT INTO redirects (run_id, item_id, from_path, to_path) VALUES (1, 1, '/a', '/b')");
    db.exec(readFileSync(join(migrationsFolder(), "004-run-figures.sql"), "utf8"));
    db.exec(readFileSync(join(migrationsFolder(), "005-one-truth.sql"), "utf8"));
    expect(readRun(db, 1)).toMatchObject({
      ...counted(db, 1),
      redirects: 1,
      waiting: 1,
      applied: 3,
      skipped: 1,
      items: 4,
    });
    expect(readRun(db, 2)).toMatchObject({ ...counted(db, 2), redirects: 0, waiting: 1 });
  });
});

describe("runs", () => {
  it("are listed the newest first, as many as are asked for", () => {
    const db = fresh();
    const ids = [1, 2, 3, 4].map((item) => run(db, [change(item, "title")]));
    expect(listRuns(db).map(({ id }) => id)).toEqual([...ids].reverse());
    expect(listRuns(db, 1).map(({ id }) => id)).toEqual([ids.at(-1)]);
    expect(readRun(db, 99)).toBeUndefined();
  });

  it("are written whole or not at all", () => {
    const db = fresh();
    function* broken() {
      yield change(1, "title");
      throw new Error("The disk is full");
    }
    expect(() => run(db, broken())).toThrow("The disk is full");
    expect(listRuns(db)).toEqual([]);
    expect(db.prepare("SELECT count(*) FROM run_changes").pluck().get()).toBe(0);
  });

  it("that were under way when the process ended are stopped, others stay as they are", () => {
    const db = fresh();
    const [running, done, ready] = [1, 2, 3].map((item) => run(db, [change(item, "title")])) as [
      number,
      number,
      number,
    ];
    setRunStatus(db, running, "running", "2026-11-25T10:00:00Z");
    setRunStatus(db, done, "done", "2026-11-25T10:00:00Z");
    expect(stopInterruptedRuns(db)).toBe(1);
    expect([running, done, ready].map((id) => readRun(db, id)!.status)).toEqual(["stopped", "done", "ready"]);
    expect(readRun(db, done)!.ended_at).toBe("2026-11-25T10:00:00Z");
    expect(readRun(db, running)!.ended_at).toBeNull();
  });

  it("give their changes page by page, each once, with the names of the pages", () => {
    const db = fresh();
    run(db, [change(1, "title")]);
    const id = run(
      db,
      Array.from({ length: 23 }, (_, i) => change((i % 6) + 1, "title")),
    );
    const all: number[] = [];
    for (let after = 0; ;) {
      const page = changesAfter(db, id, after, 5);
      if (page.length === 0) break;
      for (const own of page) {
        expect(own.run_id).toBe(id);
        expect(own.name).toBe(`Page ${own.item_id}`);
        all.push(own.id);
      }
      after = page.at(-1)!.id;
    }
    expect(new Set(all).size).toBe(23);
    expect(all).toEqual([...all].sort((a, b) => a - b));
  });

  it("keep the changes of a page that is gone", () => {
    const db = fresh();
    const id = run(db, [change(2, "title"), change(3, "title"), change(4, "title")]);
    goneMarker(db, 1, "2026-11-26")([2]);
    db.prepare("DELETE FROM items WHERE id = 3").run();
    expect(changesAfter(db, id, 0, 10).map(({ name, path, isGone, after }) => [name, path, isGone, after])).toEqual([
      ["Page 2", "/p2", true, "after"],
      ["", "", true, "after"],
      ["Page 4", "/p4", false, "after"],
    ]);
  });

  it("are a page’s history, the newest first, without other pages’", () => {
    const db = fresh();
    const first = run(db, [change(1, "title"), change(2, "title")]);
    const second = run(db, [change(1, "slug")]);
    expect(historyOfItem(db, 1).map(({ run_id, text }) => [run_id, text])).toEqual([
      [second, "slug"],
      [first, "title"],
    ]);
    expect(historyOfItem(db, 1, 1).length).toBe(1);
    expect(historyOfItem(db, 5)).toEqual([]);
  });
});
