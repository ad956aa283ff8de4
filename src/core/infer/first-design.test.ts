import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { kindIds } from "../design/kinds";
import { parseLine } from "../lines/parse";
import { firstDesign, type SeenField } from "./first-design";

const field = (name: string, more: Partial<SeenField> = {}): SeenField => ({
  name,
  type: "text",
  filled: 1,
  distinct: 100,
  example: "Oak",
  ...more,
});
const linesOf = (...given: Parameters<typeof firstDesign>) =>
  Object.fromEntries(firstDesign(...given).map(({ text, line }) => [text, line]));

describe("a first design", () => {
  it("is made of what most pages have, in an order that gives way, and of no words", () => {
    const fields = [
      field("name"),
      field("category", { type: "category", filled: 0.9, distinct: 8 }),
      field("colour", { filled: 0.8, distinct: 5 }),
      field("maker", { filled: 0.4, distinct: 5 }),
      field("weight", { type: "number" }),
      field("picture", { distinct: 9, example: "/i/oak.jpg" }),
      field("summary", { filled: 0.7 }),
      field("intro", { filled: 0.2 }),
    ];
    expect(linesOf("product", fields, 100, true)).toEqual({
      title: "{name}[ – {category}]^2[ – {colour}]^apart[ – {site}]^1",
      description: "{summary or intro:fit}",
      slug: null,
    });
    expect(firstDesign("product", fields, 100, true)[0]!.why).toBe(
      "all pages have a name; 90 % of the pages a category; “colour” where two would read the same; the site’s name where there is room",
    );
  });

  it("takes the id where names are shared, the keyword where some have no name", () => {
    const fields = [field("name", { filled: 0.8, distinct: 60 }), field("keyword", { filled: 0.5 }), field("id")];
    expect(linesOf("post", fields, 100, false)["title"]).toBe("{name or keyword}[ – {id}]^apart");
  });

  it("says why there is no line where the pages have nothing for it", () => {
    expect(firstDesign("page", [field("name", { filled: 0.3 })], 10, true)).toEqual([
      { text: "title", line: null, why: "fewer than half of the pages have a name or a focus keyword" },
      { text: "description", line: null, why: "fewer than half of the pages have an excerpt or a first paragraph" },
      { text: "slug", line: null, why: "every address stays: a line for slugs would move pages" },
    ]);
    expect(linesOf("home", [field("name", { distinct: 1 })], 1, true)).toEqual({ title: null, description: null });
  });

  it("can be read as a line, whatever the fields are called", () => {
    const any = fc.record({
      name: fc.oneof(fc.constantFrom("name", "category", "summary", "intro", "id", "colour", "größe"), fc.string()),
      type: fc.constantFrom("text" as const, "number" as const, "date" as const, "category" as const),
      filled: fc.double({ min: 0, max: 1, noNaN: true }),
      distinct: fc.nat(100),
      example: fc.string({ maxLength: 40 }),
    });
    fc.assert(
      fc.property(
        fc.array(any, { maxLength: 12 }),
        fc.constantFrom(...kindIds(null)),
        fc.nat(200),
        (fields, kind, pages) => {
          const names = new Set([...fields.map(({ name }) => name), "site"]);
          const lenient = { has: (name: string) => names.has(name), names: () => names };
          for (const { line } of firstDesign(kind, fields, pages, true))
            if (line !== null) expect(parseLine(line, lenient).errors).toEqual([]);
        },
      ),
      { numRuns: 1000 },
    );
  });
});
