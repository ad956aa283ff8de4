import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { bothChanges, changedApart } from "./both-changes";
import { type KindDesign, type Rule } from "./design";

const line = fc.constantFrom("{name}", "{name} – {site}", "{intro}");
const lines = fc.record({ title: line, description: line, slug: line }, { requiredKeys: [] });
const rule = fc
  .record({ lines, id: fc.constantFrom("a", "b", "c"), material: fc.constantFrom("brass", "teak") })
  .map(({ lines: own, id, material }): Rule => ({ id, name: id, when: { field: "material", is: material }, ...own }));
const design: fc.Arbitrary<KindDesign> = fc.record({
  base: lines,
  rules: fc.uniqueArray(rule, { selector: ({ id }) => id, maxLength: 3 }),
  moves: fc.constantFrom("all" as const, "new" as const),
});
const brass: Rule = { id: "brass", name: "Brass", when: { field: "material", is: "brass" }, title: "{name} in brass" };
const teak: Rule = { id: "teak", name: "Teak", when: { field: "material", is: "teak" } };

describe("what two made of one design", () => {
  it("is what one made of it where the other did nothing", () =>
    fc.assert(
      fc.property(design, design, (of, changed) => {
        expect(bothChanges(of, changed, of)).toEqual(changed);
        expect(bothChanges(of, of, changed)).toEqual(changed);
        expect(bothChanges(of, changed, changed)).toEqual(changed);
      }),
    ));

  it("has each line as the later left it where the later changed it, and else as the earlier did", () =>
    fc.assert(
      fc.property(lines, lines, lines, (of, earlier, later) => {
        const [one, other, both] = [of, earlier, later].map((base) => ({ base, rules: [] }));
        const made = bothChanges(one!, other!, both!).base;
        for (const text of ["title", "description", "slug"] as const)
          expect(made[text]).toBe(later[text] === of[text] ? earlier[text] : later[text]);
      }),
    ));

  it("is apart where no line was changed by both", () =>
    fc.assert(
      fc.property(lines, lines, lines, (of, one, other) => {
        const clash = (["title", "description", "slug"] as const).some(
          (text) => one[text] !== of[text] && other[text] !== of[text] && one[text] !== other[text],
        );
        const [base, first, second] = [of, one, other].map((own) => ({ base: own, rules: [] }));
        expect(changedApart(base!, first!, second!)).toBe(!clash);
      }),
    ));

  it("has the rules of both, each with what both made of it; one that was taken out stays out", () => {
    const of: KindDesign = { base: {}, rules: [brass, teak] };
    const earlier: KindDesign = { base: {}, rules: [{ ...brass, description: "{intro}" }, teak] };
    const later: KindDesign = {
      base: {},
      rules: [
        { ...brass, when: { field: "material", "is one of": ["brass", "bronze"] } },
        { ...teak, id: "new" },
      ],
    };
    expect(bothChanges(of, earlier, later).rules).toEqual([
      { ...brass, when: { field: "material", "is one of": ["brass", "bronze"] }, description: "{intro}" },
      { ...teak, id: "new" },
    ]);
    expect(bothChanges(of, { base: {}, rules: [teak, brass] }, of).rules).toEqual([teak, brass]);
  });
});
