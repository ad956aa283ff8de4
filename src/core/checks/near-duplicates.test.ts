import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoItems } from "../../demo/site";
import { nearDuplicates } from "./near-duplicates";

describe("near duplicates", () => {
  const nearOf = (texts: readonly string[], share?: number) => [
    ...nearDuplicates(texts.length, (i) => texts[i]!, share),
  ];

  it("take a word with an apostrophe for one word", () => {
    for (const sign of ["'", "’"]) {
      const texts = ["skipper's mate's cook's dog's", "skipper's mate's cook's cat's"];
      expect(nearOf(texts.map((text) => text.replaceAll("'", sign)))).toEqual([-1, -1]);
    }
    expect(nearOf(["skippers mates cooks dogs cats", "skippers mates cooks dogs oars"])).toEqual([1, 0]);
  });

  const wordsOf = (text: string) =>
    new Set(
      text
        .normalize("NFD")
        .replace(/\p{M}/gu, "")
        .toLowerCase()
        .match(/[\p{L}\p{N}]+(?:['’][\p{L}\p{N}]+)*/gu) ?? [],
    );
  /** How many texts have a near one by comparing all with all, and how many of them are found; none may be found that is not. */
  const against = (texts: readonly string[], share = 0.8) => {
    const found = nearOf(texts, share);
    const sets = texts.map(wordsOf);
    const areNear = (one: number, two: number) => {
      const [small, large] = sets[one]!.size < sets[two]!.size ? [sets[one]!, sets[two]!] : [sets[two]!, sets[one]!];
      const wanted = share * large.size - 1e-9;
      if (small.size < 4 || small.size < wanted) return false;
      let both = 0;
      for (const word of small) if (large.has(word)) both++;
      return both >= wanted;
    };
    let meant = 0;
    let met = 0;
    texts.forEach((text, i) => {
      const other = found[i]!;
      if (other >= 0) {
        expect(areNear(i, other), `${text} | ${texts[other]!}`).toBe(true);
        meant++;
        met++;
      } else if (texts.some((_, k) => k !== i && areNear(i, k))) meant++;
    });
    return { meant, met };
  };

  it("share four of five words of the longer one, in any order", () => {
    const texts = [
      "Bronze mooring cleat 200 mm in polished finish",
      "Brass mooring cleat 200 mm in polished finish",
      "Oak bucket with rope handle, large",
      "Polished finish in bronze: mooring cleat 200 mm",
      "",
      "Rope",
      "Twine of hemp, red",
      "Twine of hemp, blue",
      "Twine of fine hemp, blue",
    ];
    expect(nearOf(texts).map((other) => other >= 0)).toEqual([
      true,
      true,
      false,
      true,
      false,
      false,
      false,
      true,
      true,
    ]);
  });

  it("have to share more words where the site says so", () => {
    const texts = ["Twine of fine hemp, blue", "Twine of hemp, blue", "Rope for the deck"];
    expect(nearOf(texts).map((other) => other >= 0)).toEqual([true, true, false]);
    expect(nearOf(texts, 0.85).some((other) => other >= 0)).toBe(false);
  });

  it("are found, nearly all, and none that is not, whatever the texts are made of", () => {
    const text = (words: number) =>
      fc.array(fc.nat(words), { minLength: 1, maxLength: 24 }).map((numbers) => numbers.map((n) => `w${n}`).join(" "));
    const texts = fc
      .tuple(fc.constantFrom(6, 20, 60, 400), fc.constantFrom(0.8, 0.9))
      .chain(([words, share]) =>
        fc.tuple(fc.uniqueArray(text(words), { minLength: 2, maxLength: 40 }), fc.constant(share)),
      );
    let [meant, met] = [0, 0];
    fc.assert(
      fc.property(texts, ([list, share]) => {
        const twins = list.slice(0, 5).map((own) => own.replace(/w\d+/, "other"));
        const counts = against([...new Set([...list, ...twins])], share);
        meant += counts.meant;
        met += counts.met;
      }),
      { numRuns: 600 },
    );
    expect(meant).toBeGreaterThan(1000);
    expect(met / meant).toBeGreaterThanOrEqual(0.98);
  });

  it("of the demo site's titles and descriptions are found against all with all", () => {
    const items = [...demoItems({ products: 1200 })].filter(({ kind }) => kind === "product");
    for (const field of ["title", "description"] as const) {
      const texts = [
        ...new Map(items.map((item) => [item.columns[field]!.toLowerCase(), item.columns[field]!])).values(),
      ];
      const { meant, met } = against(texts);
      expect(meant).toBeGreaterThan(0);
      expect(met / meant, field).toBeGreaterThanOrEqual(0.98);
    }
  });
});
