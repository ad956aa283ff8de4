import { expect, it } from "vitest";
import { correctedByValues } from "./guess-by-values";

const rowsOf = (...categories: string[]) => categories.map((category, i) => [String(i), category]);

it.each([
  ["ways to a category", rowsOf("Rope", "Rope › Twine", "", "Rope > Waxed"), "category.path"],
  ["ways with bars", rowsOf("Rope | Twine", "Rope"), "category.path"],
  ["names", rowsOf("Rope", "Pots/Pans", "Rope & twine", ""), "category"],
  ["names, of which one has a sign by chance", rowsOf("A > B", ...Array<string>(99).fill("Rope")), "category"],
  ["nothing", rowsOf("", ""), "category"],
] as const)("a column of categories with %s is taken for what it is", (_, rows, target) => {
  expect(correctedByValues(["id", "category"], rows)).toEqual(["id", target]);
});

it("a column of categories stays one where another has the way", () => {
  const targets = ["category", "category.path"] as const;
  expect(correctedByValues(targets, [["Rope › Twine", "Rope › Twine"]])).toEqual(targets);
});
