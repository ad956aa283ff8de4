import { kindDesignSchema } from "../../core/design/schema";
import { type WorkProgress } from "../workspace/watch";
import { type Designs } from "../../core/design/designs";
import { beforeEach, describe, expect, it } from "vitest";
import { CHANGE_GROUPS, LEFT_OUT_AT_FIRST, NEVER_APPLIED } from "../../core/plan/groups";
import { Cancelled } from "../../core/proof/prove-set";
import { DEMO_LINES, DEMO_RULES, DEMO_SITE } from "../../demo/site";
import { loadDemo } from "../../demo/load";
import { type Db, openStore } from "../../store/open";
import { chooseChange, chooseGroup } from "../../store/review-choices";
import { readRun } from "../../store/runs";
import { Workspace } from "../workspace/workspace";
import { Review } from "./review";
import { runOfReview } from "../../test/run-of-review";
import type { ReviewedText } from "../../core/plan/review-filter";
import { writeSite } from "../../store/site";
import { movingDesign } from "../../test/moving-design";

const KINDS = ["post", "product", "category"] as const;
const designs: Designs = Object.fromEntries(
  KINDS.map((kind) => [
    kind,
    kindDesignSchema.parse({
      base: Object.fromEntries(Object.entries(DEMO_LINES[kind]!).filter(([, line]) => line !== "")),
      rules: DEMO_RULES[kind] ?? [],
      moves: "all",
    }),
  ]),
);
let db: Db;
let review: Review;

beforeEach(() => {
  db = openStore(":memory:");
  loadDemo(db, { products: 240 });
  review = new Review(new Workspace(db));
});

const groupOf = (name: string) => review.summary(designs).groups.find(({ group }) => group === name)!;
const choose = (item: number, text: ReviewedText, included: boolean) =>
  chooseChange(db, { item, text }, review.markOf(designs, { item, text }), included);
const changesOf = (group: (typeof CHANGE_GROUPS)[number]) =>
  review.list(designs, { group, from: 0, count: 10_000 }).changes;

