import { beforeEach, describe, expect, it } from "vitest";
import { type KindDesign } from "../../core/design/design";
import { type Designs } from "../../core/design/designs";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { type Db, openStore } from "../../store/open";
import { chooseChange, chooseGroup } from "../../store/review-choices";
import { changesAfter, redirectsAfter } from "../../store/runs";
import { nextRevision, writeSite } from "../../store/site";
import { runOfReview } from "../../test/run-of-review";
import { applyRun } from "../runs/apply-run";
import { createTakeBack } from "../runs/take-back";
import { Workspace } from "../workspace/workspace";
import { Review } from "./review";

const now = () => "2026-11-25T10:00:00Z";
let db: Db;
let review: Review;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  review = new Review(new Workspace(db));
  const write = itemWriter(db);
  const put = (
    kind: "category" | "product",
    path: string | null,
    name: string,
    category: string,
    categoryPath: string,
  ) =>
    write(
      {
        kind,
        key: name,
        path,
        columns: { name, slug: path?.split("/").at(-1) ?? "", category, category_path: categoryPath },
        attributes: null,
        body: null,
        byHand: null,
      },
      nextRevision(db),
    );
  put("category", "/c/rope", "Rope", "", "Rope");
  put("category", "/c/rope/twine", "Twine", "Rope", "Rope › Twine");
  put("product", "/c/rope/twine/waxed", "Waxed", "Twine", "Rope › Twine");
  put("product", "/c/rope/hawser", "Hawser", "Rope", "Rope");
  put("product", null, "Bare line", "Rope", "Rope");
});

const EMPTY: KindDesign = { base: {}, rules: [] };
const of = (designs: Partial<Record<"product" | "category", KindDesign>>): Designs => ({
  product: EMPTY,
  category: EMPTY,
  ...designs,
});
const shaped = (address: string, more: Partial<KindDesign> = {}): KindDesign => ({
  ...EMPTY,
  address,
  moves: "all",
  ...more,
});
const groups = (designs: Designs) =>
  Object.fromEntries(
    review.summary(designs).groups.map(({ group, count, included }) => [group, `${included}/${count}`]),
  );
const moves = (designs: Designs, group: "moves" | "clash" | "gets-address" = "moves") =>
  review.list(designs, { group, from: 0, count: 100 }).changes.map(({ path, newPath }) => [path, newPath]);
const paths = () => db.prepare("SELECT path FROM items ORDER BY id").pluck().all();
const redirects = () => redirectsAfter(db, null, 0, 100).map(({ from_path, to_path }) => [from_path, to_path]);

