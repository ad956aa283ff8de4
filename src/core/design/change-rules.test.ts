import { kindDesignSchema } from "./schema";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { linesOf, withLine, withoutRule, withRobots, withRule, withRuleCopied, withRuleMoved } from "./change-rules";
import { type KindDesign } from "./design";
import { TEXTS } from "./kinds";

const when = { field: "name", contains: "rope" };
const anyDesign: fc.Arbitrary<KindDesign> = fc
  .uniqueArray(fc.constantFrom("a", "b", "c", "d", "e"), { maxLength: 5 })
  .map((ids) =>
    kindDesignSchema.parse({
      base: { title: "{name}", slug: "{name}" },
      rules: ids.map((id) => ({ id, name: id.toUpperCase(), when, title: `{name} ${id}` })),
    }),
  );
const ids = (design: KindDesign) => design.rules.map(({ id }) => id);

describe("a rule that is moved", () => {
  it("stands at its new place, the others in their order", () => {
    fc.assert(
      fc.property(anyDesign, fc.constantFrom("a", "b", "c"), fc.integer({ min: -3, max: 9 }), (design, id, place) => {
        const moved = withRuleMoved(design, id, place);
        if (!ids(design).includes(id)) {
          expect(moved).toBe(design);
          return;
        }
        expect(ids(moved)[Math.max(0, Math.min(design.rules.length - 1, place))]).toBe(id);
        expect(ids(moved).filter((own) => own !== id)).toEqual(ids(design).filter((own) => own !== id));
      }),
      { numRuns: 1000 },
    );
  });

  it("is back where it was when it is moved back", () => {
    fc.assert(
      fc.property(anyDesign, fc.constantFrom("a", "b", "c"), fc.nat(9), (design, id, place) => {
        const from = ids(design).indexOf(id);
        expect(ids(withRuleMoved(withRuleMoved(design, id, place), id, from))).toEqual(ids(design));
      }),
      { numRuns: 1000 },
    );
  });
});

describe("a rule", () => {
  const [one] = kindDesignSchema.parse({
    base: {},
    rules: [{ id: "new", name: "New", when, title: "{name} new" }],
  }).rules;

  it("is put in at its place, and taken out again as if it had never been", () => {
    fc.assert(
      fc.property(anyDesign, fc.nat(6), (design, place) => {
        const more = withRule(design, one!, place);
        expect(ids(more).indexOf("new")).toBe(Math.min(place, design.rules.length));
        expect(withoutRule(more, "new")).toEqual(design);
      }),
      { numRuns: 500 },
    );
  });

  it("that is there already is replaced where it stands", () => {
    fc.assert(
      fc.property(anyDesign, fc.nat(6), (design, place) => {
        const twice = withRule(withRule(design, one!, place), { ...one!, name: "Newer" }, 0);
        expect(twice.rules.length).toBe(design.rules.length + 1);
        expect(twice.rules[Math.min(place, design.rules.length)]!.name).toBe("Newer");
      }),
      { numRuns: 500 },
    );
  });

  it("is copied behind itself, with its condition and lines", () => {
    const design = withRule(kindDesignSchema.parse({ base: {}, rules: [{ id: "z", name: "Z", when }] }), one!);
    const copied = withRuleCopied(design, "new", "new-2");
    expect(ids(copied)).toEqual(["new", "new-2", "z"]);
    expect(copied.rules[1]).toEqual({ ...one!, id: "new-2", name: "New, copy" });
    expect(withRuleCopied(design, "no such", "x")).toBe(design);
  });
});

describe("a line", () => {
  it("is put in where it belongs and nowhere else; an empty one is taken out", () => {
    fc.assert(
      fc.property(
        anyDesign,
        fc.constantFrom("base", "a", "b"),
        fc.constantFrom(...TEXTS),
        fc.constantFrom("", "{name}!"),
        (design, owner, text, source) => {
          const next = withLine(design, owner, text, source);
          const real = ids(design).includes(owner) ? owner : "base";
          expect(linesOf(next, real)[text]).toBe(source === "" ? undefined : source);
          expect(Object.hasOwn(linesOf(next, real), text)).toBe(source !== "");
          for (const other of ["base", ...ids(design)].filter((own) => own !== real))
            expect(linesOf(next, other)).toEqual(linesOf(design, other));
          for (const other of TEXTS.filter((own) => own !== text))
            expect(linesOf(next, real)[other]).toBe(linesOf(design, real)[other]);
        },
      ),
      { numRuns: 1000 },
    );
  });

  it("leaves the design that it was put in as it was", () => {
    const design = kindDesignSchema.parse({ base: { title: "{name}" }, rules: [{ id: "a", name: "A", when }] });
    const before = JSON.stringify(design);
    withLine(withRobots(design, "a", "noindex, follow"), "base", "title", "");
    expect(JSON.stringify(design)).toBe(before);
  });
});

describe("a robots setting", () => {
  it.each(["base", "a"])("of %s is put in and taken out", (owner) => {
    const design = kindDesignSchema.parse({
      base: { title: "{name}" },
      rules: [{ id: "a", name: "A", when, title: "A" }],
    });
    const set = withRobots(design, owner, "noindex, nofollow");
    expect(linesOf(set, owner).robots).toBe("noindex, nofollow");
    expect(linesOf(set, owner === "a" ? "base" : "a").robots).toBeUndefined();
    expect(withRobots(set, owner, null)).toEqual(design);
  });
});
