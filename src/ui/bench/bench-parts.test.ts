import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type KindDesign } from "../../core/design/design";
import { readCondition, writeCondition } from "../../core/rules/condition";
import type { RawCondition } from "../../core/rules/condition-shape";
import { type ConditionDraft, conditionOf, draftOf, withPart } from "../conditions/condition-draft";
import { NO_HISTORY, noted, stepBack, stepForward } from "./draft-history";
import { markAt } from "../line-editor/line-language";

const design = (title: string): KindDesign => ({ base: { title }, rules: [] });

describe("the steps of a draft", () => {
  it("go back and forward again, letters typed soon after one another as one", () => {
    let history = noted(NO_HISTORY, design(""), "title line", "base title", 0);
    history = noted(history, design("a"), "title line", "base title", 300);
    history = noted(history, design("ab"), "moved “Brass”", null, 400);
    const once = stepBack(history, design("moved"))!;
    expect(once).toMatchObject({ design: design("ab"), label: "moved “Brass”" });
    const twice = stepBack(once.history, once.design)!;
    expect(twice.design).toEqual(design(""));
    expect(stepBack(twice.history, twice.design)).toBeNull();
    const again = stepForward(twice.history, twice.design)!;
    expect(again.design).toEqual(design("ab"));
    expect(stepForward(again.history, again.design)!.design).toEqual(design("moved"));
  });

  it("part where typing paused, and forget what was ahead when something new is done", () => {
    let history = noted(NO_HISTORY, design(""), "title line", "base title", 0);
    history = noted(history, design("a"), "title line", "base title", 5000);
    expect(history.past.length).toBe(2);
    const back = stepBack(history, design("ab"))!;
    expect(noted(back.history, back.design, "other", null, 6000).future).toEqual([]);
  });

  it("lead back to where they began, whatever was done", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.string({ maxLength: 4 }), fc.constantFrom("a", "b", null), fc.integer({ min: 1, max: 3000 })),
          { minLength: 1, maxLength: 20 },
        ),
        (changes) => {
          let [history, now, present] = [NO_HISTORY, 0, design("start")];
          for (const [title, key, pause] of changes) {
            history = noted(history, present, "x", key, (now += pause));
            present = design(title);
          }
          const end = present;
          for (let step = stepBack(history, present); step; step = stepBack(history, present))
            [history, present] = [step.history, step.design];
          expect(present).toEqual(design("start"));
          for (let step = stepForward(history, present); step; step = stepForward(history, present))
            [history, present] = [step.history, step.design];
          expect(present).toEqual(end);
        },
      ),
      { numRuns: 1000 },
    );
  });
});

describe("a condition while it is put together", () => {
  it.each([
    { field: "material", is: "brass" },
    { field: "material", "is one of": ["brass", "bronze"] },
    { field: "price", between: ["1", "2"] },
    { field: "name", "longer than": 60 },
    { field: "name", "is empty": true },
    {
      all: [{ field: "a", is: "1" }, { any: [{ field: "b", is: "2" }, { none: [{ field: "c", "is filled": true }] }] }],
    },
  ] as RawCondition[])("is %j again", (raw) => {
    const made = conditionOf(draftOf(readCondition(raw)));
    expect("condition" in made && writeCondition(made.condition)).toEqual(raw);
  });

  it("says what is missing", () => {
    const missing = (draft: ConditionDraft) => {
      const made = conditionOf(draft);
      return "missing" in made ? made.missing : null;
    };
    expect(missing({ join: "all", parts: [] })).toBe("add a condition");
    expect(missing({ field: "", operator: "is", values: [] })).toBe("select a field");
    expect(missing({ field: "sold_by", operator: "is", values: [] })).toBe("sold by needs a value");
    expect(missing({ field: "price", operator: "between", values: ["1"] })).toBe("price needs two values");
    expect(missing({ field: "name", operator: "matches", values: ["("] })).toMatch(/RE2 syntax/);
    expect(missing({ field: "name", operator: "longer than", values: ["x"] })).toMatch(/longer than/);
  });

  it("takes parts in and out by their path", () => {
    const draft: ConditionDraft = {
      join: "all",
      parts: [
        { field: "a", operator: "is", values: ["1"] },
        { join: "any", parts: [] },
      ],
    };
    const own = { field: "b", operator: "is" as const, values: ["2"] };
    const added = withPart(draft, [1, 0], own);
    expect(added).toEqual({ join: "all", parts: [draft.parts[0], { join: "any", parts: [own] }] });
    expect(withPart(added, [0], null)).toEqual({ join: "all", parts: [{ join: "any", parts: [own] }] });
    expect(withPart(added, [1], { ...own, values: [] })).toMatchObject({
      parts: [draft.parts[0], { field: "b", values: [] }],
    });
  });
});

describe("what a mark does", () => {
  const infos = [
    { name: "finish", meaning: null, type: "text" as const, filled: 0.92, distinct: 4, example: "polished" },
  ];

  it("is told of the innermost one, with how many pages have the field", () => {
    const source = "{name}[ in {finish}]^1";
    expect(markAt(source, 13, infos)).toMatchObject({
      from: 11,
      to: 19,
      title: "the finish",
      lines: ["finish: 92 % have it; such as “polished”"],
    });
    expect(markAt(source, 8, infos)!.lines[0]).toBe("Dropped first when space runs short");
    expect(markAt("plain", 2, infos)).toBeNull();
  });
});
