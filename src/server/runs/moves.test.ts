import { beforeEach, describe, expect, it } from "vitest";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { type Db, openStore } from "../../store/open";
import { changesAfter, readRun, redirectsAfter, setRunStatus } from "../../store/runs";
import { writeSite } from "../../store/site";
import { storedRun } from "../../test/stored-run";
import { applyRun } from "./apply-run";
import { createTakeBack } from "./take-back";

const now = () => "2026-11-25T10:00:00Z";
let db: Db;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
});

/** Pages at these paths; gives their ids. */
function pages(...paths: (string | null)[]): number[] {
  const put = itemWriter(db);
  paths.forEach((path, i) =>
    put(
      {
        kind: i === 0 ? "category" : "product",
        key: `k${i}`,
        path,
        columns: { name: `Page ${i}`, slug: path?.split("/").at(-1) ?? "" },
        attributes: null,
        body: null,
        byHand: null,
      },
      1,
    ),
  );
  return db.prepare("SELECT id FROM items ORDER BY id").pluck().all() as number[];
}

/** A run of moves: each of a page from where it is; those of a slug bring the slug, others move along. */
function moves(...all: [item: number, from: string | null, to: string, along?: boolean][]): number {
  const slug = (path: string | null) => path?.split("/").at(-1) ?? "";
  return storedRun(
    db,
    all.map(([item, from, to, along]) => ({
      item_id: item,
      text: along ? ("address" as const) : ("slug" as const),
      before: along ? "" : slug(from),
      after: along ? "" : slug(to),
      path_before: from,
      path_after: to,
      revision: 1,
    })),
  );
}

const paths = () => db.prepare("SELECT path FROM items ORDER BY id").pluck().all();
const holding = () => redirectsAfter(db, null, 0, 100).map((own) => [own.from_path, own.to_path]);
const reasons = (run: number) => changesAfter(db, run, 0, 100).map(({ status, reason }) => reason ?? status);

describe("a page at the address of another but for the slash at its end", () => {
  it("moves away from it, and comes back beside it", () => {
    const [, b] = pages("/a", "/a/");
    const run = moves([b!, "/a/", "/b/"]);
    applyRun(db, run, { now });
    expect(paths()).toEqual(["/a", "/b/"]);
    const back = createTakeBack(db, run, now());
    applyRun(db, back, { now });
    expect(reasons(back)).toEqual(["applied"]);
    expect(paths()).toEqual(["/a", "/a/"]);
  });

  it("does not come back beside one that came there since, by an import or by a run", () => {
    const [a, b] = pages("/x", "/a/");
    const run = moves([b!, "/a/", "/b/"]);
    applyRun(db, run, { now });
    applyRun(db, moves([a!, "/x", "/a"]), { now });
    const back = createTakeBack(db, run, now());
    applyRun(db, back, { now });
    expect(reasons(back)).toEqual(["Another page is at /a/ meanwhile"]);
    db.prepare("UPDATE items SET path = '/elsewhere' WHERE id = ?").run(a);
    db.prepare("UPDATE runs SET taken_back_by = NULL").run();
    itemWriter(db)(
      { kind: "product", key: "new", path: "/a", columns: { name: "New" }, attributes: null, body: null, byHand: null },
      9,
    );
    const again = createTakeBack(db, run, now());
    applyRun(db, again, { now });
    expect(reasons(again)).toEqual(["Another page is at /a/ meanwhile"]);
  });
});

describe("two pages that change places", () => {
  it("do so in one step, with no redirect from where a page stands, and back", () => {
    const [a, b] = pages("/a", "/b");
    const run = moves([a!, "/a", "/b"], [b!, "/b", "/a"]);
    applyRun(db, run, { now });
    expect(paths()).toEqual(["/b", "/a"]);
    expect(holding()).toEqual([]);
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(paths()).toEqual(["/a", "/b"]);
    expect(holding()).toEqual([]);
  });

  it("are never half done, wherever the run is stopped: a chain moves in one transaction", () => {
    const ids = pages("/p0", "/p1", "/p2", "/p3");
    const run = moves(
      [ids[0]!, "/p0", "/p1"],
      [ids[1]!, "/p1", "/p2"],
      [ids[2]!, "/p2", "/p3"],
      [ids[3]!, "/p3", "/p0"],
    );
    let looks = 0;
    applyRun(db, run, { now, stopped: () => looks++ > 0 });
    expect(new Set(paths()).size).toBe(4);
    applyRun(db, run, { now });
    expect(paths()).toEqual(["/p1", "/p2", "/p3", "/p0"]);
  });
});

