import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { FORMS, Vocabulary } from "../keywords/place";
import { parseLine } from "../lines/parse";
import { compileLine } from "../lines/program";
import { surfaceById } from "../measure/surface";
import { languageByTag } from "../text/language";
import { constantColumn, itemSetOf } from "./items";
import { changedSpan, difference, orderRows, passes } from "./order";
import { FILTERS, SORTS } from "./row-views";
import { type ProofSource, proveSet } from "./prove-set";
import { roomFor } from "./room";
import { keywordFlag, summarise } from "./summary";
import { differs, type TextProof } from "./text-proof";

const LATE = 200;
const NAMES = [
  "Rope",
  "rope",
  "",
  "Bronze cleat",
  "A very long mooring line for boats up to fourteen metres, laid up in our own loft by hand",
  "Twine",
  "Öland lantern",
];
const LIVES = ["Rope", "", "Bronze cleat | Fennick & Dray", "Something else altogether"];
const KEYWORDS = ["", "rope", "cleat", "boats", "lantern"];

interface Sets {
  readonly proof: TextProof;
  readonly live: TextProof;
}
const anySets: fc.Arbitrary<Sets> = fc
  .array(
    fc.record({
      name: fc.constantFrom(...NAMES),
      live: fc.constantFrom(...LIVES),
      keyword: fc.constantFrom(...KEYWORDS),
      hand: fc.constantFrom(null, null, null, "By hand"),
      colour: fc.constantFrom("", "red"),
    }),
    { minLength: 1, maxLength: 25 },
  )
  .map((rows) => {
    const items = itemSetOf(rows.map(({ name, keyword, colour }) => ({ name, keyword, colour })));
    const source: ProofSource = {
      text: "title",
      items,
      room: roomFor({ surfaces: [surfaceById("desktop-title")!], chars: null }),
      slug: null,
      live: rows.map(({ live }) => live),
      hand: new Map(rows.flatMap(({ hand }, row) => (hand === null ? [] : [[row, hand] as [number, string]]))),
      folders: constantColumn(rows.length, "/"),
      keywords: items.column("keyword"),
      vocabulary: new Vocabulary(languageByTag("en")),
    };
    return {
      proof: proveSet(source, {
        lines: [{ from: "base", program: compileLine(parseLine("{name}{colour}")) }],
        decides: null,
      }),
      live: proveSet({ ...source, hand: new Map() }, { lines: [], decides: null }),
    };
  });
const all = (proof: TextProof) => Array.from({ length: proof.size }, (_, row) => row);

describe("the rows of a set in an order", () => {
  it("are all that pass, each once", () => {
    fc.assert(
      fc.property(anySets, fc.constantFrom(...SORTS), fc.constantFrom(...FILTERS), ({ proof, live }, sort, filter) => {
        const rows = [...orderRows(proof, live, LATE, sort, filter)];
        expect([...rows].sort((a, b) => a - b)).toEqual(
          all(proof).filter((row) => passes(proof, live, LATE, filter, row)),
        );
      }),
      { numRuns: 400 },
    );
  });

  it("are only those that match, too, where more is asked for", () => {
    fc.assert(
      fc.property(anySets, fc.constantFrom(...SORTS), ({ proof, live }, sort) => {
        const rows = [...orderRows(proof, live, LATE, sort, "all", (row) => row % 2 === 1)];
        expect(rows.length).toBe(Math.floor(proof.size / 2));
        expect(rows.every((row) => row % 2 === 1)).toBe(true);
      }),
      { numRuns: 100 },
    );
  });

  it("go by width, from either end; equal ones as on the site", () => {
    fc.assert(
      fc.property(anySets, ({ proof, live }) => {
        const widest = [...orderRows(proof, live, LATE, "widest", "all")];
        for (let i = 1; i < widest.length; i++) {
          const [a, b] = [proof.sizes[widest[i - 1]!]!, proof.sizes[widest[i]!]!];
          expect(a).toBeGreaterThanOrEqual(b - 0.2);
          if (a === b) expect(widest[i - 1]!).toBeLessThan(widest[i]!);
        }
        const shortest = [...orderRows(proof, live, LATE, "shortest", "all")];
        expect(shortest.map((row) => Math.round(proof.sizes[row]! * 8))).toEqual(
          widest.map((row) => Math.round(proof.sizes[row]! * 8)).reverse(),
        );
      }),
      { numRuns: 200 },
    );
  });

  it("go by how much is changed, those that are not at the end", () => {
    fc.assert(
      fc.property(anySets, ({ proof, live }) => {
        const rows = [...orderRows(proof, live, LATE, "changed", "all")];
        const changes = rows.map((row) =>
          differs(proof, live, row) ? difference(live.textOf(row), proof.textOf(row)) : 0,
        );
        expect(changes).toEqual([...changes].sort((a, b) => b - a));
      }),
      { numRuns: 200 },
    );
  });

  it("go by how badly the keyword stands: cut off, absent, late to early, none", () => {
    fc.assert(
      fc.property(anySets, ({ proof, live }) => {
        const rank = (row: number) => ["cut", "absent", "late", "early", "none"].indexOf(keywordFlag(proof, row, LATE));
        const ranks = [...orderRows(proof, live, LATE, "keyword", "all")].map(rank);
        expect(ranks).toEqual([...ranks].sort((a, b) => a - b));
      }),
      { numRuns: 200 },
    );
  });
});

