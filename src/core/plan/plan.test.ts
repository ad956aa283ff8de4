import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { changedSpan } from "../proof/order";
import { AddressBook, folderOf } from "./addresses";
import { changeGroup, type ChangeFacts } from "./groups";

const facts = (over: Partial<ChangeFacts>): ChangeFacts => ({
  slug: false, byHand: false, written: false, liveEmpty: false, liveFits: true, fits: true, liveDuplicate: false, duplicate: false, liveHasKeyword: false, hasKeyword: false, ...over,
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
    [{ slug: true, duplicate: true }, "clash"],
    [{ byHand: true, fits: false }, "by-hand"],
    [{ written: true, fits: false, liveHasKeyword: true }, "written"],
    [{ written: true, slug: true, duplicate: true }, "clash"],
    [{}, "reworded"],
  ] as [Partial<ChangeFacts>, string][])("%o is %s", (over, group) => expect(changeGroup(facts(over))).toBe(group));
});

describe("addresses", () => {
  it("moves every page below a page that moves", () => {
    const book = new AddressBook(new Map([["/rope", "ropes"], ["/rope/twine", "whipping-twine"]]));
    expect(book.newPath("/rope")).toBe("/ropes");
    expect(book.newPath("/rope/twine")).toBe("/ropes/whipping-twine");
    expect(book.newPath("/rope/twine/waxed/")).toBe("/ropes/whipping-twine/waxed/");
    expect(book.newPath("/paint/red")).toBe("/paint/red");
    expect(folderOf("/rope/twine/")).toBe("/rope/");
  });

  it("moves nothing where no slug changes", () => {
    const path = fc.array(fc.stringMatching(/^[a-z]{1,6}$/), { minLength: 1, maxLength: 5 }).map((s) => `/${s.join("/")}`);
    fc.assert(fc.property(path, (p) => {
      expect(new AddressBook(new Map()).newPath(p)).toBe(p);
    }), { numRuns: 1000 });
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
    fc.assert(fc.property(fc.string(), fc.string(), (before, after) => {
      const { from, beforeEnd, afterEnd } = changedSpan(before, after);
      expect(before.slice(0, from) + after.slice(from, afterEnd) + before.slice(beforeEnd)).toBe(after);
    }), { numRuns: 2000 });
  });
});
