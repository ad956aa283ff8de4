import { readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { advanceUnits, unitsToPx } from "../core/measure/advance";
import { fontById } from "../core/measure/font";
import { type App, axeFindings, startApp } from "./app";
import { ask, drawn } from "./calls";

let app: App;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
}, 120_000);
afterAll(() => app.close());

const LINE = '[aria-label="Title line"]';
const figure = async (name: string) =>
  Number((await page.locator(`[data-figure="${name}"] b`).innerText()).replace(/,/g, ""));

async function typeLine(text: string): Promise<void> {
  await page.click(LINE);
  await page.keyboard.press("Control+A");
  await page.keyboard.insertText(text);
}

const expectNoAxeFindings = () => axeFindings(page).then((found) => expect(found).toEqual([]));

describe("from the board to a run and back", () => {
  it("shows the nine lines with real figures", async () => {
    await page.goto(app.url);
    await page.waitForSelector("text=Nine lines for 13,806 pages");
    await page.waitForSelector('[data-cell="product-title"] >> text=too wide');
    expect(await page.locator("[data-cell]").count()).toBe(9);
    await expectNoAxeFindings();
  });

  it("opens the Bench at a cell by keyboard", async () => {
    await page.focus('[data-cell="post-title"]');
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Enter");
    await page.waitForURL(/bench\?kind=product&text=title/);
    await page.waitForSelector("[role=option] [data-proof]");
    await expectNoAxeFindings();
  });

  it("sets rows as wide as the core says they are", async () => {
    const rows = await page.$$eval("[role=option] [data-proof]", (spans) =>
      spans.map((span) => ({ text: span.getAttribute("data-proof")!, width: span.getBoundingClientRect().width })),
    );
    expect(rows.length).toBeGreaterThan(5);
    const font = fontById("arimo-400");
    // Emoji are estimated and come from whatever font the machine has; all others must agree.
    const misses = rows
      .filter(({ text }) => !/\p{Extended_Pictographic}/u.test(text))
      .filter(({ text, width }) => Math.abs(unitsToPx(font, advanceUnits(font, text), 20) - width) > 0.1);
    expect(misses).toEqual([]);
  });

  it("shows a typed line on the rows and in the whole set's figures", async () => {
    await typeLine("{name} by Fennick and Dray, chandlers to the coast since long ago");
    await page.waitForFunction(() =>
      document.querySelector("[role=option] [data-proof]")?.textContent?.includes("chandlers to the coast"),
    );
    await page.waitForFunction(
      () => Number(document.querySelector('[data-figure="title-too-wide"] b')?.textContent?.replace(/,/g, "")) > 7000,
    );
    const wide = await figure("title-too-wide");
    await typeLine("{name}[ by Fennick and Dray, chandlers to the coast since long ago]");
    await page.waitForFunction(
      (before) =>
        Number(document.querySelector('[data-figure="title-too-wide"] b')?.textContent?.replace(/,/g, "")) < before,
      wide,
    );
    expect(await figure("title-too-wide")).toBeLessThan(2000);
  });

  it("says in words what is wrong with a line, and completes fields with real values", async () => {
    await typeLine("{nmae}");
    await page.waitForSelector("text=did you mean “name”?");
    await page.click(LINE);
    await page.keyboard.press("Control+A");
    await page.keyboard.type("{name} {mate");
    await page.waitForSelector(".cm-tooltip-autocomplete >> text=material");
    await page.keyboard.press("Tab");
    const line = () => page.locator(LINE).innerText();
    await expect.poll(line).toBe("{name} {material}");
    await page.keyboard.press("Control+Z");
    await expect.poll(line).not.toBe("{name} {material}");
  });

  it("keeps the state of the view in the address bar, and the draft over a reload", async () => {
    await typeLine("{name}[ – {category}]^1[ – {colour}]^apart[ – {id}]^apart");
    await page.click("role=radio[name=Shortest]");
    await page.selectOption('[aria-label="Show"]', "changed");
    await page.locator("[role=option]").nth(2).click();
    await page.waitForURL(/sort=shortest.*filter=changed.*item=\d+/);
    await page.waitForSelector("[data-draft=stored]");
    const heading = await page.locator('[aria-label="The page"] h2').innerText();
    await page.reload();
    await page.waitForSelector("[role=option] [data-proof]");
    expect(await page.locator(LINE).innerText()).toBe("{name}[ – {category}]^1[ – {colour}]^apart[ – {id}]^apart");
    await page.waitForFunction((h) => document.querySelector('[aria-label="The page"] h2')?.textContent === h, heading);
    expect(await page.getAttribute("role=radio[name=Shortest]", "aria-checked")).toBe("true");
  });

  it("chooses rows by arrow keys", async () => {
    await page.focus("[role=listbox]");
    /** The row at a place is chosen, and the address names its page. */
    const isChosen = async (place: number) => {
      const row = page.locator(`[role=option][aria-posinset="${place}"][aria-selected=true]`);
      const id = (await row.getAttribute("id"))!.slice("row-".length);
      await page.waitForURL(new RegExp(`item=${id}$`));
    };
    await page.keyboard.press("Home");
    await isChosen(1);
    await page.keyboard.press("ArrowDown");
    await isChosen(2);
  });

  it("says in words what differs from live", async () => {
    await page.waitForSelector("text=/titles.* differ from live/");
  });

  it("lists the changes in groups, leaves out what gets worse, and takes single ones out", async () => {
    await page.click("role=link[name=Review]");
    await page.waitForSelector("text=Review before applying");
    await page.waitForSelector('[data-group="shorter"]');
    expect(await page.getAttribute('[aria-label="Include: Gets worse"]', "data-state")).toBe("unchecked");
    expect(await page.isDisabled('[aria-label="Include: Set by hand"]')).toBe(true);
    const applied = async () =>
      Number(
        /Apply ([\d,]+)/.exec(await page.locator("text=/Apply [\\d,]+ change/").innerText())![1]!.replace(/,/g, ""),
      );
    const before = await applied();
    await page.locator("[role=row] [role=checkbox]").first().click();
    await page.waitForFunction(
      (n) => Number(/Apply ([\d,]+)/.exec(document.body.innerText)?.[1]?.replace(/,/g, "")) === n - 1,
      before,
    );
    // Links know the old addresses: they move only when somebody says so.
    expect(await page.getAttribute('[aria-label="Include: Address moves"]', "data-state")).toBe("unchecked");
    await page.click('[aria-label="Include: Address moves"]');
    await page.waitForFunction(
      (n) => Number(/Apply ([\d,]+)/.exec(document.body.innerText)?.[1]?.replace(/,/g, "")) > n + 5000,
      before,
    );
    await page.click('[aria-label="Include: Address moves"]');
    await page.waitForFunction(
      (n) => Number(/Apply ([\d,]+)/.exec(document.body.innerText)?.[1]?.replace(/,/g, "")) === n - 1,
      before,
    );
    await page.click('[aria-label="Include: Address moves"]');
    await expectNoAxeFindings();
  });

  it("applies with progress and lists the run", async () => {
    await page.click("text=/Apply [\\d,]+ changes …/");
    await page.waitForSelector("[role=dialog] >> text=/addresses move, .* each gets a redirect/");
    await expectNoAxeFindings();
    await page.keyboard.type("Spring lines");
    // Pressed twice it is one run.
    await page.locator("[role=dialog] button[type=submit]").dblclick();
    await page.waitForURL(/runs\/1$/);
    await page.waitForSelector("text=/Done: [\\d,]+ changes/", { timeout: 60_000 });
    expect(await page.locator("h1").innerText()).toBe("Run 1\nSpring lines");
    await page.waitForSelector("[role=row] ins");
    // Each row says which page it is of, and leads to it.
    const of = page.locator("[role=grid][aria-label='Changes of the run'] [role=row] a").first();
    const name = await of.innerText();
    await of.click();
    await page.waitForURL(/pages\?item=/);
    await page.waitForSelector(`aside[aria-label="The page"] >> text=${JSON.stringify(name)}`);
    await page.goBack();
    await page.waitForSelector("[role=row] ins");
    await expectNoAxeFindings();
    await page.click("role=link[name=Runs]");
    await page.waitForSelector("role=link[name=/^Run 1/]");
    await page.waitForSelector("text=Spring lines");
    expect((await ask(app.url, "runs.list", {})).runs).toHaveLength(1);
    await expectNoAxeFindings();
  });

  it("takes the run's changes out as CSV", async () => {
    await page.click("role=link[name=/^Run 1/]");
    const [download] = await Promise.all([page.waitForEvent("download"), page.click("text=Changes as CSV")]);
    const text = readFileSync(await download.path(), "utf8");
    expect(text.split("\r\n")[0]).toContain("before,after");
    expect(text.split("\r\n").length).toBeGreaterThan(10_000);
  });

  it("takes the run back", async () => {
    await page.click("role=button[name='Undo']");
    await page.waitForURL(/runs\/2$/);
    await page.waitForSelector("text=Done: run 1 is undone", { timeout: 60_000 });
    await page.goto(`${app.url}/`);
    await page.waitForSelector("text=undone");
  });
});

