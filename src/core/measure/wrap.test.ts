import { FONT_IDS } from "./font-id";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { advanceByGrapheme, advanceUnits, jointUnits } from "./advance";
import { shownOnSurface } from "./cut";
import { fontById } from "./font";
import { surfaceById, SURFACES } from "./surface";
import { breakOffsets, fitsSurface, simpleBreakOffsets, wrapOnSurface } from "./wrap";

/** Break offsets inside the text as Chromium 156 takes them, read off a container 1 px wide. */
const CHROMIUM_BREAKS: [string, number[]][] = [
  ["aa / bb", [3, 5]],
  ["aa /bb", [3]],
  ["aa/bb", []],
  ["und/über", [4]],
  ["или/и", [4]],
  ["a!é|б}漢", [2, 4, 6]],
  ["1/א", []],
  ["9/€", []],
  ["zä-12", []],
  ["äz-12", [3]],
  ["zä-é", [3]],
  ["zä–1", [3]],
  ["12/aa", []],
  ["aa ! bb", [3, 5]],
  ["aa!bb", []],
  ["aa ?bb", [3, 4]],
  ["aa ;bb", [3]],
  ["aa ( bb", [3, 5]],
  ["aa( bb", [4]],
  ["aa , bb", [3, 5]],
  ["aa –bb", [3]],
  ["12-34", [3]],
  ["aa-12", [3]],
  ["aa-bb", [3]],
  ["aa|bb", []],
  ["aa |bb", [3]],
  ["aa}bb", []],
  ["aa —bb", [3, 4]],
  ["aa—bb", [2, 3]],
];

const words = fc
  .array(fc.stringMatching(/^[A-Za-zäøŁ0-9&/–-]{1,12}$/), { minLength: 1, maxLength: 30 })
  .map((w) => w.join(" "));

describe("wrapping", () => {
  it.each(CHROMIUM_BREAKS)("%s breaks where Chromium breaks", (text, offsets) => {
    expect(breakOffsets(text).filter((o) => o < text.length)).toEqual(offsets);
  });

  it("finds the same breaks the short way, for the texts that it takes", () => {
    const alphabet = fc.constantFrom(..."aZ9é  -–.,:;'’\"“”&/!");
    fc.assert(
      fc.property(
        fc.string({ unit: alphabet, maxLength: 40 }).map((t) => t.replace(/ +/g, " ").trim()),
        (text) => {
          const simple = simpleBreakOffsets(text);
          if (simple) expect(simple).toEqual(breakOffsets(text).filter((o) => o < text.length));
        },
      ),
      { numRuns: 20_000 },
    );
  });

  it("loses nothing but the spaces at line ends", () => {
    fc.assert(
      fc.property(words, (text) => {
        const lines = wrapOnSurface(surfaceById("phone-title")!, text);
        expect(lines.join("").replace(/ /g, "")).toBe(text.replace(/ /g, ""));
      }),
      { numRuns: 1000 },
    );
  });

  it("shows the text itself or whole words of it that fit with the mark", () => {
    fc.assert(
      fc.property(words, fc.constantFrom(...SURFACES), (text, surface) => {
        const shown = shownOnSurface(surface, text);
        if (fitsSurface(surface, text)) {
          expect(shown).toBe(text);
          return;
        }
        const kept = shown.slice(0, shown.length - surface.mark.length);
        expect(shown.endsWith(surface.mark.trimStart())).toBe(true);
        expect(text.startsWith(kept)).toBe(true);
        if (kept) {
          expect(fitsSurface(surface, shown)).toBe(true);
          expect(text[kept.length]).toBe(" ");
        }
        const nextSpace = text.indexOf(" ", kept.length + 1);
        const oneWordMore = nextSpace < 0 ? text : text.slice(0, nextSpace);
        expect(fitsSurface(surface, oneWordMore + surface.mark)).toBe(false);
      }),
      { numRuns: 1000 },
    );
  });
});

describe("widths of parts", () => {
  it("add up with what kerning does at the joint", () => {
    const part = fc.string({ unit: fc.constantFrom(..."AVTo Wa.,fifl ÅØ–|⚓綱"), minLength: 1, maxLength: 20 });
    fc.assert(
      fc.property(part, part, fc.constantFrom(...FONT_IDS), (a, b, id) => {
        const font = fontById(id);
        expect(advanceUnits(font, a) + jointUnits(font, a, b) + advanceUnits(font, b)).toBe(advanceUnits(font, a + b));
      }),
      { numRuns: 2000 },
    );
  });

  it("are class widths, and said to be estimated, for what no font covers", () => {
    const font = fontById("arimo-400");
    const em = font.unitsPerEm;
    expect(advanceByGrapheme(font, "綱")).toEqual({ units: em, estimated: true });
    expect(advanceByGrapheme(font, "⚓️")).toEqual({ units: 1.25 * em, estimated: true });
    expect(advanceByGrapheme(font, "👩‍🚒")).toEqual({ units: 1.25 * em, estimated: true });
    expect(advanceByGrapheme(font, "Rope").estimated).toBe(false);
  });
});
