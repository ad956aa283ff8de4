import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ALL_CHANGES } from "../core/plan/review-filter";
import { type App, axeFindings, startApp } from "./app";
import { ask } from "./calls";

let app: App;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
}, 120_000);
afterAll(() => app.close());

const shown = (name: string) => page.locator(`[data-links=${name}]`);
const counted = async (name: string) => Number((await shown(name).innerText()).replace(/[^\d]/g, ""));
const firstRow = () => page.locator("[data-row='0']");

describe("links of the site", () => {
  it("are read in the background, and shown by what is found of them", async () => {
    await page.goto(`${app.url}/addresses?face=links`);
    await shown("broken").waitFor({ timeout: 60_000 });
    await firstRow().locator("a").waitFor();
    expect(await counted("broken")).toBeGreaterThan(50);
    expect(await counted("redirected")).toBeGreaterThan(100);
    await expect.poll(() => axeFindings(page)).toEqual([]);
    const before = await counted("broken");
    const csv = await (await fetch(`${app.url}/api/out/links?finding=broken`)).text();
    expect(csv.split("\n").length - 2).toBe(before);
    expect(csv).toMatch(/^page,page_name,link_text,/);
    await page.getByRole("link", { name: "These links as CSV" }).waitFor();
    expect((await fetch(`${app.url}/api/out/links?finding=nonsense`)).status).toBe(400);
    await page.fill("[aria-label='Search links']", "no such link anywhere");
    await page.waitForSelector("text=No link matches.");
    await page.fill("[aria-label='Search links']", "");
    await firstRow().locator("a").waitFor();
    expect(await counted("broken")).toBe(before);
  });

  it("are mended one by one: as proposed, as typed, and not after all", async () => {
    await firstRow().locator("button[title^='Lead to']").click();
    await firstRow().getByRole("button", { name: "Leave as it is" }).waitFor();
    await expect.poll(() => counted("mended")).toBe(1);
    await firstRow().getByRole("button", { name: "Leave as it is" }).click();
    await expect.poll(() => counted("mended")).toBe(0);
    await firstRow()
      .getByRole("button", { name: /^Lead elsewhere/ })
      .click();
    await page.getByLabel("Where the link is to lead").fill("/notes and more");
    await page.keyboard.press("Enter");
    await page.getByText("Write where the link is to lead").waitFor();
    await firstRow()
      .getByRole("button", { name: /^Lead elsewhere/ })
      .click();
    await page.getByLabel("Where the link is to lead").fill("/notes/how-we-work");
    await page.keyboard.press("Enter");
    await firstRow().getByText("→ /notes/how-we-work").waitFor();
    await expect.poll(() => counted("mended")).toBe(1);
  });

  it("through redirects all at once, reviewed, applied, and taken back", async () => {
    await shown("redirected").click();
    await page.waitForSelector("role=button[name='Point all at their targets']");
    const many = await counted("redirected");
    await page.click("role=button[name='Point all at their targets']");
    await page.getByText(/links? waits? in the review/).waitFor();
    await expect.poll(() => counted("mended")).toBe(many + 1);
    await shown("mended").click();
    await page.getByRole("link", { name: "Review them" }).click();
    await page.waitForURL(/\/review\?.*text=body/);
    await page.getByRole("button", { name: "Include only these" }).click();
    await page.waitForSelector(`header button:has-text('Apply ${many + 1} changes'):not([disabled])`);
    await expect.poll(() => axeFindings(page)).toEqual([]);
    await page.click("header button:has-text('Apply')");
    await page.waitForSelector("[role=dialog] button[type=submit]");
    await page.keyboard.press("Enter");
    await page.getByText(/^Done: [\d,]+ changes/).waitFor();
    await page.getByRole("link", { name: "Changed bodies as CSV" }).waitFor();
    await page.goto(`${app.url}/addresses?face=links&links=redirected`);
    await page.waitForSelector("text=Nothing found: no link is like that.");
    await expect.poll(() => counted("mended")).toBe(0);
    await page.goto(`${app.url}/runs/1`);
    await page.getByRole("button", { name: "Undo" }).click();
    await page.getByText(/^Done: run 1 is undone/).waitFor();
    await page.goto(`${app.url}/addresses?face=links&links=redirected`);
    await firstRow().locator("a").waitFor();
    await expect.poll(() => counted("redirected")).toBe(many);
    await ask(app.url, "links.unmend", { links: null });
  });

  it("follow the pages that move, when that is ticked in the review", async () => {
    await ask(app.url, "review.forgetChoices", { filter: ALL_CHANGES });
    await page.goto(`${app.url}/review?group=moves&order=linked`);
    await page.getByLabel("Include: Address moves").click();
    await page.getByLabel("Rewrite the links, too").click();
    await page.waitForSelector("[aria-label='Rewrite the links, too'][data-state=checked]");
    await page
      .getByText(/\d+ links? (and \d+ redirects? )?leads? here/)
      .first()
      .waitFor();
    await page.getByRole("button", { name: "Redirects and links …" }).click();
    await page.getByText(/redirects will come, lead elsewhere or end/).waitFor();
    await page.locator("[role=dialog] [data-row='0']").getByText("→").waitFor();
    await page.getByRole("tab", { name: "Links" }).click();
    await page.getByText(/links and canonicals will be rewritten/).waitFor();
    await page.locator("[role=dialog] [data-row='0']").getByText(/^on /).waitFor();
    await expect.poll(() => axeFindings(page)).toEqual([]);
    await page.keyboard.press("Escape");
    const summary = await ask(app.url, "review.summary", { filter: ALL_CHANGES });
    expect(summary.links!.count).toBeGreaterThan(500);
    const { run } = await ask(app.url, "runs.start", { goingOut: summary.goingOut, click: crypto.randomUUID() });
    await page.goto(`${app.url}/runs/${run}`);
    await page.getByText(/^Done: [\d,]+ changes/).waitFor({ timeout: 120_000 });
    await page.goto(`${app.url}/addresses?face=links&links=broken`);
    await firstRow().locator("a").waitFor({ timeout: 60_000 });
    // What was broken stays broken, and nothing became so.
    const figures = await ask(app.url, "links.figures", {});
    expect(figures.found!.findings.broken).toBeLessThanOrEqual(120);
    expect(figures.found!.findings.redirected).toBeLessThan(20);
  });
});

