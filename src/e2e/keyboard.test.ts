import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type App, axeFindings, startApp } from "./app";

let app: App;
let page: Page;
beforeAll(async () => {
  app = await startApp();
  page = await app.page();
  page.setDefaultTimeout(60_000);
}, 120_000);
afterAll(() => app.close());

/** What the focus is on, by the name that it is told by; `null` for the document. */
const focused = () =>
  page.evaluate(() => {
    const one = document.activeElement;
    if (!one || one === document.body) return null;
    const input = one as HTMLInputElement;
    return one.getAttribute("aria-label") ?? input.labels?.[0]?.textContent ?? one.textContent?.trim() ?? "";
  });

/** Presses Tab until something by that name has the focus, as a person does who looks for it. */
async function tabTo(name: RegExp, most = 120): Promise<void> {
  const met: (string | null)[] = [];
  for (let i = 0; i < most; i++) {
    const at = await focused();
    if (at !== null && name.test(at)) return;
    met.push(at?.slice(0, 40) ?? at);
    await page.keyboard.press("Tab");
  }
  throw new Error(`Tab does not come to ${name}: ${JSON.stringify(met)}`);
}

/** What is pressed here leads somewhere, or changes what can be pressed: the focus is never on the document afterwards. */
async function press(key: string, arrives: () => Promise<unknown>): Promise<void> {
  await page.keyboard.press(key);
  await arrives();
  await expect.poll(focused).not.toBeNull();
}

describe("the whole job by keyboard alone", () => {
  it("goes from the Board to a line", async () => {
    await page.goto(app.url);
    await page.getByText("too wide").first().waitFor();
    await tabTo(/^Title for categories: open on the Bench/);
    await press("Enter", () => page.waitForURL(/bench\?kind=category&text=title/));
    await page.locator("[role=option] [data-proof]").first().waitFor();
    await tabTo(/^Title line$/);
    await page.keyboard.press("Control+a");
    await page.keyboard.type("{name} for every ship");
    await page
      .getByText(/for every ship/)
      .first()
      .waitFor();
    await page.waitForSelector("[data-draft=stored]");
    expect(await focused()).toBe("Title line");
  });

  it("is told at once of a field that no page has, and of a mistake without anything moving", async () => {
    const top = () => page.locator("[aria-label^='Pages, ']").evaluate((list) => list.getBoundingClientRect().top);
    await page.keyboard.press("Control+a");
    await page.keyboard.type("{name} at {price}");
    await page.getByText(/\{price\} is empty on every page of this kind; most pages have \{/).waitFor();
    await page.waitForSelector("[data-draft=stored]");
    const before = await top();
    await page.keyboard.type(" {nam");
    await page.getByText(/a line with an error is never applied/).waitFor();
    expect(await top()).toBe(before);
    await page.keyboard.press("Control+a");
    await page.keyboard.type("{name} for every ship");
    await page.waitForSelector("[data-draft=stored]");
  });

  it("looks at the pages, and chooses one", async () => {
    await tabTo(/^Pages, \d+ of them/);
    await page.keyboard.press("End");
    await expect
      .poll(() => page.locator("[role=option][aria-selected=true]").getAttribute("aria-posinset"))
      .toBe("420");
    await page.keyboard.press("Home");
    await expect.poll(() => page.locator("[role=option][aria-selected=true]").getAttribute("aria-posinset")).toBe("1");
  });

  it("makes a rule, and undoes it", async () => {
    await tabTo(/^Add a rule$/);
    await press("Enter", () => page.waitForSelector("[role=dialog]"));
    await expect.poll(() => axeFindings(page)).toEqual([]);
    await press("Escape", () => page.waitForSelector("[role=dialog]", { state: "detached" }));
    expect(await focused()).toBe("Add a rule");
  });

  it("reviews the change, and takes in one group only", async () => {
    await press("Alt+5", () => page.waitForURL(/\/review/));
    await page.getByText("Every change can be undone").waitFor();
    await tabTo(/^Text that changes$/);
    await page.keyboard.type("title");
    await page.keyboard.press("Tab");
    await tabTo(/^Include only these$/);
    await press("Enter", () => page.getByText(/You changed some ticks/).waitFor());
  });

  it("applies it under a name", async () => {
    await page.waitForSelector("header button:has-text('Apply'):not([disabled])");
    await tabTo(/^Apply [\d,]+ changes …$/);
    await press("Enter", () => page.waitForSelector("[role=dialog]"));
    expect(await focused()).toBe("Name or note for this run");
    await page.keyboard.type("By keyboard");
    await press("Enter", () => page.waitForURL(/\/runs\/\d+/));
    await page.getByText(/^Done: [\d,]+ changes/).waitFor();
    await expect.poll(focused).not.toBeNull();
  });

  it("keeps the focus where what opened a dialog is switched off by the time the dialog goes", async () => {
    const after = await page.evaluate(async () => {
      const place = document.querySelector("main")!;
      const opener = document.createElement("button");
      const dialog = document.createElement("div");
      dialog.role = "dialog";
      dialog.append(document.createElement("input"));
      place.append(opener);
      opener.focus();
      document.body.append(dialog);
      dialog.querySelector("input")!.focus();
      opener.disabled = true;
      dialog.remove();
      await new Promise(requestAnimationFrame);
      opener.remove();
      return document.activeElement?.tagName ?? null;
    });
    expect(after).toBe("MAIN");
  });

  it("undoes it, and finds both runs in the list", async () => {
    await tabTo(/^Undo$/);
    await press("Enter", () => page.getByText(/^Done: run \d+ is undone/).waitFor());
    await press("Alt+6", () => page.getByText("By keyboard").first().waitFor());
    await tabTo(/^Run 1/);
    await press("Enter", () => page.getByText(/^Undone by run 2/).waitFor());
  });

  it("goes through a list of keywords by arrows, into a row by Enter, and out of it by Tab", async () => {
    await press("Alt+4", () => page.waitForURL(/\/keywords/));
    await page.locator("[role=row] mark").first().waitFor();
    const inList = () => page.evaluate(() => document.activeElement?.closest("[role=grid]") !== null);
    await tabTo(/^Keywords, [\d,]+ of them/);
    // A keyword that no page has leads nowhere.
    const row = await page.evaluate(() => {
      const rows = [...document.querySelectorAll<HTMLElement>("[data-row]")];
      return Number(rows.find((own) => own.querySelector("a, button"))!.dataset["row"]);
    });
    for (let i = 0; i < row; i++) await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Enter");
    const at = () => page.evaluate(() => document.activeElement?.closest<HTMLElement>("[data-row]")?.dataset["row"]);
    expect(await at()).toBe(String(row));
    for (let i = 0; i < 12 && (await inList()); i++) await page.keyboard.press("Tab");
    expect(await inList()).toBe(false);
  });

  it("goes anywhere by name", async () => {
    await page.keyboard.press("Control+k");
    await page.keyboard.type("settings");
    await press("Enter", () => page.waitForURL(/\/settings/));
    await page.getByRole("heading", { name: "The site" }).waitFor();
  });
});
