import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readCases } from "../../test/cases";
import { type ItemRecord, itemSetOf } from "../proof/items";
import { SLUG_DEFAULTS } from "../slugs/options";
import { languageByTag } from "../text/language";
import { addressReading } from "./address-reading";
import { parseShape } from "./parse-shape";
import { AddressMaker } from "./shape";

const slugRules = { options: SLUG_DEFAULTS, language: languageByTag("en") };

function address(shape: string, item: ItemRecord, folders: Readonly<Record<string, string>> = {}): string {
  const slugs = Object.values(folders);
  const pageOf = (name: string) => (name in folders ? Object.keys(folders).indexOf(name) : null);
  const maker = new AddressMaker(parseShape(shape), itemSetOf([item]), {
    slugRules,
    folderPages: slugs.length === 0 ? null : (names) => names.map(pageOf),
  });
  return maker.address(0, String(item["slug"]), (page) => slugs[page]!);
}

describe("the address of a shape", () => {
  it.each(readCases<{ shape: string; item: ItemRecord; path: string }>("paths.jsonl"))(
    "$shape → $path",
    ({ shape, item, path }) => expect(address(shape, item)).toBe(path),
  );

  it("takes the first alternative that has all it needs", () => {
    const shape = "[/by/{author} || /in/{category} || /notes]/{slug}";
    expect(address(shape, { slug: "x", author: "Ann", category: "Rope" })).toBe("/by/ann/x");
    expect(address(shape, { slug: "x", category: "Rope" })).toBe("/in/rope/x");
    expect(address(shape, { slug: "x" })).toBe("/notes/x");
  });

  it("takes the slug of a category’s page where there is one", () => {
    const slugs = { Twine: "yarn" };
    const item = { slug: "x", category: "Twine", "category.path": "Rope › Twine" };
    expect(address("/{category.path}/{slug}", item, slugs)).toBe("/rope/yarn/x");
    expect(address("/{category}/{slug}", item, slugs)).toBe("/yarn/x");
    expect(address('/{category or "misc"}/{slug}', item, slugs)).toBe("/yarn/x");
    expect(address('/{category or "misc"}/{slug}', { slug: "x" }, slugs)).toBe("/misc/x");
    expect(address("/{category.parent}/{slug}", { ...item, "category.parent": "Rope" }, { Rope: "cordage" })).toBe(
      "/cordage/x",
    );
  });

  it("of a category has the folders above it, not itself", () => {
    const items = itemSetOf([
      { name: "Twine", slug: "twine", "category.path": "Rope › Twine" },
      { name: "Rope", slug: "rope", "category.path": "Rope" },
    ]);
    const context = { slugRules, folderPages: null, areFolders: true };
    const maker = new AddressMaker(parseShape("/shop/{category.path}/{slug}"), items, context);
    expect([maker.address(0, "twine"), maker.address(1, "rope")]).toEqual(["/shop/rope/twine", "/shop/rope"]);
  });

  it("leaves the slug as it is, and makes slugs of all else", () => {
    expect(address("/{name}/{slug}/", { slug: "Ünchanged_1", name: "Rope & Twine" })).toBe(
      "/rope-and-twine/Ünchanged_1/",
    );
  });

  it("has no empty segment, whatever is in its fields", () => {
    const text = fc.constantFrom("", "-", "Rope", "Rope > Twine", "  ", "⚓", "a/b");
    fc.assert(
      fc.property(text, text, text, (author, category, path) => {
        const made = address("/{category.path}/{category}/x[/by/{author}]/{slug}", {
          slug: "s",
          author,
          category,
          "category.path": path,
        });
        expect(made).toMatch(/^(?:\/[a-z0-9-]+)+$/);
        expect(made.endsWith("/s")).toBe(true);
      }),
    );
  });
});

it("reads as its segments", () => {
  expect(addressReading(parseShape("/shop/{category.path}/{slug}").line.nodes)).toBe(
    "/ shop / the category path / the slug",
  );
});

describe("what is wrong with a shape", () => {
  it.each([
    ["{slug}", 0, "begins with a slash"],
    ["[/{category}]{name}/{slug}", 0, "begins with a slash"],
    ["[/{category}][{name}]/{slug}", 0, "begins with a slash"],
    ["/{slug}[-{name}]^apart", 16, "means nothing in an address"],
    ["[/{category}]^2/{slug}", 13, "means nothing in an address"],
    ["[/{category}]{slug}", 0, "begins with a slash"],
    ["/{category}", 0, "holds {slug} once"],
    ["/{slug}/{slug}", 8, "only once"],
    ["/[{slug}]", 2, "outside of [ … ]"],
    ["/{slug:upper}", 1, "stands for itself"],
    ["/{slug or name}", 1, "stands for itself"],
    ["/{slug}/about", 7, "in the last segment"],
    ["/{slug}[/{category}]", 7, "in the last segment"],
    ["/my shop/{slug}", 3, "A space cannot stand"],
    ["/shop?/{slug}", 5, "“?” cannot stand"],
    ["/{name:fit}/{slug}", 7, "no room"],
    ["/{slg}", 1, "did you mean “slug”"],
  ])("%s", (source, at, message) => {
    const known = new Set(["name", "category", "slug"]);
    const { line } = parseShape(source, { has: (name) => known.has(name), names: () => known });
    expect(line.errors[0]?.message).toContain(message);
    expect(line.errors[0]!.from).toBe(source === "/{slg}" ? 2 : at);
  });

  it.each(["/{slug}", "/{slug}/", "/{slug}.html", "/shop/{slug}-{id}", "[/{category}]/{slug}", "/é/{slug}"])(
    "is nothing in %s",
    (source) => expect(parseShape(source).line.errors).toEqual([]),
  );
});
