import { createTakeBack } from "./take-back";
import { describe, expect, it } from "vitest";
import { DEMO_LINES, DEMO_SITE } from "../../demo/site";
import { loadDemo } from "../../demo/load";
import { itemWriter } from "../../store/bring-items";
import { openStore, type Db } from "../../store/open";
import { changesAfter, readRun, redirectsAfter } from "../../store/runs";
import { writeSite } from "../../store/site";
import { applyRun } from "./apply-run";
import { Workspace } from "../workspace/workspace";
import { Review } from "../review/review";
import { runOfReview } from "../../test/run-of-review";
import { chooseGroup } from "../../store/review-choices";
import { movingDesign } from "../../test/moving-design";

const now = () => "2026-11-24T10:00:00Z";
const blank = { attributes: null, body: null, byHand: null };

function small() {
  const db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  const put = itemWriter(db);
  put(
    { ...blank, kind: "category", key: "c1", path: "/rope", columns: { name: "Ropes", slug: "rope", title: "Rope" } },
    1,
  );
  put(
    {
      ...blank,
      kind: "product",
      key: "1",
      path: "/rope/old_one/",
      columns: { name: "New one", slug: "old_one", title: "Old", description: "" },
    },
    1,
  );
  put(
    {
      ...blank,
      kind: "product",
      key: "2",
      path: "/rope/by-hand",
      columns: { name: "Other", slug: "by-hand", title: "Written with care" },
      byHand: ["title", "slug"],
    },
    1,
  );
  const engine = new Workspace(db);
  return {
    db,
    engine,
    review: new Review(engine),
    paths: () => db.prepare("SELECT path FROM items ORDER BY id").pluck().all(),
  };
}

const designs = {
  category: movingDesign({ slug: "{name}" }),
  product: movingDesign({ title: "{name}", slug: "{name}" }),
};

/** A run with the moves that are left out at first. */
function moved(db: Db, review: Review): number {
  chooseGroup(db, "moves", true, () => false);
  return runOfReview(db, review, designs);
}

describe("runs", () => {
  it("moves pages with redirects, those below a moved page too, and never touches a text by hand", () => {
    const { db, review, paths } = small();
    const run = moved(db, review);
    applyRun(db, run, { now });
    expect(paths()).toEqual(["/ropes", "/ropes/new-one/", "/ropes/by-hand"]);
    expect(redirectsAfter(db, run, 0, 10).map((r) => [r.from_path, r.to_path, r.status])).toEqual([
      ["/rope", "/ropes", 301],
      ["/rope/old_one/", "/ropes/new-one/", 301],
      ["/rope/by-hand", "/ropes/by-hand", 301],
    ]);
    expect(db.prepare("SELECT title, slug FROM items WHERE key = '2'").get()).toEqual({
      title: "Written with care",
      slug: "by-hand",
    });
  });

  it("is undone without redirect chains or loops", () => {
    const { db, review, paths } = small();
    const run = moved(db, review);
    applyRun(db, run, { now });
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(paths()).toEqual(["/rope", "/rope/old_one/", "/rope/by-hand"]);
    const holding = redirectsAfter(db, null, 0, 10).map((r) => [r.from_path, r.to_path]);
    expect(holding).toEqual([
      ["/ropes", "/rope"],
      ["/ropes/new-one/", "/rope/old_one/"],
      ["/ropes/by-hand", "/rope/by-hand"],
    ]);
    expect(() => createTakeBack(db, run, now())).toThrow(/already undone/);
  });

  it("skips what was altered meanwhile, and says so", () => {
    const { db, review } = small();
    const run = runOfReview(db, review, designs);
    db.prepare("UPDATE items SET title = 'Changed elsewhere' WHERE key = '1'").run();
    applyRun(db, run, { now });
    const skipped = changesAfter(db, run, 0, 100).filter((change) => change.status === "skipped");
    expect(skipped.map((change) => change.reason)).toEqual([
      "The title was changed meanwhile; it now reads “Changed elsewhere”",
    ]);
    expect(db.prepare("SELECT title FROM items WHERE key = '1'").pluck().get()).toBe("Changed elsewhere");
  });

  it("stops between chunks, goes on, and applies nothing twice", () => {
    const db = openStore(":memory:");
    loadDemo(db, { products: 2600 });
    const review = new Review(new Workspace(db));
    const run = runOfReview(db, review, { product: movingDesign(DEMO_LINES.product!) });
    let asked = 0;
    applyRun(db, run, { now, stopped: () => ++asked > 1 });
    const half = readRun(db, run)!;
    expect(half.status).toBe("stopped");
    expect(half.waiting).toBeGreaterThan(0);
    applyRun(db, run, { now });
    expect(readRun(db, run)).toMatchObject({ status: "done", waiting: 0, skipped: 0 });
    expect(
      db.prepare("SELECT count(*) - count(DISTINCT from_path) FROM redirects WHERE run_id = ?").pluck().get(run),
    ).toBe(0);
  });
});

describe("a review", () => {
  it("holds back what gets worse until it is taken in, and never a clash", () => {
    const { db, engine } = small();
    const put = itemWriter(db);
    put(
      {
        ...blank,
        kind: "product",
        key: "3",
        path: "/rope/third",
        columns: { name: "New one", slug: "third", title: "A title", keyword: "title" },
      },
      db.prepare("UPDATE site SET revision = revision + 1 RETURNING revision").pluck().get() as number,
    );
    const review = new Review(engine);
    const summary = review.summary({ product: movingDesign({ title: "{name}", slug: "{name}" }) });
    const of = (group: string) => summary.groups.find((g) => g.group === group);
    expect(of("clash")).toMatchObject({ count: 2, included: 0, fixed: true });
    expect(of("worse")).toMatchObject({ included: 0 });
    expect(of("by-hand")).toMatchObject({ count: 2, included: 0, fixed: true });
    expect(() => runOfReview(db, review, {})).toThrow(/No change is included/);
  });
});
