import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type App, startApp } from "./app";
import { draftStored, settled } from "./calls";

let app: App;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
}, 180_000);
afterAll(() => app.close());

const TITLE = "Clearance offers at Fennick & Dray";
const listed = (number: number) =>
  page.waitForFunction(
    (wanted) => Number(document.querySelector("[role=status]")?.textContent?.replace(/\D/g, "")) === wanted,
    number,
  );
const cellText = (place: number, column: string) =>
  page.locator(`[aria-rowindex="${place + 2}"] [data-column="${column}"]`).innerText();

/** As someone would who sees the application for the first time, with nothing kept or applied yet. */
describe("thirty pages with one title", () => {
  let pages = 0;

  it("are found among the findings", async () => {
    await page.goto(`${app.url}/pages`);
    await page.click('[data-finding="title.duplicate"]', { timeout: 90_000 });
    await page.waitForURL(/findings=title.duplicate/);
    await page.fill('[aria-label="Search pages"]', `"${TITLE}"`);
    await page.waitForFunction(() => {
      const found = Number(document.querySelector("[role=status]")?.textContent?.replace(/\D/g, ""));
      return found >= 30 && found <= 40;
    });
    pages = Number((await page.locator("[role=status]").first().innerText()).replace(/\D/g, ""));
    for (const place of [0, 3, 6]) expect(await cellText(place, "title")).toContain(TITLE);
  });

  it("each get a title of their own by one rule that tells them apart", async () => {
    await page.focus("[role=grid]");
    await page.keyboard.press("Control+a");
    await page.waitForSelector(`text=${pages} pages selected`);
    await page.click("role=button[name='Create a rule']");
    await page.waitForURL(/bench\?kind=product&text=title&rule=/);
    await page.waitForSelector(`[data-card] >> text=${pages} selected pages`);
    await page.waitForSelector("[role=option] [data-proof]");
    await page.click('[aria-label="Title line"]');
    await page.keyboard.press("Control+A");
    await page.keyboard.insertText("{category} on clearance[ – {colour}]^apart[ – {finish}]^apart[ – no. {id}]^apart");
    await page.waitForFunction(() =>
      /on clearance/.test(document.querySelector("[role=option] [data-proof]")?.textContent ?? ""),
    );
    await draftStored(app.url, page, "product", "");
    await page.goto(`${app.url}/pages?side=draft&search=${encodeURIComponent(`"${TITLE}"`)}`);
    await listed(pages);
    const titles = new Set<string>();
    for (let place = 0; place < 8; place++) titles.add((await cellText(place, "title")).split("\n").at(-1)!);
    expect([...titles].every((title) => /on clearance/.test(title))).toBe(true);
    expect(titles.size).toBe(8);
    expect(await page.locator('[data-finding="title.duplicate"] span').nth(2).innerText()).toBe("0");
  });

  it("of which three are written by hand", async () => {
    await page.focus("[role=grid]");
    await page.keyboard.press("Control+Home");
    for (let i = 0; i < 2; i++) await page.keyboard.press("ArrowRight");
    for (const [place, text] of [
      "The last of our own shackles, half price",
      "A cleat with a scratch, and a price to match",
      "Rope ends by the kilo, cut as they come",
    ].entries()) {
      await page.keyboard.press("Enter");
      await page.waitForSelector('[aria-label="Title by hand"]');
      await page.keyboard.press("Control+A");
      await page.keyboard.insertText(text);
      await page.keyboard.press("Enter");
      await page.waitForFunction(
        ([row, wanted]) =>
          document
            .querySelector(`[aria-rowindex="${row}"] [data-column=title]`)
            ?.textContent?.includes(wanted as string),
        [place + 2, text] as const,
      );
      await page.waitForFunction(
        (active) =>
          document.querySelector("[role=grid]")?.getAttribute("aria-activedescendant") === active &&
          document.activeElement?.getAttribute("role") === "grid",
        `cell-${place + 1}-2`,
      );
    }
  });

  it("go out with a run after a review, and the finding is gone", async () => {
    await page.goto(`${app.url}/review?group=written`);
    await page.waitForSelector("[data-group=written] >> text=/^Written by hand/");
    await page.waitForSelector("text=Rope ends by the kilo, cut as they come");
    await page.click("text=/^Apply [0-9,]+ changes …$/");
    await page.click("[role=dialog] >> text=/^Apply [0-9,]+ changes$/");
    await page.waitForURL(/runs\/\d+/);
    await page.waitForSelector("text=/^Done|Applied/", { timeout: 90_000 });
    await settled(app.url);
    await page.goto(`${app.url}/pages?search=${encodeURIComponent(`"${TITLE}"`)}`);
    await page.waitForSelector("text=No page matches", { timeout: 60_000 });
    await page.goto(`${app.url}/pages?findings=title.duplicate&search=${encodeURIComponent('"on clearance"')}`);
    await page.waitForSelector("text=No page matches", { timeout: 60_000 });
    await page.goto(`${app.url}/pages?search=${encodeURIComponent('"Rope ends by the kilo"')}`);
    await listed(1);
    expect(await cellText(0, "title")).toContain("Rope ends by the kilo, cut as they come");
    await page.focus("[role=grid]");
    await page.keyboard.press("Enter");
    await page.waitForSelector("aside >> text=/Run 1: title/");
  });
});
