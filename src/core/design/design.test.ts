import { kindDesignSchema, linesFileSchema, siteSchema } from "./schema";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { linesOf, withLine, withoutRule, withRule, withRuleCopied, withRuleMoved } from "./change-rules";
import { type KindDesign, type Rule } from "./design";
import { differenceOf, siteDifference } from "./difference";
import { fieldUses } from "./field-use";
import { designOfFile, linesFileOf } from "./lines-file";
import { rulesFromItem } from "./rule-from-item";

const rule = (id: string, more: Partial<Rule> = {}): Rule => ({
  id,
  name: id.toUpperCase(),
  when: { field: "material", is: id },
  title: `{name} ${id}`,
  ...more,
});
const design: KindDesign = {
  base: { title: "{name}", slug: "{name}" },
  rules: [rule("a"), rule("b"), rule("c"), rule("d")],
};
const order = (made: KindDesign) => made.rules.map(({ id }) => id).join("");

describe("changing a design", () => {
  it("puts lines in and takes them out, in the base and in rules", () => {
    expect(withLine(design, "base", "title", "").base).toEqual({ slug: "{name}" });
    expect(linesOf(withLine(design, "b", "slug", "x"), "b")).toMatchObject({ title: "{name} b", slug: "x" });
    expect(withLine(design, "b", "title", "").rules[1]).not.toHaveProperty("title");
    expect(linesOf(design, "gone")).toBe(design.base);
  });

  it("moves, copies, replaces and deletes rules", () => {
    expect(order(withRuleMoved(design, "c", 0))).toBe("cabd");
    expect(order(withRuleMoved(design, "a", 99))).toBe("bcda");
    expect(order(withRuleMoved(design, "gone", 0))).toBe("abcd");
    expect(withRuleCopied(design, "b", "e").rules[2]).toMatchObject({ id: "e", name: "B, copy", title: "{name} b" });
    expect(order(withoutRule(design, "b"))).toBe("acd");
    expect(order(withRule(design, rule("new"), 1))).toBe("anewbcd");
    expect(withRule(design, rule("b", { name: "Other" }), 0).rules[1]!.name).toBe("Other");
  });
});

describe("the difference of two designs", () => {
  it("is told by rule, the fewest moves, and line", () => {
    const after = withLine(
      withRule(
        withoutRule(withRuleMoved(design, "d", 0), "b"),
        rule("c", { off: true, when: { field: "material", is: "x" } }),
        0,
      ),
      "base",
      "title",
      "{name} new",
    );
    expect(differenceOf(design, after)).toEqual([
      { rule: "B", what: "rule", before: "material is b", after: null },
      { rule: "D", what: "place", before: "4", after: "1" },
      { rule: "C", what: "condition", before: "material is c", after: "material is x" },
      { rule: "C", what: "switch", before: "on", after: "off" },
      { rule: null, what: "title", before: "{name}", after: "{name} new" },
    ]);
  });

  it("is nothing between equal designs, and never nothing between others", () => {
    const rules = fc.uniqueArray(
      fc.record({
        id: fc.constantFrom("a", "b", "c", "d", "e"),
        title: fc.constantFrom("", "{name}", "x"),
        off: fc.boolean(),
      }),
      { selector: ({ id }) => id, maxLength: 5 },
    );
    const designs = rules.map((list): KindDesign => ({
      base: {},
      rules: list.map(({ id, title, off }) => ({
        id,
        name: id,
        when: { all: [] },
        ...(title ? { title } : {}),
        ...(off ? { off } : {}),
      })),
    }));
    fc.assert(
      fc.property(designs, designs, (one, other) => {
        expect(differenceOf(one, one)).toEqual([]);
        expect(differenceOf(one, other).length === 0).toBe(JSON.stringify(one) === JSON.stringify(other));
      }),
      { numRuns: 1000 },
    );
  });

  it("names a site's settings", () => {
    const site = siteSchema.parse({ name: "Fennick & Dray" });
    expect(siteDifference(site, { ...site, sep: "|" })).toEqual([{ setting: "sep", before: "–", after: "|" }]);
  });
});

describe("a lines file", () => {
  const site = siteSchema.parse({ name: "Fennick & Dray" });

  it("holds a design, and gives it back with the rules known by their names", () => {
    const written = linesFileSchema.parse(JSON.parse(JSON.stringify(linesFileOf(site, { product: design }))));
    expect(JSON.stringify(written)).not.toContain('"id"');
    let made = 0;
    expect(designOfFile(written, "product", design, () => `new ${++made}`)).toEqual(design);
    expect(
      designOfFile(written, "product", { base: {}, rules: [rule("b")] }, () => `new ${++made}`).rules.map(
        ({ id }) => id,
      ),
    ).toEqual(["new 1", "b", "new 2", "new 3"]);
    expect(designOfFile(written, "post", design, () => "x")).toEqual({ base: {}, rules: [] });
  });

  it("refuses a rule with a broken condition, and says where", () => {
    const broken = linesFileSchema.safeParse({
      format: "nine-lines/1",
      kinds: { product: { rules: [{ name: "x", when: { all: [{ field: "a" }] } }] } },
    });
    expect(broken.error!.issues[0]).toMatchObject({
      path: ["kinds", "product", "rules", 0, "when", "all", 0],
      message: expect.stringContaining("exactly one operator") as string,
    });
    expect(
      kindDesignSchema.safeParse({ base: {}, rules: [rule("a", { when: { field: "a", matches: "(" } })] }).success,
    ).toBe(false);
  });
});

describe("where fields are used", () => {
  it("is told by rule, text and condition", () => {
    const uses = fieldUses({
      base: { title: "{name}[ {finish}]" },
      rules: [rule("a", { slug: "{finish:without(name)}" })],
    });
    expect(uses.get("finish")).toEqual([
      { rule: "a", text: "slug" },
      { rule: null, text: "title" },
    ]);
    expect(uses.get("name")!.length).toBe(3);
    expect(uses.get("material")).toEqual([{ rule: "a", text: "condition" }]);
  });
});

describe("rules that a page suggests", () => {
  it("are its category, those above it, and its short attributes", () => {
    const suggested = rulesFromItem({
      name: "Brass cleat",
      category: "Cleats",
      "category.path": "Deck › Cleats",
      material: "brass",
      sold_by: "pair",
      note: "x".repeat(60),
      price: "3",
    });
    expect(suggested).toEqual([
      { name: "Cleats", when: { field: "category", "is under": "Deck › Cleats" } },
      { name: "Deck", when: { field: "category", "is under": "Deck" } },
      { name: "Material: brass", when: { field: "material", is: "brass" } },
      { name: "Sold by: pair", when: { field: "sold_by", is: "pair" } },
    ]);
  });
});
