import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { kindIds } from "../core/design/kinds";
import { type App, axeFindings, startApp } from "./app";
import { ask, draftStored, send } from "./calls";

let app: App;
let page: Page;
let own: string;
beforeAll(async () => {
  app = await startApp();
  const made = await send<{ id: string }>(new URL("/", app.url).origin, "/api/sites.make", {
    name: "Quill & Ferrow",
    baseUrl: "https://quillferrow.example",
    language: "en",
  });
  own = new URL(made.body.id, app.url).href;
  page = await app.page();
}, 180_000);
afterAll(() => app.close());

const folder = mkdtempSync(join(tmpdir(), "nine-lines-kinds-"));
const HEADER = "Type,ID,URL,Name,Title";
const ROWS = [
  "home,h1,/,Quill & Ferrow,Home",
  "page,p1,/about,About the bindery,About",
  "tag,t1,/tag/marbling,Marbling,Marbling posts",
  "author,a1,/people/ida,Ida Quill,Ida",
  "category,c1,/shop/papers,Papers,Papers",
  "product,1,/shop/papers/linen,Linen paper,Linen paper now",
  "product,2,/shop/papers/cotton,Cotton paper,Cotton paper now",
  "post,9,/journal/sewing,How we sew a book,Sewing",
];

async function bringIn(name: string, rows: readonly string[], isAll = false): Promise<void> {
  const file = join(folder, name);
  writeFileSync(file, [HEADER, ...rows].join("\n"));
  await page.goto(`${own}/import`);
  await page.setInputFiles("#file", file);
  await page.waitForSelector(`text=${rows.length} rows`);
  if (isAll) await page.getByLabel(/These are all/).check();
  await page.click("text=Import these pages");
  await page.waitForSelector(`text=${name} is imported`);
}

describe("a site with every kind of page", () => {
  it("has all of them on the Board and the Bench, with lines of their own", async () => {
    await bringIn("all.csv", ROWS);
    await page.click("role=button[name='Go to the Board']");
    await page.waitForSelector("text=Nine lines for 8 pages");
    expect(await page.locator("[data-cell]").count()).toBe(3 * kindIds(null).length - 1);
    await page.click("text=see suggested lines for your pages");
    await page.waitForSelector("role=button[name='Use these as drafts']");
    expect(await axeFindings(page)).toEqual([]);
    await page.locator("[aria-label='Suggested lines'] input[type=checkbox]:enabled").first().waitFor();
    expect(await page.locator("[aria-label='Suggested lines'] input[type=checkbox]:enabled").count()).toBe(1);
    await page.click("role=button[name='Use these as drafts']");
    await page.waitForSelector("[data-next=review]");
    const { drafts } = await ask(own, "site.state", {});
    expect(drafts.product!.design.base).toEqual({ title: "{name}[ – {site}]^1" });
    await page.click("[data-cell=home-title]");
    await page.getByLabel("Title by hand").fill("Quill & Ferrow, bookbinders");
    await page.keyboard.press("Enter");
    await page.waitForSelector("[data-cell=home-title]:has-text('bookbinders')");
    await expect.poll(() => page.evaluate(() => document.activeElement?.getAttribute("data-cell"))).toBe("home-title");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("role=link[name='its line'] >> nth=0");
    await page.waitForURL("**/bench?kind=home&text=title");
    expect(await page.locator("[role=tab]", { hasText: "Home page" }).getAttribute("aria-selected")).toBe("true");
    expect(await page.locator('[aria-label="Slug line"]').count()).toBe(0);
    await page.click("role=tab[name=/tag/i]");
    await page.click('[aria-label="Title line"]');
    await page.keyboard.insertText("All about {name}");
    await draftStored(own, page, "tag", "All about");
  });

  it("applies and takes back what their lines change", async () => {
    await page.goto(`${own}/review`);
    await page.waitForSelector("text=Quill & Ferrow, bookbinders");
    await page.click("text=Reworded");
    await page.waitForSelector("text=All about Marbling");
    const changed = () => ask(own, "site.state", {}).then(({ lastRun }) => lastRun?.applied ?? 0);
    await page.click("role=button[name=/^Apply/]");
    await page.locator("[role=dialog] >> role=button[name=/^Apply/]").click();
    await page.waitForURL("**/runs/1");
    await expect.poll(changed).toBe(4);
    await page.waitForSelector("text=Quill & Ferrow, bookbinders");
  });
});

