import { SLUG_DEFAULTS } from "../slugs/options";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Vocabulary } from "../keywords/place";
import { parseLine } from "../lines/parse";
import { compileLine } from "../lines/program";
import { advanceUnits, unitsToPx } from "../measure/advance";
import { fontById } from "../measure/font";
import { surfaceById, SURFACES } from "../measure/surface";
import { fitsSurface, TOLERANCE, wrapOnSurface } from "../measure/wrap";
import { languageByTag } from "../text/language";
import { plainText } from "../text/plain";
import { TextGroups } from "./groups";
import { constantColumn, itemSetOf, type ItemSet } from "./items";
import { orderRows } from "./order";
import { type DecidingLine, type ProofSource, proveSet, SetProver } from "./prove-set";
import { overBy, roomFor } from "./room";
import { summarise } from "./summary";
import { type TextProof } from "./text-proof";

/** What the site has now, proved like a draft. */
const proveLive = (source: ProofSource) => proveSet({ ...source, hand: new Map() }, { lines: [], decides: null });

const surface = surfaceById("desktop-description")!;
const names = [
  "Rope",
  "rope",
  "A very long mooring line for boats up to fourteen metres, laid up in our own loft by hand and eye, then whipped at both of its ends and coiled for the post before the evening tide",
  "",
  "Twine &amp; cord",
];
const items = itemSetOf(names.map((name, i) => ({ name, keyword: i === 2 ? "evening tide" : "rope", id: i })));
const input = {
  text: "description" as const,
  items,
  room: roomFor({ surfaces: [surface], chars: null }),
  slug: null,
  live: names.map((_, row) => `live ${row}`),
  hand: new Map([[1, "By hand"]]),
  folders: constantColumn(names.length, "/"),
  keywords: items.column("keyword"),
  vocabulary: new Vocabulary(languageByTag("en")),
};

const textsOf = (proof: TextProof) => Array.from({ length: proof.size }, (_, row) => proof.textOf(row));

/** A source of a set without keywords, texts by hand or live texts. */
const sourceOf = (set: ItemSet, more: Partial<ProofSource> = {}): ProofSource => ({
  ...input,
  items: set,
  live: new Array<string>(set.size).fill(""),
  hand: new Map(),
  folders: constantColumn(set.size, "/"),
  keywords: set.column("keyword"),
  ...more,
});

describe("a set's proof", () => {
  const program = compileLine(parseLine("{name}"));
  const proof = proveSet(input, { lines: [{ from: "base", program }], decides: null });
  const live = proveLive(input);

  it("never replaces a text by hand", () => {
    expect(textsOf(proof)).toEqual(["Rope", "By hand", names[2], "", "Twine & cord"]);
    expect([...proof.from]).toEqual([1, 3, 1, 1, 1]);
  });

  it("sums up what needs a person", () => {
    const summary = summarise(proof, live, surface.total! / 3);
    expect(summary).toMatchObject({
      total: 5,
      tooWide: 1,
      missing: 1,
      byHand: 1,
      duplicates: 0,
      changed: 4,
      emptyFields: 1,
    });
    expect(summary.keyword).toEqual({ has: 5, absent: 3, late: 0, cut: 1, first: 1 });
    expect(summary.histogram.reduce((a, b) => a + b)).toBe(4);
  });

  it("orders by width and filters", () => {
    expect([...orderRows(proof, live, 920, "widest", "all")].slice(0, 2)).toEqual([2, 4]);
    expect([...orderRows(proof, live, 920, "site", "by-hand")]).toEqual([1]);
    expect([...orderRows(proof, live, 920, "keyword", "keyword-cut")]).toEqual([2]);
  });

  it("measures and fits as the whole text does, however it was put together", () => {
    const word = fc.string({ unit: fc.constantFrom(..."aWfiÅк ⚓-–/"), maxLength: 60 });
    fc.assert(
      fc.property(
        fc.array(fc.record({ name: word, category: word }), { minLength: 1, maxLength: 5 }),
        fc.constantFrom(
          "{name} – {category}",
          "{name}{category}",
          "{name}fi{category}",
          "a [{name}] b {category}",
          "{category}",
        ),
        fc.constantFrom("desktop-description", "phone-description", "phone-title"),
        (list, source, id) => {
          const own = surfaceById(id)!;
          const set = itemSetOf(list);
          const proved = proveSet(
            { ...sourceOf(set), room: roomFor({ surfaces: [own], chars: null }) },
            { lines: [{ from: "base", program: compileLine(parseLine(source)) }], decides: null },
          );
          textsOf(proved).forEach((text, row) => {
            const font = fontById(own.font);
            expect(proved.sizes[row]).toBeCloseTo(unitsToPx(font, advanceUnits(font, text), own.size), 2);
            expect(proved.fits[row] === 1, text).toBe(fitsSurface(own, text));
          });
        },
      ),
      { numRuns: 1000 },
    );
  });
});

