import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { changedSpan } from "../proof/order";
import { changeGroup, type ChangeFacts, LEFT_OUT_AT_FIRST, NEVER_APPLIED, SLUG_GROUPS } from "./groups";

const facts = (over: Partial<ChangeFacts>): ChangeFacts => ({
  slug: false,
  byHand: false,
  written: false,
  liveEmpty: false,
  liveFits: true,
  fits: true,
  liveDuplicate: false,
  duplicate: false,
  liveHasKeyword: false,
  hasKeyword: false,
  clashes: false,
  reserved: false,
  withoutAddress: false,
  ...over,
});

describe("groups of changes", () => {
  it.each([
    [{ liveFits: false }, "shorter"],
    [{ liveEmpty: true }, "filled"],
    [{ liveDuplicate: true }, "told-apart"],
    [{ liveFits: false, fits: false }, "still-wide"],
    [{ fits: false }, "worse"],
    [{ liveHasKeyword: true }, "worse"],
    [{ liveHasKeyword: true, liveFits: false }, "worse"],
    [{ duplicate: true }, "worse"],
    [{ slug: true }, "moves"],
    [{ slug: true, clashes: true }, "clash"],
    [{ slug: true, reserved: true }, "reserved"],
    [{ slug: true, withoutAddress: true }, "gets-address"],
    [{ slug: true, withoutAddress: true, clashes: true }, "clash"],
    // Where nothing was before, a text that another page has is for the worse, too.
    [{ liveEmpty: true, duplicate: true }, "worse"],
    [{ liveEmpty: true, fits: false }, "still-wide"],
    [{ byHand: true, fits: false }, "by-hand"],
    [{ written: true, fits: false, liveHasKeyword: true }, "written"],
    [{ written: true, slug: true, clashes: true }, "clash"],
    [{ written: true, slug: true, reserved: true }, "reserved"],
    [{}, "reworded"],
  ] as [Partial<ChangeFacts>, string][])("%o is %s", (over, group) => expect(changeGroup(facts(over))).toBe(group));
});

describe("whatever a change is like", () => {
  const any = fc.record(
    Object.fromEntries(Object.keys(facts({})).map((name) => [name, fc.boolean()])) as Record<
      keyof ChangeFacts,
      fc.Arbitrary<boolean>
    >,
  );

  it("a slug is in a group of slugs, or is never applied", () => {
    fc.assert(
      fc.property(any, (of) => {
        const group = changeGroup({ ...of, slug: true });
        expect(SLUG_GROUPS.includes(group) || NEVER_APPLIED.has(group)).toBe(true);
      }),
      { numRuns: 1000 },
    );
  });

  it("what is applied without a person’s word leaves nothing wide, double or without its keyword that was in order before", () => {
    fc.assert(
      fc.property(any, (of) => {
        const group = changeGroup(of);
        if (of.written || of.slug || LEFT_OUT_AT_FIRST.has(group) || NEVER_APPLIED.has(group)) return;
        expect(!of.liveEmpty && of.liveFits && !of.fits).toBe(false);
        expect(!of.liveDuplicate && of.duplicate).toBe(false);
        expect(of.liveHasKeyword && !of.hasKeyword).toBe(false);
      }),
      { numRuns: 1000 },
    );
  });

  it("a text by hand that the site has is never touched", () => {
    fc.assert(
      fc.property(any, (of) => {
        expect(NEVER_APPLIED.has(changeGroup({ ...of, byHand: true }))).toBe(true);
      }),
      { numRuns: 1000 },
    );
  });
});

describe("the stretch in which two texts differ", () => {
  it("is given in whole words", () => {
    const [before, after] = ["Bronze cleat polished | Deck fittings", "Bronze cleat in polished finish – Deck cleats"];
    const span = changedSpan(before, after);
    expect(before.slice(0, span.from)).toBe("Bronze cleat ");
    expect(after.slice(span.from, span.afterEnd)).toBe("in polished finish – Deck cleats");
  });

  it("puts one text together from the other", () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (before, after) => {
        const { from, beforeEnd, afterEnd } = changedSpan(before, after);
        expect(before.slice(0, from) + after.slice(from, afterEnd) + before.slice(beforeEnd)).toBe(after);
      }),
      { numRuns: 2000 },
    );
  });
});