describe("pages that are exported", () => {
  it("come as a workbook under the names that were chosen, kept for the next time, and in again without a change", async () => {
    await page.goto(`${own}/pages`);
    await page.click("text=Export …");
    await page.waitForSelector("role=heading[name='Export 8 pages of the list']");
    expect(await axeFindings(page)).toEqual([]);
    await page.getByLabel("XLSX").check();
    await page.getByLabel("Only pages the drafts change").uncheck();
    await page.getByLabel("kind", { exact: true }).check();
    await page.getByLabel("Name in the file for id").fill("SKU");
    const download = page.waitForEvent("download");
    await page.click("[role=dialog] button[type=submit]");
    const file = join(folder, "pages.xlsx");
    await (await download).saveAs(file);
    await page.goto(`${own}/import`);
    await page.setInputFiles("#file", file);
    await page.waitForSelector("text=XLSX, sheet “Pages”");
    await page.getByLabel("What “title_before” is").selectOption("skip");
    await page.getByLabel("What “description_before” is").selectOption("skip");
    await page.waitForSelector("text=8 rows: 0 new, 0 changed, 8 the same, 0 rejected");
    await page.goto(`${own}/pages`);
    await page.click("text=Export …");
    expect(await page.getByLabel("Name in the file for id").inputValue()).toBe("SKU");
    expect(await page.getByLabel("XLSX").isChecked()).toBe(true);
    await page.keyboard.press("Escape");
  });
});

describe("the list as it stands", () => {
  it("comes as a file with its columns in its order, and so does any field of the pages", async () => {
    const columns = ["title", "name", "findings"];
    await page.goto(`${own}/pages?${new URLSearchParams({ columns: columns.join(" "), sort: "title-words" })}`);
    await page.locator("[role=gridcell]").first().waitFor();
    const shown = await page.locator("[data-column=name] > span:first-child").allInnerTexts();
    const taken = async () => {
      const download = page.waitForEvent("download");
      await page.click("[role=dialog] button[type=submit]");
      const file = join(folder, "list.csv");
      await (await download).saveAs(file);
      return parse(readFileSync(file), { bom: true }) as string[][];
    };
    await page.click("text=Export …");
    await page.getByLabel("CSV", { exact: true }).check();
    await page.getByLabel("The list as it stands").check();
    await page.getByText("id, title_before, title, name, address, findings_before").waitFor();
    const [header, ...rows] = await taken();
    expect(header!.slice(0, 6)).toEqual(["id", "title_before", "title", "name", "address", "findings_before"]);
    expect(rows.map((row) => row[3])).toEqual(shown);
    await page.click("text=Export …");
    await page.getByLabel("One row per page").check();
    await page.getByLabel("Add a field of the pages").selectOption("intro");
    expect(await page.getByLabel("Name in the file for intro").inputValue()).toBe("intro");
    expect((await taken())[0]).toContain("intro");
  });
});

