import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { FINDINGS, type FindingId, type Subject } from "../../core/checks/findings";
import { chosenCount, isChosen, tickOf, within, withPlace, withStretch } from "./chosen-places";
import { kindIds } from "../../core/design/kinds";
import { FIRST_COLUMNS, itemsCodec, type ItemsView, otherLook, queryOf } from "./items-url";
import { type ListedItem } from "../../server/items/listed-item";
import { DEMO_SITE } from "../../demo/site";
import { builtInColumns, fieldColumn } from "./columns";
import { linesOf } from "./list-lines";
import { nextSort, sortedBy, textSorts } from "./column-sorts";
import { ITEM_SORTS } from "../../core/items/query";
import { pastedValues } from "./pasted";
import { placeIn } from "./use-chosen";

const CODEC = itemsCodec(kindIds(null));

describe("chosen places", () => {
  it("are those that were taken in and not left out since, in as few stretches as there can be", () => {
    const steps = fc.array(fc.record({ from: fc.nat(60), length: fc.nat(20), chosen: fc.boolean() }), {
      maxLength: 20,
    });
    fc.assert(
      fc.property(steps, (all) => {
        const model = new Set<number>();
        let ranges: ReturnType<typeof withStretch> = [];
        for (const { from, length, chosen } of all) {
          ranges = length === 1 ? withPlace(ranges, from, chosen) : withStretch(ranges, from, from + length, chosen);
          for (let place = from; place < from + length; place++) model[chosen ? "add" : "delete"](place);
        }
        expect(chosenCount(ranges)).toBe(model.size);
        for (let place = 0; place < 90; place++) expect(isChosen(ranges, place)).toBe(model.has(place));
        ranges.forEach(([from, to], i) => {
          expect(from).toBeLessThan(to);
          if (i > 0) expect(from).toBeGreaterThan(ranges[i - 1]![1]);
        });
      }),
      { numRuns: 1000 },
    );
  });

  it("of a stretch are those that are in it, and its tick says whether it is none, some or all", () => {
    const ranges: [number, number][] = [
      [0, 4],
      [10, 30],
    ];
    expect(within(ranges, 2, 12)).toEqual([
      [2, 4],
      [10, 12],
    ]);
    const tick = (from: number, to: number) => tickOf(chosenCount(within(ranges, from, to)), to - from);
    expect([tick(4, 10), tick(2, 12), tick(10, 30)]).toEqual([false, "mixed", true]);
  });
});

describe("the cell that one is at", () => {
  const list = (...ids: number[]) => ({
    order: ids.join(),
    total: ids.length,
    items: new Map(ids.map((id, place) => [place, { kind: "post", id } as ListedItem])),
  });

  it("goes with its page, keeps its place where that has gone, and goes to the first where there is no such place", () => {
    expect(placeIn(list(2, 3, 4), list(1, 2, 3, 4), 1)).toBe(0);
    expect(placeIn(list(1, 2, 3, 4), list(2, 3, 4), 0)).toBe(1);
    expect(placeIn(list(1, 3, 4), list(1, 2, 3, 4), 1)).toBe(1);
    expect(placeIn(list(1), list(1, 2, 3), 2)).toBe(0);
    expect(placeIn(list(), list(1), 0)).toBe(0);
    expect(placeIn(list(5, 6, 7), { ...list(1, 2, 3), items: new Map() }, 2)).toBe(2);
  });

  it("is not taken to another kind’s page of the same id", () => {
    const posts = list(8, 2);
    const pages = [{ kind: "product", id: 2 } as ListedItem, ...posts.items.values()];
    expect(placeIn({ order: "", total: 3, items: new Map(pages.entries()) }, posts, 1)).toBe(2);
  });
});

describe("the lines of a list", () => {
  it("have a heading before the pages of each section, and know where a page stands", () => {
    const sections = fc.array(fc.record({ label: fc.string(), count: fc.integer({ min: 1, max: 9 }) }), {
      minLength: 1,
    });
    fc.assert(
      fc.property(sections, (all) => {
        const total = all.reduce((sum, { count }) => sum + count, 0);
        const lines = linesOf(total, all);
        const told = Array.from({ length: lines.count }, (_, i) => lines.at(i));
        const model = all.flatMap(({ label, count }) => [label, ...Array.from({ length: count }, () => null)]);
        expect(told.map((line) => ("label" in line ? line.label : null))).toEqual(model);
        const places = told.flatMap((line) => ("place" in line ? [line.place] : []));
        expect(places).toEqual(Array.from({ length: total }, (_, i) => i));
        for (const place of places) expect(lines.at(lines.lineOf(place))).toEqual({ place });
      }),
    );
  });

  it("are the pages alone where there are no sections", () => {
    const lines = linesOf(3, null);
    expect([lines.count, lines.at(2), lines.lineOf(1)]).toEqual([3, { place: 2 }, 1]);
  });
});

describe("the columns of the list", () => {
  const text = { live: "as it is", draft: "as it will be" };
  const page = {
    name: "Cleat",
    kind: "product",
    keyword: "mooring cleat",
    texts: { title: text, description: text, slug: text },
    robots: text,
    findings: { live: [{ subject: "title", id: "too-wide" }], draft: [] },
    fields: { material: "bronze" },
  } as unknown as ListedItem;
  const copies = (side: "live" | "draft") =>
    [...builtInColumns(DEMO_SITE, "plain"), fieldColumn("field:material")].map(({ id, copy }) => [
      id,
      copy(page, side),
    ]);

  it("each give what stands in its cell to be copied", () => {
    expect(Object.fromEntries(copies("live"))).toEqual({
      name: "Cleat",
      kind: "product",
      keyword: "mooring cleat",
      title: "as it is",
      description: "as it is",
      slug: "as it is",
      robots: "as it is",
      findings: "Title: too wide.",
      "field:material": "bronze",
    });
    expect(Object.fromEntries(copies("draft"))).toMatchObject({ title: "as it will be", findings: "In order" });
  });
});

