import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { languageByTag } from "../text/language";
import { Vocabulary } from "./place";
import { fitOf, keywordKey, phrasesOf, type SuggestPage, suggestFromName, TermWeights } from "./suggest";

const vocabulary = new Vocabulary(languageByTag("en"));
const page = (own: Partial<SuggestPage>): SuggestPage => ({
  name: "",
  category: "",
  intro: "",
  attributes: [],
  body: "",
  ...own,
});
const names = [
  "Bronze mooring cleat 200 mm",
  "Brass mooring cleat 200 mm",
  "Bronze bow roller",
  "Oak bucket",
  "Splicing a rope: step by step",
  "Sizing an anchor: step by step",
  "Rope for a boat",
];
const weights = new TermWeights(vocabulary);
for (const name of names) weights.count(name);
const free = () => false;

describe("phrases of a name", () => {
  it.each([
    ["Nylon halyard, 4 mm", ["nylon", "nylon halyard", "halyard"]],
    ["Splicing a rope: step by step", ["splicing", "splicing a rope", "rope"]],
    ["The 12 ropes of a ship", ["ropes", "ropes of a ship", "ship"]],
    ["4 mm", []],
    ["…", []],
  ])("%s", (name, phrases) =>
    expect(
      phrasesOf(vocabulary, name)
        .filter((phrase) => phrase !== "mm")
        .sort(),
    ).toEqual([...phrases].sort()),
  );

  it("stand in the name word for word, without numbers, and begin and end with a telling word", () => {
    fc.assert(
      fc.property(
        fc
          .array(fc.constantFrom("bronze", "the", "of", "cleat", "200", "mm", "rope’s", ":", "–", "Öse", "and"), {
            maxLength: 10,
          })
          .map((words) => words.join(" ")),
        (name) => {
          for (const phrase of phrasesOf(vocabulary, name)) {
            expect(
              name
                .toLowerCase()
                .replace(/[^\p{L}\p{N}’ ]/gu, "")
                .replace(/\s+/g, " "),
            ).toContain(phrase);
            expect(phrase).not.toMatch(/^(the|of|and)\b|\b(the|of|and)$/);
          }
        },
      ),
      { numRuns: 1000 },
    );
  });
});

describe("a keyword suggested from a name", () => {
  it("is the phrase that tells most, before all where the rest of the page speaks of it", () => {
    expect(
      suggestFromName(
        vocabulary,
        weights,
        page({ name: "Bronze bow roller", category: "Bow rollers", intro: "A bow roller of cast bronze." }),
        free,
      ),
    ).toMatchObject({ keyword: "bow roller", evidence: ["name", "category", "intro"] });
    expect(suggestFromName(vocabulary, weights, page({ name: "Sizing an anchor: step by step" }), free)!.keyword).toBe(
      "sizing an anchor",
    );
  });

  it("is neither another page's nor a part of one", () => {
    const taken = new Set([keywordKey(vocabulary, "mooring cleats")]);
    expect(
      suggestFromName(vocabulary, weights, page({ name: "Brass mooring cleat 200 mm" }), (key) => taken.has(key))!
        .keyword,
    ).toBe("brass mooring cleat");
    expect(suggestFromName(vocabulary, weights, page({ name: "Mooring cleat" }), (key) => taken.has(key))).toBeNull();
    const rope = new Set([keywordKey(vocabulary, "splicing a rope")]);
    expect(
      suggestFromName(vocabulary, weights, page({ name: "Splicing a rope: step by step" }), (key) => rope.has(key))!
        .keyword,
    ).toBe("splicing a rope step by step");
    expect(suggestFromName(vocabulary, weights, page({ name: "12 mm" }), free)?.keyword ?? null).not.toBe("12 mm");
  });
});

describe("how a keyword of a list fits a page", () => {
  it("is better where its words stand in the name, and nothing where one of them stands nowhere", () => {
    const keyword = vocabulary.keyword("bronze cleats")!;
    const named = fitOf(vocabulary, weights, keyword, page({ name: "Bronze mooring cleat 200 mm" }))!;
    const attributed = fitOf(vocabulary, weights, keyword, page({ name: "Mooring cleat", attributes: ["bronze"] }))!;
    expect(named.weight).toBeGreaterThan(attributed.weight);
    expect(fitOf(vocabulary, weights, keyword, page({ name: "Bronze cleats" }))!.weight).toBeGreaterThan(named.weight);
    expect(fitOf(vocabulary, weights, keyword, page({ name: "Brass mooring cleat" }))).toBeNull();
  });

  it("does not mind case, plurals and stop words", () => {
    expect(keywordKey(vocabulary, "The Cleats of Bronze")).toBe(keywordKey(vocabulary, "cleat bronze"));
  });
});
