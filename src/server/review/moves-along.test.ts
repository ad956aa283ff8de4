import { beforeEach, describe, expect, it } from "vitest";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { mendLinks, readNextLinks } from "../../store/links";
import { type Db, openStore } from "../../store/open";
import { addRedirects } from "../../store/redirects";
import { chooseFollowing, chooseGroup } from "../../store/review-choices";
import { changesAfter } from "../../store/runs";
import { nextRevision, writeSite } from "../../store/site";
import { movingDesign } from "../../test/moving-design";
import { runOfReview } from "../../test/run-of-review";
import { RedirectSet } from "../redirects/redirect-set";
import { applyRun } from "../runs/apply-run";
import { createTakeBack } from "../runs/take-back";
import { Workspace } from "../workspace/workspace";
import { Review } from "./review";

const now = () => "2026-11-27T10:00:00Z";
const designs = { product: movingDesign({ slug: "{name}" }) };
let db: Db;
let review: Review;
let redirects: RedirectSet;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  const workspace = new Workspace(db);
  review = new Review(workspace);
  redirects = new RedirectSet(workspace);
  put("product", "/rope/twine-old", "Waxed twine", '<a href="care-old">care</a>');
  put("product", "/rope/care-old", "Care", "");
  put("post", "/notes/knots", "Knots", NOTE);
  read();
  for (const group of ["moves"] as const) chooseGroup(db, group, true, () => false);
});

const NOTE =
  '<a href="/rope/twine-old#x">twine</a> <a class=y href=../rope/care-old>care</a> <a href="/catalogue/twine">old</a> <a href="/none">none</a>';

function put(kind: string, path: string, name: string, body: string): void {
  const columns = { name, slug: path.split("/").at(-1)! };
  itemWriter(db)({ kind, key: path, path, columns, attributes: null, body, byHand: null }, nextRevision(db));
}

function read(): void {
  while (readNextLinks(db) > 0);
}

const bodies = () => db.prepare("SELECT body FROM bodies ORDER BY item_id").pluck().all() as string[];
const along = (what: "links" | "redirects") => review.movesAlong(designs, { what, from: 0, count: 99 }).rows;

describe("links that lead to pages which move", () => {
  beforeEach(() =>
    addRedirects(
      db,
      [{ from: "/catalogue/twine", to: "/rope/twine-old", status: 301, prefix: false }],
      "hand",
      "2026-11-27",
    ),
  );

  it("are told with the moves, and rewritten with them when a person wants it", () => {
    const before = review.summary(designs);
    // The relative one of the page that moves with its target leads there all the same once it says so.
    expect(before).toMatchObject({ moves: 2, links: { count: 4, pages: 2 }, followsLinks: false });
    expect(along("links")).toMatchObject([
      { item: 1, before: "care-old", after: "/rope/care" },
      { before: "/rope/twine-old#x", after: "/rope/waxed-twine#x" },
      { before: "../rope/care-old", after: "/rope/care" },
      { before: "/catalogue/twine", after: "/rope/waxed-twine" },
    ]);
    chooseFollowing(db, true);
    const summary = review.summary(designs);
    expect(summary).toMatchObject({ included: before.included + 4, items: before.items + 1, followsLinks: true });
    expect(summary.goingOut).not.toBe(before.goingOut);
    const original = bodies();
    const run = runOfReview(db, review, designs);
    applyRun(db, run, { now });
    expect(bodies()).toEqual([
      '<a href="/rope/care">care</a>',
      '<a href="/rope/waxed-twine#x">twine</a> <a class=y href=/rope/care>care</a> <a href="/rope/waxed-twine">old</a> <a href="/none">none</a>',
    ]);
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(bodies()).toEqual(original);
  });

  it("are counted for each move, which can be looked at by them", () => {
    const list = (order: "site" | "linked") =>
      review.list(designs, { group: "moves", order, from: 0, count: 9 }).changes.map(({ id, cost }) => [id, cost]);
    const [twine, care] = [
      [1, { links: 2, redirects: 1 }],
      [2, { links: 2, redirects: 0 }],
    ];
    expect(list("site")).toEqual([twine, care]);
    put("post", "/notes/more", "More", '<a href="/rope/care-old">care</a>');
    expect(list("site").map(([, cost]) => cost)).toEqual([null, null]);
    read();
    expect(list("linked")).toEqual([[2, { links: 3, redirects: 0 }], twine]);
  });

  it("say what a person said, where one did", () => {
    mendLinks(db, [{ item: 3, href: "/catalogue/twine", after: "/elsewhere" }]);
    expect(along("links").map((own) => ("before" in own ? own.before : ""))).not.toContain("/catalogue/twine");
  });

  it("stay as they are where their page cannot move after all", () => {
    chooseFollowing(db, true);
    const run = runOfReview(db, review, designs);
    db.prepare("UPDATE items SET path = '/rope/elsewhere' WHERE id = 2").run();
    applyRun(db, run, { now });
    expect(bodies()[1]).toContain('href="/rope/waxed-twine#x"');
    expect(bodies()[1]).toContain("href=../rope/care-old");
    const reasons = changesAfter(db, run, 0, 99).flatMap(({ text, reason }) =>
      text === "body" && reason ? [reason] : [],
    );
    expect(reasons).toHaveLength(2);
    expect(reasons[0]).toContain("did not move: The page moved meanwhile");
  });

  it("are not known, and not rewritten, while bodies are being read", () => {
    chooseFollowing(db, true);
    const { goingOut } = review.summary(designs);
    put("post", "/notes/new", "New", '<a href="/rope/care-old">care</a>');
    const reading = review.summary(designs);
    expect(reading.links).toBeNull();
    expect(() => review.going(designs, reading.goingOut)).toThrow("still being read");
    read();
    const then = review.summary(designs);
    expect(then.links).toMatchObject({ count: 5 });
    expect(new Set([goingOut, reading.goingOut, then.goingOut]).size).toBe(3);
  });
});

describe("redirects that a run makes, changes and ends", () => {
  it("are told beforehand just as they come", () => {
    addRedirects(
      db,
      [
        { from: "/catalogue/twine", to: "/rope/twine-old", status: 301, prefix: false },
        { from: "/rope/care", to: "/notes/knots", status: 302, prefix: false },
        { from: "/kept", to: "/notes/knots", status: 301, prefix: false },
      ],
      "hand",
      "2026-11-27",
    );
    const told = along("redirects");
    expect(told).toEqual([
      { what: "comes", from: "/rope/care-old", prefix: false, before: null, after: "/rope/care" },
      { what: "comes", from: "/rope/twine-old", prefix: false, before: null, after: "/rope/waxed-twine" },
      {
        ...{ what: "leads-elsewhere", from: "/catalogue/twine", prefix: false },
        ...{ before: "/rope/twine-old", after: "/rope/waxed-twine" },
      },
      { what: "ends", from: "/rope/care", prefix: false, before: "/notes/knots", after: null },
    ]);
    const of = () => new Map(redirects.outgoing(false).redirects.map(({ from, to }) => [from, to]));
    const before = of();
    applyRun(db, runOfReview(db, review, designs), { now });
    const after = of();
    for (const own of told) if ("prefix" in own) expect(after.get(own.from) ?? null).toBe(own.after);
    const changed = [...new Set([...before.keys(), ...after.keys()])].filter(
      (from) => before.get(from) !== after.get(from),
    );
    expect(changed.sort()).toEqual(told.map((own) => ("from" in own ? own.from : "")).sort());
  });
});
