import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type KindDesign, type Rule } from "../design/design";
import { TEXTS } from "../design/kinds";
import { itemSetOf } from "../proof/items";
import { readCondition, writeCondition } from "./condition";
import type { RawCondition } from "./condition-shape";
import { decide } from "./decide";
import { matchingRows } from "./match";
import { DECIDED, type Decisions, reportRules } from "./report";
import { conditionWords } from "./words";

const MATERIALS = ["brass", "brass", "bronze", "hemp", "hemp", "oak"];
const items = itemSetOf(MATERIALS.map((material) => ({ material })));
const is = (...values: string[]): RawCondition => ({ field: "material", "is one of": values });
const rule = (id: string, when: RawCondition, more: Partial<Rule> = {}): Rule => ({ id, name: id, when, ...more });

function reportOf(design: KindDesign, set = items) {
  const decisions = Object.fromEntries(
    DECIDED.map((text) => [text, decide(design.rules, design.base, text, set)]),
  ) as Decisions;
  return reportRules(design.rules, decisions, (own) => matchingRows(readCondition(own.when), set));
}

describe("what rules do together", () => {
  const report = reportOf({
    base: { description: "b" },
    rules: [
      rule("metal", is("brass", "bronze"), { title: "m" }),
      rule("brass", is("brass"), { title: "t" }),
      rule("brass description", is("brass"), { description: "d" }),
      rule("gold", is("gold"), { title: "g" }),
      rule("no lines", is("oak")),
      rule("off", is("hemp"), { title: "h", off: true }),
      rule("partly", is("bronze", "oak"), { title: "p" }),
    ],
  });
  const of = (id: string) => report.rules.find((own) => own.id === id)!;

  it("finds rules that can never win, and whom they are hidden by", () => {
    expect(of("brass")).toMatchObject({ matches: 2, takes: 0, idle: "hidden", hiddenBy: [{ id: "metal", items: 2 }] });
  });

  it("does not take a rule for hidden that wins for another text", () => {
    expect(of("brass description")).toMatchObject({
      matches: 2,
      takes: 2,
      byText: { description: 2 },
      idle: null,
      hiddenBy: [],
    });
  });

  it("tells those that match nothing, set nothing, or are switched off", () => {
    expect(of("gold").idle).toBe("matches nothing");
    expect(of("no lines")).toMatchObject({ matches: 1, idle: "sets nothing" });
    expect(of("off")).toMatchObject({ matches: 2, takes: 0, idle: "off", hiddenBy: [] });
  });

  it("counts what is left for a rule that is hidden in part", () => {
    expect(of("partly")).toMatchObject({ matches: 2, takes: 1, idle: null, hiddenBy: [{ id: "metal", items: 1 }] });
  });

  it("counts what the base decides, and the texts that nothing sets", () => {
    expect(report.base).toEqual({ title: 0, description: 4, slug: 0 });
    expect(report.unset).toEqual({ title: 2, description: 0, slug: 6 });
  });

  it("leaves every item to one rule, the base or nothing, for each text", () => {
    const rules = fc.array(
      fc.record({
        values: fc.subarray(["brass", "bronze", "hemp", "oak", "gold"]),
        title: fc.option(fc.constant("t"), { nil: undefined }),
        slug: fc.option(fc.constant(" "), { nil: undefined }),
        off: fc.boolean(),
      }),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(rules, fc.boolean(), (list, based) => {
        const made = list.map(({ values, title, slug, off }, i) =>
          rule(
            `r${i}`,
            { any: values.map((value) => is(value)) },
            { ...(title ? { title } : {}), ...(slug ? { slug } : {}), ...(off ? { off } : {}) },
          ),
        );
        const { rules: reports, base, unset } = reportOf({ base: based ? { title: "b" } : {}, rules: made });
        for (const text of TEXTS)
          expect(reports.reduce((sum, own) => sum + (own.byText[text] ?? 0), base[text] + unset[text])).toBe(
            MATERIALS.length,
          );
        for (const own of reports) {
          expect(own.takes).toBeLessThanOrEqual(own.matches);
          if (own.idle === "hidden")
            expect(own.hiddenBy.reduce((sum, { items: n }) => sum + n, 0)).toBeGreaterThanOrEqual(own.matches);
        }
      }),
      { numRuns: 1000 },
    );
  });
});

describe("a condition in words", () => {
  it.each([
    [{ field: "material", is: "brass" }, "material is brass"],
    [{ field: "sold_by", "is not": "metre" }, "sold by is not metre"],
    [is("brass", "bronze"), "material is brass or bronze"],
    [is("a", "b", "c", "d", "e", "f"), "material is a, b, c or 3 others"],
    [
      {
        all: [
          { field: "sold_by", is: "metre" },
          { field: "category", "is under": "Rope" },
        ],
      },
      "sold by is metre and category is under Rope",
    ],
    [
      {
        any: [
          { field: "a", "is empty": true },
          {
            all: [
              { field: "b", "<": 3 },
              { field: "c", between: [1, 2] },
            ],
          },
        ],
      },
      "a is empty or (b is below 3 and c is between 1 and 2)",
    ],
    [{ none: [{ field: "a", "longer than": 60 }] }, "not where a is longer than 60 characters"],
    [{ all: [] }, "everything"],
  ] as [RawCondition, string][])("%j", (raw, words) => expect(conditionWords(readCondition(raw))).toBe(words));

  it("is written as it was read", () => {
    const raw = { all: [{ field: "material", "is one of": ["brass"] }, { none: [{ field: "name", matches: "^x" }] }] };
    expect(writeCondition(readCondition(raw))).toEqual(raw);
  });
});
