import { readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type LinesFile } from "../core/design/design";
import { type App, axeFindings, startApp, pickCondition, contrastOf } from "./app";
import { ask, draftStored } from "./calls";

let app: App;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
  await page.goto(`${app.url}/bench?kind=product&text=title`);
  await page.waitForSelector("[role=option] [data-proof]", { timeout: 60_000 });
}, 180_000);
afterAll(() => app.close());

const TITLE = '[aria-label="Title line"]';
const cards = () => page.$$eval("[data-card]", (all) => all.map((card) => card.querySelector("b")!.textContent!));
const card = (name: string) => page.locator("[data-card]", { has: page.locator(`b:text-is("${name}")`) });
const number = (text: string) => Number(text.replace(/\D/g, ""));
const share = async (name: string) => number(await card(name).locator("b + span").innerText());
const stored = (typed = "") => draftStored(app.url, page, "product", typed);

describe("rules on the Bench, by keyboard", () => {
  it("say how many pages each takes, and which can never win", async () => {
    expect(await cards()).toEqual([
      "Rope sold by the metre",
      "Brass & bronze fittings",
      "Clearance",
      "Bronze cleats",
      "Everything else",
    ]);
    let sum = 0;
    for (const name of await cards()) sum += await share(name);
    expect(sum).toBe(12_480);
    expect(await card("Bronze cleats").innerText()).toMatch(/Never applies: Brass & bronze fittings matches all \d+/);
    expect(await axeFindings(page)).toEqual([]);
  });

  it("show their pages, lines, figures and the pieces that stand", async () => {
    await card("Brass & bronze fittings").focus();
    await page.keyboard.press("Enter");
    await page.waitForURL(/rule=brass-and-bronze/);
    await page.waitForFunction(() =>
      document
        .querySelector('[aria-label="How often each piece is used"]')
        ?.textContent?.includes("in {finish} finish"),
    );
    await page.waitForFunction(
      (title) =>
        (document.querySelector(title) as HTMLElement | null)?.innerText ===
        "{name}[ in {finish} finish]^2[ – {category}]^1[ – {id}]^apart",
      TITLE,
    );
    await page.waitForFunction(() =>
      /[Bb](rass|ronze)/.test(document.querySelector("[role=option] [data-proof]")?.textContent ?? ""),
    );
    expect(await page.locator("text=/^Reads: the name; then, if there is room/").count()).toBe(1);
    expect(await page.locator('[aria-label="Why this title"]').innerText()).toContain(
      "Rule Brass & bronze fittings: material is brass or bronze",
    );
  });

  it("are put together as a sentence, with what they would take shown before", async () => {
    await page.focus("text=Add a rule");
    await page.keyboard.press("Enter");
    await page.waitForSelector("text=New rule");
    await page.fill("input[placeholder^='such as']", "Oak");
    await page.focus("text=Add a condition");
    await page.keyboard.press("Enter");
    await pickCondition(page, "material", "oak");
    await page.waitForSelector("[data-preview]");
    expect(await axeFindings(page)).toEqual([]);
    const would = number(await page.locator("[data-preview]").innerText());
    expect(would).toBeGreaterThan(50);
    await page.focus("text=Create the rule");
    await page.keyboard.press("Enter");
    await page.waitForURL(/rule=[0-9a-f-]{36}/);
    expect((await cards())[0]).toBe("Oak");
    await page.waitForFunction(
      (n) => Number(document.querySelector("[data-card] b + span")?.textContent?.replace(/\D/g, "")) === n,
      would,
    );
    // It begins with the line that decided these pages before.
    expect(await page.locator(TITLE).innerText()).toContain("{name}[ in {finish} finish]^2");
    await stored();
  });

  it("are moved, and one undo takes the move back", async () => {
    await card("Bronze cleats").focus();
    for (let i = 0; i < 3; i++) {
      await page.keyboard.press("Alt+ArrowUp");
      await card("Bronze cleats").focus();
    }
    expect(await cards()).toEqual([
      "Oak",
      "Bronze cleats",
      "Rope sold by the metre",
      "Brass & bronze fittings",
      "Clearance",
      "Everything else",
    ]);
    await page.waitForFunction(() => !document.body.innerText.includes("Never applies"));
    expect(await share("Bronze cleats")).toBeGreaterThan(0);
    await page.keyboard.press("Control+z");
    await page.waitForFunction(
      () => [...document.querySelectorAll("[data-card] b")].findIndex((b) => b.textContent === "Bronze cleats") === 2,
    );
    await page.keyboard.press("Control+Shift+z");
    await page.waitForFunction(
      () => [...document.querySelectorAll("[data-card] b")].findIndex((b) => b.textContent === "Bronze cleats") === 1,
    );
  });

  it("are dragged by the mouse, switched off, duplicated and deleted with undo", async () => {
    const handle = page.locator('[aria-label="Move “Oak”"]');
    await card("Oak").hover();
    const from = (await handle.boundingBox())!;
    const to = (await card("Clearance").boundingBox())!;
    await page.mouse.move(from.x + 5, from.y + 10);
    await page.mouse.down();
    await page.mouse.move(to.x + 5, to.y + to.height / 2, { steps: 12 });
    await page.mouse.move(to.x + 5, to.y + to.height / 2 + 6, { steps: 3 });
    await page.mouse.up();
    await page.waitForFunction(() => document.querySelector("[data-card] b")?.textContent !== "Oak");
    await card("Oak").focus();
    await page.keyboard.press("o");
    await page.waitForSelector("[data-card] >> text=/Switched off; would match/");
    await page.keyboard.press("o");
    await page.keyboard.press("d");
    await page.waitForSelector("[data-card] >> text=Oak, copy");
    await page.waitForFunction(() =>
      [...document.querySelectorAll("[data-card]")]
        .find((one) => one.querySelector("b")?.textContent === "Oak, copy")
        ?.textContent?.includes("Never applies: "),
    );
    await card("Oak, copy").focus();
    await page.keyboard.press("Delete");
    await page.waitForFunction(
      () =>
        !document
          .querySelector("nav")
          ?.parentElement?.querySelector("[aria-label^='Rules']")
          ?.textContent?.includes("Oak, copy"),
    );
    await page.click("[data-sonner-toast] >> text=Undo");
    await page.waitForSelector("[data-card] >> text=Oak, copy");
    await card("Oak, copy").focus();
    await page.keyboard.press("Delete");
  });

  it("are made from a page", async () => {
    await card("Everything else").focus();
    await page.keyboard.press("Enter");
    await page.waitForURL((url) => !url.search.includes("rule="));
    await page.waitForSelector("[role=option] [data-proof]");
    await page.click("text=Create a rule from this");
    await page.waitForSelector("[role=menuitem] >> text=/^category is under/");
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Enter");
    await page.waitForSelector("[data-preview]");
    expect(number(await page.locator("[data-preview]").innerText())).toBeGreaterThan(0);
    await page.keyboard.press("Escape");
    await page.waitForFunction(() => !document.body.innerText.includes("New rule"));
  });
});