describe("an address line", () => {
  it("moves pages whose slug stays; they are left out at first, go with a redirect each, and come back", () => {
    const designs = of({ product: shaped("/shop/{slug}") });
    expect(groups(designs)).toEqual({ moves: "0/2" });
    expect(moves(designs)).toEqual([
      ["/c/rope/twine/waxed", "/shop/waxed"],
      ["/c/rope/hawser", "/shop/hawser"],
    ]);
    chooseGroup(db, "moves", true, () => true);
    const before = paths();
    const run = runOfReview(db, review, designs);
    applyRun(db, run, { now });
    expect(paths()).toEqual(["/c/rope", "/c/rope/twine", "/shop/waxed", "/shop/hawser", null]);
    expect(redirects()).toEqual([
      ["/c/rope/twine/waxed", "/shop/waxed"],
      ["/c/rope/hawser", "/shop/hawser"],
    ]);
    expect(changesAfter(db, run, 0, 10).map(({ text }) => text)).toEqual(["address", "address"]);
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(paths()).toEqual(before);
    expect(redirects().filter(([from]) => before.includes(from!))).toEqual([]);
  });

  it("is told as the reason of a move, as a slug line, a slug by hand and both are", () => {
    const why = (designs: Designs) =>
      Object.fromEntries(
        review
          .movesView(designs)
          .list({ folder: "/", search: "", show: "all" }, { from: 0, count: 99 })
          .moves.map(({ name, reason, isHeld }) => [name, isHeld ? `held: ${reason}` : reason]),
      );
    expect(why(of({ product: shaped("/c/rope/{slug}", { base: { slug: "{name} 1" } }) }))).toEqual({
      Waxed: "slug-and-address",
      Hawser: "slug",
      "Bare line": "slug",
    });
    const item = db.prepare("SELECT id FROM items WHERE name = ?").pluck();
    db.prepare("INSERT INTO hand_texts (item_id, text, value) VALUES (?, 'slug', 'mine')").run(item.get("Hawser"));
    db.prepare("UPDATE items SET revision = ?").run(nextRevision(db));
    const category = { ...EMPTY, base: { slug: "{name} s" }, moves: "all" as const };
    const designs = of({ category, product: shaped("/x/{slug}") });
    chooseGroup(db, "moves", true, () => true);
    expect(why(designs)).toEqual({
      Rope: "slug",
      Twine: "slug",
      Waxed: "address",
      Hawser: "hand-and-address",
    });
    expect(why(of({ category, product: shaped("/c/rope/{slug}") }))).toMatchObject({
      Hawser: "hand",
      Waxed: "address",
    });
    expect(why(of({ category }))).toMatchObject({ Rope: "slug", Twine: "slug", Waxed: "along" });
  });

  it("moves nothing where pages are to stay: only a page without an address gets one", () => {
    const designs = of({
      product: { ...shaped("/shop/{category.path}/{slug}", { base: { slug: "{name}" } }), moves: "new" },
    });
    expect(groups(designs)).toEqual({ "gets-address": "1/1" });
    expect(moves(designs, "gets-address")).toEqual([["", "/shop/rope/bare-line"]]);
    applyRun(db, runOfReview(db, review, designs), { now });
    expect(paths().at(-1)).toBe("/shop/rope/bare-line");
  });

  it("takes the slugs that category pages have by then, and keeps the old one of a category that stays", () => {
    const designs = of({
      category: shaped("/{category.path}/{slug}", { base: { slug: "all {name}" } }),
      product: shaped("/{category.path}/{slug}"),
    });
    expect(moves(designs)).toEqual([
      ["/c/rope/twine/waxed", "/all-rope/all-twine/waxed"],
      ["/c/rope/hawser", "/all-rope/hawser"],
      ["/c/rope", "/all-rope"],
      ["/c/rope/twine", "/all-rope/all-twine"],
    ]);
    chooseGroup(db, "moves", true, () => true);
    const scope = { item: 2, text: "slug" } as const;
    chooseChange(db, scope, review.markOf(designs, scope), false);
    applyRun(db, runOfReview(db, review, designs), { now });
    // “Twine” was left out: it moves along below “Rope”, with its own slug.
    expect(paths()).toEqual(["/all-rope", "/all-rope/twine", "/all-rope/twine/waxed", "/all-rope/hawser", null]);
  });

  it("never gives two pages one address, whatever kinds they are of", () => {
    const designs = of({ product: shaped("/c/{slug}", { base: { slug: "rope" } }) });
    chooseGroup(db, "moves", true, () => true);
    expect(groups(designs)).toMatchObject({ clash: "0/3" });
  });

  it("leaves a page out at first whose slug a person wrote, too: its folder nobody chose", () => {
    db.prepare(
      "INSERT INTO hand_texts (item_id, text, value) VALUES (3, 'slug', 'waxed'), (4, 'slug', 'hawsers')",
    ).run();
    expect(groups(of({ product: shaped("/shop/{slug}") }))).toEqual({ moves: "0/2" });
    // Without another folder it is the person’s word alone that moves it.
    expect(groups(of({}))).toEqual({ "by-hand": "0/1", written: "1/1" });
  });

  it("asks again where a choice was about another move", () => {
    const shop = of({ product: shaped("/shop/{slug}") });
    const scope = { item: 4, text: "slug" } as const;
    chooseChange(db, scope, review.markOf(shop, scope), true);
    expect(groups(shop)).toEqual({ moves: "1/2" });
    expect(groups(of({ product: shaped("/goods/{slug}") }))).toEqual({ moves: "0/2" });
  });

  it("that is wrong is told, and moves nothing", () => {
    const summary = review.summary(of({ product: shaped("/shop/{slug}/more") }));
    expect(summary.errors).toEqual([
      { kind: "product", text: "address", message: expect.stringContaining("in the last segment") },
    ]);
    expect(summary.groups).toEqual([]);
  });
});