describe("how a keyword stands", () => {
  it.each([
    [null, "none"],
    ["exact", "early"],
    ["variant", "early"],
    ["scattered", "early"],
    ["partial", "absent"],
    ["absent", "absent"],
  ] as const)("%s is told as %s", (form, flag) => {
    const own = { form: [form === null ? 0 : FORMS.indexOf(form) + 1], keywordSeen: [1], keywordAt: [0] };
    expect(keywordFlag(own as unknown as TextProof, 0, LATE)).toBe(flag);
  });
});

describe("the figures of a set", () => {
  it("are how many rows each filter lets through", () => {
    fc.assert(
      fc.property(anySets, ({ proof, live }) => {
        const count = (filter: (typeof FILTERS)[number]) => orderRows(proof, live, LATE, "site", filter).length;
        const figures = summarise(proof, live, LATE);
        expect(figures).toMatchObject({
          total: count("all"),
          tooWide: count("too-wide"),
          duplicates: count("duplicate"),
          missing: count("missing"),
          byHand: count("by-hand"),
          changed: count("changed"),
          emptyFields: count("empty-field"),
        });
        expect([figures.keyword.absent, figures.keyword.late, figures.keyword.cut]).toEqual([
          count("keyword-absent"),
          count("keyword-late"),
          count("keyword-cut"),
        ]);
        expect(figures.histogram.reduce((sum, one) => sum + one, 0)).toBe(figures.total - figures.missing);
      }),
      { numRuns: 400 },
    );
  });
});

describe("how much two texts differ", () => {
  it("is nothing for the same, and the same both ways", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 30 }), fc.string({ maxLength: 30 }), (a, b) => {
        expect(difference(a, a)).toBe(0);
        expect(difference(a, b)).toBe(difference(b, a));
        if (a !== b) expect(difference(a, b)).toBeGreaterThan(0);
        expect(difference(a, b)).toBeLessThanOrEqual(Math.max(a.length, b.length));
      }),
      { numRuns: 2000 },
    );
  });
});

describe("the stretch in which two texts differ", () => {
  it.each([
    ["Oak oar, long", "Oak paddle, long", { from: 4, beforeEnd: 8, afterEnd: 11 }],
    ["Rope 8 mm | Site", "Rope 8 mm – Rope", { from: 10, beforeEnd: 16, afterEnd: 16 }],
    ["Rope", "Rope", { from: 4, beforeEnd: 4, afterEnd: 4 }],
  ])("is of whole words, and ends where both read the same again: %s", (before, after, span) =>
    expect(changedSpan(before, after)).toEqual(span),
  );
});
