import { kindInfoSchema } from "./kind-schema";
import { siteSchema } from "./schema";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { kindIds, type KindInfo, kindOf, kindsByWord, kindsOf, kindWord, withKinds, wordKey } from "./kinds";
import { newKind } from "./new-kind";

const RECIPE: KindInfo = {
  id: "recipe",
  one: "recipe",
  many: "recipes",
  isTree: false,
  isSingle: false,
  words: ["Rezept"],
};

describe("the kinds of a site", () => {
  it("are seven from the start; its own come behind them, and a known one may be called otherwise", () => {
    expect(kindIds(null)).toEqual(["post", "product", "category", "page", "tag", "author", "home"]);
    const article = { ...kindOf(null, "post")!, one: "article", many: "articles" };
    const site = { kinds: [RECIPE, article] };
    expect(kindIds(site)).toEqual([...kindIds(null), "recipe"]);
    expect(kindWord(site, "post", 2)).toBe("articles");
    expect(kindWord(null, "post", 1)).toBe("post");
    expect(kindWord(null, "recipe", 2)).toBe("recipe");
  });

  it("are known by the words that files have for them; an id is always its own kind’s", () => {
    const thief = { ...RECIPE, id: "thief", words: ["product", "Loot"] };
    const words = kindsByWord({ kinds: [RECIPE, thief] });
    expect(words.get("rezept")).toBe("recipe");
    expect(words.get("loot")).toBe("thief");
    expect(words.get("product")).toBe("product");
    expect(words.get("product_cat")).toBe("category");
    expect(words.get("constructor")).toBeUndefined();
  });

  it("are known by the words of other languages, unless the site means something else by them", () => {
    const kindOfWord = (word: string) => kindsByWord(null).get(wordKey(word));
    expect(["Produkt", "Beitrag", " SEITE ", "Página", "étiquette", "accueil"].map(kindOfWord)).toEqual([
      "product",
      "post",
      "page",
      "page",
      "tag",
      "home",
    ]);
    const tome: KindInfo = { ...RECIPE, id: "tome", words: ["Beitrag"] };
    expect(kindsByWord({ kinds: [tome] }).get("beitrag")).toBe("tome");
  });

  it("have ids that mean nothing else", () => {
    for (const id of ["all", "constructor", "__proto__", "Recipe", "3d", "", "a b"])
      expect(kindInfoSchema.safeParse({ ...RECIPE, id }).success, id).toBe(false);
  });

  it("cannot be two with one id", () => {
    const read = siteSchema.safeParse({ kinds: [RECIPE, RECIPE] });
    expect(read.error?.issues[0]).toMatchObject({
      path: ["kinds", 1, "id"],
      message: "two kinds have the id “recipe”",
    });
    expect(withKinds([RECIPE], [{ ...RECIPE, many: "dishes" }])).toEqual([{ ...RECIPE, many: "dishes" }]);
  });
});

describe("a new kind for a word", () => {
  it.each([
    ["Recipes", "recipes", "recipe", "recipes"],
    ["place", "place", "place", "places"],
    ["Job offer", "job-offer", "job offer", "job offers"],
    ["Glass", "glass", "glass", "glasses"],
    ["3D model", "kind-3d-model", "3d model", "3d models"],
    ["Café", "cafe", "café", "cafés"],
  ])("%s", (word, id, one, many) => expect(newKind(word, [])).toMatchObject({ id, one, many, words: [word] }));

  it("has an id that nothing else has, whatever the word, and is found by the word", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", minLength: 1, maxLength: 60 }), (word) => {
        fc.pre(word.trim() !== "" && word.trim().length < 60);
        const first = newKind(word, kindIds(null));
        const second = newKind(word, [...kindIds(null), first.id]);
        expect(kindInfoSchema.safeParse(first).success).toBe(true);
        expect(kindsOf({ kinds: [first] })).toContainEqual(first);
        expect(second.id).not.toBe(first.id);
        const found = kindsByWord({ kinds: [first] }).get(word.trim().toLowerCase());
        expect(found === first.id || kindsByWord(null).has(word.trim().toLowerCase())).toBe(true);
      }),
    );
  });
});
