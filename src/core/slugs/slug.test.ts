import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readCases } from "../../test/cases";
import { languageByTag } from "../text/language";
import { SLUG_DEFAULTS, type SlugOptions, slugOf } from "./slug";

const stopWords = languageByTag("en").stopWords;
const slug = (text: string, options: Partial<SlugOptions> = {}) =>
  slugOf(text, { ...SLUG_DEFAULTS, ...options }, stopWords);

describe("slugs", () => {
  it.each(readCases<{ text: string; slug: string } & Partial<SlugOptions>>("slugs.jsonl"))(
    "$text → $slug",
    ({ text, slug: expected, ...options }) => {
      expect(slug(text, options)).toBe(expected);
    },
  );

  it.each([
    ["Rope’s end", "ropes-end"],
    ["  --Rope--  ", "rope"],
    ["½ inch × 3 m", "1-2-inch-x-3-m"],
    ["Ångström Straße", "angstrom-strasse"],
    ["⚓️", "anchor"],
    ["", ""],
  ])("%s → %s", (text, expected) => expect(slug(text)).toBe(expected));

  it("cuts a single word that is too long, and never within a longer slug's word", () => {
    expect(slug("a".repeat(80))).toBe("a".repeat(60));
    expect(slug("bronze mooring", { max: 8 })).toBe("bronze");
  });

  it("is ASCII words of letters and digits joined by single hyphens, within the limit, and its own slug", () => {
    fc.assert(
      fc.property(
        fc.string({ unit: "grapheme", maxLength: 90 }),
        fc.boolean(),
        fc.boolean(),
        fc.integer({ min: 5, max: 80 }),
        (text, dropStopWords, dropNumbers, max) => {
          const made = slug(text, { dropStopWords, dropNumbers, max });
          expect(made).toMatch(/^(?:[a-z0-9]+(?:-[a-z0-9]+)*)?$/);
          expect(made.length).toBeLessThanOrEqual(max);
          if (!dropStopWords && !dropNumbers) expect(slug(made, { max })).toBe(made);
        },
      ),
      { numRuns: 1000 },
    );
  });
});