describe("a text whose lines are full to the edge", () => {
  it("has room though its running width is beyond all lines: a line's last space hangs", () => {
    const own = surfaceById("phone-title")!;
    const text = "Wlll-a- al WaWl aWaaaW Wa- li-W-iaai -Wi W- lWalaW-llal ii iW-i-a WWa---la--l";
    const { font: id, size, width, lines } = own;
    const running = unitsToPx(fontById(id), advanceUnits(fontById(id), text), size);
    expect(running).toBeGreaterThan(width * lines + TOLERANCE);
    expect(wrapOnSurface(own, text)).toHaveLength(lines);
    const set = itemSetOf([{ name: text }]);
    const source = { ...sourceOf(set), room: roomFor({ surfaces: [own], chars: null }) };
    const program = compileLine(parseLine("{name}"));
    const made = proveSet(source, { lines: [{ from: "base", program }], decides: null });
    expect([made.fits[0], proveLive({ ...source, live: [text] }).fits[0]]).toEqual([1, 1]);
  });
});

describe("words that values and literals make together", () => {
  it("have no room where three of them need three lines, though the text by itself would fill less than two", () => {
    const own = surfaceById("phone-title")!;
    const font = fontById(own.font);
    const part = (share: number) =>
      "n".repeat(Math.floor((share * own.width) / unitsToPx(font, advanceUnits(font, "n"), own.size)));
    const set = itemSetOf([{ name: part(0.3) }, { name: part(0.05) }]);
    const program = compileLine(parseLine(`{name}${part(0.25)} {name}${part(0.25)} {name}${part(0.25)}`));
    const made = proveSet(
      { ...sourceOf(set), room: roomFor({ surfaces: [own], chars: null }) },
      { lines: [{ from: "base", program }], decides: null },
    );
    expect([...made.fits]).toEqual([0, 1]);
    expect(made.sizes[0]).toBeLessThan(2 * own.width);
  });
});

describe("how far a text is beyond its room", () => {
  it("is told in characters where only those are limited, and is nothing where nothing is", () => {
    const text = "Twelve chars";
    expect(overBy(roomFor({ surfaces: [], chars: 10 }), text)).toBe(2);
    expect(overBy(roomFor({ surfaces: [], chars: 12 }), text)).toBe(0);
    expect(overBy(roomFor({ surfaces: [], chars: null }), text)).toBe(0);
    expect(overBy(roomFor({ surfaces: [surfaceById("desktop-title")!], chars: 10 }), text)).toBe(2);
  });
});

describe("what the site has", () => {
  it("fits where it fits wrapped, whatever its words are like", () => {
    const words = fc.array(fc.string({ unit: fc.constantFrom(..."aWil-"), minLength: 1, maxLength: 34 }), {
      minLength: 1,
      maxLength: 14,
    });
    fc.assert(
      fc.property(fc.array(words, { minLength: 1, maxLength: 5 }), fc.constantFrom(...SURFACES), (list, own) => {
        const texts = list.map((text) => text.join(" "));
        const set = itemSetOf(texts.map((name) => ({ name })));
        const given = proveLive({ ...sourceOf(set), room: roomFor({ surfaces: [own], chars: null }), live: texts });
        texts.forEach((text, row) => expect(given.fits[row] === 1, text).toBe(fitsSurface(own, text)));
      }),
      { numRuns: 1000 },
    );
  });
});

