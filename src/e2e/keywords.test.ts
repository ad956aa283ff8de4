import { type Page } from "playwright-core";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { type App, axeFindings, startApp } from "./app";
import { ask, draftStored } from "./calls";

let app: App;
let page: Page;

/** Waits until the settings are the server's: “Not saved yet” says “saved”, too. */
const saved = (own: Page) => own.waitForSelector("text=Settings saved; every page is checked with them now");

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
  await page.goto(`${app.url}/keywords`);
  await page.waitForSelector("table a", { timeout: 90_000 });
}, 180_000);
afterAll(() => app.close());

const number = (text: string) => Number(text.replace(/\D/g, ""));
const shown = async (coverage: string) => number(await page.locator(`[data-coverage=${coverage}] span`).innerText());

describe("keywords over the whole site", () => {
  it("stand in a matrix whose cells lead to the pages that miss them", async () => {
    expect(await axeFindings(page)).toEqual([]);
    const link = page.locator("table a[aria-label*='products: keyword missing, title']");
    const missing = number(await link.innerText());
    await link.focus();
    await page.keyboard.press("Enter");
    await page.waitForURL(/pages\?kind=product&findings=title.keyword-absent&side=draft/);
    await page.waitForFunction(
      (wanted) => Number(document.querySelector("[role=status]")?.textContent?.replace(/\D/g, "")) === wanted,
      missing,
    );
  });

  it("are brought in as a list, pasted, with whatever columns there are", async () => {
    await page.goto(`${app.url}/keywords`);
    await page.waitForSelector("[data-coverage=none] span:not(:empty)");
    const before = await shown("none");
    await page.click("text=Import a list");
    await page.fill(
      "aside textarea",
      "keyword;searches;intent\nlate mooring question;1.200;know\nSplicing a rope by hand;90;know\nlate  MOORING question;1300;know\n;5;\n",
    );
    await page.click("text=Preview");
    await page.waitForSelector("aside mark >> text=late mooring question");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("text=Add to the list");
    await page.waitForSelector("text=/2 keywords added, 1 updated, 1 row without a keyword left out/");
    await page.waitForFunction(
      (n) => Number(document.querySelector("[data-coverage=none] span")?.textContent?.replace(/\D/g, "")) === n + 2,
      before,
    );
    // What was fetched before the list came is not shown again on coming back.
    await page.click("nav >> text=Runs");
    await page.waitForURL(/\/runs/);
    await page.goBack();
    await page.waitForURL(/\/keywords/);
    await page.waitForSelector("[data-coverage=none] span:not(:empty)");
    expect(await shown("none")).toBe(before + 2);
    await page.fill('[aria-label="Search keywords"]', "late mooring");
    await page.waitForSelector("[role=row] >> text=no page");
    await page.waitForSelector("[role=row] >> text=1,300");
  });

  it("say what is wrong with a list that is none", async () => {
    await page.click("text=Import a list");
    await page.setInputFiles("aside input[type=file]", {
      name: "list.csv",
      mimeType: "text/csv",
      buffer: Buffer.from([0x50, 0x4b, 3, 4, 0, 0, 0, 0, 0, 0, 0, 0]),
    });
    await page.waitForSelector("aside [role=alert] >> text=/is not text/");
    await page.keyboard.press("Escape");
  });

  it("are suggested with reasons, taken one by one or all, and undone", async () => {
    await page.goto(`${app.url}/keywords?tab=suggestions`);
    await page.waitForSelector("text=/pages have no keyword/", { timeout: 60_000 });
    const without = async () =>
      number((await page.locator("[role=tabpanel] [role=status]").innerText()).split("pages")[0]!);
    const before = await without();
    await page.waitForSelector("[role=row] >> text=/From the list, searched for .* appears in the name/");
    expect(await axeFindings(page)).toEqual([]);
    await page.focus("[role=row] >> text=Accept >> nth=0");
    await page.keyboard.press("Enter");
    await page.waitForSelector("text=1 focus keyword given");
    await page.waitForFunction(
      (n) =>
        Number(
          document.querySelector("[role=tabpanel] [role=status]")?.textContent?.split(/page/)[0]?.replace(/\D/g, ""),
        ) ===
        n - 1,
      before,
    );
    await page.click("text=/^Accept all .* of the list$/");
    await page.waitForSelector("text=/focus keywords given/");
    await page.waitForFunction(
      (n) =>
        Number(
          document.querySelector("[role=tabpanel] [role=status]")?.textContent?.split(/page/)[0]?.replace(/\D/g, ""),
        ) <
        n - 1,
      before,
    );
    await page.click("header >> text=Undo");
    await page.waitForFunction(
      (n) =>
        Number(
          document.querySelector("[role=tabpanel] [role=status]")?.textContent?.split(/page/)[0]?.replace(/\D/g, ""),
        ) ===
        n - 1,
      before,
    );
  });

  it("that several pages compete for are settled: kept on one, another for the others", async () => {
    await page.goto(`${app.url}/keywords?tab=competing`);
    const first = page.locator("section[aria-label^='Pages that compete for']").first();
    await first.waitFor();
    const keyword = await first.locator("h3").innerText();
    const before = number((await first.locator("h3 + span").innerText()).split("page")[0]!);
    const settled = (await first.locator("tbody tr").count()) - 1;
    // However many there are, they are one stop for Tab: arrows go from one to the next, Enter into it.
    const reached = () => page.evaluate(() => document.activeElement?.closest("[data-row]")?.getAttribute("data-row"));
    await page.locator("role=region[name=/Pages that compete:/]").focus();
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Enter");
    expect(await reached()).toBe("1");
    await page.locator("role=region[name=/Pages that compete:/]").focus();
    await page.keyboard.press("Home");
    await page.keyboard.press("Tab");
    expect(await reached()).toBe("0");
    await page.locator("[data-row='0'] a").last().focus();
    await page.locator("[data-row='0'] input").last().focus();
    await page.keyboard.press("Tab");
    expect(await reached()).toBeUndefined();
    await first.locator("input[aria-label^='Keyword of']").first().fill("something of its own");
    expect(await axeFindings(page)).toEqual([]);
    await first.getByRole("button", { name: "Resolve" }).click();
    await page.waitForSelector("text=/focus keywords? given/");
    await page.goto(`${app.url}/keywords?search=something+of+its+own`);
    await page.waitForSelector("[role=row] >> text=something of its own");
    await page.goto(`${app.url}/keywords?search=${encodeURIComponent(keyword)}`);
    const row = page.locator("[role=row]", { has: page.locator(`mark >> text=/^${keyword}$/`) });
    await row.waitFor();
    if (before - settled > 1) expect(await row.innerText()).toContain(`${before - settled} pages`);
    else expect(await row.innerText()).not.toMatch(/\d pages/);
  });
});

