import { beforeEach, describe, expect, it } from "vitest";
import { type Lines } from "../../core/design/design";
import { type Designs } from "../../core/design/designs";
import { type ChangeGroup } from "../../core/plan/groups";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { type Db, openStore } from "../../store/open";
import { chooseChange, chooseGroup } from "../../store/review-choices";
import { listVersions, readVersion } from "../../store/versions";
import { changesAfter, listRuns } from "../../store/runs";
import { nextRevision, writeSite } from "../../store/site";
import { runOfReview } from "../../test/run-of-review";
import { applyRun } from "../runs/apply-run";
import { createTakeBack } from "../runs/take-back";
import { Workspace } from "../workspace/workspace";
import { freeze } from "./freeze";
import { Review } from "./review";
import { movingDesign } from "../../test/moving-design";

const now = () => "2026-11-25T10:00:00Z";
let db: Db;
let workspace: Workspace;
let review: Review;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  workspace = new Workspace(db);
  review = new Review(workspace);
});

interface Page {
  readonly kind?: "post" | "product" | "category" | "page";
  readonly path?: string | null;
  readonly name?: string;
  readonly title?: string;
  readonly description?: string;
  readonly slug?: string;
  readonly category?: string;
}

let key = 0;
function put(...pages: Page[]): void {
  const write = itemWriter(db);
  for (const { kind = "product", path = null, ...columns } of pages)
    write({ kind, key: `k${++key}`, path, columns, attributes: null, body: null, byHand: null }, nextRevision(db));
}

const lines = (product: Lines): Designs => ({
  product: movingDesign(product),
  category: movingDesign({}),
  post: movingDesign({}),
});
const groupsOf = (designs: Designs) =>
  Object.fromEntries(
    review.summary(designs).groups.map(({ group, count, included }) => [group, `${included}/${count}`]),
  );
const listed = (designs: Designs, group: ChangeGroup) => review.list(designs, { group, from: 0, count: 100 }).changes;
const paths = () => db.prepare("SELECT path FROM items ORDER BY id").pluck().all();

describe("what was reviewed", () => {
  const designs = lines({ title: "{name}", slug: "{name}" });
  beforeEach(() =>
    put(
      { path: "/one", name: "One", slug: "one", title: "Old" },
      { path: "/two", name: "Two", slug: "two", title: "Old two" },
    ),
  );

  it("is what goes out: after any change of drafts, settings, pages or ticks it is another review", () => {
    const { goingOut } = review.summary(designs);
    expect(review.going(designs, goingOut).inclusion.count).toBe(2);
    chooseGroup(db, "moves", true, () => false);
    expect(review.summary(designs).goingOut).toBe(goingOut);
    const title = { item: 1, text: "title" } as const;
    const changes: (() => Designs)[] = [
      () => (chooseChange(db, title, review.markOf(designs, title), false), designs),
      () => (chooseGroup(db, "reworded", false, () => false), designs),
      () => lines({ title: "{name}!", slug: "{name}" }),
      () => (writeSite(db, { ...DEMO_SITE, slug: { ...DEMO_SITE.slug, max: 9 } }), designs),
      () => (writeSite(db, { ...DEMO_SITE, limits: { title: { chars: 5 } } }), designs),
      () => (put({ path: "/three", name: "Three", slug: "three" }), designs),
    ];
    for (const change of changes) {
      const before = review.summary(designs).goingOut;
      const now = change();
      expect(() => review.going(now, before)).toThrow(expect.objectContaining({ code: "stale" }));
    }
    expect(listRuns(db)).toEqual([]);
  });

  it("has no slug of before a change of the slug settings: what is shown, applied and where the page goes are one", () => {
    put({ path: "/three-long-words-here", name: "Three long words here", slug: "three-long-words-here" });
    const long = lines({ slug: "{name} and more of it" });
    chooseGroup(db, "moves", true, () => false);
    review.summary(long);
    writeSite(db, { ...DEMO_SITE, slug: { ...DEMO_SITE.slug, max: 10 } });
    const run = runOfReview(db, review, long);
    applyRun(db, run, { now });
    const rows = db.prepare("SELECT slug, path FROM items").all() as { slug: string; path: string }[];
    for (const { slug, path } of rows) {
      expect(slug.length).toBeLessThanOrEqual(10);
      expect(path).toBe(`/${slug}`);
    }
  });

  it("saves the lines of each kind that the run changes as a version, and of no other", () => {
    runOfReview(db, review, designs);
    expect(listVersions(db, "product").map(({ id, name, run }) => [name, run, readVersion(db, id)!.design])).toEqual([
      ["Run 1", 1, designs.product],
    ]);
    expect(listVersions(db, "post")).toEqual([]);
  });

  it("leaves no run behind where the site changed while it was written down", () => {
    const going = review.going(designs, review.summary(designs).goingOut);
    const confirm = () => {
      throw new Error("changed meanwhile");
    };
    expect(() => freeze(db, going, designs, { name: "", click: null, now: now() }, confirm)).toThrow(
      "changed meanwhile",
    );
    expect(listRuns(db)).toEqual([]);
    expect(db.prepare("SELECT count(*) FROM run_changes").pluck().get()).toBe(0);
    expect(listVersions(db, "product")).toEqual([]);
  });
});

