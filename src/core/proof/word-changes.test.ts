import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Stretch, wordChanges } from "./word-changes";

const marked = (stretches: readonly Stretch[]) =>
  stretches.map(({ text, isChanged }) => (isChanged ? `‹${text}›` : text)).join("");

describe("the changes of a text", () => {
  it.each([
    ["Rope 8 mm red", "Rope 9 mm blue", "Rope ‹8› mm ‹red›", "Rope ‹9› mm ‹blue›"],
    ["Rope", "Rope", "Rope", "Rope"],
    ["", "Rope", "", "‹Rope›"],
    ["the old rope here", "a new line here", "‹the old rope› here", "‹a new line› here"],
    ["the-red-rope", "red-rope-8", "‹the-›red-rope", "red-rope‹-8›"],
    ["/deck/cleats/a", "/deck/boards/a", "/deck/‹cleats›/a", "/deck/‹boards›/a"],
  ])("from %j to %j are marked word by word", (before, after, one, two) => {
    const changes = wordChanges(before, after);
    expect([marked(changes.before), marked(changes.after)]).toEqual([one, two]);
  });

  it("leave both texts whole, and what is not marked is the same in both", () => {
    const text = fc
      .array(fc.constantFrom("rope", "red", "8", "-", " ", "  ", "/", "mm"), { maxLength: 14 })
      .map((parts) => parts.join(""));
    fc.assert(
      fc.property(text, text, (before, after) => {
        const changes = wordChanges(before, after);
        const whole = (stretches: readonly Stretch[]) => stretches.map((own) => own.text).join("");
        const kept = (stretches: readonly Stretch[]) =>
          stretches
            .filter(({ isChanged }) => !isChanged)
            .map((own) => own.text.replace(/\s+/g, ""))
            .join("");
        expect(whole(changes.before)).toBe(before);
        expect(whole(changes.after)).toBe(after);
        expect(kept(changes.before)).toBe(kept(changes.after));
      }),
      { numRuns: 2000 },
    );
  });
});