/** Lines, values and keywords in which words, separators and foreign letters meet at every joint. */
const value = fc.string({ unit: fc.constantFrom(..."ab rope cleat's Åк⚓-–/fi".split("")), maxLength: 24 });
const record = fc.record({
  name: value,
  category: value,
  keyword: fc.constantFrom("", "rope", "ropes", "xrope", "cleat rope", "rope's", "a b"),
});
const sources = [
  "{name} – {category}",
  "{name}{category}",
  "x{name}, {category}",
  "x{name}",
  "{name}s",
  "[{name} ]^1{category}",
  "{category}[ – {name}]^apart",
  "{name}[ {category}]^apart[ {keyword}]^apart",
];

describe("a text that is put together from its parts", () => {
  it.each(["title", "slug"] as const)("is the %s that is written out, in every figure", (text) => {
    fc.assert(
      fc.property(fc.array(record, { minLength: 1, maxLength: 6 }), fc.constantFrom(...sources), (records, source) => {
        const set = itemSetOf(records);
        const slug = text === "slug" ? { options: SLUG_DEFAULTS, language: languageByTag("en") } : null;
        const room = roomFor({ surfaces: slug ? [] : [surfaceById("desktop-title")!], chars: null });
        const own = sourceOf(set, { text, slug, room });
        const proof = proveSet(own, {
          lines: [{ from: "base", program: compileLine(parseLine(source)) }],
          decides: null,
        });
        const written = textsOf(proof);
        const given = proveLive({ ...own, live: written });
        for (const column of [
          "lengths",
          "exact1",
          "exact2",
          "sizes",
          "fits",
          "form",
          "keywordAt",
          "keywordSeen",
        ] as const) {
          if (!(slug && column === "fits")) expect([...proof[column]], column).toEqual([...given[column]]);
        }
        written.forEach((_, row) => expect(proof.groups.countOf(row)).toBe(given.groups.countOf(row)));
      }),
      { numRuns: 1000 },
    );
  });
});

describe("a keyword in a text that is cut", () => {
  it.each(["{name} {category}", "{name} l"])("is seen where only the characters are too many: %s", (source) => {
    const tab = surfaceById("tab")!;
    const set = itemSetOf([{ name: "Bronze cleats, 13 brass rope 10", category: "l", keyword: "10" }]);
    const all = sourceOf(set, { text: "title", slug: null, room: roomFor({ surfaces: [tab], chars: 20 }) });
    const lines = [{ from: "base" as const, program: compileLine(parseLine(source)) }];
    const proof = proveSet(all, { lines, decides: null });
    const written = proof.textOf(0);
    expect(written).toBe("Bronze cleats, 13 brass rope 10 l");
    expect(fitsSurface(tab, `Bronze cleats, 13 brass rope 10${tab.mark}`)).toBe(false);
    expect([proof.fits[0], proof.keywordSeen[0]]).toEqual([0, 1]);
    expect(proveLive({ ...all, live: [written] }).keywordSeen[0]).toBe(1);
  });

  it("is seen where the text as it is shown has it, in scripts without spaces, too", () => {
    const start = fc.constantFrom("", "Oak ", "係船、", "索具 ");
    const long = fc
      .tuple(start, fc.integer({ min: 2, max: 9 }), fc.constantFrom("", " end", "、rope", " cleat 綱"))
      .map(([before, times, after]) => `${before}rope、${"係船索具綱".repeat(times)}${after}`);
    const own = fc.record({ name: long, category: long, keyword: fc.constantFrom("rope", "cleat") });
    fc.assert(
      fc.property(fc.array(own, { minLength: 1, maxLength: 4 }), fc.constantFrom(...sources), (records, source) => {
        const room = roomFor({ surfaces: [surfaceById("desktop-title")!], chars: null });
        const all = sourceOf(itemSetOf(records), { text: "title", slug: null, room });
        const lines = [{ from: "base" as const, program: compileLine(parseLine(source)) }];
        const proof = proveSet(all, { lines, decides: null });
        const given = proveLive({ ...all, live: textsOf(proof) });
        expect([...proof.keywordSeen]).toEqual([...given.keywordSeen]);
      }),
      { numRuns: 1500 },
    );
  });
});