describe("a person’s word on one change", () => {
  const designs = lines({ title: "{name} for sale" });
  beforeEach(() =>
    put(
      { path: "/a", name: "Oar", title: "An oar" },
      { path: "/b", name: "Cleat", title: "A cleat" },
      { path: "/c", name: "Rope", title: "A rope" },
    ),
  );
  const included = (of: Designs) => listed(of, "reworded").map((change) => `${change.name} ${change.included}`);
  const leaveOut = (name: string) => {
    const { id } = listed(designs, "reworded").find((change) => change.name === name)!;
    const scope = { item: id, text: "title" as const };
    chooseChange(db, scope, review.markOf(designs, scope), false);
  };

  it("holds as long as the change is the same: after a run, and after it was undone", () => {
    leaveOut("Cleat");
    expect(included(designs)).toEqual(["Oar true", "Cleat false", "Rope true"]);
    const run = runOfReview(db, review, designs);
    applyRun(db, run, { now });
    expect(included(designs)).toEqual(["Cleat false"]);
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(included(designs)).toEqual(["Oar true", "Cleat false", "Rope true"]);
  });

  it("is of that change only: another text before or after is another change", () => {
    leaveOut("Cleat");
    expect(included(lines({ title: "{name} on offer" }))).toEqual(["Oar true", "Cleat true", "Rope true"]);
    expect(included(designs)).toEqual(["Oar true", "Cleat false", "Rope true"]);
    db.prepare("UPDATE items SET title = 'Another cleat', revision = ? WHERE name = 'Cleat'").run(nextRevision(db));
    expect(included(designs)).toEqual(["Oar true", "Cleat true", "Rope true"]);
  });

  it("on a group stays until it is changed, whatever becomes of the drafts", () => {
    chooseGroup(db, "reworded", false, () => false);
    applyRunOfNothing();
    expect(groupsOf(designs)).toEqual({ reworded: "0/3" });
    expect(groupsOf(lines({ title: "{name} on offer" }))).toEqual({ reworded: "0/3" });
  });

  function applyRunOfNothing(): void {
    expect(() => runOfReview(db, review, designs)).toThrow(/No change is included/);
  }
});