describe("bringing in a file", () => {
  it("takes a first look, guesses, is corrected, and brings the good rows in", async () => {
    const file = join(tmpdir(), `lots-${process.pid}.csv`);
    writeFileSync(
      file,
      'ID;Address;H1;Meta title;Sold by\n90001;/lots/oak-oar;"Oak oar; pair";"Oak oar, pair";pair\n90002;not an address;Bad row;x;y\n90003;/lots/ash-oar;Ash oar;;piece\n',
    );
    await page.goto(`${app.url}/import`);
    await page.setInputFiles("#file", file);
    await page.waitForSelector("text=columns separated by semicolons");
    expect(await page.inputValue('[aria-label="What “H1” is"]')).toBe("name");
    expect(await page.inputValue('[aria-label="What “Meta title” is"]')).toBe("title");
    expect(await page.inputValue('[aria-label="What “Sold by” is"]')).toBe("attribute");
    const forecast = page.locator('[aria-label="What the import would do"]');
    const told = (words: string) => expect.poll(() => forecast.innerText()).toContain(words);
    await told("3 rows: 2 new, 0 changed, 0 the same, 1 rejected");
    await forecast.getByText("Rejected rows, and why").click();
    await told("Line 3: “not an address” is no address");
    // With another mapping it would do something else.
    await page.selectOption('[aria-label="What “Address” is"]', "attribute");
    await told("3 rows: 3 new, 0 changed, 0 the same, 0 rejected");
    await page.selectOption('[aria-label="What “Address” is"]', "address");
    await told("3 rows: 2 new");
    await expectNoAxeFindings();
    await page.click("text=Import these pages");
    await page.waitForSelector("text=is imported");
    await page.waitForSelector("text=1 rejected row with reasons");
    const [download] = await Promise.all([
      page.waitForEvent("download"),
      page.click("text=1 rejected row with reasons"),
    ]);
    const refused = readFileSync(await download.path(), "utf8");
    expect(refused).toContain("3,“not an address” is no address");
    await page.goto(`${app.url}/bench?kind=product&text=title&search=oak+oar`);
    await page.waitForSelector("text=Oak oar; pair");
    await page.goto(`${app.url}/import`);
    await page.setInputFiles("#file", file);
    await told("3 rows: 0 new, 0 changed, 2 the same, 1 rejected");
    await page.waitForSelector("text=Columns are mapped as for the last file with these headings");
  });

  it("shows the file that was chosen last, though the answer about one before it comes later", async () => {
    await page.goto(`${app.url}/import`);
    let letThrough = () => {};
    const isLater = new Promise<void>((resolve) => (letThrough = resolve));
    await page.route("**/api/files/pages?name=first.csv", async (route) => {
      const response = await route.fetch();
      await isLater;
      await route.fulfill({ response });
    });
    const file = (name: string, content: string) => ({ name, mimeType: "text/csv", buffer: Buffer.from(content) });
    const answered = page.waitForResponse("**/api/files/pages?name=first.csv");
    await page.setInputFiles("#file", file("first.csv", "id,address,name\n1,/first,First\n"));
    await page.setInputFiles("#file", file("second.csv", "id;address;name\n2;/second;Second\n"));
    await page.waitForSelector("text=columns separated by semicolons");
    letThrough();
    await (await answered).finished();
    await drawn(page);
    expect(await page.locator("[role=status]").getByText("second.csv").count()).toBe(1);
    expect(await page.getByText("first.csv").count()).toBe(0);
    await page.unrouteAll();
  });

  it("begins once, however often its button is pressed", async () => {
    await page.goto(`${app.url}/import`);
    let letThrough = () => {};
    const isPressed = new Promise<void>((resolve) => (letThrough = resolve));
    let begun = 0;
    await page.route("**/api/exchange.bringIn", async (route) => {
      begun++;
      await isPressed;
      await route.continue();
    });
    const content = "id,address,name\n90005,/lots/yew-oar,Yew oar\n";
    await page.setInputFiles("#file", { name: "once.csv", mimeType: "text/csv", buffer: Buffer.from(content) });
    const button = page.getByRole("button", { name: "Import these pages" });
    await button.click();
    await expect.poll(() => begun).toBe(1);
    await button.click({ force: true, timeout: 1000 }).catch(() => {});
    letThrough();
    await page.waitForSelector("text=once.csv is imported");
    expect(begun).toBe(1);
    await page.unrouteAll();
  });

  it("takes a table that was copied from a spreadsheet", async () => {
    await page.goto(`${app.url}/import`);
    await page.waitForSelector("text=or paste a table");
    await page.evaluate((text) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData("text/plain", text);
      document.body.dispatchEvent(new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }));
    }, "sku\taddress\tH1\n90001\t/lots/oak-oar\tOak oar; pair\n90004\t/lots/elm-oar\tElm oar\n");
    await page.waitForSelector("text=columns separated by tabs");
    const forecast = page.locator('[aria-label="What the import would do"]');
    await expect.poll(() => forecast.innerText()).toContain("2 rows: 1 new, 0 changed, 1 the same");
  });

  it.each([
    ["empty.csv", "", "is empty"],
    ["picture.csv", "\u0000\u0001\u0002PNG\u0000\u0000", "no CSV"],
    ["wide.csv", `${"a,".repeat(60_000)}a\n1\n`, "columns"],
  ])("says what is wrong with %s", async (name, content, words) => {
    const file = join(tmpdir(), `${process.pid}-${name}`);
    writeFileSync(file, content);
    await page.goto(`${app.url}/import`);
    await page.setInputFiles("#file", file);
    await page.waitForSelector(`[role=alert] >> text=${words}`);
  });
});
