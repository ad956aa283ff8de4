import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Vocabulary } from "../keywords/place";
import { parseLine } from "../lines/parse";
import { compileLine } from "../lines/program";
import { advanceUnits, unitsToPx } from "../measure/advance";
import { fontById } from "../measure/font";
import { surfaceById } from "../measure/surface";
import { fitsSurface } from "../measure/wrap";
import { languageByTag } from "../text/language";
import { plainText } from "../text/plain";
import { TextGroups } from "./hash";
import { itemSetOf } from "./items";
import { orderRows } from "./order";
import { proveLive, proveSet } from "./prove-set";
import { roomFor } from "./room";
import { summarise } from "./summary";

const surface = surfaceById("desktop-description")!;
const names = ["Rope", "rope", "A very long mooring line for boats up to fourteen metres, laid up in our own loft by hand and eye, then whipped at both of its ends and coiled for the post before the evening tide", "", "Twine &amp; cord"];
const items = itemSetOf(names.map((name, i) => ({ name, keyword: i === 2 ? "evening tide" : "rope", id: i })));
const input = {
  text: "description" as const,
  items,
  room: roomFor({ surfaces: [surface], chars: null }),
  slug: null,
  live: (row: number) => `live ${row}`,
  folder: () => "/",
  keyword: (row: number) => items.value("keyword", row),
  vocabulary: new Vocabulary(languageByTag("en")),
};

describe("a set's proof", () => {
  const program = compileLine(parseLine("{name}"));
  const proof = proveSet({ ...input, lines: [{ from: "base", program }], decides: null, hand: (row) => (row === 1 ? "By hand" : null) });
  const live = proveLive(input);

  it("never replaces a text by hand", () => {
    expect(proof.texts).toEqual(["Rope", "By hand", names[2], "", "Twine & cord"]);
    expect([...proof.from]).toEqual([1, 3, 1, 1, 1]);
  });

  it("sums up what needs a person", () => {
    const summary = summarise(proof, live, surface.total!);
    expect(summary).toMatchObject({ total: 5, tooWide: 1, missing: 1, byHand: 1, duplicates: 0, changed: 4, emptyFields: 1 });
    expect(summary.keyword).toEqual({ has: 5, absent: 3, late: 0, cut: 1 });
    expect(summary.histogram.reduce((a, b) => a + b)).toBe(4);
  });

  it("orders by width and filters", () => {
    expect([...orderRows(proof, live, 920, "widest", "all")].slice(0, 2)).toEqual([2, 4]);
    expect([...orderRows(proof, live, 920, "site", "by-hand")]).toEqual([1]);
    expect([...orderRows(proof, live, 920, "keyword", "keyword-cut")]).toEqual([2]);
  });

  it("measures and fits as the whole text does, however it was put together", () => {
    const word = fc.string({ unit: fc.constantFrom(..."aWfiÅк ⚓-–/"), maxLength: 60 });
    fc.assert(fc.property(fc.array(fc.record({ name: word, category: word }), { minLength: 1, maxLength: 5 }), fc.constantFrom("{name} – {category}", "{name}{category}", "{name}fi{category}", "a [{name}] b {category}", "{category}"), fc.constantFrom("desktop-description", "phone-description", "phone-title"), (list, source, id) => {
      const own = surfaceById(id)!;
      const set = itemSetOf(list);
      const proved = proveSet({ ...input, items: set, room: roomFor({ surfaces: [own], chars: null }), keyword: () => "", lines: [{ from: "base", program: compileLine(parseLine(source)) }], decides: null, hand: () => null });
      proved.texts.forEach((text, row) => {
        const font = fontById(own.font);
        expect(proved.sizes[row]).toBeCloseTo(unitsToPx(font, advanceUnits(font, text), own.size), 2);
        expect(proved.fits[row] === 1, text).toBe(fitsSurface(own, text));
      });
    }), { numRuns: 1000 });
  });
});

describe("groups of equal texts", () => {
  it("count as a map would, whatever moves between them", () => {
    fc.assert(fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 9 }), fc.constantFrom("Rope", "rope", "", "Twine", "x")), { maxLength: 200 }), (moves) => {
      const groups = new TextGroups(10);
      const texts = new Array<string>(10).fill("");
      for (const [row, text] of moves) {
        groups.put(row, text);
        texts[row] = text;
      }
      texts.forEach((text, row) => expect(groups.countOf(row)).toBe(text === "" ? 0 : texts.filter((t) => t.toLowerCase() === text.toLowerCase()).length));
    }), { numRuns: 1000 });
  });
});

describe("plain text", () => {
  it.each([
    ["<p>One</p><p>two</p>", "One two"], ["a &lt;b&gt; c", "a <b> c"], ["&amp;amp;", "&amp;"], ["x<script>alert(1)</script>y", "xy"], ["5 < 6 and 7 > 3", "5 < 6 and 7 > 3"], ["a\u200fb\u0000c", "abc"], ["\ud800x", "x"],
  ])("%j → %j", (raw, plain) => expect(plainText(raw)).toBe(plain));
});
