import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type App, axeFindings, startApp } from "./app";

let app: App;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
  await page.goto(`${app.url}/items`);
  await page.waitForSelector("[data-finding]", { timeout: 90_000 });
}, 180_000);
afterAll(() => app.close());

const counts = async (finding: string) => (await page.locator(`[data-finding="${finding}"] span`).allInnerTexts()).slice(1).map((text) => Number(text.replace(/\D/g, "")));

describe("all pages and what was found in them", () => {
  it("are listed with counts for the site and the drafts", async () => {
    await page.waitForSelector("[role=status] >> text=13,806 pages");
    const [live, draft] = await counts("title.too-wide");
    expect(live).toBeGreaterThan(draft!);
    expect(await page.locator("[role=option]").count()).toBeGreaterThan(8);
    expect(await axeFindings(page)).toEqual([]);
  });

  it("are filtered by a finding, which the address bar holds", async () => {
    const [live] = await counts("title.site-name-only");
    expect(live).toBeGreaterThanOrEqual(30);
    await page.focus('[data-finding="title.site-name-only"]');
    await page.keyboard.press("Enter");
    await page.waitForSelector(`[role=status] >> text=${live} pages`);
    expect(page.url()).toContain("finding=title.site-name-only");
    await page.waitForFunction(() => document.querySelectorAll("[role=option]").length > 5 && [...document.querySelectorAll("[role=option]")].slice(0, 5).every((row) => row.textContent?.includes("Fennick & Dray")));
    await page.reload();
    await page.waitForSelector(`[role=status] >> text=${live} pages`);
  });

  it("are opened by keyboard, with what is wrong, why and how to mend it", async () => {
    await page.focus("[role=listbox]");
    await page.keyboard.press("ArrowDown");
    await page.waitForSelector('aside >> text="Site name only"');
    const first = page.url();
    await page.keyboard.press("ArrowDown");
    await page.waitForFunction((url) => location.href !== url, first);
    await page.waitForSelector("aside >> text=/It says whose the page is/");
    await page.waitForSelector("aside >> text=/^Mended: .*site name only/");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("aside >> text=Close");
  });

  it("are searched, and say so where nothing is found", async () => {
    await page.goto(`${app.url}/items`);
    await page.waitForSelector("[role=status] >> text=13,806 pages");
    await page.fill('[aria-label="Search pages"]', "cleat brass");
    await page.waitForFunction(() => {
      const pages = Number(document.querySelector("[role=status]")?.textContent?.replace(/\D/g, ""));
      return pages > 0 && pages < 2000;
    });
    await page.fill('[aria-label="Search pages"]', "no such page anywhere");
    await page.waitForSelector("text=No page is like this");
    await page.click("role=button[name='Show all pages']");
    await page.waitForSelector("[role=status] >> text=13,806 pages");
  });

  it("lose a finding when a rule mends it", async () => {
    await page.goto(`${app.url}/items?side=draft`);
    await page.waitForSelector("[data-finding]");
    const [, before] = await counts("title.too-wide");
    await page.goto(`${app.url}/bench?kind=product&text=title`);
    await page.waitForSelector("[role=option] [data-proof]");
    await page.click('[aria-label="Title line"]');
    await page.keyboard.press("Control+A");
    await page.keyboard.insertText("{name:words(4)}[ – {id}]^apart");
    await page.waitForTimeout(400);
    await page.waitForSelector("[role=status] >> text=Draft stored, not kept");
    await page.goto(`${app.url}/items?side=draft`);
    await page.waitForSelector("[data-finding]");
    const [, after] = await counts("title.too-wide");
    expect(after).toBeLessThan(before!);
  });
});
