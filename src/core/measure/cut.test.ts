import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isCutInside, isSeen, shownOnSurface } from "./cut";
import { surfaceById, SURFACES } from "./surface";
import { fitsSurface } from "./wrap";

const title = surfaceById("desktop-title")!;
const tab = surfaceById("tab")!;

describe("a text without spaces between its words", () => {
  it.each([
    [
      "真鍮製の係船クリートと青銅のシャックル、錨とロープの総合カタログ二〇二六年版をご覧ください",
      "真鍮製の係船クリートと青銅のシャックル、錨とロープの総合カ",
    ],
    [
      "黄铜系船羊角与青铜卸扣产品目录，包含缆绳、锚、灯具与海图的全部说明及价格一览表",
      "黄铜系船羊角与青铜卸扣产品目录，包含缆绳、锚、灯具与海图",
    ],
  ])("is cut inside, as full as it goes: %s", (text, start) => {
    const shown = shownOnSurface(title, text);
    expect(shown.startsWith(start.slice(0, 20))).toBe(true);
    expect(shown.endsWith(" …")).toBe(true);
    const kept = shown.slice(0, -2);
    expect(text.startsWith(kept)).toBe(true);
    expect(kept.length).toBeGreaterThanOrEqual(26);
  });

  it("never begins a cut-off rest with what no line begins with", () => {
    const text = "係船クリート、".repeat(12);
    fc.assert(
      fc.property(fc.nat(20), fc.constantFrom(...SURFACES), (from, surface) => {
        const shown = shownOnSurface(surface, text.slice(from));
        const kept = shown.slice(0, shown.length - surface.mark.length);
        const next = text.slice(from)[kept.length]!;
        if (shown !== text.slice(from)) expect("、ーッ").not.toContain(next);
      }),
    );
  });

  it("is cut between its words where they have none between their letters (Thai)", () => {
    const text = "เชือกผูกเรือทองเหลืองและโซ่สมอเรือคุณภาพสูงสำหรับเรือทุกขนาด";
    const shown = shownOnSurface(tab, text);
    expect(shown).not.toBe("…");
    const words = [...new Intl.Segmenter("th", { granularity: "word" }).segment(text)].map(({ index }) => index);
    expect(words).toContain(shown.length - 1);
  });

  it("keeps Latin words in it whole", () => {
    const shown = shownOnSurface(tab, "真鍮製 Fennick 係船クリートのMooringcleats一覧表です");
    expect(shown).not.toMatch(/[A-Za-z]…$/);
    expect(shown.length).toBeGreaterThan(8);
  });
});

it("knows every character of the scripts that put no spaces between words", () => {
  const scripts = ["Han", "Hiragana", "Katakana", "Bopomofo", "Thai", "Lao", "Khmer", "Myanmar"];
  const unspaced = new RegExp(`[${scripts.map((script) => `\\p{Script=${script}}`).join("")}]`, "u");
  const wrong: string[] = [];
  for (let code = 0; code <= 0x10ffff; code++) {
    const char = String.fromCodePoint(code);
    if (isCutInside(char) !== unspaced.test(char)) wrong.push(code.toString(16));
  }
  expect(wrong).toEqual([]);
});

describe("what is seen of a text", () => {
  it.each([
    ["7係船係船ผูก係船ผูก「เชือกOak!", 14, 22],
    ["Bronze cleats, 13 brass rope 10 l", 31, 31],
  ])("is all of it where it fits, though its start with the mark would not: %s", (text, end, cut) => {
    expect(fitsSurface(tab, text)).toBe(true);
    expect(fitsSurface(tab, text.slice(0, cut) + tab.mark)).toBe(false);
    expect(isSeen(tab, text, end)).toBe(true);
  });

  const piece = fc.constantFrom("係船", "クリート", "、", "Oak", " ", "oar ", "เชือก", "ผูก", "「", "」", "!", "7");
  it("is what stands in the text as it is shown", () => {
    fc.assert(
      fc.property(
        fc.array(piece, { minLength: 1, maxLength: 30 }),
        fc.constantFrom(...SURFACES),
        fc.nat(),
        (parts, surface, at) => {
          const text = parts.join("").replace(/ +/g, " ").trim();
          const end = 1 + (at % Math.max(1, text.length));
          if (text === "" || text[end - 1] === " ") return;
          const shown = shownOnSurface(surface, text);
          const kept = fitsSurface(surface, text) ? text.length : Math.max(0, shown.length - surface.mark.length);
          expect(isSeen(surface, text, end)).toBe(kept >= end);
        },
      ),
      { numRuns: 2000, examples: [[["7", "係船", "係船", "ผูก", "係船", "ผูก", "「", "เชือก", "Oak", "!"], tab, 13]] },
    );
  });
});
