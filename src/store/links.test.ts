import fc from "fast-check";
import { beforeEach, describe, expect, it } from "vitest";
import { linksOf } from "../core/links/body-links";
import { DEMO_SITE } from "../demo/site";
import { itemWriter } from "./bring-items";
import { dropMends, iterateLinks, linksRead, linksVersion, mendedLinks, mendLinks, readNextLinks } from "./links";
import { type Db, openStore } from "./open";
import { readSite, writeSite } from "./site";
import { draws } from "../test/draws";

let db: Db;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
});

function put(key: string, path: string | null, body: string): void {
  itemWriter(db)({ kind: "product", key, path, columns: { name: key }, attributes: null, body, byHand: null }, 1);
}

function readAll(): void {
  while (readNextLinks(db) > 0);
}

const found = () => [...iterateLinks(db)].map(({ item, number, href, path }) => [item, number, href, path]);

/** What stands in the bodies by now, read one by one. */
function model(): unknown[] {
  const base = new URL(readSite(db)!.baseUrl).origin;
  const rows = db
    .prepare("SELECT items.id AS id, path, body FROM items JOIN bodies ON bodies.item_id = items.id ORDER BY items.id")
    .all() as { id: number; path: string | null; body: string }[];
  return rows.flatMap(({ id, path, body }) =>
    linksOf(body, base + (path ?? "/")).map(({ number, href, path: to }) => [id, number, href, to]),
  );
}

describe("the links of bodies", () => {
  it("are those that stand there now, whatever was written, moved, removed, and read in between", () => {
    const body = fc.constantFrom("", '<a href="b">b</a>', '<a name="x"></a><a href="/c">c</a>', "<p>no link</p>");
    const path = fc.constantFrom("/a", "/x/y", "/x/y/z");
    const step = fc.oneof(
      fc.record({ do: fc.constant("body" as const), page: fc.nat(3), body }),
      fc.record({ do: fc.constant("move" as const), page: fc.nat(3), path }),
      fc.record({ do: fc.constant("remove" as const), page: fc.nat(3) }),
      fc.record({
        do: fc.constant("host" as const),
        host: fc.constantFrom("https://one.example", "https://two.example"),
      }),
      fc.record({ do: fc.constant("read" as const) }),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 20 }), (steps) => {
        db = openStore(":memory:");
        writeSite(db, DEMO_SITE);
        for (const own of steps) {
          const key = "page" in own ? `k${own.page}` : "";
          if (own.do === "body") put(key, `/at/${key}`, own.body);
          else if (own.do === "move")
            db.prepare("UPDATE items SET path = ? WHERE key = ?").run(`${own.path}/${key}`, key);
          else if (own.do === "remove") db.prepare("DELETE FROM items WHERE key = ?").run(key);
          else if (own.do === "host") writeSite(db, { ...DEMO_SITE, baseUrl: own.host });
          else readAll();
        }
        readAll();
        expect(found()).toEqual(model());
        expect(linksRead(db).unread).toBe(0);
        db.close();
      }),
      { numRuns: draws(300) },
    );
  });

  it("says how many wait; what stays as it is is not read again", () => {
    put("a", "/a", '<a href="/b">b</a>');
    put("b", "/b", '<a href="/a">a</a>');
    put("c", "/c", "");
    expect(linksRead(db)).toEqual({ bodies: 2, unread: 2 });
    readAll();
    const version = linksVersion(db);
    put("a", "/a", '<a href="/b">b</a>');
    db.prepare("UPDATE items SET title = 'Another', path = path").run();
    expect(linksRead(db)).toEqual({ bodies: 2, unread: 0 });
    readAll();
    expect(linksVersion(db)).toBe(version);
  });

  it("waits again as soon as the site has another address, before anything is read for it", () => {
    put("a", "/a", '<a href="https://elsewhere.example/b">b</a>');
    readAll();
    expect(found()).toEqual([]);
    writeSite(db, { ...DEMO_SITE, baseUrl: "https://elsewhere.example" });
    expect(linksRead(db)).toEqual({ bodies: 1, unread: 1 });
    readAll();
    expect(found()).toEqual([[1, 1, "https://elsewhere.example/b", "/b"]]);
  });

  it("waits for a site: without one nothing is read, and nothing is lost", () => {
    db.prepare("DELETE FROM site").run();
    db.prepare("INSERT INTO items (id, kind, path) VALUES (1, 'product', '/a')").run();
    db.prepare("INSERT INTO bodies VALUES (1, ?)").run('<a href="/b">b</a>');
    expect(readNextLinks(db)).toBe(0);
    writeSite(db, DEMO_SITE);
    readAll();
    expect(found()).toHaveLength(1);
  });
});

describe("mends", () => {
  beforeEach(() => {
    put("a", "/a", '<a href="/old">x</a> <a href="/old">y</a> <a href="/kept">z</a>');
    readAll();
  });
  const mended = () => mendedLinks(db).map(({ number, href, after }) => [number, href, after]);

  it("are of every link of the page that says so, and can be taken back", () => {
    expect(mendLinks(db, [{ item: 1, href: "/old", after: "/new" }])).toBe(1);
    expect(mended()).toEqual([
      [1, "/old", "/new"],
      [2, "/old", "/new"],
    ]);
    expect(dropMends(db, [{ item: 1, href: "/old" }])).toBe(1);
    expect(mended()).toEqual([]);
  });

  it("hold for what is there again, and are none where the link says it already", () => {
    mendLinks(db, [{ item: 1, href: "/old", after: "/new" }]);
    put("a", "/a", '<a href="/new">x</a>');
    readAll();
    expect(mended()).toEqual([]);
    put("a", "/a", '<a href="/old">x</a>');
    readAll();
    expect(mended()).toEqual([[1, "/old", "/new"]]);
    mendLinks(db, [{ item: 1, href: "/old", after: "/old" }]);
    expect(mended()).toEqual([]);
  });

  it("do not undo each other in a ring", () => {
    mendLinks(db, [{ item: 1, href: "/old", after: "/new" }]);
    mendLinks(db, [{ item: 1, href: "/new", after: "/old" }]);
    expect(mended()).toEqual([]);
    put("a", "/a", '<a href="/new">x</a>');
    readAll();
    expect(mended()).toEqual([[1, "/new", "/old"]]);
  });
});
