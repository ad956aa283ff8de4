import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemSetOf, type ItemRecord } from "../proof/items";
import { type FieldFormat } from "../text/figures";
import { readCondition } from "./condition";
import type { RawCondition } from "./condition-shape";
import { checkedCondition, isCondition } from "./condition-shape";
import { conditionWords } from "./words";
import { ConditionError } from "./pattern";
import { decide } from "./decide";
import { matchingRows } from "./match";

const items = [
  {
    name: "Brass cleat 8 mm",
    material: "Brass",
    price: "12.50",
    published: "2024-03-01",
    category: "Cleats",
    "category.path": "Deck fittings › Cleats",
  },
  {
    name: "Rope",
    material: "hemp",
    price: "£1,200",
    published: "2023-01-15",
    category: "Rope",
    "category.path": "Rope",
  },
  {
    name: "Bronze ring",
    material: "bronze",
    price: "",
    published: "",
    category: "Rings",
    "category.path": "Deck fittings › Rings › Brass rings",
  },
];
const rows = (raw: unknown) => [...matchingRows(readCondition(raw), itemSetOf(items))].join("");

describe("what is known of a condition without checking it", () => {
  it.each<RawCondition>([
    { field: "Material", is: "brass" },
    { field: "a", "is not": "x" },
    { field: "a", contains: "x" },
    { field: "a", "starts with": "x" },
    { field: "a", "ends with": "x" },
    { field: "a", matches: "x+" },
    { field: "a", "is empty": true },
    { field: "a", "is filled": true },
    { field: "a", "<": "20" },
    { field: "a", "<=": "20" },
    { field: "a", ">": "20" },
    { field: "a", ">=": "20" },
    { field: "a", between: ["1", "2"] },
    { field: "a", "longer than": 3 },
    { field: "a", "shorter than": 3 },
    { field: "a", "is one of": ["x", "y", "z", "u", "v"] },
    { all: [{ field: "a", is: "x" }, { none: [{ any: [] }, { field: "category", "is under": "Rope" }] }] },
  ])("%j is what reading it says", (raw) => {
    expect(isCondition(raw)).toBe(true);
    expect(checkedCondition(raw)).toEqual(readCondition(raw));
  });

  it("says a number as the text that it is read as", () => {
    const raw = { field: "a", "is one of": [1, 2] };
    expect(isCondition(raw)).toBe(true);
    expect(conditionWords(checkedCondition(raw))).toBe(conditionWords(readCondition(raw)));
  });

  const NONE: readonly unknown[] = [
    ...[null, 5, "a", [], {}, { field: "a" }, { field: " ", is: "x" }, { is: "x" }, { field: 5, is: "x" }],
    ...[
      { field: "a", is: "x", contains: "y" },
      { field: "a", equals: "x" },
      { field: "a", toString: "x" },
    ],
    ...[
      { field: "a", is: {} },
      { field: "a", "is one of": "x" },
      { field: "a", "is one of": [] },
    ],
    ...[
      { field: "a", between: ["1"] },
      { field: "a", "is empty": false },
      { field: "a", "is one of": [{}] },
    ],
    ...[{ all: {} }, { all: [5] }, { all: [], any: [] }],
  ];
  it.each(NONE.map((raw) => [raw]))("%j is none, as reading it says", (raw) => {
    expect(isCondition(raw)).toBe(false);
    expect(() => readCondition(raw)).toThrow();
  });

  it("follows no endless nesting", () => {
    let raw: RawCondition = { field: "a", is: "x" };
    for (let i = 0; i < 60; i++) raw = { all: [raw] };
    expect(isCondition(raw)).toBe(false);
    expect(() => readCondition(raw)).toThrow(/nested/);
  });
});