describe("an address that is used again", () => {
  it("ends the redirect that led away from it", () => {
    const [a, b] = pages("/old", "/other");
    applyRun(db, moves([a!, "/old", "/new"]), { now });
    expect(holding()).toEqual([["/old", "/new"]]);
    applyRun(db, moves([b!, "/other", "/old"]), { now });
    expect(holding()).toEqual([["/other", "/old"]]);
    const retired = db.prepare("SELECT from_path FROM redirects WHERE retired_by IS NOT NULL").pluck().all();
    expect(retired).toEqual(["/old"]);
  });

  it("has the redirects of the page that moved on follow that page, and no other’s", () => {
    const [a, b] = pages("/one", "/two");
    applyRun(db, moves([a!, "/one", "/mid"]), { now });
    applyRun(db, moves([a!, "/mid", "/end"]), { now });
    expect(holding()).toEqual([
      ["/one", "/end"],
      ["/mid", "/end"],
    ]);
    applyRun(db, moves([b!, "/two", "/mid"]), { now });
    expect(holding()).toEqual([
      ["/one", "/end"],
      ["/two", "/mid"],
    ]);
  });
});

describe("a page that cannot move", () => {
  it("keeps all below it where they are, though they come first", () => {
    const [twine, line, rope] = pages("/rope/twine", "/rope/line", "/rope", "/ropes");
    const run = moves(
      [twine!, "/rope/twine", "/ropes/twine", true],
      [line!, "/rope/line", "/ropes/cord"],
      [rope!, "/rope", "/ropes"],
    );
    applyRun(db, run, { now });
    expect(paths()).toEqual(["/rope/twine", "/rope/line", "/rope", "/ropes"]);
    expect(reasons(run)).toEqual([
      "The page above it, at /rope, did not move",
      "The page above it, at /rope, did not move",
      "Another page is at /ropes meanwhile",
    ]);
    expect(readRun(db, run)).toMatchObject({ status: "done", applied: 0, skipped: 3, waiting: 0 });
    expect(holding()).toEqual([]);
  });

  it("keeps others from its address, too", () => {
    const [a, b] = pages("/a", "/b");
    const run = moves([a!, "/a", "/b"], [b!, "/b", "/c"]);
    db.prepare("UPDATE items SET slug = 'changed' WHERE id = ?").run(b);
    applyRun(db, run, { now });
    expect(paths()).toEqual(["/a", "/b"]);
    expect(reasons(run)).toEqual([
      "Another page is at /b meanwhile",
      "The slug was changed meanwhile; it now reads “changed”",
    ]);
  });

  it("says that it moved or lost its address meanwhile", () => {
    const [a, b] = pages("/a", "/b");
    const run = moves([a!, "/a", "/x"], [b!, "/b", "/y"]);
    db.prepare("UPDATE items SET path = '/elsewhere' WHERE id = ?").run(a);
    db.prepare("UPDATE items SET path = NULL WHERE id = ?").run(b);
    applyRun(db, run, { now });
    expect(reasons(run)).toEqual([
      "The page moved meanwhile; it is now at /elsewhere",
      "The page has no address any more",
    ]);
  });
});

describe("a page without an address", () => {
  it("gets one, with no redirect, and has none again when that is undone", () => {
    const [a] = pages(null);
    const run = moves([a!, null, "/first"]);
    applyRun(db, run, { now });
    expect(paths()).toEqual(["/first"]);
    expect(holding()).toEqual([]);
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(paths()).toEqual([null]);
  });
});

describe("taking back", () => {
  it("is refused for a run that is under way, that applied nothing, that was undone, or that takes back itself", () => {
    const [a] = pages("/a");
    const run = moves([a!, "/a", "/b"]);
    expect(() => createTakeBack(db, run, now())).toThrow(/applied nothing/);
    setRunStatus(db, run, "running", now());
    expect(() => createTakeBack(db, run, now())).toThrow(/still running/);
    applyRun(db, run, { now });
    const back = createTakeBack(db, run, now());
    expect(() => createTakeBack(db, run, now())).toThrow(`Run ${run} was already undone by run ${back}`);
    applyRun(db, back, { now });
    expect(() => createTakeBack(db, back, now())).toThrow(/takes run 1 back itself/);
    expect(() => createTakeBack(db, 99, now())).toThrow(/no run 99/);
    expect(paths()).toEqual(["/a"]);
  });

  it("brings back only what still reads as the run left it", () => {
    const [a, b] = pages("/a", "/b");
    const run = moves([a!, "/a", "/x"], [b!, "/b", "/y"]);
    applyRun(db, run, { now });
    db.prepare("UPDATE items SET path = '/z', slug = 'z' WHERE id = ?").run(b);
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(paths()).toEqual(["/a", "/z"]);
  });
});
