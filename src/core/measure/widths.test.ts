import { type FontId } from "./font-id";
import { describe, expect, it } from "vitest";
import { readCases } from "../../test/cases";
import { advanceUnits, unitsToPx } from "./advance";
import { shownOnSurface } from "./cut";
import { fontById } from "./font";
import { surfaceById } from "./surface";
import { wrapText } from "./wrap";

interface WidthCase {
  text: string;
  arimo400_20px: number;
  arimo700_14px: number;
  roboto400_20px: number;
  arimo14_wrapped_at_600: string[];
  roboto20_wrapped_at_328: string[];
  arimo20_shown_in_600: string;
}

const cases = readCases<WidthCase>("widths.jsonl");
const widthOf = (font: FontId, size: number, text: string) =>
  unitsToPx(fontById(font), advanceUnits(fontById(font), text), size);

describe("widths, as Chromium's DOM sets them", () => {
  it.each([
    ["arimo-400", 20, "arimo400_20px"],
    ["arimo-700", 14, "arimo700_14px"],
    ["roboto-400", 20, "roboto400_20px"],
  ] as const)("%s at %i px is within 0.05 px for every text", (font, size, key) => {
    const misses = cases.filter((c) => Math.abs(widthOf(font, size, c.text) - c[key]) > 0.05);
    expect(misses.map((c) => [c.text, c[key], widthOf(font, size, c.text)])).toEqual([]);
  });

  it("wraps as Chromium does", () => {
    const misses = cases
      .flatMap((c) => [
        ...[[wrapText(fontById("arimo-400"), 14, 600, c.text), c.arimo14_wrapped_at_600]],
        ...[[wrapText(fontById("roboto-400"), 20, 328, c.text), c.roboto20_wrapped_at_328]],
      ])
      .filter(([ours, theirs]) => ours!.join("\n") !== theirs!.join("\n"));
    expect(misses).toEqual([]);
  });

  it("cuts as Chromium's widths allow", () => {
    const surface = surfaceById("desktop-title")!;
    const misses = cases.filter((c) => shownOnSurface(surface, c.text) !== c.arimo20_shown_in_600);
    expect(misses.map((c) => [shownOnSurface(surface, c.text), c.arimo20_shown_in_600])).toEqual([]);
  });
});