describe("conditions", () => {
  it.each([
    [{ field: "material", is: "BRASS" }, "100"],
    [{ field: "material", "is not": "brass" }, "011"],
    [{ field: "Name", contains: "CLEAT" }, "100"],
    [{ field: "name", "starts with": "br" }, "101"],
    [{ field: "name", "ends with": "mm" }, "100"],
    [{ field: "name", matches: "^b.*\\d" }, "100"],
    [{ field: "price", "is empty": true }, "001"],
    [{ field: "price", "is filled": true }, "110"],
    [{ field: "nowhere", "is empty": true }, "111"],
    [{ field: "price", "<": 100 }, "100"],
    [{ field: "price", ">=": "12.5" }, "110"],
    [{ field: "published", ">": "2023-06-01" }, "100"],
    [{ field: "published", between: ["2023-01-01", "2023-12-31"] }, "010"],
    [{ field: "price", between: [1000, 2000] }, "010"],
    [{ field: "name", "longer than": 4 }, "101"],
    [{ field: "name", "shorter than": 5 }, "010"],
    [{ field: "material", "is one of": ["brass", "Bronze"] }, "101"],
    [{ field: "category", "is under": "deck fittings" }, "101"],
    [{ field: "category", "is under": "Deck fittings > Rings" }, "001"],
    [
      {
        all: [
          { field: "name", contains: "b" },
          {
            any: [
              { field: "material", is: "brass" },
              { field: "material", is: "bronze" },
            ],
          },
        ],
      },
      "101",
    ],
    [
      {
        none: [
          { field: "material", is: "brass" },
          { field: "material", is: "hemp" },
        ],
      },
      "001",
    ],
    [{ all: [] }, "111"],
    [{ any: [] }, "000"],
  ])("%j takes %s", (raw, taken) => expect(rows(raw)).toBe(taken));

  it.each([
    [{ field: "a" }, /exactly one operator/],
    [{ field: "a", is: "1", contains: "2" }, /“is” and “contains”/],
    [{ field: "a", like: "1" }, /no operator “like”/],
    [{ is: "x" }, /needs a “field”/],
    [{ field: "a", "is one of": [] }, /empty/],
    [{ all: {} }, /takes a list/],
    [{ all: [], field: "x" }, /stands alone/],
    [{ field: "a", matches: "(" }, /RE2 syntax/],
    ["brass", /an object/],
    [{ field: "a", constructor: "x" }, /no operator “constructor”/],
  ])("says what is wrong with %j", (raw, words) => expect(() => readCondition(raw)).toThrow(words));

  it.each<[object, object, FieldFormat | undefined, boolean]>([
    [{ "<=": "2024-12-31" }, { own: "2024-12-31T10:00:00Z" }, undefined, true],
    [{ ">=": "2024-12-31" }, { own: "31.12.2024" }, undefined, true],
    [{ "<": "2024-12-31" }, { own: "2024-12-31 00:01" }, undefined, false],
    [{ ">": "2024-12-31" }, { own: "2024-12-31 23:59" }, undefined, false],
    [{ between: ["2024-12-01", "2024-12-31"] }, { own: "2024-12-31T23:59:59Z" }, undefined, true],
    [{ between: ["2024-01", "2024-02"] }, { own: "2024-02-29" }, undefined, true],
    [{ "<=": "2024-12" }, { own: "2025-01-01" }, undefined, false],
    [{ "<": 40 }, { own: "31/12/2024" }, undefined, false],
    [{ "<": 20 }, { own: "6,29" }, undefined, true],
    [{ "<": 20 }, { own: "1.011,50" }, undefined, false],
    [{ "<": 20 }, { own: "1.011" }, { number: "comma" }, false],
    [{ "<": 20 }, { own: "1.011" }, { number: "point" }, true],
    [{ between: [10, 20] }, { own: "20" }, undefined, true],
    [{ between: [10, 20] }, { own: "20.01" }, undefined, false],
    [{ between: [10, 20] }, { own: "many" }, undefined, false],
    [{ "<": "2024-03-04" }, { own: "3/4/2024" }, { day: "month-first" }, false],
    [{ "<": "2024-03-05" }, { own: "3/4/2024" }, { day: "month-first" }, true],
    [{ ">": "2024-03-05" }, { own: "3/4/2024" }, { day: "day-first" }, true],
    [{ is: "STRASSE" }, { own: "Straße" }, undefined, true],
    [{ is: "cafe\u0301" }, { own: "CAFÉ" }, undefined, true],
    [{ "longer than": 4 }, { own: "🙂🙂🙂🙂" }, undefined, false],
    [{ "is under": "Rope" }, { own: "Rope" }, undefined, true],
    [{ "is under": "Rope" }, { own: "Ropes › Twine" }, undefined, false],
  ])("%j takes %j written as %j: %j", (condition, item, format, taken) => {
    const set = itemSetOf([item as ItemRecord], new Map(), { formats: format ? { own: format } : {} });
    expect([...matchingRows(readCondition({ field: "own", ...condition }), set)]).toEqual([taken ? 1 : 0]);
  });

  it("refuses a pattern that repeats too much, and says so in words", () => {
    expect(() => readCondition({ field: "a", matches: "(.?){1000}".repeat(3) })).toThrow(
      /too large a pattern.*Repeat less/,
    );
    expect(() => readCondition({ field: "a", matches: "(.?){20}" })).not.toThrow();
  });

  it("refuses a pattern that may take too many steps on one value, which nothing could interrupt", () => {
    const set = itemSetOf([{ body: "a".repeat(100_000) }]);
    const rows = (matches: string) => matchingRows(readCondition({ field: "body", matches }), set);
    expect(() => rows("(.?){200}Q")).toThrow(/too large a pattern for {body}: a value there has 100,000 characters/);
    expect([...rows("a{3}$")]).toEqual([1]);
  });

  it("pauses between values, more often the more steps a pattern may take, and ends where a pause throws", () => {
    const set = itemSetOf(Array.from({ length: 400 }, (_, i) => ({ body: `${i} ${"a".repeat(1000)}` })));
    const pausesOf = (condition: object) => {
      const told: number[] = [];
      matchingRows(readCondition({ field: "body", ...condition }), set, { pause: (done) => told.push(done) });
      return told;
    };
    expect(pausesOf({ contains: "b" })).toEqual([]);
    const few = pausesOf({ matches: "b+" });
    const many = pausesOf({ matches: "(b?){40}c" });
    expect(few.length).toBeGreaterThan(0);
    expect(many.length).toBeGreaterThan(5 * few.length);
    expect(many).toEqual([...many].sort((a, b) => a - b));
    const ended = () =>
      matchingRows(readCondition({ all: [{ field: "body", matches: "(b?){40}c" }] }), set, {
        pause: () => {
          throw new Error("nobody waits");
        },
      });
    expect(ended).toThrow("nobody waits");
  });

  it("refuses a tower of conditions, and answers a catastrophic pattern at once", () => {
    let tower: unknown = { field: "a", is: "b" };
    for (let i = 0; i < 200; i++) tower = { all: [tower] };
    expect(() => readCondition(tower)).toThrow(ConditionError);
    const long = itemSetOf([{ name: "a".repeat(50_000) }]);
    expect([...matchingRows(readCondition({ field: "name", matches: "^(a+)+$b" }), long)]).toEqual([0]);
  });
});

