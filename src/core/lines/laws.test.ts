import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { surfaceById } from "../measure/surface";
import { fitsSurface } from "../measure/wrap";
import { itemSetOf } from "../proof/items";
import { proveLine } from "../proof/prove-line";
import { type Node } from "./ast";
import { parseLine } from "./parse";
import { printNodes } from "./print";

const FIELDS = ["name", "category", "colour", "size"];
const known = { has: (name: string) => FIELDS.includes(name), names: () => FIELDS };
const word = fc.stringMatching(/^[a-zA-Zäø]{1,7}$/);
const literal = fc.oneof(word, fc.constantFrom(" – ", " | ", ", ", ": ", " in ", " ", "; ", " / ")).map((t) => t);
const field = fc.constantFrom(...FIELDS).map((name) => `{${name}}`);
const flat = fc
  .array(fc.oneof({ weight: 2, arbitrary: field }, literal), { minLength: 1, maxLength: 4 })
  .map((parts) => parts.join(""));
const piece = fc
  .tuple(flat, fc.option(flat), fc.constantFrom("", "^1", "^2", "^3", "^keep "))
  .map(([a, b, caret]) => `[${a}${b === null ? "" : `||${b}`}]${caret}`);
const nested = fc.tuple(flat, piece, fc.constantFrom("", "^1", "^2")).map(([a, b, caret]) => `[${a}${b}]${caret}`);
const line = fc.array(fc.oneof(flat, piece, nested), { minLength: 1, maxLength: 5 }).map((parts) => parts.join(""));
const values = fc.record(
  Object.fromEntries(
    FIELDS.map((name) => [
      name,
      fc.option(
        fc.array(word, { minLength: 1, maxLength: 4 }).map((w) => w.join(" ")),
        { nil: undefined },
      ),
    ]),
  ),
);

const set = (source: string, item: Record<string, unknown>, max: number | null) =>
  proveLine(parseLine(source, known), itemSetOf([item]), { limits: { surfaces: [], chars: max } })[0]!;
const shapes = (nodes: readonly Node[]): unknown =>
  nodes.map((n) =>
    n.type === "text"
      ? n.value
      : n.type === "field"
        ? [n.sources.map((s) => (s.type === "name" ? s.name : [s.value])), n.filters.map((f) => [f.name, f.args])]
        : {
            alternatives: n.alternatives.map(shapes),
            caret: n.caret?.type,
            order: n.caret?.type === "order" ? n.caret.order : 0,
          },
  );

/** A line less its pieces, nested ones too. */
function withoutPieces(source: string): string {
  return printNodes(
    parseLine(source, known).nodes.map((node): Node =>
      node.type === "piece" ? { type: "text", from: 0, to: 0, value: "" } : node,
    ),
  );
}