describe("settings", () => {
  it("switch a finding off, change a figure, and add a surface; every page is proved by them", async () => {
    await page.goto(`${app.url}/pages`);
    await page.waitForSelector('[data-finding="title.straight-quotes"]');
    const wide = number(await page.locator('[data-finding="title.too-wide"] span').nth(1).innerText());
    await page.goto(`${app.url}/settings?topic=checks`);
    await page.waitForSelector("#checks");
    const found = page.locator("#checks li", { hasText: "Too wide" }).first().locator("a");
    expect(number(await found.innerText())).toBe(wide);
    expect(await axeFindings(page)).toEqual([]);
    const quotes = page
      .locator("#checks fieldset")
      .first()
      .locator("label", { hasText: "Straight quotes" })
      .locator("input");
    await quotes.focus();
    await page.keyboard.press("Space");
    await page.click("nav[aria-label=Settings] >> text=Surfaces and limits");
    await page.waitForURL("**/settings?topic=surfaces");
    await page.fill('[aria-label="Width of Title on desktop results"]', "500");
    await page.click("text=Add a surface");
    await page.fill('[aria-label="Name of the surface"]', "Own portal");
    await page.fill('[aria-label="Width of Own portal"]', "10");
    await page.waitForSelector("[role=status] >> text=/at least 40 px/");
    // What is changed and what is wrong is said of the topics that are not shown, too, and they are gone back to.
    await page.goBack();
    await page.waitForSelector("nav[aria-label=Settings] >> role=link[name=/Surfaces and limits.*to correct/]");
    await page.waitForSelector("nav[aria-label=Settings] >> role=link[name=/Checks.*not saved/]");
    await page.goForward();
    expect(await page.isDisabled("text=Save settings")).toBe(true);
    await page.fill('[aria-label="Width of Own portal"]', "420");
    await page.reload();
    await page.waitForSelector("text=Your unsaved settings were restored");
    await page.click("text=Save settings");
    await saved(page);
    await page.goto(`${app.url}/pages`);
    await page.waitForSelector('[data-finding="title.too-wide"]', { timeout: 60_000 });
    expect(await page.locator('[data-finding="title.straight-quotes"]').count()).toBe(0);
    expect(number(await page.locator('[data-finding="title.too-wide"] span').nth(1).innerText())).toBeGreaterThan(wide);
  });

  it("say how many pages a switch of the slugs moves, before it is saved and for what is edited", async () => {
    await page.goto(`${app.url}/settings?topic=slugs`);
    const stopWords = page.getByLabel("Drop stop words");
    const beside = page.locator("label", { has: stopWords }).locator("text=/Switched on, it moves/");
    const moved = number((await beside.innerText()).replace(/\D+/g, ""));
    expect(moved).toBeGreaterThan(0);
    await stopWords.check();
    await page.waitForSelector(`[role=status] >> text=What you changed here moves ${moved.toLocaleString("en")} pages`);
    await page.waitForSelector("text=/Switched off, it moves/");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("text=Discard changes");
    await page.waitForSelector("text=What you changed here moves", { state: "detached" });
  });

  describe("that another window changes meanwhile", () => {
    const field = (of: Page, label: string) => of.locator("label", { hasText: label }).locator("input");
    const stored = async () => (await ask(app.url, "site.state", {})).site!;
    /** Somebody else changes a setting. */
    const elsewhere = async (label: string, value: string) => {
      const other = await app.page();
      await other.goto(`${app.url}/settings`);
      await field(other, label).fill(value);
      await other.click("text=Save settings");
      await saved(other);
      await other.context().close();
    };
    beforeEach(async () => void (await page.goto(`${app.url}/settings`)));

    it("are taken over on coming back, with what was typed here, and nothing of either is lost", async () => {
      await field(page, "Separator").fill("/");
      await elsewhere("Tagline", "Seen on coming back");
      await page.evaluate(() => window.dispatchEvent(new Event("focus")));
      await expect.poll(() => field(page, "Tagline").inputValue()).toBe("Seen on coming back");
      expect(await field(page, "Separator").inputValue()).toBe("/");
      await page.click("text=Save settings");
      await saved(page);
      expect(await stored()).toMatchObject({ sep: "/", tagline: "Seen on coming back" });
    });

    it("are taken over when it is saved here, and said before anything is stored", async () => {
      await elsewhere("Tagline", "Another tagline");
      await field(page, "Separator").fill("|");
      await page.click("text=Save settings");
      await page.waitForSelector("text=/Another window saved other settings meanwhile/");
      expect(await field(page, "Tagline").inputValue()).toBe("Another tagline");
      expect((await stored()).sep).not.toBe("|");
      await page.click("text=Save settings");
      await saved(page);
      expect(await stored()).toMatchObject({ sep: "|", tagline: "Another tagline" });
    });

    it("are not saved over where it is the same setting, and what was typed stays", async () => {
      await field(page, "Tagline").fill("Mine");
      await elsewhere("Tagline", "Theirs");
      await page.evaluate(() => window.dispatchEvent(new Event("focus")));
      await page.click("text=Save settings");
      await page.waitForSelector("text=/changed in another window. Reload/");
      expect(await field(page, "Tagline").inputValue()).toBe("Mine");
      expect((await stored()).tagline).toBe("Theirs");
      await page.click("text=Discard changes");
      await expect.poll(() => field(page, "Tagline").inputValue()).toBe("Theirs");
    });
  });

  it("keep what is typed while they are saved", async () => {
    await page.goto(`${app.url}/settings`);
    const tagline = page.locator("label", { hasText: "Tagline" }).locator("input");
    let letThrough = () => {};
    const isTyped = new Promise<void>((resolve) => (letThrough = resolve));
    const isSent = page.waitForRequest("**/api/site.saveSettings");
    await page.route("**/api/site.saveSettings", async (route) => {
      await isTyped;
      await route.continue();
    });
    await tagline.fill("Sails");
    await page.click("text=Save settings");
    await isSent;
    await tagline.press("End");
    await tagline.pressSequentially(" and lamps");
    letThrough();
    await saved(page);
    expect(await tagline.inputValue()).toBe("Sails and lamps");
    await page.getByRole("status").getByText("Not saved yet").waitFor();
    await page.unrouteAll();
    await page.click("text=Discard changes");
    await expect.poll(() => tagline.inputValue()).toBe("Sails");
  });
});