describe("which line decides", () => {
  const rule = (name: string, when: RawCondition, title?: string) => ({
    name,
    when,
    ...(title === undefined ? {} : { title }),
  });
  const is = (material: string): RawCondition => ({ field: "material", is: material });

  it("is the first matching rule's that has one, then the base's, for each text by itself", () => {
    const set = itemSetOf(items);
    const rules = [rule("No title here", is("brass")), rule("Brass", is("brass"), "A"), rule("Late", { all: [] }, "B")];
    const title = decide(rules, { title: "C", slug: "D" }, "title", set);
    expect([...title.decides].map((at) => title.lines[at]!.source)).toEqual(["A", "B", "B"]);
    const slug = decide(rules, { title: "C", slug: "D" }, "slug", set);
    expect([...slug.decides].map((at) => slug.lines[at]!.from)).toEqual(["base", "base", "base"]);
    expect([...decide(rules, {}, "description", set).decides]).toEqual([-1, -1, -1]);
  });

  it("is the same as asking each item one rule after another", () => {
    const materials = ["brass", "hemp", "oak"];
    const rules = fc.array(fc.record({ material: fc.constantFrom(...materials), has: fc.boolean() }), { maxLength: 6 });
    fc.assert(
      fc.property(rules, fc.array(fc.constantFrom(...materials), { minLength: 1, maxLength: 8 }), (list, values) => {
        const made = decide(
          list.map((r, i) => rule(`r${i}`, is(r.material), r.has ? `line ${i}` : undefined)),
          { title: "base" },
          "title",
          itemSetOf(values.map((material) => ({ material }))),
        );
        values.forEach((material, row) => {
          const first = list.findIndex((r) => r.has && r.material === material);
          expect(made.lines[made.decides[row]!]!.source).toBe(first < 0 ? "base" : `line ${first}`);
        });
      }),
      { numRuns: 1000 },
    );
  });
});
