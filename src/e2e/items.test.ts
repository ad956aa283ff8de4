import { type Page } from "playwright-core";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { type App, axeFindings, pickCondition, startApp } from "./app";
import { draftStored } from "./calls";

let app: App;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
  await page.goto(`${app.url}/pages`);
  await page.waitForSelector("[data-finding]", { timeout: 90_000 });
}, 180_000);
afterAll(() => app.close());

const counts = async (finding: string) =>
  (await page.locator(`[data-finding="${finding}"] span`).allInnerTexts())
    .slice(1)
    .map((text) => Number(text.replace(/\D/g, "")));
const cell = (place: number, column: string) =>
  page.locator(`[aria-rowindex="${place + 2}"] [data-column="${column}"]`);
const listed = (number: number) =>
  page.waitForFunction(
    (wanted) => Number(document.querySelector("[role=status]")?.textContent?.replace(/\D/g, "")) === wanted,
    number,
  );
const open = async (query: string) => {
  await page.goto(`${app.url}/pages${query}`);
  await page.waitForSelector("[data-finding]");
  await page.waitForSelector("[role=row] [data-column]");
};
/** Goes to a cell by keyboard. */
const goTo = async (column: string, place = 0) => {
  await page.focus("[role=grid]");
  await page.keyboard.press("Control+Home");
  await page.keyboard.press("Home");
  for (let i = 0; i < place; i++) await page.keyboard.press("ArrowDown");
  for (const other of await page.locator("[role=row][aria-rowindex='2'] [data-column]").all()) {
    if ((await other.getAttribute("data-column")) === column) break;
    await page.keyboard.press("ArrowRight");
  }
};

describe("all pages and what was found in them", () => {
  it("are listed with counts for the site and the drafts", async () => {
    await listed(13_806);
    const [live, draft] = await counts("title.too-wide");
    expect(live).toBeGreaterThan(draft!);
    expect(await page.locator("[role=row]").count()).toBeGreaterThan(8);
    expect(await axeFindings(page)).toEqual([]);
  });

  it("have their findings by what they ask for", async () => {
    const groups = await page.locator("nav[aria-label=Findings] h2").allInnerTexts();
    expect(groups).toEqual(["Fix now", "Worth a look", "Small things"]);
    expect(await page.locator('section[aria-label="Fix now"] [data-finding="title.too-wide"]').count()).toBe(1);
  });

  it("are filtered by findings, one or several, which the address bar holds", async () => {
    const [live] = await counts("title.site-name-only");
    expect(live).toBeGreaterThanOrEqual(30);
    await page.focus('[data-finding="title.site-name-only"]');
    await page.keyboard.press("Enter");
    await listed(live!);
    expect(page.url()).toContain("findings=title.site-name-only");
    await page.waitForFunction(() =>
      [...document.querySelectorAll("[data-column=title]")]
        .slice(0, 5)
        .every((own) => own.textContent?.includes("Fennick & Dray")),
    );
    await page.focus('[aria-label="Also require: No focus keyword"]');
    await page.keyboard.press("Enter");
    await page.waitForFunction(
      (most) => Number(document.querySelector("[role=status]")?.textContent?.replace(/\D/g, "")) < most,
      live!,
    );
    const both = Number((await page.locator("[role=status]").first().innerText()).replace(/\D/g, ""));
    await page.reload();
    await listed(both);
  });

  it("are opened by keyboard: what is wrong, where it is seen, why it reads so", async () => {
    await open("?findings=title.site-name-only");
    await page.focus("[role=grid]");
    await page.keyboard.press("Enter");
    await page.waitForSelector('aside >> text="Site name only"');
    await page.waitForSelector("aside >> text=/^Fixed: .*site name only/");
    await page.waitForSelector("aside >> text=No run has changed this page yet");
    await page.focus("aside >> text=Why this title");
    await page.keyboard.press("Enter");
    await page.waitForSelector("aside >> text=/^(Rule|The base title line)/");
    expect(await axeFindings(page)).toEqual([]);
    await page.keyboard.press("Escape");
    await page.waitForSelector("aside", { state: "detached" });
  });

  it("are searched, and say so where nothing is found", async () => {
    await open("");
    await page.fill('[aria-label="Search pages"]', "cleat brass");
    await page.waitForFunction(() => {
      const pages = Number(document.querySelector("[role=status]")?.textContent?.replace(/\D/g, ""));
      return pages > 0 && pages < 2000;
    });
    await page.fill('[aria-label="Search pages"]', "no such page anywhere");
    await page.waitForSelector("text=No page matches");
    await page.click("role=button[name='Show all pages']");
    await listed(13_806);
  });

  it("are filtered by a field's values, put in order by a heading, and put together", async () => {
    await open("?kind=product");
    await page.focus("text=Where …");
    await page.keyboard.press("Enter");
    await pickCondition(page, "material", "bronze");
    await page.waitForSelector("text=/^Where material is bronze/");
    await page.keyboard.press("Escape");
    await page.focus("role=columnheader[name=/Title/] >> role=button[name='Title']");
    await page.keyboard.press("Enter");
    await page.waitForFunction(() => new URLSearchParams(location.search).get("down") === "1");
    await page.waitForFunction(() => {
      const sizes = [...document.querySelectorAll("[data-column=title] > span:first-child > span:first-child")]
        .slice(0, 5)
        .map((own) => Number(own.textContent));
      return sizes.length === 5 && sizes.every((size, i) => i === 0 || size <= sizes[i - 1]!);
    });
    await page.selectOption('[aria-label="Grouping"]', "rule");
    await page.waitForSelector("[role=row] >> text=/^Brass & bronze fittings/");
    await page.focus("text=Columns");
    await page.keyboard.press("Enter");
    await page.click("role=checkbox[name='finish']");
    await page.keyboard.press("Escape");
    await page.waitForSelector("role=columnheader[name=/finish/]");
    expect(await axeFindings(page)).toEqual([]);
  });

  it("are kept as a view under a name, and found again by it", async () => {
    const kept = new URL(page.url()).search;
    await page.click("text=Views");
    await page.click("text=Save this view");
    await page.keyboard.type("Bronze, widest first");
    await page.keyboard.press("Enter");
    await page.waitForSelector("text=View saved as “Bronze, widest first”");
    await open("");
    await page.click("text=Views");
    await page.click("role=menuitem[name='Bronze, widest first'] >> nth=0");
    await page.waitForFunction((search) => location.search === search, kept);
  });
});