describe("extra texts", () => {
  it("are designed on the Board once they are switched on, and are exported", async () => {
    await page.goto(`${app.url}/settings?topic=extras`);
    await page.evaluate(() => localStorage.clear());
    await page.reload();
    await page.waitForSelector("#extras");
    await page.locator("#extras input").first().check();
    await page.click("text=Save settings");
    await saved(page);
    await page.goto(app.url);
    await page.waitForSelector("[aria-label='Extra texts'] >> text=/images? on .* without one/", { timeout: 60_000 });
    await page.click("[aria-label='Image descriptions line for posts']");
    await page.keyboard.insertText("{name}[, {series:lower}]");
    await page.waitForSelector("[aria-label='Extra texts'] >> text=/get one/");
    expect(await axeFindings(page)).toEqual([]);
    const file = await (await page.request.get(`${app.url}/api/out/extras?format=csv`)).text();
    expect(file.split("\n").length).toBeGreaterThan(200);
    expect(file).toContain("Fitting a cleat: without special tools");
  });
});

describe("robots settings", () => {
  it("are set by a rule on the Bench, shown among the items, and reviewed like any other change", async () => {
    await page.goto(`${app.url}/bench?kind=product&text=title&rule=clearance`);
    await page.waitForSelector("[role=option] [data-proof]", { timeout: 60_000 });
    await page.selectOption('[aria-label="Robots setting"]', "noindex, follow");
    await draftStored(app.url, page, "product", "noindex, follow");
    await page.goto(`${app.url}/review?group=robots`);
    await page.waitForSelector("[data-group=robots] >> text=/^Indexing changes/", { timeout: 60_000 });
    await page.waitForSelector("[role=row] >> text=noindex, follow");
    await page.goto(
      `${app.url}/pages?kind=product&columns=name+robots&side=draft&where=${encodeURIComponent(JSON.stringify({ field: "price", "<": "20" }))}`,
    );
    await page.waitForSelector("[data-column=robots] >> text=by “Clearance”", { timeout: 60_000 });
  });
});