describe("a link text that says nothing", () => {
  it("is what the settings say", async () => {
    await page.goto(`${app.url}/addresses?face=links&links=says-nothing`);
    await firstRow().locator("a").waitFor({ timeout: 60_000 });
    expect(await counted("says-nothing")).toBeGreaterThan(100);
    await page.goto(`${app.url}/settings?topic=checks`);
    const texts = page.getByLabel("Link texts that say nothing, with commas between");
    await texts.fill("read on");
    await page.getByRole("button", { name: /^Save/ }).click();
    await expect
      .poll(async () => (await ask(app.url, "site.state", {})).site!.checks.emptyLinkTexts)
      .toEqual(["read on"]);
    await page.goto(`${app.url}/addresses?face=links&links=says-nothing`);
    await page.waitForSelector("text=Nothing found: no link is like that.");
  });
});

describe("the Moves face", () => {
  it("shows folders now and after, goes into one, and includes a move", async () => {
    await ask(app.url, "review.forgetChoices", { filter: ALL_CHANGES });
    const stored = (await ask(app.url, "site.state", {})).drafts["product"]!;
    const design = { ...stored.design, address: "/fittings/{category}/{slug}", moves: "all" as const };
    await ask(app.url, "designs.save", { kind: "product", design, seen: stored.version });
    await page.goto(`${app.url}/addresses`);
    await page.getByText(/more could, and are not included/).waitFor({ timeout: 60_000 });
    const moving = page.locator("[role=status] b").first();
    expect(await moving.innerText()).toBe("0");
    await page.fill("[aria-label='Search moves']", "fittings cleat");
    const cleat = page.locator("[data-row]").filter({ hasText: "/fittings/" }).first();
    await cleat.getByRole("checkbox").click();
    await expect.poll(() => moving.innerText()).toBe("1");
    await cleat.locator("[role=checkbox][data-state=checked]").waitFor();
    await page.getByRole("button", { name: /^\/fittings\/: 0 pages now, 1 after$/ }).click();
    await page.waitForURL(/folder=%2Ffittings%2F|folder=\/fittings\//);
    await page.getByText(/from or to/).waitFor();
    expect(await axeFindings(page)).toEqual([]);
    const moves = await (await fetch(`${app.url}/api/out/moves?show=included&format=jsonl`)).text();
    expect(
      moves
        .trim()
        .split("\n")
        .map((line) => JSON.parse(line) as object),
    ).toMatchObject([{ included: "yes" }]);
    await page.getByLabel("Which moves").selectOption("included");
    await page.getByText("1 page from or to").waitFor();
  });
});