describe("a set proved again", () => {
  it("is the same as one proved anew, whatever lines and decisions came before, cancelled ones among them", () => {
    const lines = fc.array(fc.constantFrom(...sources), { minLength: 1, maxLength: 3 });
    const step = fc.record({
      lines,
      decides: fc.array(fc.integer({ min: -1, max: 2 }), { minLength: 12, maxLength: 12 }),
      stop: fc.boolean(),
    });
    const records = fc.array(
      fc.record({
        name: fc.constantFrom("Rope", "Twine", "rope"),
        category: fc.constantFrom("a", "b", ""),
        keyword: fc.constantFrom("rope", ""),
      }),
      { minLength: 12, maxLength: 12 },
    );
    fc.assert(
      fc.property(records, fc.array(step, { minLength: 1, maxLength: 5 }), (list, steps) => {
        const own = sourceOf(itemSetOf(list), { hand: new Map([[3, "By hand"]]) });
        const prover = new SetProver(own);
        for (const { lines: wanted, decides, stop } of steps) {
          const deciding: DecidingLine[] = wanted.map((source) => ({
            from: "rule",
            program: compileLine(parseLine(source)),
          }));
          const decided = Int16Array.from(decides, (line) => Math.min(line, wanted.length - 1));
          if (stop) {
            let asked = 0;
            expect(() =>
              prover.prove({ lines: deciding, decides: decided }, { cancelled: () => ++asked > 0 }),
            ).toThrow();
            continue;
          }
          const again = prover.prove({ lines: deciding, decides: decided });
          const anew = proveSet(own, { lines: deciding, decides: decided });
          expect(textsOf(again)).toEqual(textsOf(anew));
          for (const column of [
            "sizes",
            "fits",
            "from",
            "line",
            "apart",
            "emptyFields",
            "form",
            "exact1",
            "lengths",
          ] as const)
            expect([...again[column]]).toEqual([...anew[column]]);
          list.forEach((_, row) => expect(again.groups.countOf(row)).toBe(anew.groups.countOf(row)));
        }
      }),
      { numRuns: 1000 },
    );
  });
});

describe("groups of equal texts", () => {
  it("count as a map would, whatever moves between them", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 9 }), fc.constantFrom("Rope", "rope", "", "Twine", "x")), {
          maxLength: 200,
        }),
        (moves) => {
          const groups = new TextGroups(10);
          const texts = new Array<string>(10).fill("");
          for (const [row, text] of moves) {
            groups.putText(row, text);
            texts[row] = text;
          }
          texts.forEach((text, row) =>
            expect(groups.countOf(row)).toBe(
              text === "" ? 0 : texts.filter((t) => t.toLowerCase() === text.toLowerCase()).length,
            ),
          );
        },
      ),
      { numRuns: 1000 },
    );
  });
});

describe("plain text", () => {
  it.each([
    ["<p>One</p><p>two</p>", "One two"],
    ["a &lt;b&gt; c", "a <b> c"],
    ["&amp;amp;", "&amp;"],
    ["x<script>alert(1)</script>y", "xy"],
    ["5 < 6 and 7 > 3", "5 < 6 and 7 > 3"],
    ["a\u200fb\u0000c", "abc"],
    ["\ud800x", "x"],
  ])("%j → %j", (raw, plain) => expect(plainText(raw)).toBe(plain));
});
