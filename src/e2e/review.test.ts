import { type Page } from "playwright-core";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { LEFT_OUT_AT_FIRST } from "../core/plan/groups";
import { ALL_CHANGES } from "../core/plan/review-filter";
import { type App, axeFindings, startApp } from "./app";
import { ask, drawn } from "./calls";

let app: App;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
});
afterAll(() => app.close());
beforeEach(async () => {
  await ask(app.url, "review.forgetChoices", {});
  await page.goto(`${app.url}/review`);
  await page.waitForSelector("[role=row] ins");
});

const summary = () => ask(app.url, "review.summary", { filter: ALL_CHANGES });
const applied = async () =>
  Number(/Apply ([\d,]+)/.exec(await page.locator("text=/^Apply [\\d,]+ change/").innerText())![1]!.replace(/,/g, ""));

describe("the review", () => {
  it("lets out only the product titles in three clicks, and says so before it does", async () => {
    await page.getByLabel("Kind of the pages").selectOption("product");
    await page.getByLabel("Text that changes").selectOption("title");
    await page.click("role=button[name='Include only these']");
    const texts = async () => {
      const { groups } = await summary();
      const goingOut = groups.flatMap(({ includedByText }) =>
        Object.entries(includedByText).flatMap(([text, n]) => (n > 0 ? [text] : [])),
      );
      return [...new Set(goingOut)];
    };
    await expect.poll(texts).toEqual(["title"]);
    const { included } = await summary();
    await expect.poll(applied).toBe(included);
    expect(included).toBeGreaterThan(1000);
    expect(await axeFindings(page)).toEqual([]);
    await page.click("text=/^Apply [\\d,]+ changes …/");
    await page.waitForSelector("[role=dialog] >> text=No address moves.");
    expect(await page.locator("[role=dialog]").innerText()).not.toMatch(/description|slug/);
    await page.keyboard.press("Escape");
    // The link shows a colleague the same.
    await page.reload();
    await page.waitForSelector("role=button[name='Include only these']");
    expect(await page.getByLabel("Kind of the pages").inputValue()).toBe("product");
    expect(await applied()).toBe(included);
    // What a person has to look at waits for its own tick.
    for (const { group, included: goesOut } of (await summary()).groups)
      if (LEFT_OUT_AT_FIRST.has(group)) expect(goesOut, group).toBe(0);
    await page.click("role=button[name='Reset them']");
    await expect.poll(async () => (await texts()).sort()).toEqual(["description", "title"]);
    await expect.poll(async () => applied()).toBe((await summary()).included);
  });

  it("finds changes by words, and leaves all of them out at once", async () => {
    const before = await applied();
    await page.getByLabel("Search the changes").fill("twine");
    const told = page.getByRole("group", { name: "Shown" }).getByRole("status");
    await told.filter({ hasText: /^[1-9][\d,]* changes of/ }).waitFor();
    await expect.poll(() => page.locator("[role=row]").first().innerText()).toMatch(/twine/i);
    await page.click("role=button[name='Exclude']");
    await told.filter({ hasText: /, 0 included$/ }).waitFor();
    expect(await applied()).toBeLessThan(before);
    await expect.poll(() => page.locator("[role=row] [role=checkbox][data-state=checked]").count()).toBe(0);
    await page.click("role=button[name='Show all']");
    await page.waitForSelector("[role=row] [role=checkbox][data-state=checked]");
    expect(await page.getByLabel("Search the changes").inputValue()).toBe("");
  });

  it("shows the biggest changes first when asked to, and remembers it in the address", async () => {
    const amounts = async () => (await page.locator("[role=row]").allInnerTexts()).slice(0, 6).join("\n");
    const before = await amounts();
    await page.getByLabel("Order of the changes").selectOption("changed");
    await page.waitForURL(/order=changed/);
    await page.waitForSelector("[role=row] ins");
    await expect.poll(amounts).not.toBe(before);
    await page.getByLabel("Order of the changes").selectOption("site");
    await expect.poll(amounts).toBe(before);
  });

  it("says that nothing is left where a filter leaves nothing", async () => {
    await page.getByLabel("Search the changes").fill("no page has this");
    await page.waitForSelector("text=No change matches these filters.");
    expect(await axeFindings(page)).toEqual([]);
  });

  it("knows what was ticked when one comes back to it", async () => {
    const before = await applied();
    await page.locator("[role=row] [role=checkbox]").first().click();
    await expect.poll(applied).toBe(before - 1);
    await page.click("role=button[name='Back to the bench']");
    await page.waitForURL(/bench/);
    await page.click("role=link[name='Review']");
    await page.waitForSelector("[role=row] ins");
    await expect.poll(applied).toBe(before - 1);
    expect(await page.locator("[role=row] [role=checkbox]").first().getAttribute("data-state")).toBe("unchecked");
  });

  it("takes ticks in their order on a slow connection, shows none as it was before, and applies with the last", async () => {
    const before = await applied();
    const letThrough: (() => void)[] = [];
    await page.route("**/api/review.chooseChange", async (route) => {
      await new Promise<void>((resolve) => letThrough.push(resolve));
      await route.continue();
    });
    const boxes = page.locator("[role=row] [role=checkbox]");
    const states = async () =>
      (await boxes.evaluateAll((all) => all.slice(0, 2).map((box) => box.getAttribute("data-state")))).join(" ");
    await boxes.nth(0).click();
    await boxes.nth(1).click();
    await boxes.nth(0).click();
    await page.locator("text=/^Apply [\\d,]+ change/").click();
    for (let sent = 1; sent <= 3; sent++) {
      await expect.poll(() => letThrough.length).toBe(sent);
      expect(await states()).toBe("checked unchecked");
      expect(await page.locator("[role=dialog]").count()).toBe(0);
      letThrough[sent - 1]!();
    }
    await page.locator("[role=dialog]", { hasText: `${(before - 1).toLocaleString("en")} changes on` }).waitFor();
    expect((await summary()).included).toBe(before - 1);
    expect(await states()).toBe("checked unchecked");
    await page.unrouteAll();
  });

  it("asks before its window is closed while ticks wait to be sent, and closes at once when they are", async () => {
    const own = await app.page();
    await own.goto(`${app.url}/review`);
    await own.waitForSelector("[role=row] ins");
    const letThrough: (() => void)[] = [];
    await own.route("**/api/review.chooseChange", async (route) => {
      await new Promise<void>((resolve) => letThrough.push(resolve));
      await route.continue();
    });
    const before = (await summary()).included;
    const boxes = own.locator("[role=row] [role=checkbox]");
    await boxes.nth(0).click();
    await boxes.nth(1).click();
    const asked = own.waitForEvent("dialog");
    await own.close({ runBeforeUnload: true });
    expect((await asked).type()).toBe("beforeunload");
    await (await asked).dismiss();
    for (let sent = 1; sent <= 2; sent++) {
      await expect.poll(() => letThrough.length).toBe(sent);
      letThrough[sent - 1]!();
    }
    await expect.poll(async () => (await summary()).included).toBe(before - 2);
    await own.locator("text=/^Apply [\\d,]+ change/", { hasText: (before - 2).toLocaleString("en") }).waitFor();
    const closed = own.waitForEvent("close");
    await own.close({ runBeforeUnload: true });
    await closed;
  });

  it("shows no figures of a filter that was set before a tick was answered", async () => {
    let letThrough = () => {};
    const isFree = new Promise<void>((resolve) => (letThrough = resolve));
    await page.route("**/api/review.chooseChange", async (route) => {
      const response = await route.fetch();
      await isFree;
      await route.fulfill({ response });
    });
    const fits = () => page.locator("[data-group=shorter]").innerText();
    await page.locator("[role=row] [role=checkbox]").first().click();
    const whole = await fits();
    await page.getByLabel("Kind of the pages").selectOption("category");
    await expect.poll(fits).not.toBe(whole);
    const ofKind = (await fits()).split("\n")[0];
    const answered = page.waitForResponse("**/api/review.chooseChange");
    const asked = page.waitForResponse("**/api/review.summary");
    letThrough();
    await Promise.all([answered, asked]);
    await drawn(page);
    expect((await fits()).split("\n")[0]).toBe(ofKind);
    await page.unrouteAll();
  });

  it("says of each change for the worse what makes it one", async () => {
    await page.click("[data-group=worse]");
    await page.waitForSelector("[role=grid][aria-label='Gets worse: changes'] [role=row] ins");
    for (const row of await page.locator("[role=row]").allInnerTexts())
      expect(row).toMatch(/Becomes wider than \d+ px|Loses its keyword|Would be the same on \d+ pages/);
  });
});
