import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { flag, listOf, maybeNumber, maybeOneOf, oneOf, textThat, typedText, urlCodec } from "./url-codec";
import { goesOn } from "./url-view";

interface View {
  side: "live" | "draft";
  group: "kind" | "rule" | null;
  search: string;
  sort: string;
  item: number | null;
  down: boolean;
  columns: readonly string[];
}
const codec = urlCodec<View>(
  {
    side: oneOf(["live", "draft"], "live"),
    group: maybeOneOf(["kind", "rule"]),
    search: typedText(),
    sort: textThat((text) => text.startsWith("field:"), "site"),
    item: maybeNumber,
    down: flag,
    columns: listOf(
      (word) => word || undefined,
      (word) => word,
      ["name"],
    ),
  },
  ["side"],
);
const FIRST = codec.read(new URLSearchParams());

describe("a view in the address bar", () => {
  it("is read as it was written, whatever stands in it", () => {
    const view = fc.record<View>({
      side: fc.constantFrom("live", "draft"),
      group: fc.constantFrom("kind", "rule", null),
      search: fc.string({ unit: "grapheme" }),
      sort: fc.oneof(
        fc.constant("site"),
        fc.string().map((name) => `field:${name}`),
      ),
      item: fc.option(fc.nat(1e9)),
      down: fc.boolean(),
      columns: fc.array(fc.stringMatching(/^[a-z.]+$/), { minLength: 1, maxLength: 4 }),
    });
    fc.assert(
      fc.property(view, (own) => {
        expect(codec.read(new URLSearchParams(codec.write(own)))).toEqual(own);
      }),
    );
  });

  it("leaves out what is as at first, but for what always stands there", () => {
    expect(codec.write(FIRST)).toBe("side=live");
    expect(codec.write({ ...FIRST, down: true, columns: ["name", "slug"] })).toBe("side=live&down=1&columns=name+slug");
  });

  it("is as at first where it says what it cannot be", () => {
    const wrong = "side=up&group=all&sort=sideways&item=-4&down=yes&columns=+&item=1e9&__proto__=1";
    expect(codec.read(new URLSearchParams(wrong))).toEqual(FIRST);
    fc.assert(
      fc.property(fc.string(), fc.constantFrom("side", "group", "item", "down"), (text, name) => {
        const { [name]: own } = codec.read(new URLSearchParams({ [name]: text }));
        expect([FIRST[name], "draft", "kind", "rule", true].includes(own as never) || /^\d+$/.test(text)).toBe(true);
      }),
    );
  });
});

describe("a step back", () => {
  const step = (at: number, ...names: string[]) => ({ names, at });

  it("is a whole word that was typed, however slowly, and one filter that was chosen", () => {
    expect(goesOn(step(0, "search"), step(9000, "search"), true)).toBe(true);
    expect(goesOn(step(0, "side"), step(9000, "side"), false)).toBe(false);
    expect(goesOn(step(0, "search"), step(500, "side"), false)).toBe(false);
    expect(goesOn(null, step(0, "search"), true)).toBe(false);
  });

  it("is a stretch of rows that were gone through, and all that one act changes", () => {
    expect(goesOn(step(0, "item"), step(400, "item"), false)).toBe(true);
    expect(goesOn(step(0, "item"), step(10, "side"), false)).toBe(true);
  });

  it("knows what is typed of a view", () => {
    expect(codec.isTyped(["search"])).toBe(true);
    expect(codec.isTyped(["search", "side"])).toBe(false);
  });
});