describe("the heading of a column", () => {
  it("leads through its orders and back to the site’s own, whatever the list was in before", () => {
    const sorts = textSorts("title");
    const labels: (string | undefined)[] = [];
    let order = { sort: "findings", down: true };
    for (let press = 0; press < 5; press++) {
      order = nextSort(sorts, order);
      labels.push(sorts[sortedBy(sorts, order)]?.label);
    }
    expect(labels).toEqual(["widest first", "narrowest first", "A to Z", "Z to A", undefined]);
    expect(order).toEqual({ sort: "site", down: false });
  });

  it("puts the list in orders that the server knows", () => {
    const known = new Set<string>(ITEM_SORTS);
    for (const { id, sorts } of builtInColumns(DEMO_SITE, "plain"))
      for (const { sort } of sorts) expect(known.has(sort) || sort.startsWith("field:"), `${id}: ${sort}`).toBe(true);
  });
});

describe("texts at true size", () => {
  it("take the columns along that nobody chose, and have room for a whole title beside its page at 1280 px", () => {
    const size = otherLook({ look: "plain", columns: FIRST_COLUMNS }, "size");
    const width = (id: string) => builtInColumns(DEMO_SITE, "size").find((column) => column.id === id)!.width;
    expect(size.columns!.slice(0, 2)).toEqual(["name", "title"]);
    expect(40 + width("name") + width("title")).toBeLessThanOrEqual(1280 - 272);
    expect(otherLook({ look: "size", columns: size.columns! }, "plain").columns).toEqual(FIRST_COLUMNS);
    const chosen = ["name", "field:price"];
    expect(otherLook({ look: "plain", columns: chosen }, "size").columns).toEqual(chosen);
  });
});

describe("a view in the address bar", () => {
  const subjects = Object.keys(FINDINGS) as Subject[];
  const ref = fc
    .constantFrom(...subjects)
    .chain((subject) => fc.constantFrom(...FINDINGS[subject].map(({ id }) => ({ subject, id: id as FindingId }))));
  const view: fc.Arbitrary<ItemsView> = fc.record({
    kind: fc.constantFrom("all" as const, "post" as const, "product" as const),
    side: fc.constantFrom("live" as const, "draft" as const),
    findings: fc.uniqueArray(ref, { maxLength: 4, selector: ({ subject, id }) => `${subject}.${id}` }),
    difference: fc.constantFrom(null, "mended" as const, "stays" as const),
    where: fc.constantFrom(
      null,
      { field: "material", is: "brass & bronze" },
      { all: [{ field: "price", "<": "20" }, { none: [{ field: "colour", "is empty": true }] }] },
    ),
    mark: fc.constantFrom(null, "waiting" as const),
    search: fc.string({ maxLength: 30 }),
    sort: fc.constantFrom("site", "title", "field:price", "field:größe mm"),
    down: fc.boolean(),
    group: fc.constantFrom(null, "rule" as const),
    columns: fc.uniqueArray(fc.constantFrom("name", "title", "slug", "robots", "field:material"), { minLength: 1 }),
    look: fc.constantFrom("plain" as const, "size" as const),
    item: fc.constantFrom("", "product-12"),
  });

  it("is read as it was written", () => {
    fc.assert(
      fc.property(view, (own) => {
        expect(CODEC.read(new URLSearchParams(CODEC.write(own)))).toEqual(own);
      }),
      { numRuns: 1000 },
    );
  });

  it("is as at first where nothing is said, or nothing that can be understood", () => {
    const first = CODEC.read(new URLSearchParams());
    expect(CODEC.write(first)).toBe("");
    expect(first.columns).toEqual(FIRST_COLUMNS);
    expect(
      CODEC.read(
        new URLSearchParams(
          "kind=planet&findings=title.no-such+__proto__.x&where={&sort=sideways&group=x&look=y&difference=z&mark=q",
        ),
      ),
    ).toEqual(first);
    expect(queryOf({ ...first, item: "product-1", look: "size" })).toEqual(queryOf(first));
  });
});

describe("a condition in the address whose pattern is none", () => {
  it("is asked with as it stands, so that the server says what is wrong with it", () => {
    const where = { field: "name", matches: "(" };
    expect(CODEC.read(new URLSearchParams({ where: JSON.stringify(where) })).where).toEqual(where);
  });
});

describe("a column pasted from a spreadsheet", () => {
  it.each([
    ["One\r\nTwo\r\n", ["One", "Two"]],
    ["One\t1\tx\nTwo\t2\ty", ["One", "Two"]],
    ['"Two\nlines"\t2\nNext', ["Two\nlines", "Next"]],
    ['"He said ""oh"""\nNext', ['He said "oh"', "Next"]],
    ['5" pipe\n6" pipe', ['5" pipe', '6" pipe']],
    ["One\n\nThree", ["One", "", "Three"]],
    ["One", ["One"]],
    ['"never closed\nNext', ['"never closed', "Next"]],
  ])("%j", (text, values) => expect(pastedValues(text)).toEqual(values));

  it("has as many values as lines, whatever they hold", () => {
    const line = fc.string({ unit: fc.constantFrom(..."ab ,;'é👍"), minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 20 }), (lines) => {
        expect(pastedValues(lines.join("\n"))).toEqual(lines);
      }),
      { numRuns: 1000 },
    );
  });
});
