import Database from "better-sqlite3";
import { chmodSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { DEMO_SITE, demoItems } from "../demo/site";
import { itemWriter } from "./bring-items";
import { explain, lockForServer, openStore, StoreError } from "./open";
import { nextRevision, readSite, revision, writeSite } from "./site";

const fresh = () => {
  const db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  return db;
};

describe("the store", () => {
  it("keeps the site's settings and counts revisions", () => {
    const db = fresh();
    expect(readSite(db)).toEqual(DEMO_SITE);
    expect(revision(db)).toBe(0);
    expect(nextRevision(db)).toBe(1);
  });

  it("brings an item in again by its key or its path, and keeps what was not brought along", () => {
    const db = fresh();
    const put = itemWriter(db);
    const blank = { kind: "product" as const, attributes: null, body: null, byHand: null };
    expect(
      put(
        { ...blank, key: "1", path: "/a", columns: { name: "Rope", title: "Rope now" }, attributes: { size: "8 mm" } },
        1,
      ),
    ).toBe("added");
    expect(put({ ...blank, key: "1", path: "/a", columns: { name: "Rope" } }, 2)).toBe("unchanged");
    expect(
      put(
        {
          ...blank,
          key: null,
          path: "/a",
          columns: { title: "Other" },
          attributes: { colour: "red" },
          byHand: ["title"],
        },
        3,
      ),
    ).toBe("updated");
    expect(db.prepare("SELECT key, name, title, attributes, revision FROM items").all()).toEqual([
      { key: "1", name: "Rope", title: "Other", attributes: '{"size":"8 mm","colour":"red"}', revision: 3 },
    ]);
    expect(db.prepare("SELECT text, value FROM hand_texts").all()).toEqual([{ text: "title", value: "Other" }]);
  });

  it("says what is wrong with a database, where, and what to do", () => {
    const folder = mkdtempSync(join(tmpdir(), "nine-lines-store-"));
    const file = join(folder, "not.db");
    writeFileSync(file, "this is no database, however long it may be ".repeat(200));
    expect(() => openStore(file)).toThrow(StoreError);
    expect(() => openStore(file)).toThrow(/not a database.*NINE_LINES_DATA/s);
    expect(() => openStore(join(file, "x.db"))).toThrow(/cannot be (opened|written)/);
    expect(explain({ code: "SQLITE_FULL" }, "/data/x.db")).toMatch(/disk.*full.*free some space/i);
    expect(explain({ code: "EROFS" }, "/data/x.db")).toMatch(/file system that can only be read/);
    expect(explain({ code: "EACCES" }, join(folder, "x.db"))).toMatch(/cannot be written.*right/s);
    // `/proc` takes no file from anybody, whoever runs the tests.
    expect(() => openStore("/proc/nine-lines.db")).toThrow(/cannot be (opened|written)/);
    expect(explain({ code: "SQLITE_READONLY" }, "/data/x.db")).toMatch(/cannot be written.*right/s);
    chmodSync(folder, 0o700);
  });
});

describe("a file that is not this version's", () => {
  const folder = mkdtempSync(join(tmpdir(), "nine-lines-foreign-"));
  const bytes = (file: string) => readFileSync(file);

  it("of another program is refused in words, and no byte of it is changed", () => {
    const file = join(folder, "other.db");
    const other = new Database(file);
    other.exec("CREATE TABLE songs (name TEXT); INSERT INTO songs VALUES ('x')");
    other.close();
    const before = bytes(file);
    expect(() => openStore(file)).toThrow(/other\.db is a database of another program\..*NINE_LINES_DATA/);
    expect(bytes(file).equals(before)).toBe(true);
    const marked = join(folder, "marked.db");
    const own = new Database(marked);
    own.exec("CREATE TABLE items (id INTEGER); CREATE TABLE site (id INTEGER); PRAGMA application_id = 7");
    own.close();
    expect(() => openStore(marked)).toThrow(/another program/);
  });

  it("of a newer version is refused, with both numbers", () => {
    const file = join(folder, "newer.db");
    openStore(file).close();
    const own = new Database(file);
    own.pragma("user_version = 9999");
    own.close();
    expect(() => openStore(file)).toThrow(/written by a newer version of Nine Lines \(9999; this one knows \d+\)/);
  });

  it("from before files were marked is opened, and marked then", () => {
    const file = join(folder, "older.db");
    openStore(file).close();
    const own = new Database(file);
    own.pragma("application_id = 0");
    own.close();
    const again = openStore(file);
    expect(again.pragma("application_id", { simple: true })).toBe(0x4e4c494e);
    again.close();
  });

  it("has one server at a time, and the next one when that is gone", () => {
    const file = join(folder, "served.db");
    const unlock = lockForServer(file);
    expect(() => lockForServer(file)).toThrow(/Another server works on .*served\.db/);
    unlock();
    lockForServer(file)();
  });
});

describe("the demo site", () => {
  it("is the same for the same seed, and has a real site's faults in believable shares", () => {
    const items = [...demoItems({ products: 4000 })];
    expect(JSON.stringify([...demoItems({ products: 4000 })].slice(0, 2000))).toBe(
      JSON.stringify(items.slice(0, 2000)),
    );
    const [categories, posts, products] = (["category", "post", "product"] as const).map((kind) =>
      items.filter((item) => item.kind === kind),
    ) as [typeof items, typeof items, typeof items];
    expect([categories.length, posts.length, products.length]).toEqual([420, 906, 4000]);
    const share = (test: (item: (typeof products)[number]) => boolean) =>
      products.filter(test).length / products.length;
    expect(share((item) => item.columns.title!.endsWith("Fennick & Dray Ships' Chandlers"))).toBeCloseTo(0.5, 1);
    expect(share((item) => item.columns.title === "")).toBeGreaterThan(0.02);
    expect(share((item) => item.columns.description === "")).toBeCloseTo(0.2, 1);
    expect(share((item) => item.columns.keyword !== "")).toBeCloseTo(0.6, 1);
    expect(share((item) => item.byHand !== null)).toBeGreaterThan(0.02);
    expect(share((item) => /[_A-Z]/.test(item.columns.slug!))).toBeGreaterThan(0.1);
    const sameTitle = [...demoItems()].filter(
      (item) => item.columns.title === "Clearance offers at Fennick & Dray",
    ).length;
    expect(sameTitle).toBeGreaterThanOrEqual(30);
    expect(sameTitle).toBeLessThanOrEqual(40);
    expect(new Set(items.map((item) => item.path)).size).toBe(items.length);
    const words = posts.map((item) => item.body!.split(/\s+/).length);
    // But for a few on which something is wrong.
    expect(words.filter((count) => count < 290).length).toBeLessThanOrEqual(5);
    expect(Math.max(...words)).toBeLessThanOrEqual(1700);
  });
});