describe("texts by hand", () => {
  it("are written in place with their measure, go down to the next page, and are undone", async () => {
    await open("?kind=product&side=draft");
    await goTo("title");
    const name = await cell(0, "name").locator("span").first().innerText();
    await page.keyboard.type("W");
    await page.waitForSelector('[aria-label="Title by hand"]');
    await page.keyboard.type("idest of all, with words enough that it does not fit in any result page");
    await page.waitForSelector("text=/too wide for Title on desktop results/");
    expect(await axeFindings(page)).toEqual([]);
    await page.keyboard.press("Control+A");
    await page.keyboard.type("Written by hand for one page");
    await page.keyboard.press("Enter");
    await page.waitForSelector('[aria-label="Title by hand"]', { state: "detached" });
    await page.waitForFunction(() =>
      document
        .querySelector("[aria-rowindex='2'] [data-column=title]")
        ?.textContent?.includes("Written by hand for one page"),
    );
    expect(await cell(0, "name").locator("span").first().innerText()).toBe(name);
    expect(await page.getAttribute("[role=grid]", "aria-activedescendant")).toBe("cell-1-2");
    await page.keyboard.press("Control+z");
    await page.waitForFunction(
      () =>
        !document.querySelector("[aria-rowindex='2'] [data-column=title]")?.textContent?.includes("Written by hand"),
    );
    await page.keyboard.press("Control+Shift+z");
    await page.waitForFunction(() =>
      document
        .querySelector("[aria-rowindex='2'] [data-column=title]")
        ?.textContent?.includes("Written by hand for one page"),
    );
    await page.keyboard.press("ArrowUp");
    await page.keyboard.press("Delete");
    await page.waitForFunction(
      () =>
        !document.querySelector("[aria-rowindex='2'] [data-column=title]")?.textContent?.includes("Written by hand"),
    );
  });

  it("are saved where one goes elsewhere, and left as they were by Escape", async () => {
    await open("?kind=product&side=draft");
    await goTo("title");
    const before = await cell(0, "title").innerText();
    await page.keyboard.type("Left by Escape");
    await page.keyboard.press("Escape");
    await page.waitForSelector('[aria-label="Title by hand"]', { state: "detached" });
    expect(await cell(0, "title").innerText()).toBe(before);
    await page.keyboard.type("x");
    await page.locator('[aria-label="Title by hand"]').fill(" ");
    await cell(3, "name").click();
    await page.getByRole("dialog").getByRole("alert").waitFor();
    await page.locator('[aria-label="Title by hand"]').fill("Left by a click");
    await cell(3, "name").click();
    await expect.poll(() => cell(0, "title").innerText()).toContain("Left by a click");
    await page.locator("[data-sonner-toast]").getByRole("button", { name: "Undo" }).first().click();
    await expect.poll(() => cell(0, "title").innerText()).toBe(before);
  });

  it("are written one after another down a list that they leave: none is passed over", async () => {
    await open("?side=draft&findings=title.too-wide");
    const names = await Promise.all([0, 1, 2].map((place) => cell(place, "name").innerText()));
    await goTo("title");
    const nameHere = () =>
      page.evaluate(() => {
        const at = document.querySelector("[role=grid]")?.getAttribute("aria-activedescendant") ?? "";
        return document
          .getElementById(at)
          ?.closest<HTMLElement>("[role=row]")
          ?.querySelector<HTMLElement>("[data-column=name]")?.innerText;
      });
    for (const [i, text] of ["A title that says what it is of", "Another that says more than the name"].entries()) {
      expect(await nameHere()).toBe(names[i]);
      await page.keyboard.type(text);
      await page.keyboard.press("Enter");
      await expect.poll(() => cell(0, "name").innerText()).toBe(names[i + 1]);
    }
    expect(await nameHere()).toBe(names[2]);
    for (const name of [names[1], names[0]]) {
      await page.keyboard.press("Control+z");
      await expect.poll(() => cell(0, "name").innerText()).toBe(name);
    }
    expect(await nameHere()).toBe(names[2]);
  });

  it("lose no letter, space or key that is typed before the editor has come", async () => {
    await open("?kind=product&side=draft");
    const before = [await cell(0, "title").innerText(), await cell(1, "title").innerText()];
    let letThrough = () => {};
    const isFree = new Promise<void>((resolve) => (letThrough = resolve));
    const scripts = "**/_next/static/**/*.js";
    await page.route(scripts, async (route) => {
      await isFree;
      await route.continue();
    });
    await goTo("title");
    const sent = page.waitForRequest("**/api/edits.make");
    await page.keyboard.type("Of spaces  and dotts");
    for (let i = 0; i < 2; i++) await page.keyboard.press("Backspace");
    await page.keyboard.type("s");
    await page.keyboard.press("Enter");
    expect((await sent).postDataJSON()).toMatchObject({ action: { value: "Of spaces  and dots" } });
    await page.keyboard.type("The next one");
    expect(await page.locator("[role=row] [role=checkbox][data-state=checked]").count()).toBe(0);
    letThrough();
    const editor = page.locator('[aria-label="Title by hand"]');
    await expect.poll(() => editor.inputValue().catch(() => "")).toBe("The next one");
    await expect.poll(() => cell(0, "title").innerText()).toContain("Of spaces and dots");
    await page.unroute(scripts);
    await editor.press("Escape");
    await page.keyboard.press("Control+z");
    await expect
      .poll(async () => [await cell(0, "title").innerText(), await cell(1, "title").innerText()])
      .toEqual(before);
  });

  describe("on a slow connection", () => {
    const HELD = "**/api/edits.make";
    const letThrough: ((isLost: boolean) => void)[] = [];
    const titles = async () => [await cell(0, "title").innerText(), await cell(1, "title").innerText()];
    beforeEach(async () => {
      await open("?kind=product&side=draft");
      letThrough.length = 0;
      await page.route(HELD, async (route) => {
        const isLost = await new Promise<boolean>((resolve) => letThrough.push(resolve));
        await (isLost ? route.abort() : route.continue());
      });
      await goTo("title");
      await page.keyboard.type("First by hand");
      await page.keyboard.press("Enter");
      await page.keyboard.type("Second by hand");
    });
    afterEach(() => page.unroute(HELD));
    const undone = async () => {
      await page.keyboard.press("Control+z");
      await expect.poll(titles).not.toEqual(expect.arrayContaining([expect.stringContaining("First by hand")]));
    };

    it("are written one after another without waiting, and what is undone is the last of them", async () => {
      await page.keyboard.press("Enter");
      const both = [expect.stringContaining("First by hand"), expect.stringContaining("Second by hand")];
      expect(await titles()).toEqual(both);
      await page.keyboard.press("Control+z");
      await expect.poll(() => letThrough.length).toBe(1);
      expect(await titles()).toEqual(both);
      letThrough[0]!(false);
      await expect.poll(() => letThrough.length).toBe(2);
      letThrough[1]!(false);
      await expect.poll(titles).toEqual([both[0], expect.not.stringContaining("Second by hand")]);
      await undone();
    });

    it("are saved where only the look at what they did is lost", async () => {
      await page.keyboard.press("Escape");
      await page.route("**/api/site.state", (route) => route.abort());
      await expect.poll(() => letThrough.length).toBe(1);
      letThrough[0]!(false);
      await page.locator("[data-sonner-toast]", { hasText: "Undo" }).first().waitFor();
      await page.unroute("**/api/site.state");
      expect(await page.locator('[aria-label="Title by hand"]').count()).toBe(0);
      expect((await titles())[0]).toContain("First by hand");
      await undone();
    });

    it("stand in the editor again where they are lost on the way, and do not take away what is typed meanwhile", async () => {
      await expect.poll(() => letThrough.length).toBe(1);
      letThrough[0]!(true);
      const message = page.locator("[data-sonner-toast]", { hasText: "was not saved" });
      await message.getByText("First by hand").waitFor();
      const copy = message.getByRole("button", { name: "Copy it" });
      await copy.waitFor();
      const editor = page.locator('[aria-label="Title by hand"]');
      expect(await editor.inputValue()).toBe("Second by hand");
      await editor.press("Enter");
      await expect.poll(() => letThrough.length).toBe(2);
      letThrough[1]!(true);
      await expect.poll(() => editor.inputValue().catch(() => "closed")).toBe("Second by hand");
      await editor.press("Escape");
      expect((await titles()).join()).not.toMatch(/by hand/);
      await page.context().grantPermissions(["clipboard-read", "clipboard-write"]);
      await copy.click();
      await expect.poll(() => page.evaluate(() => navigator.clipboard.readText())).toBe("First by hand");
    });
  });

  it("are pasted as a column, tidied, or refused in words", async () => {
    await open("?kind=category&side=draft");
    await goTo("title");
    const paste = (text: string) =>
      page.evaluate((value) => {
        const data = new DataTransfer();
        data.setData("text/plain", value);
        document
          .querySelector("[role=grid]")!
          .dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true }));
      }, text);
    await paste('Pasted first\t1\r\n"Pasted\nsecond \u202e"\t2\r\n');
    await page.waitForSelector("text=Edit 2 pages");
    await page.waitForSelector("text=/^2 change, 0 stay/");
    await page.click("text=Change 2 pages");
    await page.waitForFunction(() =>
      document.querySelector("[aria-rowindex='3'] [data-column=title]")?.textContent?.includes("Pasted second"),
    );
    await goTo("title");
    await page.keyboard.press("Escape");
    await paste("x".repeat(1_100_000));
    await page.waitForSelector("text=/more than a megabyte|at most 2,000/");
    await page.keyboard.press("Control+z");
    await page.waitForFunction(
      () => !document.querySelector("[aria-rowindex='3'] [data-column=title]")?.textContent?.includes("Pasted second"),
    );
  });

  it("come of finding and replacing over the whole filtered set, seen before, as one step", async () => {
    await open("?kind=product&side=draft&search=halyard");
    const total = Number((await page.locator("[role=status]").first().innerText()).replace(/\D/g, ""));
    await page.focus("[role=grid]");
    await page.keyboard.press("Control+a");
    await page.waitForSelector(`text=${total.toLocaleString("en")} pages selected`);
    await page.click("text=Find and replace …");
    await page.keyboard.type("halyard");
    await page.fill("text=Replace with >> .. >> input", "hoisting line");
    await page.waitForSelector("aside ins >> text=hoisting");
    expect(await axeFindings(page)).toEqual([]);
    const change = page.locator("aside >> role=button[name=/^Change/]");
    const changes = Number((await change.innerText()).replace(/\D/g, ""));
    expect(changes).toBeGreaterThan(100);
    await change.click();
    await page.waitForFunction(
      () => document.querySelector("[aria-rowindex='2'] [data-column=title]")?.textContent?.includes("hoisting line"),
      undefined,
      { timeout: 30_000 },
    );
    await page.goto(`${app.url}/review?group=written`);
    await page.waitForSelector(`[data-group=written] >> text=${changes.toLocaleString("en")}`);
    await open("?kind=product&side=draft&search=halyard");
    await page.click("role=button[name='Undo']");
    await page.waitForFunction(
      () => !document.querySelector("[aria-rowindex='2'] [data-column=title]")?.textContent?.includes("hoisting line"),
      undefined,
      { timeout: 30_000 },
    );
  });

  it("stand beside keywords and robots settings, set for many pages at once", async () => {
    await open("?kind=category&columns=name+keyword+robots+findings");
    await goTo("keyword");
    for (let i = 0; i < 2; i++) await page.keyboard.press("Shift+ArrowDown");
    await page.waitForSelector("text=3 pages selected");
    await page.click("text=Set …");
    await page.keyboard.type("chandlery goods");
    await page.click("text=/^Change [23] pages$/");
    await page.waitForFunction(() =>
      [2, 3, 4].every(
        (row) =>
          document.querySelector(`[aria-rowindex='${row}'] [data-column=keyword]`)?.textContent === "chandlery goods",
      ),
    );
    await page.waitForFunction(() =>
      document
        .querySelector("[aria-rowindex='2'] [data-column=findings]")
        ?.textContent?.includes("keyword shared with another page"),
    );
    await goTo("robots");
    await page.keyboard.press("Enter");
    await page.click("role=button[name='noindex, follow']");
    await page.waitForFunction(() =>
      document
        .querySelector("[aria-rowindex='2'] [data-column=robots]")
        ?.textContent?.includes("noindex, followby hand"),
    );
  });
});

