import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { goesOn } from "../text/abbreviations";
import { plainText } from "../text/plain";
import { applyFilter } from "./apply-filter";
import { FILTERS, type Writing } from "./filters";

const filtered = (name: string, value: string, args: readonly string[] = [], writing: Partial<Writing> = {}) =>
  applyFilter(name, value, args, { locale: "en-GB", fixedWords: [], format: {}, valueOf: () => "", ...writing });

describe("filters", () => {
  it.each<[string, string, string[], string]>([
    ["lower", "BRASS Cleat", [], "brass cleat"],
    ["upper", "Brass", [], "BRASS"],
    ["title", "a “brass” cleat – for/decks", [], "A “Brass” Cleat – For/Decks"],
    ["sentence", "BRASS by Lantern Quay", [], "Brass by lantern quay"],
    ["calm", "BRASS DECK CLEAT 20 MM", [], "Brass deck cleat 20 mm"],
    ["calm", "BRASS CLEAT by Lantern Quay", [], "BRASS CLEAT by Lantern Quay"],
    ["calm", "A", [], "A"],
    ["calm", "20 × 30", [], "20 × 30"],
    ["words", "Bronze mooring cleat", ["2"], "Bronze mooring"],
    ["words", "Fennick & Dray", ["2"], "Fennick"],
    ["words", "Rope (8 mm)", ["2"], "Rope"],
    ["words", "Rope (8 mm)", ["3"], "Rope (8 mm)"],
    ["words", "Bronze", ["1"], "Bronze"],
    ["chars", "Bronze mooring cleat", ["14"], "Bronze mooring"],
    ["chars", "Bronze mooring cleat", ["13"], "Bronze"],
    ["chars", "Bronze", ["6"], "Bronze"],
    ["chars", "Bronze", ["5"], ""],
    ["chars", "A gift for Mr. Smith", ["14"], "A gift for"],
    ["first", "Made for Mr. Smith. Soft.", [], "Made for Mr. Smith."],
    ["first", "Rope of 3.5 mm. Soft.", [], "Rope of 3.5 mm."],
    ["first", "Strong, e.g. for decks. Soft.", [], "Strong, e.g. for decks."],
    ["first", "No end", [], "No end"],
    ["sentences", "One. Two! Three?", ["2"], "One. Two!"],
    ["sentences", "One. Two! Three?", ["9"], "One. Two! Three?"],
    ["number", "1850.5", ["2"], "1,850.50"],
    ["number", "1850.5", [], "1,850.5"],
    ["number", "many", ["2"], ""],
    ["number", "1.011,50", ["2"], "1,011.50"],
    ["money", "6,29", ["EUR"], "€6.29"],
    ["plural", "many", ["size", "sizes"], ""],
    ["date", "31.12.2024", ["d MMM"], "31 Dec"],
    ["date", "2024-12-31T23:30:00Z", ["d MMM HH:mm"], "31 Dec 23:30"],
    ["money", "1850.5", ["GBP"], "£1,850.50"],
    ["date", "2024-12-31", ["d MMMM yyyy"], "31 December 2024"],
    ["date", "soon", ["d MMMM yyyy"], ""],
    ["plural", "1", ["size", "sizes"], "1 size"],
    ["plural", "3", ["size", "sizes"], "3 sizes"],
    ["replace", "red, red", ["red", "$& blue"], "$& blue, $& blue"],
    ["ascii", "Größe", [], "Grosse"],
  ])("%s of %j with %j is %j", (name, value, args, expected) => expect(filtered(name, value, args)).toBe(expected));

  const segmented = new Intl.Segmenter("en-GB", { granularity: "sentence" });
  const pieces = [
    "Soft",
    "rope",
    "X",
    "é",
    "5",
    " ",
    " ",
    ".",
    ".",
    "!",
    "?",
    "…",
    "。",
    "”",
    ")",
    "Mr",
    "no",
    "(",
    "\u2024",
  ];
  it("the first sentence is what a segmenter takes for one, but for abbreviations", () =>
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...pieces), { minLength: 1, maxLength: 12 }).map((parts) => plainText(parts.join(""))),
        (text) => {
          const second = [...segmented.segment(text)].find(
            ({ index }) => index > 0 && !goesOn(text.slice(0, index), text.slice(index, index + 2), "en"),
          );
          expect(filtered("first", text)).toBe(text.slice(0, second?.index ?? text.length).trimEnd());
        },
      ),
      { numRuns: 2000 },
    ));

  it.each([
    ["de", "31. Dezember 2024"],
    ["fr", "31. décembre 2024"],
    ["nb", "31. desember 2024"],
    ["en-US", "31. December 2024"],
  ])("dates are written in %s", (locale, expected) =>
    expect(filtered("date", "2024-12-31", ["d. MMMM yyyy"], { locale })).toBe(expected),
  );

  it("words on the list keep their spelling, whole words only", () => {
    const writing = { fixedWords: ["LED", "Lantern", "McDray’s"] };
    expect(filtered("calm", "LED LAMP FOR LANTERN QUAY, LEDGER", [], writing)).toBe(
      "LED lamp for Lantern quay, ledger",
    );
    expect(filtered("sentence", "BIG mcdray’s LED", [], writing)).toBe("Big McDray’s LED");
    expect(filtered("lower", "LED", [], writing)).toBe("led");
  });

  it("takes no word that another field says, and leaves no half bracket", () => {
    const without = (value: string, said: string) =>
      filtered("without", value, ["category"], { valueOf: () => said } as never);
    expect(without("Brass deck cleat", "Deck")).toBe("Brass cleat");
    expect(without("Rope (red cleat)", "red")).toBe("Rope cleat");
    expect(without("Rope & deck", "Deck")).toBe("Rope");
    expect(without("Rope", "")).toBe("Rope");
  });

  it("leave what looks like a tag or an entity as the text it is", () => {
    const names = FILTERS.filter(({ args, name }) => args.length === 0 && name !== "fit").map(({ name }) => name);
    fc.assert(
      fc.property(fc.constantFrom(...names), fc.constantFrom("<b>", "&lt;", "&amp;", "a", " "), (name, part) => {
        const value = plainText(`x ${part} y`.replaceAll("&", "&amp;").replaceAll("<", "&lt;"));
        expect(filtered(name, value).toLowerCase()).toBe(value.toLowerCase());
      }),
    );
  });

  it("every filter says what it means, in a list and in the reading of a line", () => {
    for (const { args, meaning, inWords } of FILTERS) {
      expect(meaning).not.toBe("");
      expect(inWords(args.map(() => "2"))).not.toBe("");
    }
  });
});