describe("pages that a file does not have", () => {
  it("are gone when it is said to have all, told before and after, and listed", async () => {
    const less = ROWS.filter((row) => !row.startsWith("product,2")).map((row) =>
      row.replace("Linen paper now", "Linen paper for books"),
    );
    await bringIn("less.csv", less, true);
    await page.waitForSelector("text=1 page not in the file, marked as gone");
    await page.goto(own);
    await page.waitForSelector("text=Nine lines for 7 pages");
    await page.goto(`${own}/pages`);
    await page.waitForSelector("text=Linen paper");
    expect(await page.locator("text=Cotton paper").count()).toBe(0);
    await page.getByLabel("Filter by status").selectOption("gone");
    await page.waitForURL("**/pages/gone");
    await page.waitForSelector("text=Cotton paper");
    expect(await axeFindings(page)).toEqual([]);
  });

  it("come back when the bringing in is undone, with what else it changed", async () => {
    await page.goto(`${own}/runs`);
    await page.click("role=link[name='less.csv']");
    await page.waitForSelector("text=gone: not in the file");
    await page.waitForSelector("text=Linen paper for books");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("role=button[name='Undo']");
    await page.waitForSelector("text=Undone >> nth=0");
    await expect.poll(() => ask(own, "site.state", {}).then(({ counts }) => counts.product)).toBe(2);
    await page.goto(`${own}/pages`);
    await page.waitForSelector("text=Cotton paper");
    await page.waitForSelector("text=Linen paper – Quill & Ferrow");
  });

  it("answer that they are gone for good, where that is asked", async () => {
    await bringIn("less again.csv", ROWS.slice(0, 6), true);
    await page.goto(`${own}/pages/gone`);
    await page.click("role=button[name='Answer 410 Gone for it']");
    await page.waitForSelector("text=1 address is gone for good in the redirects");
    const { pages } = await ask(own, "items.gone", { after: 0, search: "" });
    expect(await ask(own, "redirects.way", { path: pages[0]!.path! })).toMatchObject({ to: null, status: 410 });
  });

  it("are deleted for good only with their number typed", async () => {
    await page.goto(`${own}/pages/gone`);
    await page.click("role=button[name='Delete it for good …']");
    await page.keyboard.insertText("3");
    expect(await page.locator("role=button[name='Delete for good']").isDisabled()).toBe(true);
    await page.keyboard.press("Backspace");
    await page.keyboard.insertText("1");
    await page.click("role=button[name='Delete for good']");
    await page.waitForSelector("text=No page is gone.");
    expect((await ask(own, "items.gone", { after: 0, search: "" })).total).toBe(0);
  });
});

