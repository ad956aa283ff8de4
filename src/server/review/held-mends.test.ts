import fc from "fast-check";
import { beforeEach, describe, expect, it } from "vitest";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { goneMarker } from "../../store/gone";
import { dropMends, mendedLinks, mendLinks, readNextLinks } from "../../store/links";
import { type Db, openStore } from "../../store/open";
import { nextRevision, readSite, writeSite } from "../../store/site";
import { HeldMends } from "./held-mends";

let db: Db;

const put = (key: string, body: string) =>
  itemWriter(db)(
    { kind: "product", key, path: `/${key}`, columns: { name: key }, attributes: null, body, byHand: null },
    nextRevision(db),
  );
const readAll = () => {
  while (readNextLinks(db) > 0);
};

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
});

/** What can happen to links, their mends, their pages, and the address of the site. */
const STEPS: Readonly<Record<string, () => unknown>> = {
  mend: () => mendLinks(db, [{ item: 1, href: "/old", after: "/new" }]),
  mendOther: () => mendLinks(db, [{ item: 1, href: "/old", after: "/newer" }]),
  mendBack: () => mendLinks(db, [{ item: 1, href: "/old", after: "/old" }]),
  drop: () => dropMends(db, null),
  write: () => put("a", '<a href="/old">x</a>'),
  writeTwice: () => put("a", '<a href="/old">x</a><a href="/old">y</a>'),
  empty: () => put("a", ""),
  read: readAll,
  leave: () => goneMarker(db, 1, "2026-11-28")(nextRevision(db) ? [1] : []),
  move: () => writeSite(db, { ...readSite(db)!, baseUrl: `https://${nextRevision(db)}.example` }),
};

describe("held mends", () => {
  it("are those of the database, whatever happened; the digest is another where they are", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...Object.keys(STEPS)), { maxLength: 15 }), (names) => {
        db = openStore(":memory:");
        writeSite(db, DEMO_SITE);
        db.prepare("INSERT INTO imports (file, started_at, status) VALUES ('', '', 'done')").run();
        put("a", '<a href="/old">x</a>');
        readAll();
        const mends = new HeldMends(db);
        let before = mends.now();
        for (const name of names) {
          STEPS[name]!();
          const now = mends.now();
          expect(now.links, name).toEqual(mendedLinks(db));
          expect(now.digest === before.digest).toBe(JSON.stringify(now.links) === JSON.stringify(before.links));
          before = now;
        }
      }),
    );
  });

  it("are not looked up anew while nothing is another", () => {
    put("a", '<a href="/old">x</a>');
    readAll();
    STEPS.mend!();
    const mends = new HeldMends(db);
    const first = mends.now();
    expect(first.links).toHaveLength(1);
    expect(mends.now()).toBe(first);
    STEPS.mendOther!();
    expect(mends.now()).not.toBe(first);
  });
});