describe("writing a line", () => {
  it("chooses its text by typing or a click, not by going through it with Tab", async () => {
    const DESCRIPTION = '[aria-label="Description line"]';
    const focused = () => page.evaluate(() => document.activeElement?.getAttribute("aria-label"));
    await page.click(TITLE);
    await page.waitForURL(/text=title/);
    for (let i = 0; i < 12 && (await focused()) !== "Description line"; i++) await page.keyboard.press("Tab");
    expect(await focused()).toBe("Description line");
    expect(page.url()).toContain("text=title");
    await page.keyboard.press("Control+End");
    await page.keyboard.type("!");
    await page.waitForURL(/text=description/);
    expect(await page.locator(DESCRIPTION).innerText()).toMatch(/!$/);
    await page.keyboard.press("Control+z");
    await page.waitForFunction((line) => !document.querySelector(line)!.textContent!.endsWith("!"), DESCRIPTION);
    await page.click(TITLE);
    await page.waitForURL(/text=title/);
  });

  it("puts fields, pieces and emoji in from the palette, and finds where a field is used", async () => {
    await page.click(TITLE);
    await page.keyboard.press("Control+End");
    await page.click("text=Insert into the title line");
    await page.waitForSelector("[placeholder='Search fields']:focus");
    // Tab goes on to where the field in hand is used; before that is told it would go out of the palette, which closes then.
    await page.waitForSelector("section[aria-label='Where the field is used'] button");
    expect(await axeFindings(page)).toEqual([]);
    await page.fill("[placeholder='Search fields']", "diameter");
    await page.keyboard.press("Enter");
    await page.waitForFunction(() =>
      document.querySelector('[aria-label="Title line"]')?.textContent?.endsWith("{diameter}"),
    );
    await page.click("text=Insert into the title line");
    await page.click("role=tab[name=Emoji]");
    await page.fill("[aria-label='Search emoji']", "anchor");
    await page.click("[aria-label=anchor]");
    await page.waitForFunction(
      () =>
        document.querySelector('[aria-label="Title line"]')?.textContent?.endsWith("{diameter}⚓️") ||
        document.querySelector('[aria-label="Title line"]')?.textContent?.endsWith("{diameter}⚓"),
    );
    await page.click("text=Insert into the title line");
    await page.fill("[placeholder='Search fields']", "sold_by");
    await page.click("text=Condition of “Rope sold by the metre”");
    await page.waitForSelector("text=Edit the condition");
    await page.keyboard.press("Escape");
    await page.waitForURL(/rule=rope-by-the-metre/);
  });

  it("goes back a step at a time, and forward again", async () => {
    await page.goto(`${app.url}/bench?kind=product&text=title`);
    const [title, description] = [page.getByLabel("Title line"), page.getByLabel("Description line")];
    const before = [await title.innerText(), await description.innerText()];
    for (const [line, text] of [
      [title, "Fine "],
      [description, "Here: "],
    ] as const) {
      await line.click();
      await page.keyboard.press("Control+Home");
      // At once: letters that come with pauses, as on a machine that has much to do, are a step each.
      await page.keyboard.insertText(text);
    }
    const after = [`Fine ${before[0]}`, `Here: ${before[1]}`];
    const both = async () => [await title.innerText(), await description.innerText()];
    await expect.poll(both).toEqual(after);
    const ways = [
      ["Control+Z", [after[0], before[1]]],
      ["Control+Z", before],
      ["Control+Y", [after[0], before[1]]],
      ["Control+Y", after],
      ["Control+Z", [after[0], before[1]]],
      ["Control+Z", before],
    ] as const;
    for (const [keys, wanted] of ways) {
      await page.keyboard.press(keys);
      await expect.poll(both).toEqual(wanted);
    }
    await stored();
  });

  it("keeps the focus where it was put, though the cursor of another line stands where that is wrapped", async () => {
    await page.goto(`${app.url}/bench?kind=product&text=title`);
    const [title, description] = [page.getByLabel("Title line"), page.getByLabel("Description line")];
    const before = [await title.innerText(), await description.innerText()];
    const both = async () => [await title.innerText(), await description.innerText()];
    const long = "rope and twine ".repeat(20).trim();
    await title.click();
    await page.keyboard.press("Control+A");
    await page.keyboard.insertText(long);
    await expect.poll(() => title.innerText()).toBe(long);
    await page.keyboard.press("Control+Home");
    await page.keyboard.press("End");
    await description.click();
    await page.waitForSelector(".cm-content[aria-label='Description line']:focus");
    // What the editor of the other line does once it has lost the focus, it does within these.
    await page.evaluate(
      () => new Promise((done) => setTimeout(() => requestAnimationFrame(() => setTimeout(done, 50)), 50)),
    );
    await page.keyboard.press("Control+Home");
    await page.keyboard.insertText("Here: ");
    await expect.poll(both).toEqual([long, `Here: ${before[1]}`]);
    await page.keyboard.press("Control+Z");
    await page.keyboard.press("Control+Z");
    await expect.poll(both).toEqual(before);
    await stored();
  });

  it("says what a mark does", async () => {
    await page.hover(TITLE);
    await page.locator(`.cm-content${TITLE} .line-field`).first().hover();
    await page.waitForSelector(".line-hover >> text=the name");
    await page.mouse.move(5, 500);
  });
});

