import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { kindIds, textsOf } from "../../core/design/kinds";
import { FILTERS, SORTS } from "../../core/proof/row-views";
import { benchCodec, type BenchView } from "./bench-codec";

const CODEC = benchCodec(kindIds(null), "product");

const FIRST: BenchView = {
  kind: "product",
  text: "title",
  rule: "base",
  pages: "own",
  sort: "widest",
  filter: "all",
  search: "",
  item: null,
};
const more = {
  rule: fc.constantFrom("base", "brass & bronze", "r1", "a=b&c", "ö"),
  pages: fc.constantFrom("own" as const, "all" as const),
  sort: fc.constantFrom(...SORTS),
  filter: fc.constantFrom(...FILTERS),
  search: fc.string({ maxLength: 40, unit: "binary" }),
  item: fc.option(fc.nat(), { nil: null }),
};
const view: fc.Arbitrary<BenchView> = fc
  .constantFrom(...kindIds(null).flatMap((kind) => textsOf(kind).map((text) => ({ kind, text }))))
  .chain((about) => fc.record({ ...more, kind: fc.constant(about.kind), text: fc.constant(about.text) }));

describe("the Bench in the address bar", () => {
  it("is read as it was written", () => {
    fc.assert(
      fc.property(view, (one) => {
        expect(CODEC.read(new URLSearchParams(CODEC.write(one)))).toEqual(one);
      }),
      { numRuns: 1000 },
    );
  });

  it("is as at first where nothing is said, and says little then", () => {
    expect(CODEC.read(new URLSearchParams())).toEqual(FIRST);
    expect(CODEC.write(FIRST)).toBe("kind=product&text=title");
  });

  it.each([
    "kind=boat",
    "text=alt",
    "sort=price",
    "filter=odd",
    "pages=none",
    "item=first",
    "item=-3",
    "item=1e3",
    "item=1.5",
    "rule=",
  ])("takes no notice of %s", (query) => {
    expect(CODEC.read(new URLSearchParams(query))).toEqual(FIRST);
  });

  it("is of the kind that the site has first, and never of a slug that the home page has not", () => {
    expect(benchCodec(kindIds(null), "tag").read(new URLSearchParams()).kind).toBe("tag");
    expect(CODEC.read(new URLSearchParams("kind=home&text=slug"))).toMatchObject({
      kind: "home",
      text: "title",
    });
  });

  it("never throws, whatever stands there", () => {
    fc.assert(
      fc.property(fc.string(), (query) => {
        expect(kindIds(null)).toContain(CODEC.read(new URLSearchParams(query)).kind);
      }),
      { numRuns: 1000 },
    );
  });
});
