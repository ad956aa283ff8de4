import { readFileSync } from "node:fs";
import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type App, axeFindings, startApp } from "./app";
import { ask } from "./calls";

let app: App;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
}, 120_000);
afterAll(() => app.close());

const LINE = '[aria-label="Address line"]';
const movesTold = () => page.locator("[data-figure=address-moves] b").innerText();

/** Where a path leads, as the view says it. */
async function follow(path: string): Promise<string> {
  await page.fill("[aria-label='Path to follow']", path);
  await page.keyboard.press("Enter");
  await page.waitForFunction((asked) => new URLSearchParams(location.search).get("path") === asked, path);
  const told = page.locator("section[aria-label='Where a path leads'] ol");
  await told.filter({ hasText: path.replace(/\?.*$/, "") }).waitFor();
  return told.innerText();
}

describe("an address line", () => {
  it("is typed beside the slug line, and says over all pages what it moves", async () => {
    await page.goto(`${app.url}/bench?kind=post&text=slug`);
    await page.waitForSelector("[data-figure=address-moves]");
    await page.click(LINE);
    await page.keyboard.insertText("/log book/{slug}");
    await page.waitForSelector("text=A space cannot stand in an address");
    expect(await axeFindings(page)).toEqual([]);
    await page.keyboard.press("Control+A");
    await page.keyboard.insertText("/log/{published:date(yyyy)}/{slug}");
    await page.waitForSelector("[data-figures-of='/log/{published:date(yyyy)}/{slug}']");
    await expect.poll(movesTold).toMatch(/^[1-9]\d\d$/);
    await page.waitForSelector("text=folder added on");
  });

  it("moves nothing once pages with an address are to stay", async () => {
    const who = page.locator("section[aria-label=Address] select");
    await who.selectOption("new");
    await expect.poll(movesTold).toBe("0");
    await who.selectOption("found");
    await expect.poll(movesTold).not.toBe("0");
    const found = await movesTold();
    await page.click("section[aria-label=Address] >> text=stop words");
    await expect.poll(movesTold).not.toBe(found);
    expect(await axeFindings(page)).toEqual([]);
    await who.selectOption("all");
    await expect.poll(movesTold).not.toBe("0");
    expect(await axeFindings(page)).toEqual([]);
  });

  it("goes through the review to the site, each move with a redirect, and back", async () => {
    await expect
      .poll(async () => (await ask(app.url, "site.state", {})).drafts["post"]!.design.address)
      .toBe("/log/{published:date(yyyy)}/{slug}");
    await page.goto(`${app.url}/review?kind=post&text=slug`);
    await page.click('[aria-label="Include: Address moves"]');
    await page.click("[data-group=moves]");
    await page.locator("[role=row] >> text=/→ \\/log\\/20\\d\\d\\//").first().waitFor();
    const moved = (await ask(app.url, "redirects.list", {
      ...{ search: "", origin: "run", state: "holds" },
      ...{ from: 0, count: 1 },
    })) as { total: number };
    expect(moved.total).toBe(0);
    await page.click("text=/Apply [\\d,]+ changes …/");
    await page.locator("[role=dialog] button[type=submit]").click();
    await page.waitForURL(/runs\/1$/);
    await page.waitForSelector("text=/Done: [\\d,]+ changes/", { timeout: 60_000 });
    await page.goto(`${app.url}/addresses?face=redirects&origin=run`);
    await page.waitForSelector("section[aria-label=Redirects] [data-row='0'] a");
    const old = await page.locator("section[aria-label=Redirects] [data-row='0'] .font-mono span").first().innerText();
    expect(await follow(old)).toMatch(/301, this path alone, from run 1\n\/log\/20\d\d\//);
    await page.goto(`${app.url}/runs/1`);
    await page.click("role=button[name='Undo']");
    await page.waitForURL(/runs\/2$/);
    await page.waitForSelector("text=Done: run 1 is undone", { timeout: 60_000 });
    await page.goto(`${app.url}/addresses?face=redirects`);
    expect(await follow(old)).toContain("is here; nothing redirects");
  });
});

describe("redirects by hand", () => {
  it("are looked at, added, followed, searched and retired", async () => {
    await page.goto(`${app.url}/addresses?face=redirects`);
    await page.fill(
      "[aria-label='Redirects to add']",
      "/old-rope /paint-and-varnish\n/older-rope /old-rope 302\n/a /b\n/b /a\nrope /x\n/catalogue/* /rope-and-twine/*\n/sold-out 410",
    );
    await page.click("text=Check them");
    await page.waitForSelector("text=1 line that cannot be read");
    await page.waitForSelector("text=leads in a circle and is left out");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("text=Add 6 redirects");
    await page.waitForSelector("text=6 redirects added");
    expect(await page.inputValue("[aria-label='Redirects to add']")).toBe("rope /x");
    expect(await follow("/older-rope?x=1")).toMatch(/302[^]*301[^]*\/paint-and-varnish\?x=1[^]*with status 302/);
    expect(await follow("/sold-out")).toContain("Gone for good: 410");
    expect(await follow("/a")).toContain("Leads nowhere");
    await page.fill("[aria-label='Search redirects']", "older");
    await page.waitForSelector("[aria-label='Retire /older-rope']");
    await expect.poll(() => page.locator("section[aria-label=Redirects] [role=row]").count()).toBe(1);
    await page.click("[aria-label='Change /older-rope']");
    expect(await page.inputValue("[aria-label='Redirects to add']")).toBe("/older-rope /old-rope 302");
    await page.fill("[aria-label='Redirects to add']", "/older-rope /old-rope 307");
    await page.click("text=Check them");
    await page.click("text=Add 1 redirect");
    await page.selectOption("[aria-label='Status of redirects']", "307");
    await page.selectOption("[aria-label='Age of redirects']", "older");
    await page.waitForSelector("text=No redirect matches");
    await page.selectOption("[aria-label='Age of redirects']", "week");
    await expect.poll(() => page.locator("section[aria-label=Redirects] [role=row]").count()).toBe(1);
    await page.click("[aria-label='Retire /older-rope']");
    await page.waitForSelector("text=Retired: /older-rope");
    expect(await follow("/older-rope")).toContain("Leads nowhere: 404");
    await page.selectOption("[aria-label='Status of redirects']", "302");
    await page.selectOption("[aria-label='State of redirects']", "retired");
    await page.click("[aria-label='Use /older-rope again']");
    await page.waitForSelector("text=No redirect matches");
    expect(await axeFindings(page)).toEqual([]);
  });

  it("are exported for a web server, in as few rules as there can be", async () => {
    await page.goto(`${app.url}/addresses?face=redirects`);
    const [download] = await Promise.all([page.waitForEvent("download"), page.click("text=nginx")]);
    expect(download.suggestedFilename()).toBe("redirects-nginx.conf");
    const text = readFileSync(await download.path(), "utf8");
    expect(text).toContain('"/old-rope" "/old-rope 301 /paint-and-varnish";');
    expect(text).toContain('"/older-rope" "/older-rope 302 /paint-and-varnish";');
    expect(text).not.toContain('"/a"');
  });

  it("come from a file, too", async () => {
    await page.setInputFiles("[aria-label='File of redirects']", {
      name: "moved.csv",
      mimeType: "text/csv",
      buffer: Buffer.from("Status;Target;Source\r\n301;/paint-and-varnish;https://fennickdray.example/colours\r\n"),
    });
    await page.click("text=Add 1 redirect");
    await page.waitForSelector("[aria-label='Retire /colours']");
    await page.selectOption("[aria-label='Where redirects are from']", "file");
    await page.fill("[aria-label='Search redirects']", "colours");
    await expect.poll(() => page.locator("section[aria-label=Redirects] [role=row]").count()).toBe(1);
  });
});

describe("a page’s further paths", () => {
  const section = "section[aria-label='Further paths']";
  const add = async (path: string) => {
    await page.fill("[aria-label='Path that leads here']", path);
    await page.keyboard.press("Enter");
  };

  it("are added in its sheet, refused where another page is, lead there, and are retired", async () => {
    await page.goto(`${app.url}/pages?item=category-1`);
    await page.click(`${section} >> text=Add a path`);
    await add("rope");
    await page.waitForSelector("text=“rope” is no path; one begins with a slash");
    await add("/paint-and-varnish");
    await page.waitForSelector("text=a page’s own address leads nowhere else");
    expect(await axeFindings(page)).toEqual([]);
    await add("https://www.fennickdray.example/ropes-short");
    await page.waitForSelector(`${section} >> text=1 path redirects here, wherever the page moves`);
    await page.waitForSelector("[aria-label='Retire the path /ropes-short']");
    expect(await axeFindings(page)).toEqual([]);
    const { to } = await ask(app.url, "redirects.way", { path: "/ropes-short" });
    expect(to).toBe("/rope-and-twine");
    await page.click("[aria-label='Retire the path /ropes-short']");
    await page.waitForSelector(`${section} >> text=No other path leads here`);
    expect((await ask(app.url, "redirects.way", { path: "/ropes-short" })).to).toBeNull();
  });
});

describe("canonicals", () => {
  it("are designed once they are switched on, written by hand in a sheet, and found where they lead astray", async () => {
    await page.goto(`${app.url}/settings?topic=extras`);
    await page.click("text=Canonicals");
    await page.getByRole("button", { name: "Save settings" }).click();
    await expect.poll(async () => (await ask(app.url, "site.state", {})).site!.extras.canonical).toBe(true);
    await page.goto(app.url);
    await page.click("[aria-label='Canonicals line for categories']");
    await page.keyboard.insertText("/nowhere/{id}");
    await page.waitForSelector("text=/\\/nowhere\\//");
    await page.goto(`${app.url}/pages?item=category-1`);
    const extra = page.locator("section[aria-label='Extra texts'] li").filter({ hasText: "Canonical" });
    await extra.filter({ hasText: "/nowhere/" }).waitFor();
    await page.waitForSelector("section[aria-label='Page'] >> text=Canonical that leads nowhere");
    await extra.getByText("Write by hand").click();
    await page.getByRole("textbox", { name: "Canonical" }).fill("/paint-and-varnish");
    await page.keyboard.press("Enter");
    await extra.getByText("by hand", { exact: true }).waitFor();
    await page.waitForSelector("section[aria-label='Page'] >> text=Canonical that leads nowhere", {
      state: "detached",
    });
    expect(await axeFindings(page)).toEqual([]);
    await page.goto(`${app.url}/review?text=canonical`);
    await page.waitForSelector("text=· canonical");
    expect(await axeFindings(page)).toEqual([]);
  });
});
