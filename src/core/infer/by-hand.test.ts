import { describe, expect, it } from "vitest";
import { SharedShapes } from "./by-hand";
import { ShapeFields, textShape } from "./text-shape";

const fields = (name: string, more: Record<string, string> = {}) =>
  Object.entries({ name, site: "Fennick & Dray", ...more }).map(([field, value]) => ({ name: field, value }));

describe("a text’s shape", () => {
  it.each([
    ["Waxed twine | Fennick & Dray", fields("Waxed twine"), "{name} | {site}"],
    ["Buy Waxed twine 40 m in bulk", fields("Waxed twine"), "Buy {name} # m in bulk"],
    ["Waxed twine", fields("Waxed twine"), "{name}"],
    // The longer value is the one that is meant.
    ["Waxed twine in Twine", fields("Waxed twine", { category: "Twine" }), "{name} in {category}"],
    [
      "Twine that holds when everything …",
      fields("Twine", { intro: "Twine that holds when everything else lets go." }),
      "{start of intro}",
    ],
    ["A word of our own", fields("Waxed twine"), "A word of our own"],
    ["Ax", fields("Ax"), "Ax"],
  ])("%s", (text, of, shape) => expect(textShape(text, new ShapeFields(of))).toBe(shape));
});

describe("texts that nothing explains", () => {
  /** Of shapes that so many texts have each, those of them that are unexplained. */
  const unexplained = (counts: Record<string, number>) => {
    const shared = new SharedShapes();
    const numbers = Object.entries(counts).map(([shape, n]) =>
      Array.from({ length: n }, () => shared.see(shape)).at(-1)!,
    );
    return Object.keys(counts).filter((_, i) => shared.isUnexplained(numbers[i]!));
  };

  it("are those whose shape hardly any other has", () => {
    expect(unexplained({ "{name} | {site}": 300, "Buy {name}": 12, "With care": 1, "Twice so": 2 })).toEqual([
      "With care",
      "Twice so",
    ]);
  });

  it("are none in a set that is too small to tell", () => {
    expect(unexplained({ "{name}": 10, "With care": 1 })).toEqual([]);
  });

  it("are told by their share where the set is large", () => {
    expect(unexplained({ "{name}": 10_000, "A few": 40, Enough: 60 })).toEqual(["A few"]);
  });
});