describe("drafts", () => {
  /** What a window that is gone would have left in the browser: a title line that the server does not have. */
  const leave = async (title: string) => {
    const draft = (await ask(app.url, "site.state", {})).drafts.product!;
    const left = { design: { ...draft.design, base: { ...draft.design.base, title } }, seen: draft.version };
    await page.evaluate(
      (text) => localStorage.setItem("fennick-dray: nine-lines draft product", text),
      JSON.stringify(left),
    );
  };
  const shows = async (title: string) => {
    await page.waitForFunction(([line, text]) => document.querySelector(line!)?.textContent === text, [
      TITLE,
      title,
    ] as const);
    await page.waitForFunction(() => localStorage.getItem("fennick-dray: nine-lines draft product") === null);
  };

  it("survive a crash of the browser", async () => {
    await stored();
    await leave("{name} left by a crash");
    await page.goto(`${app.url}/bench?kind=product&text=title`);
    await shows("{name} left by a crash");
  });

  it("survive it where the pointer moves while the page comes to life slowly, and it is begun anew", async () => {
    await stored();
    await leave("{name} left again");
    const processor = await page.context().newCDPSession(page);
    await processor.send("Emulation.setCPUThrottlingRate", { rate: 4 });
    let isThere = false;
    const going = page.goto(`${app.url}/bench?kind=product&text=title`).finally(() => (isThere = true));
    for (let step = 0; !isThere; step++)
      await page.mouse.move(300 + ((step * 37) % 600), 100 + ((step * 53) % 500)).catch(() => {});
    await going;
    await processor.send("Emulation.setCPUThrottlingRate", { rate: 1 });
    await processor.detach();
    await shows("{name} left again");
    await leave("{name} left by a crash");
    await page.goto(`${app.url}/bench?kind=product&text=title`);
    await shows("{name} left by a crash");
  });

  it("are told of changes in another window, and neither is lost", async () => {
    const other = await page.context().newPage();
    await other.goto(`${app.url}/bench?kind=product&text=title`);
    await other.waitForSelector("[role=option] [data-proof]");
    await other.click(TITLE);
    await other.keyboard.press("Control+End");
    await other.keyboard.type(" there");
    await draftStored(app.url, other, "product", "{name} left by a crash there");
    await page.click(TITLE);
    await page.keyboard.press("Control+End");
    await page.keyboard.type(" here");
    await page.waitForSelector("text=was changed in another window");
    for (const colorScheme of ["light", "dark"] as const) {
      await page.emulateMedia({ colorScheme });
      for (const label of ["Keep mine", "Use the other"])
        expect(await contrastOf(page, `button >> text=${label}`)).toBeGreaterThanOrEqual(4.5);
    }
    await page.emulateMedia({ colorScheme: "light" });
    await page.click("text=Use the other");
    await page.waitForFunction(
      () => document.querySelector('[aria-label="Title line"]')?.textContent === "{name} left by a crash there",
    );
    await page.waitForSelector("[data-draft=stored]");
    await other.close();
  });

  it("are saved as versions and compared over the whole set", async () => {
    await page.click("role=button[name=Versions]");
    await page.click("text=Save as a version …");
    await page.fill("input[name=name]", "Before the spring");
    await page.keyboard.press("Enter");
    await page.waitForSelector("text=Saved as version “Before the spring”");
    await page.click(TITLE);
    await page.keyboard.press("Control+A");
    await page.keyboard.insertText("{name}[ – {category}]^1[ – {id}]^apart");
    await stored("{name}[ – {category}]^1[ – {id}]^apart");
    await page.click("role=button[name=Versions]");
    await page.click("role=menuitem[name=/Before the spring/]");
    await page.waitForURL(/compare\?kind=product&a=\d+&b=draft/);
    await page.waitForSelector("[role=option] u");
    expect(await axeFindings(page)).toEqual([]);
    const wide = await page.locator('tr[data-measure="Too wide"]').first().locator("td").allInnerTexts();
    expect(number(wide[0]!)).not.toBe(number(wide[1]!));
    const differing = number(await page.locator("text=/pages differ$/").innerText());
    expect(differing).toBeGreaterThan(1000);
    await page.focus("[role=listbox]");
    await page.keyboard.press("ArrowDown");
    expect(await page.locator("[role=option][aria-selected=true]").count()).toBe(1);
    // Deleted and undone, it is there again as it was.
    const name = page.getByLabel("First version").locator("option", { hasText: "Before the spring" });
    await page.click("role=button[name='Delete']");
    await page.waitForSelector("text=Version “Before the spring” deleted");
    await expect.poll(() => name.count()).toBe(0);
    await page.click("role=button[name='Undo'] >> visible=true");
    await expect.poll(() => name.count()).toBe(1);
    await page.getByLabel("First version").selectOption((await name.getAttribute("value"))!);
    await page.waitForSelector("[role=option] u");
    await page.click("role=button[name='Make it the draft']");
    await page.waitForURL(/bench/);
    await page.waitForFunction(
      () => document.querySelector('[aria-label="Title line"]')?.textContent === "{name} left by a crash there",
    );
  });
});

