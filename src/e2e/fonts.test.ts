import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type App, startApp } from "./app";

let app: App;
beforeAll(async () => {
  app = await startApp();
}, 120_000);
afterAll(() => app.close());

/** Words as screens have them: capitals, figures, marks. */
const WORDS = [
  "Review 11,204 changes before they go out",
  "Nothing changes until you apply it, and every run can be undone",
  "No line: the live text stays. Type text, or { for a field",
  "Rules, the first match wins",
];

/** A font with what stands for it until it is there, each as it is used: weight and stretch. */
const FACES = [
  ["Archivo", 400, "normal"],
  ["Archivo", 600, "normal"],
  ["Archivo", 700, "normal"],
  ["Archivo", 400, "88%"],
  ["Archivo", 600, "88%"],
  ["Archivo", 700, "88%"],
  ["Sometype Mono", 400, "normal"],
] as const;

describe("a font that has not come yet", () => {
  it.each(FACES)("%s %i %s has a stand-in as wide and as high as itself", async (family, weight, stretch) => {
    const page = await app.browser.newPage();
    await page.goto(app.url);
    const { own, standIn, other } = await page.evaluate(
      async ([family, weight, stretch, words]) => {
        const sizeIn = async (name: string) => {
          const box = document.createElement("div");
          box.style.cssText = `position: absolute; white-space: pre; font: ${weight} 100px/normal "${name}"; font-stretch: ${stretch}`;
          box.textContent = words.join("\n");
          document.body.append(box);
          await document.fonts.load(`${weight} 100px "${name}"`, words.join(""));
          await document.fonts.ready;
          const lines = words.map((line) => {
            box.textContent = line;
            return box.getBoundingClientRect().width;
          });
          return { lines, height: box.getBoundingClientRect().height };
        };
        return {
          own: await sizeIn(`${family} Variable`),
          standIn: await sizeIn(`${family} Stand-in`),
          other: await sizeIn("no such font"),
        };
      },
      [family, weight, stretch, WORDS] as const,
    );
    const whole = (lines: readonly number[]) => lines.reduce((sum, line) => sum + line, 0);
    expect(Math.abs(whole(standIn.lines) / whole(own.lines) - 1), "all words").toBeLessThan(0.01);
    own.lines.forEach((width, i) => {
      expect(Math.abs(standIn.lines[i]! / width - 1), WORDS[i]).toBeLessThan(0.04);
    });
    expect(Math.abs(standIn.height / own.height - 1)).toBeLessThan(0.02);
    // The stand-in is a face of its own, not the browser's last resort.
    expect(standIn.lines).not.toEqual(other.lines);
    await page.close();
  });
});
