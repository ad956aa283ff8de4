import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { CategoryTree, PATH_SEPARATOR, type TreePage } from "./category-tree";

const page = (id: number, name: string, over: Partial<TreePage> = {}): TreePage => ({
  id,
  key: `k${id}`,
  name,
  category: "",
  path: "",
  ...over,
});

describe("categories that are pages", () => {
  const tree = new CategoryTree([
    page(1, "Rope"),
    page(2, "Twine", { category: "k1" }),
    page(3, "Waxed twine", { category: "twine" }),
    page(4, "Lamps", { path: "Deck › Lamps" }),
    page(5, "Deck"),
    page(6, "Oil", { path: "Deck › Lamps" }),
    page(7, "Twin name", { category: "Rope" }),
    page(8, "Twin name", { category: "Deck" }),
  ]);

  it.each([
    ["by its name, in any case", "waxed TWINE", "", "Waxed twine", "Rope › Twine › Waxed twine"],
    ["by its id", "k2", "", "Twine", "Rope › Twine"],
    ["by the names from the top", "anything", "Deck › Lamps", "Lamps", "Deck › Lamps"],
    ["by its name where the names from the top are out of date", "Twine", "String › Twine", "Twine", "Rope › Twine"],
    [
      "of two with one name by the names from the top",
      "Twin name",
      "Deck › Twin name",
      "Twin name",
      "Deck › Twin name",
    ],
    ["below one that its own names tell", "Oil", "", "Oil", "Deck › Lamps › Oil"],
  ])("is found %s", (_, category, path, name, trail) =>
    expect(tree.place({ category, path })).toEqual({ category: name, path: trail }),
  );

  it("are not guessed: one that is none, or could be two, stands as it is said", () => {
    expect(tree.place({ category: "Anchors", path: "" })).toBeNull();
    expect(tree.place({ category: "Twin name", path: "" })).toBeNull();
    expect(tree.place({ category: "", path: "" })).toBeNull();
  });

  it("stand in the one above, by name", () => {
    expect(tree.placeOf(2)).toEqual({ category: "Rope", path: "Rope › Twine" });
    expect(tree.placeOf(3)).toEqual({ category: "Twine", path: "Rope › Twine › Waxed twine" });
    expect(tree.placeOf(1)).toEqual({ category: "", path: "Rope" });
    expect(tree.placeOf(99)).toBeNull();
  });

  it("that call themselves their category stay called so", () => {
    const own = new CategoryTree([page(1, "Twine", { category: "Twine", path: "Rope › Twine" })]);
    expect(own.placeOf(1)).toEqual({ category: "Twine", path: "Rope › Twine" });
  });

  it("that stand below one another in a ring are each at the end of the others, none twice", () => {
    const ring = new CategoryTree([page(1, "A", { category: "B" }), page(2, "B", { category: "A" })]);
    expect([ring.placeOf(1)!.path, ring.placeOf(2)!.path]).toEqual(["B › A", "A › B"]);
  });

  it("come to an end whatever they say of one another, each at the end of its own names", () => {
    const name = fc.constantFrom("A", "B", "C", "D", "E");
    const said = fc.record({
      name,
      category: fc.oneof(name, fc.constantFrom("", "k0", "k1", "k2")),
      path: fc.array(name, { maxLength: 3 }).map((names) => names.join(PATH_SEPARATOR)),
    });
    fc.assert(
      fc.property(fc.array(said, { maxLength: 8 }), (pages) => {
        const any = new CategoryTree(pages.map((own, i) => page(i, own.name, own)));
        pages.forEach((own, i) => {
          const trail = any.placeOf(i)!.path.split(PATH_SEPARATOR);
          expect(trail.at(-1)).toBe(own.name);
          expect(trail.length).toBeLessThan(60);
        });
      }),
    );
  });

  it("may be deeper than anybody makes them", () => {
    const deep = new CategoryTree(
      Array.from({ length: 20_000 }, (_, i) => page(i, `N${i}`, { category: i === 0 ? "" : `N${i - 1}` })),
    );
    expect(deep.placeOf(40)!.path.split(PATH_SEPARATOR)).toHaveLength(41);
    const depths = Array.from({ length: 20_000 }, (_, i) => deep.placeOf(i)!.path.split(PATH_SEPARATOR).length);
    expect(Math.max(...depths)).toBe(50);
  });
});
