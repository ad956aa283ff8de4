import { type FontId } from "../core/measure/font-id";
import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { advanceByGrapheme, advanceUnits, unitsToPx } from "../core/measure/advance";
import { fontById } from "../core/measure/font";
import { type App, startApp } from "./app";

let app: App;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
  await page.goto(`${app.url}/runs`);
}, 180_000);
afterAll(() => app.close());

const TEXTS = [
  "Oak oar → brass cleat ★★★★☆ ✓ 7 ≥ 5",
  "← Back ↔ forth ⇒ ∞ ≈ √2 ≠ ∑",
  "■ Ropes ● Lamps ◆ Oars ► new ▲",
  "✔ Tarred ✗ untarred ☎ call ♥ ➤ go",
  "AV→AV T★T fi✓fl",
  "①②③ steps ⌘ K",
  "Plain text, no sign at all",
];

/** The texts' widths as the browser sets them. */
const drawn = (family: string, weight: number, size: number) =>
  page.evaluate(
    async ({ texts, family, weight, size }) => {
      const box = document.createElement("div");
      box.style.cssText = `position:absolute;white-space:pre;font:${weight} ${size}px var(${family})`;
      const spans = texts.map((text) => {
        const span = document.createElement("span");
        span.style.display = "inline-block";
        span.textContent = text;
        box.append(span);
        return span;
      });
      document.body.append(box);
      await Promise.all([...document.fonts].map((face) => (box.offsetWidth, face.load().catch(() => null))));
      await document.fonts.ready;
      const widths = spans.map((span) => span.getBoundingClientRect().width);
      box.remove();
      return widths;
    },
    { texts: TEXTS, family, weight, size },
  );

describe("signs beside letters", () => {
  it.each<[FontId, string, number, number]>([
    ["arimo-400", "--font-desktop", 400, 20],
    ["arimo-700", "--font-desktop", 700, 14],
    ["roboto-400", "--font-phone", 400, 20],
  ])("are as wide as the browser draws them, and are no estimate: %s", async (id, family, weight, size) => {
    const font = fontById(id);
    const own = TEXTS.map((text) => unitsToPx(font, advanceUnits(font, text), size));
    const theirs = await drawn(family, weight, size);
    const misses = TEXTS.flatMap((text, i) =>
      Math.abs(own[i]! - theirs[i]!) > 0.1 ? [[text, own[i], theirs[i]]] : [],
    );
    expect(misses).toEqual([]);
    expect(TEXTS.filter((text) => advanceByGrapheme(font, text).estimated)).toEqual([]);
  });
});
