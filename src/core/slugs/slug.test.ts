import { SLUG_DEFAULTS, type SlugOptions } from "./options";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readCases } from "../../test/cases";
import { languageByTag } from "../text/language";
import { slugOf } from "./slug";

const slug = (text: string, options: Partial<SlugOptions> = {}, language = "en") =>
  slugOf(text, { options: { ...SLUG_DEFAULTS, ...options }, language: languageByTag(language) });

describe("slugs", () => {
  it.each(readCases<{ text: string; slug: string } & Partial<SlugOptions>>("slugs.jsonl", "sharper-slugs.jsonl"))(
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
    ["⚓️", ""],
    ["Rope 🎉 party™ → now", "rope-party-now"],
    ["5 € № 7 m²", "5-eur-no-7-m2"],
    ["90 °C – 3 × 2", "90-c-3-x-2"],
    ["Gore®Tex", "gore-tex"],
    ["", ""],
  ])("%s → %s", (text, expected) => expect(slug(text)).toBe(expected));

  it.each([
    ["de", "Tauwerk für große Öltanks & Übungen", "tauwerk-fuer-grosse-oeltanks-und-uebungen"],
    ["da", "Sølv på Ærø & Ål", "soelv-paa-aeroe-og-aal"],
    ["nb", "Blå tau", "blaa-tau"],
    ["sv", "Blå tågvirke & öglor", "bla-tagvirke-och-oglor"],
    ["fr", "L’ancre & la chaîne d’été", "lancre-et-la-chaine-dete"],
    ["es", "Cabo & ancla para niños", "cabo-y-ancla-para-ninos"],
  ])("in %s %s → %s", (language, text, expected) => expect(slug(text, {}, language)).toBe(expected));

  it("keeps hyphenated words whole, and ends in no stop word after a cut", () => {
    const drops = { dropStopWords: true, dropNumbers: true };
    expect(slug("A step-by-step guide to the 3-strand rope", drops)).toBe("step-by-step-guide-3-strand-rope");
    expect(slug("rope for the deck", { max: 13 })).toBe("rope");
    expect(slug("rope step-by-step", { max: 12 })).toBe("rope-step");
    expect(slug("to be or not to be", { max: 9 })).toBe("to-be-or");
    expect(slug("Tau für Öltanks", { max: 10 }, "de")).toBe("tau");
    expect(slug("Tau für Öltanks", drops, "de")).toBe("tau-oeltanks");
  });

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