describe("an edit of many pages", () => {
  it("does nothing that nobody chose: a setting, clearing and letting go are not armed when the panel opens", async () => {
    await open("?kind=category&columns=name+keyword+robots");
    await goTo("keyword");
    for (let i = 0; i < 2; i++) await page.keyboard.press("Shift+ArrowDown");
    await page.click("text=Set …");
    const panel = page.locator("[aria-label='Edit the selected pages']");
    const change = panel.locator("role=button[name=/^Change/]");
    const of = panel.locator("select").first();
    expect(await change.isDisabled()).toBe(true);
    await of.selectOption("robots");
    expect(await panel.getByLabel("Setting").inputValue()).toBe("");
    expect(await change.isDisabled()).toBe(true);
    await panel.locator("role=radio[name='By hand or not']").click();
    for (const field of ["title", "robots"]) {
      await of.selectOption(field);
      expect(await panel.locator("input[type=radio]:checked").count()).toBe(0);
      expect(await change.isDisabled()).toBe(true);
    }
    await panel.locator("role=radio[name='Set']").click();
    await of.selectOption("keyword");
    await panel.getByLabel("Clear it: the pages will have none").check();
    expect(await panel.getByLabel("Keyword for all of them").isDisabled()).toBe(true);
    await panel.locator("text=/^[23] change, [01] stay/").waitFor();
    expect(await axeFindings(page)).toEqual([]);
    await change.click();
    await page.waitForFunction(() =>
      [2, 3, 4].every(
        (row) => document.querySelector(`[aria-rowindex='${row}'] [data-column=keyword]`)?.textContent === "none",
      ),
    );
  });
});

describe("findings", () => {
  it("are gone when a rule mends them", async () => {
    await open("?side=draft");
    const [, before] = await counts("title.too-wide");
    await page.goto(`${app.url}/bench?kind=product&text=title`);
    await page.waitForSelector("[role=option] [data-proof]");
    await page.click('[aria-label="Title line"]');
    await page.keyboard.press("Control+A");
    await page.keyboard.insertText("{name:words(4)}[ – {id}]^apart");
    await draftStored(app.url, page, "product", "{name:words(4)}[ – {id}]^apart");
    await open("?side=draft");
    const [, after] = await counts("title.too-wide");
    expect(after).toBeLessThan(before!);
  });
});