describe("kinds of the site’s own", () => {
  it("are made while a file is brought in, and have lines like all others", async () => {
    const file = join(folder, "own.csv");
    const rows = [
      "Recipe,r1,/make/paste,Wheat paste,Paste",
      "Recipe,r2,/make/size,Gelatine size,Size",
      "Search,s1,/find,Find,Find",
    ];
    writeFileSync(file, [HEADER, ...rows, "Tutorial,t9,/journal/fold,How to fold,Fold"].join("\n"));
    await page.goto(`${own}/import`);
    await page.setInputFiles("#file", file);
    await page.waitForSelector("text=Kinds of page this site does not have yet");
    await page.waitForSelector("text=4 rows: 0 new, 0 changed, 0 the same, 4 rejected");
    await page.getByLabel("What “Recipe” is").selectOption({ label: "a new kind of page" });
    await page.getByLabel("What “Search” is").selectOption({ label: "a new kind of page" });
    await page.getByLabel("What “Tutorial” is").selectOption({ label: "another name for posts" });
    await page.getByLabel("one is a").last().fill("search page");
    await page.keyboard.press("Enter");
    await page.waitForSelector("text=4 rows: 4 new");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("text=Import these pages");
    await page.waitForSelector("text=own.csv is imported");
    const { counts } = await ask(own, "site.state", {});
    expect(counts).toMatchObject({ recipe: 2, search: 1 });
    await page.click("role=button[name='Go to the Board']");
    await page.click("[data-cell=recipe-title]");
    await page.waitForURL("**/bench?kind=recipe&text=title");
    await page.click('[aria-label="Title line"]');
    await page.keyboard.insertText("{name} step by step");
    await draftStored(own, page, "recipe", "step by step");
    await page.goto(`${own}/review?group=reworded`);
    await page.waitForSelector("text=Wheat paste step by step");
    await page.goto(`${own}/pages?kind=recipe`);
    await page.waitForSelector("text=Gelatine size");
    expect(await page.locator("text=How to fold").count()).toBe(0);
  });

  it("are called as the settings say, at once, and stay as long as they have pages", async () => {
    await page.goto(`${own}/settings?topic=kinds`);
    await page.getByLabel("Word for several pages of recipe").fill("instructions");
    expect(await page.locator("role=button[name='Remove recipe']").count()).toBe(0);
    expect(await axeFindings(page)).toEqual([]);
    await page.click("role=button[name='Save settings']");
    await page.waitForSelector("text=Settings saved");
    await page.goto(own);
    await page.waitForSelector("role=heading[name='instructions']");
    await page.waitForSelector("role=heading[name='search page']");
    await page.click("[data-cell=search-title]");
    await page.getByLabel("Title by hand").fill("Find a paper, a tool or a book");
    await page.keyboard.press("Enter");
    await page.waitForSelector("[data-cell=search-title]:has-text('Find a paper')");
  });

  it("have one page or several as the switch says: a second home page comes in only without it", async () => {
    const second = ["home,h2,/en,Quill & Ferrow in English,Home in English"];
    const file = join(folder, "homes.csv");
    writeFileSync(file, [HEADER, ...second].join("\n"));
    const bring = async () => {
      await page.goto(`${own}/import`);
      await page.setInputFiles("#file", file);
    };
    await bring();
    await page.waitForSelector("text=1 row: 0 new, 0 changed, 0 the same, 1 rejected");
    await page.goto(`${own}/settings?topic=kinds`);
    await page.getByLabel("One page at most: home pages").uncheck();
    await page.click("role=button[name='Save settings']");
    await page.waitForSelector("text=Settings saved");
    await bring();
    await page.waitForSelector("text=1 row: 1 new, 0 changed, 0 the same, 0 rejected");
    await page.click("text=Import these pages");
    await page.waitForSelector("text=homes.csv is imported");
    // Several are designed by lines, like pages of any kind.
    await page.goto(own);
    await page.click("[data-cell=home-title]");
    await page.waitForURL("**/bench?kind=home&text=title");
    await page.goto(`${own}/settings?topic=kinds`);
    expect(await page.getByLabel("One page at most: home pages").isDisabled()).toBe(true);
  });
});

describe("gone pages that were searched for", () => {
  it("are those that come back, and no others; what was typed since does not change which", async () => {
    const sheets = ["Marbled", "Pasted", "Plain"].map((name, i) => `product,s${i},/sheets/${i},${name} sheets,Sheets`);
    await bringIn("sheets.csv", [...ROWS.slice(4, 6), ...sheets]);
    await bringIn("no sheets.csv", ROWS.slice(4, 6), true);
    await page.goto(`${own}/pages/gone`);
    await page.waitForSelector("role=button[name='Restore all 3']");
    await page.getByLabel("Search the gone pages").fill("p");
    await page.waitForSelector("role=button[name='Restore the 2 found']");
    let letThrough = () => {};
    const isFree = new Promise<void>((resolve) => (letThrough = resolve));
    await page.route("**/api/items.gone", async (route) => {
      await isFree;
      await route.continue();
    });
    await page.getByLabel("Search the gone pages").fill("marbled");
    const sent = page.waitForRequest("**/api/items.bringBack");
    await page.click("role=button[name='Restore the 2 found']");
    expect((await sent).postDataJSON()).toEqual({ pages: { search: "p" } });
    await page.waitForSelector("text=2 pages are back");
    letThrough();
    await page.waitForSelector("role=button[name='Restore it']");
    const { pages } = await ask(own, "items.gone", { after: 0, search: "" });
    expect(pages.map(({ name }) => name)).toEqual(["Marbled sheets"]);
    await page.unrouteAll();
    await page.getByLabel("Search the gone pages").fill("");
  });
});
