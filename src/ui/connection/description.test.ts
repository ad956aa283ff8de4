import { describe, expect, it } from "vitest";
import { kindsIn, placeIn, placeOf, withoutField, withPlace } from "./description";

const RECORD = {
  id: 7,
  "a/b": { "~c": "deep" },
  tags: ["one", "two"],
  meta: [
    { key: "seo_title", value: "Rope" },
    { key: "it's", value: "odd" },
  ],
};

describe("a value that is clicked", () => {
  it.each([
    [["id"], "/id"],
    [["a/b", "~c"], "/a~1b/~0c"],
    [["tags", 1], "/tags/1"],
    [["meta", 0, "value"], "$.meta[?@.key=='seo_title'].value"],
    [["meta", 0, "key"], "/meta/0/key"],
    [["meta", 1, "value"], "/meta/1/value"],
  ] as const)("at %j is found at %s", (path, place) => expect(placeOf(RECORD, path)).toBe(place));
});

describe("a description that is being written", () => {
  const text = JSON.stringify({
    kinds: { product: {} },
    fields: { id: "/id", title: { at: "/t", decode: "entities" }, address: { parts: "/{/a}" } },
  });

  it("gets a field’s place, and keeps how the field is read", () => {
    const next = withPlace(withPlace(text, "title", "/seo/title"), "name", "/h1");
    expect(JSON.parse(next)).toMatchObject({
      fields: { id: "/id", title: { at: "/seo/title", decode: "entities" }, name: "/h1" },
    });
    expect(JSON.parse(withPlace(text, "category.path", "/labels"))).toMatchObject({
      fields: { "category.path": { at: "/labels", join: " › " } },
    });
    expect([placeIn(next, "title"), placeIn(next, "address"), placeIn(next, "none")]).toEqual([
      "/seo/title",
      "/{/a}",
      null,
    ]);
    expect(JSON.parse(withoutField(next, "name"))).not.toHaveProperty("fields.name");
  });

  it("that is no JSON stays as it is", () => {
    expect(withPlace("{", "title", "/t")).toBe("{");
    expect(kindsIn("{")).toEqual([]);
    expect(kindsIn(text)).toEqual(["product"]);
  });
});
