import { describe, expect, it } from "vitest";
import { kindOf } from "../../core/design/kinds";
import { newKind } from "../../core/design/new-kind";
import { addedKinds, kindForWord, NO_KINDS, withChoice, withWords } from "./file-kinds";

const SEEN = [
  { word: "Recipe", rows: 3 },
  { word: "Tutorial", rows: 2 },
];

describe("what is said of a file’s kinds", () => {
  const asked = withWords(NO_KINDS, SEEN);

  it("is nothing at first, and stays said when the file is read again", () => {
    expect(addedKinds(null, asked)).toEqual([]);
    const said = withChoice(asked, "Recipe", { own: kindForWord(null, asked, "Recipe", newKind) });
    expect(withWords(said, SEEN)).toBe(said);
    expect(withWords(said, [{ word: "Place", rows: 1 }]).words.map(({ word }) => word)).toEqual([
      "Recipe",
      "Tutorial",
      "Place",
    ]);
    expect(addedKinds(null, withChoice(said, "Recipe", null))).toEqual([]);
  });

  it("makes kinds, and gives further words to those that are there", () => {
    const own = kindForWord(null, asked, "Recipe", newKind);
    const both = withChoice(withChoice(asked, "Recipe", { known: "post" }), "Tutorial", { known: "post" });
    expect(addedKinds(null, withChoice(asked, "Recipe", { own }))).toEqual([own]);
    expect(addedKinds(null, both)).toEqual([{ ...kindOf(null, "post")!, words: ["article", "Recipe", "Tutorial"] }]);
  });

  it("takes a kind of a single row for one of a single page", () => {
    const one = withWords(asked, [{ word: "search", rows: 1 }]);
    expect(kindForWord(null, one, "search", newKind).isSingle).toBe(true);
    expect(kindForWord(null, one, "Recipe", newKind).isSingle).toBe(false);
  });

  it("gives two new kinds two ids", () => {
    const one = withChoice(asked, "Recipe", { own: kindForWord(null, asked, "Recipe", newKind) });
    expect(kindForWord(null, one, "recipe", newKind).id).not.toBe("recipe");
  });
});