describe("laws of the line language", () => {
  it("a text that fits lost nothing for room", () => {
    fc.assert(
      fc.property(line, values, fc.integer({ min: 5, max: 80 }), (source, item, max) => {
        const free = set(source, item, null).text;
        if (free.length <= max) expect(set(source, item, max).text).toBe(free);
      }),
      { numRuns: 1000 },
    );
  });

  it("a text that fits in pixels lost nothing for room, and what does not fit has nothing left to give", () => {
    const long = fc.record(
      Object.fromEntries(
        FIELDS.map((name) => [
          name,
          fc.option(
            fc.array(word, { minLength: 1, maxLength: 12 }).map((w) => w.join(" ")),
            { nil: undefined },
          ),
        ]),
      ),
    );
    const onResults = (source: string, item: Record<string, unknown>) =>
      proveLine(parseLine(source, known), itemSetOf([item]), {
        limits: { surfaces: [surfaceById("desktop-title")!, surfaceById("phone-title")!], chars: null },
      })[0]!;
    fc.assert(
      fc.property(
        line.filter((source) => !source.includes("||") && !source.includes("keep")),
        long,
        (source, item) => {
          const free = set(source, item, null).text;
          const fitted = onResults(source, item);
          expect(fitted.fits).toBe(
            fitsSurface(surfaceById("desktop-title")!, fitted.text) &&
              fitsSurface(surfaceById("phone-title")!, fitted.text),
          );
          if (fitsSurface(surfaceById("desktop-title")!, free) && fitsSurface(surfaceById("phone-title")!, free))
            expect(fitted.text).toBe(free);
          // Without its pieces the line says the least that it can.
          if (!fitted.fits) expect(fitted.text).toBe(set(withoutPieces(source), item, null).text);
        },
      ),
      { numRuns: 1000 },
    );
  });

  it("giving way never makes a text wider, and what still does not fit says so", () => {
    fc.assert(
      fc.property(line, values, fc.integer({ min: 1, max: 80 }), (source, item, max) => {
        const free = set(source, item, null).text;
        const fitted = set(source, item, max);
        expect(fitted.fits).toBe(fitted.text.length <= max);
        if (!source.includes("||")) expect(fitted.text.length).toBeLessThanOrEqual(free.length);
      }),
      { numRuns: 2000 },
    );
  });

  it("parse, print, parse gives the same line", () => {
    fc.assert(
      fc.property(line, (source) => {
        const once = parseLine(source, known);
        expect(once.errors).toEqual([]);
        const printed = printNodes(once.nodes);
        expect(shapes(parseLine(printed, known).nodes)).toEqual(shapes(once.nodes));
      }),
      { numRuns: 1000 },
    );
    const text = fc.string({ unit: fc.constantFrom(..."ab |^{}[]\\ "), minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(text, (value) => {
        const printed = printNodes([{ type: "text", from: 0, to: 0, value }]);
        const parsed = parseLine(printed);
        expect(parsed.errors).toEqual([]);
        expect(parsed.nodes.map((n) => (n.type === "text" ? n.value : null)).join("")).toBe(value);
      }),
      { numRuns: 1000 },
    );
  });

  it("no text has a dangling separator, a double space or a control character", () => {
    const dirty = fc.record(
      Object.fromEntries(
        FIELDS.map((name) => [
          name,
          fc.option(
            fc.string({ unit: fc.constantFrom("a", "b", " ", "\t", "\n", "\u0007", "\u200f", "é"), maxLength: 8 }),
            { nil: undefined },
          ),
        ]),
      ),
    );
    fc.assert(
      fc.property(line, dirty, (source, item) => {
        const { text } = set(source, item, null);
        expect(text).not.toMatch(/ {2}|^ | $|[\u0000-\u001f\u200f]/);
        expect(text).not.toMatch(/(^| )[|–—·•/]( |$)[|–—·•/]|^[|–—·•/]( |$)| [|–—·•/]$|[,;:]$|[,;:] [|–—·•/]/);
      }),
      { numRuns: 2000 },
    );
  });

  it("^apart leaves no duplicates where the pieces could tell the items apart", () => {
    const items = fc.array(
      fc.record({
        name: fc.constantFrom("Rope", "rope", "Twine"),
        size: fc.constantFrom("8 mm", "10 mm", undefined),
        colour: fc.constantFrom("red", "blue"),
      }),
      { minLength: 2, maxLength: 12 },
    );
    fc.assert(
      fc.property(items, (list) => {
        const unique = list.map((item, i) => ({ ...item, category: `no ${i}` }));
        const proved = proveLine(
          parseLine("{name}[ {size}]^apart[ {colour}]^apart[ {category}]^apart", known),
          itemSetOf(unique),
          { limits: { surfaces: [], chars: null } },
        );
        const texts = proved.map((p) => p.text.toLowerCase());
        expect(new Set(texts).size).toBe(texts.length);
      }),
      { numRuns: 1000 },
    );
  });

  it("never throws, whatever stands in a line or a value", () => {
    const soup = fc.string({
      unit: fc.constantFrom(...'{}[]|^\\":(),12 name or keep apart fit words'.split("")),
      maxLength: 60,
    });
    fc.assert(
      fc.property(
        fc.oneof(soup, fc.string({ unit: "binary", maxLength: 40 })),
        fc.dictionary(fc.constantFrom("name", "__proto__", "constructor", "size"), fc.anything()),
        (source, item) => {
          const parsed = parseLine(source);
          for (const error of parsed.errors) {
            expect(error.from).toBeGreaterThanOrEqual(0);
            expect(error.from).toBeLessThanOrEqual(source.length);
            expect(error.message.length).toBeGreaterThan(5);
          }
          if (parsed.errors.length === 0) proveLine(parsed, itemSetOf([item]), { limits: { surfaces: [], chars: 20 } });
        },
      ),
      { numRuns: 3000 },
    );
  });

  it("answers deep nesting and long lines with an error in words", () => {
    expect(parseLine("[".repeat(5000)).errors[0]!.message).toMatch(/pieces are nested/);
    expect(parseLine("x".repeat(30_000)).errors[0]!.message).toMatch(/characters long/);
    expect(parseLine(`{name}${"[ a]".repeat(1200)}`).errors.map((error) => error.message)).toEqual([
      "More than 120 pieces are in one line",
    ]);
    expect(parseLine(`{name}${"[ a]".repeat(120)}`).errors).toEqual([]);
  });
});

describe("a line that was damaged", () => {
  it("is read to its end, each error within it, and good ones print and parse again", () => {
    const damage = fc.array(
      fc.record({
        at: fc.nat(200),
        remove: fc.nat(3),
        insert: fc.constantFrom(
          "",
          "{",
          "}",
          "[",
          "]",
          "||",
          "^",
          "\\",
          '"',
          ":",
          "(",
          ")",
          "^apart",
          ":fit",
          " or ",
          "\u0000",
          "😀",
        ),
      }),
      { minLength: 1, maxLength: 6 },
    );
    fc.assert(
      fc.property(line, damage, (source, hits) => {
        let broken = source;
        for (const { at, remove, insert } of hits)
          broken =
            broken.slice(0, at % (broken.length + 1)) + insert + broken.slice((at % (broken.length + 1)) + remove);
        const parsed = parseLine(broken, known);
        for (const { from, to } of parsed.errors) {
          expect(from).toBeGreaterThanOrEqual(0);
          expect(to).toBeGreaterThanOrEqual(from);
          expect(from).toBeLessThanOrEqual(broken.length);
        }
        for (const node of parsed.nodes) expect(broken.slice(node.from, node.to).length).toBe(node.to - node.from);
        if (parsed.errors.length === 0)
          expect(shapes(parseLine(printNodes(parsed.nodes), known).nodes)).toEqual(shapes(parsed.nodes));
      }),
      { numRuns: 5000 },
    );
  });
});

describe("errors of lines", () => {
  it.each([
    ["{name", 0, /never closed/],
    ["name}", 4, /never opened/],
    ["a]", 1, /never opened/],
    ["{}", 1, /needs a name/],
    ["{name:words}", 6, /takes 1 argument/],
    ["{name:words(x)}", 6, /whole number/],
    ["{name:plurl(a,b)}", 6, /did you mean “plural”/],
    ["[a]^kep", 3, /did you mean \^keep/],
    ["{name:fit}{name:fit}", 16, /one “fit” only/],
    ["{name:fit:lower}", 6, /must come last/],
    ["a || b", 2, /inside \[/],
    ['{name or "x}', 9, /quote is never closed/],
    ["{name name}", 6, /does not belong/],
    ["{name:date(nnnn)}", 6, /date pattern/],
  ] as [string, number, RegExp][])("%s", (source, at, words) => {
    const [error] = parseLine(source).errors;
    expect(error).toMatchObject({ from: at });
    expect(error!.message).toMatch(words);
  });
});

describe("filters", () => {
  const item = {
    name: "bronze Mooring cleat",
    price: "1234.5",
    published: "2024-03-09",
    intro: "Cast in sand. Finished by hand! Sent today.",
    category: "Mooring cleats",
    count: "1",
  };
  it.each([
    ["{name:title}", "Bronze Mooring Cleat"],
    ["{name:sentence}", "Bronze mooring cleat"],
    ["{name:words(2)}", "bronze Mooring"],
    ["{intro:sentences(2)}", "Cast in sand. Finished by hand!"],
    ["{price:number(0)}", "1,235"],
    ["{price:money(GBP)}", "£1,234.50"],
    ['{published:date("d MMMM yyyy")}', "9 March 2024"],
    ["{name:replace(Mooring, deck)}", "bronze deck cleat"],
    ["{name:without(category)}", "bronze cleat"],
    ["{name:ascii}", "bronze Mooring cleat"],
    ["{intro:first:upper}", "CAST IN SAND."],
    ["{intro:chars(9)}", "Cast in"],
    ['{summary or "None":lower}', "none"],
    ["{count:plural(size, sizes)}", "1 size"],
  ])("%s → %s", (source, out) =>
    expect(proveLine(parseLine(source), itemSetOf([item]), { limits: { surfaces: [], chars: null } })[0]!.text).toBe(
      out,
    ),
  );
});