describe("a review", () => {
  it("counts every change once: included, held back, or by hand", () => {
    const { groups, included, held, total } = review.summary(designs);
    expect(groups.reduce((sum, { count }) => sum + count, 0)).toBe(total);
    expect(groups.reduce((sum, own) => sum + own.included, 0)).toBe(included);
    expect(held).toBe(total - included - groupOf("by-hand").count);
    expect(held).toBeGreaterThan(0);
    for (const own of groups) {
      expect(Object.values(own.byText).reduce((sum, one) => sum + one, 0)).toBe(own.count);
      const isOut = LEFT_OUT_AT_FIRST.has(own.group) || NEVER_APPLIED.has(own.group);
      expect(own.included).toBe(isOut ? 0 : own.count - own.held);
      expect(Object.values(own.includedByText).reduce((sum, one) => sum + one, 0)).toBe(own.included);
      expect(own.fixed).toBe(NEVER_APPLIED.has(own.group));
    }
  });

  it("lists the changes of a group in stretches that fit together, each another text than before", () => {
    const all = changesOf("shorter");
    expect(all.length).toBe(groupOf("shorter").count);
    const parts = [0, 50, 100].flatMap((from) => review.list(designs, { group: "shorter", from, count: 50 }).changes);
    expect(parts).toEqual(all.slice(0, 150));
    for (const { before, after, beforeFits, afterFits } of all) {
      expect(after).not.toBe(before);
      expect([beforeFits, afterFits]).toEqual([false, true]);
    }
    expect(review.list(designs, { group: "shorter", from: all.length, count: 50 }).changes).toEqual([]);
  });

  it("takes a change out of a group that is in, and one into a group that is out", () => {
    const [out, stays] = [changesOf("shorter")[0]!, changesOf("shorter")[1]!];
    const before = review.summary(designs).included;
    choose(out.id, out.text, false);
    expect(review.summary(designs).included).toBe(before - 1);
    expect(
      changesOf("shorter")
        .slice(0, 2)
        .map(({ included }) => included),
    ).toEqual([false, true]);
    const wide = changesOf("still-wide")[0]!;
    choose(wide.id, wide.text, true);
    expect(groupOf("still-wide").included).toBe(1);
    // Another text of the same page is another change.
    expect(changesOf("shorter").filter(({ id, included }) => id === stays.id && !included)).toEqual([]);
  });

  it("forgets what was said of single changes where their group is chosen, and of no others", () => {
    const one = changesOf("shorter")[0]!;
    const other = changesOf("filled")[0]!;
    for (const { id, text } of [one, other]) choose(id, text, false);
    chooseGroup(db, "shorter", true, review.isOfGroup(designs, "shorter"));
    expect(groupOf("shorter").included).toBe(groupOf("shorter").count);
    expect(groupOf("filled").included).toBe(groupOf("filled").count - 1);
  });

  it("never takes in what two pages clash over, or what is by hand, whatever is chosen", () => {
    writeSite(db, { ...DEMO_SITE, reserved: [...DEMO_SITE.reserved, changesOf("moves")[0]!.after] });
    for (const group of NEVER_APPLIED) {
      const own = groupOf(group);
      expect(own.count).toBeGreaterThan(0);
      chooseGroup(db, group, true, review.isOfGroup(designs, group));
      for (const { id, text } of changesOf(group).slice(0, 3)) choose(id, text, true);
      expect(groupOf(group).included).toBe(0);
    }
  });

  it("tells where addresses go anew when other slugs are included, and only then", () => {
    expect(review.summary(designs).moves).toBe(0);
    chooseGroup(db, "moves", true, review.isOfGroup(designs, "moves"));
    const { moves } = review.summary(designs);
    expect(moves).toBeGreaterThanOrEqual(groupOf("moves").included);
    expect(groupOf("moves").included).toBeGreaterThan(500);
    chooseGroup(db, "shorter", false, review.isOfGroup(designs, "shorter"));
    expect(review.summary(designs).moves).toBe(moves);
    const [slug] = changesOf("moves").filter(({ kind }) => kind === "product");
    choose(slug!.id, "slug", false);
    const without = review.summary(designs).moves;
    // The page may move all the same, along with its category.
    expect([moves, moves - 1]).toContain(without);
    chooseGroup(db, "moves", false, review.isOfGroup(designs, "moves"));
    chooseGroup(db, "worse", false, review.isOfGroup(designs, "worse"));
    expect(review.summary(designs).moves).toBe(0);
  });

  it("follows the drafts: what no line changes is no change", () => {
    const none: Designs = Object.fromEntries(KINDS.map((kind) => [kind, movingDesign({})]));
    const { included, held, groups } = review.summary(none);
    expect([included, held]).toEqual([0, 0]);
    expect(groups.map(({ group }) => group)).toEqual(["by-hand"]);
    expect(() => runOfReview(db, review, none)).toThrow("No change is included: there is nothing to apply");
  });

  it("says which line has an error, and goes on without it", () => {
    const broken: Designs = {
      ...designs,
      category: kindDesignSchema.parse({
        base: { title: "{nmae}" },
        rules: [{ id: "r", name: "Odd ones", when: { field: "name", contains: "o" }, title: "[{name}" }],
      }),
    };
    const { errors, groups } = review.summary(broken);
    expect(errors.map(({ kind, text }) => [kind, text])).toEqual([
      ["category", "title"],
      ["category", "title"],
    ]);
    expect(errors.map(({ message }) => message).join("\n")).toMatch(/rule “Odd ones”/);
    expect(groups.reduce((sum, { count }) => sum + count, 0)).toBeGreaterThan(0);
    const titles = groups
      .filter(({ group }) => group !== "by-hand")
      .flatMap(({ group }) =>
        review
          .list(broken, { group, from: 0, count: 10_000 })
          .changes.filter(({ kind, text }) => kind === "category" && text === "title"),
      );
    expect(titles).toEqual([]);
  });

  it("is the run that it becomes: the same changes, the same pages, the same moves", () => {
    for (const group of ["still-wide", "moves"] as const)
      chooseGroup(db, group, true, review.isOfGroup(designs, group));
    const out = changesOf("shorter")[0]!;
    choose(out.id, out.text, false);
    const { included, groups, moves } = review.summary(designs);
    const slugs = groups
      .flatMap(({ group }) => changesOf(group))
      .filter((own) => own.included && own.text === "slug").length;
    const run = readRun(db, runOfReview(db, review, designs))!;
    const frozen = db
      .prepare("SELECT text, count(*) AS n FROM run_changes WHERE run_id = ? GROUP BY text")
      .all(run.id) as { text: string; n: number }[];
    const count = (text: string) => frozen.find((own) => own.text === text)?.n ?? 0;
    expect(run.changes - count("address")).toBe(included);
    expect(count("slug")).toBe(slugs);
    expect(count("slug") + count("address")).toBe(moves);
    expect([run.titles, run.descriptions, run.slugs, run.robots]).toEqual([
      count("title"),
      count("description"),
      count("slug"),
      count("robots"),
    ]);
    expect(
      db
        .prepare("SELECT count(*) FROM run_changes WHERE run_id = ? AND item_id = ? AND text = ?")
        .pluck()
        .get(run.id, out.id, out.text),
    ).toBe(0);
    // What was chosen still holds in the next review.
    expect(groupOf("still-wide").included).toBe(groupOf("still-wide").count);
  });

  it("says how far it is, and ends when nobody waits for it", () => {
    const steps: WorkProgress[] = [];
    review.summary(designs, undefined, { progress: (step) => steps.push(step) });
    expect(new Set(steps.map(({ step }) => step))).toEqual(new Set(["loading", "proving", "comparing"]));
    expect(steps.every(({ share }) => share >= 0 && share <= 1)).toBe(true);
    const other = new Review(new Workspace(db));
    expect(() => other.summary(designs, undefined, { cancelled: () => true })).toThrow(Cancelled);
    expect(other.summary(designs).total).toBe(review.summary(designs).total);
  });
});
