import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { goesOn } from "./abbreviations";
import { endOfCut, endsOfRest, withoutFullStop } from "./ends";

describe("the end of a text that was cut", () => {
  it.each([
    ["Fennick &", "Fennick"],
    ["Rope +", "Rope"],
    ["Rope (8", "Rope"],
    ["Rope (8 mm)", "Rope (8 mm)"],
    ["Rope [red] (8", "Rope [red]"],
    ["Rope, –", "Rope"],
    ["A gift for Mr.", "A gift for"],
    ["Rope, e.g.", "Rope"],
    ["Soft in the hand.", "Soft in the hand"],
    ["(8", "8"],
    ["“Red rope", "Red rope"],
    ["the “red” rope", "the “red” rope"],
    ["Mr.", "Mr"],
    ["", ""],
  ])("of %j is %j", (text, expected) => expect(endOfCut(text)).toBe(expected));

  it("has no half of a bracket, nothing hanging, and is the end of itself", () => {
    const words = fc.array(fc.constantFrom("rope", "(", ")", "[8", "8]", "&", "–", "Mr.", "e.g.", "red,", "mm)"), {
      maxLength: 8,
    });
    fc.assert(
      fc.property(words, (list) => {
        const cut = endOfCut(list.join(" "));
        expect(cut).not.toMatch(/[\s&+,;:–-]$/);
        expect(cut.split("(").length).toBe(cut.split(")").length);
        expect(cut.split("[").length).toBe(cut.split("]").length);
        expect(endOfCut(cut)).toBe(cut);
      }),
      { numRuns: 3000 },
    );
  });
});

describe("the ends of a text that words were taken out of", () => {
  it.each([
    ["– cleat)", "cleat"],
    ["& Sons", "Sons"],
    ["Rope cleat) 8 mm", "Rope cleat 8 mm"],
    ["(red cleat)", "(red cleat)"],
  ])("%j is %j", (text, expected) => expect(endsOfRest(text)).toBe(expected));
});

describe("a text without its full stop", () => {
  it.each([
    ["Soft.", "Soft"],
    ["Soft..", "Soft.."],
    ["Soft…", "Soft…"],
    ["Soft", "Soft"],
    [".", ""],
  ])("%j is %j", (text, expected) => expect(withoutFullStop(text)).toBe(expected));
});

describe("a sentence goes on", () => {
  it.each([
    ["Made for Mr. ", "Smith", "en", true],
    ["See e.g. ", "Ropes", "en", true],
    ["Size no. ", "5", "en", true],
    ["He said no. ", "Then", "en", false],
    ["By Captain J. ", "Hook", "en", true],
    ["In size M. ", "Colours", "en", false],
    ["Geliefert am 3. ", "Mai", "de", true],
    ["There are 3. ", "More", "en", false],
    ["It is soft. ", "and strong", "en", true],
    ["It is soft. ", "It is strong", "en", false],
    ["Really! ", "Yes", "en", false],
    ["J. ", "Hook", "en", true],
    ["Cap J. ", "Hook", "en", true],
    ["in J.\u00a0", "Hook", "en", false],
    ["Soft .", "and", "en", false],
    ["", "Hook", "en", false],
  ])("%j before %j in %s: %j", (before, after, language, expected) =>
    expect(goesOn(before, after, language)).toBe(expected),
  );
});