describe("groups", () => {
  it("have what fills an empty text and reads like another page’s among what gets worse", () => {
    put({ path: "/a", name: "Oar" }, { path: "/b", name: "Oar" }, { path: "/c", name: "Cleat" });
    const designs = lines({ title: "{name} for every boat" });
    expect(groupsOf(designs)).toEqual({ filled: "1/1", worse: "0/2" });
  });

  it("have pages without an address on their own: they get one, where their like are, and the run is applied", () => {
    put(
      { kind: "category", path: "/rope", name: "Rope", slug: "rope" },
      { path: "/rope/twine", name: "Twine", slug: "twine", category: "Rope" },
      { path: "/rope/line", name: "Line", slug: "line", category: "Rope" },
      { path: "/lamps/lamp", name: "Lamp", slug: "lamp", category: "Lamps" },
      { name: "Waxed thread", category: "Rope" },
    );
    const designs = lines({ slug: "{name}" });
    expect(groupsOf(designs)).toEqual({ "gets-address": "1/1" });
    const [change] = listed(designs, "gets-address");
    expect(change).toMatchObject({ path: "", newPath: "/rope/waxed-thread", after: "waxed-thread" });
    expect(review.summary(designs).moves).toBe(0);
    applyRun(db, runOfReview(db, review, designs), { now });
    expect(db.prepare("SELECT slug, path FROM items WHERE name = 'Waxed thread'").get()).toEqual({
      slug: "waxed-thread",
      path: "/rope/waxed-thread",
    });
    expect(db.prepare("SELECT count(*) FROM redirects").pluck().get()).toBe(0);
    expect(review.summary(designs).total).toBe(0);
  });

  it("leave address moves out at first, and hold reserved slugs back for good, with all below", () => {
    put(
      { kind: "category", path: "/shop", name: "Basket", slug: "shop" },
      { path: "/shop/oar", name: "Long oar", slug: "oar" },
      { path: "/oars/oar", name: "Short oar", slug: "oar" },
    );
    const designs = { ...lines({ slug: "{name}" }), category: movingDesign({ slug: "{name}" }) };
    expect(groupsOf(designs)).toEqual({ moves: "0/2", reserved: "0/1" });
    chooseGroup(db, "moves", true, () => false);
    expect(groupsOf(designs)).toEqual({ moves: "1/2", reserved: "0/1" });
    expect(listed(designs, "moves").map(({ included, held }) => [included, held])).toEqual([
      [false, { why: "below", path: "/shop" }],
      [true, null],
    ]);
  });

  it("find clashes among pages of every kind, those that no design is for too", () => {
    put(
      { path: "/x/oar", name: "Imprint", slug: "oar" },
      { kind: "page", path: "/x/imprint", name: "Imprint", slug: "imprint" },
    );
    const designs = lines({ slug: "{name}" });
    expect(groupsOf(designs)).toEqual({ clash: "0/1" });
    chooseGroup(db, "clash", true, () => false);
    expect(() => runOfReview(db, review, designs)).toThrow(/No change is included/);
    expect(paths()).toEqual(["/x/oar", "/x/imprint"]);
  });

  it("hold back what would be where a page stays that was left out", () => {
    put({ path: "/a", name: "B", slug: "a" }, { path: "/b", name: "C", slug: "b" });
    const designs = lines({ slug: "{name}" });
    chooseGroup(db, "moves", true, () => false);
    expect(groupsOf(designs)).toEqual({ moves: "2/2" });
    const second = listed(designs, "moves")[1]!;
    const scope = { item: second.id, text: "slug" as const };
    chooseChange(db, scope, review.markOf(designs, scope), false);
    expect(groupsOf(designs)).toEqual({ moves: "0/2" });
    expect(listed(designs, "moves")[0]).toMatchObject({ included: false, held: { why: "clash", path: "/b" } });
    chooseChange(db, scope, review.markOf(designs, scope), true);
    const run = runOfReview(db, review, designs);
    applyRun(db, run, { now });
    expect(paths()).toEqual(["/b", "/c"]);
    expect(changesAfter(db, run, 0, 10).map(({ status }) => status)).toEqual(["applied", "applied"]);
  });
});