describe("the lines file", () => {
  it("goes out, and comes in again with a readable difference", async () => {
    await page.goto(`${app.url}/lines`);
    const [download] = await Promise.all([page.waitForEvent("download"), page.click("text=Export the drafts")]);
    const file = JSON.parse(readFileSync(await download.path(), "utf8")) as LinesFile;
    expect(file.format).toBe("nine-lines/1");
    expect(file.kinds.product!.rules.map(({ name }) => name)).toContain("Oak");
    const changed = structuredClone(file) as unknown as {
      kinds: { product: { base: { title: string }; rules: object[] } };
    };
    changed.kinds.product.base.title = "{name}[ – {category}]^1";
    changed.kinds.product.rules.reverse();
    const path = join(tmpdir(), `site-${process.pid}.lines.json`);
    writeFileSync(path, JSON.stringify(changed));
    await page.setInputFiles("#lines-file", path);
    await page.waitForSelector("text=What site-");
    expect(await axeFindings(page)).toEqual([]);
    expect(await page.locator('section[aria-label="products"] li').allInnerTexts()).toEqual(
      expect.arrayContaining([
        expect.stringContaining("position") as string,
        expect.stringMatching(/The base[\s\S]*title line/) as string,
      ]),
    );
    await page.click("text=/^Replace the drafts \\d+ differences/");
    await page.waitForSelector("text=/drafts for products were replaced/");
    await page.click("text=See products on the Bench");
    await page.waitForSelector("[data-card]");
    expect((await cards()).at(-1)).toBe("Everything else");
    expect(await page.locator(TITLE).innerText()).toBe("{name}[ – {category}]^1");
  });

  it("says what is wrong with a file that is none, and where", async () => {
    await page.goto(`${app.url}/lines`);
    const path = join(tmpdir(), `broken-${process.pid}.lines.json`);
    writeFileSync(
      path,
      '{"format": "nine-lines/1",\n "kinds": {"product": {"rules": [{"name": "x", "when": {"field": "a"}}]}}}',
    );
    await page.setInputFiles("#lines-file", path);
    await page.waitForSelector(
      "[role=alert] >> text=/:2:\\d+: at kinds.product.rules.0.when: a condition has exactly one operator/",
    );
  });
});
