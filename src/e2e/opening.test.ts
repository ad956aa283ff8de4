import { type Page } from "playwright-core";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { type App, startApp } from "./app";
import { ask } from "./calls";

let app: App;
beforeAll(async () => {
  app = await startApp();
}, 120_000);
afterAll(() => app.close());

/** A page that tells what it asked the server for. */
async function listening(): Promise<{ page: Page; calls: string[]; ahead: string[] }> {
  const page = await app.page();
  const [calls, ahead]: [string[], string[]] = [[], []];
  page.on("request", (request) => {
    const { pathname, searchParams } = new URL(request.url());
    if (pathname.includes("/api/")) calls.push(pathname.split("/api/")[1]!);
    if (searchParams.has("_rsc")) ahead.push(pathname);
  });
  return { page, calls, ahead };
}

const unfiltered = { folder: "/", search: "", show: "all" } as const;

describe("a view that is opened", () => {
  it.each([
    ["Board", "/", "text=too wide", () => ask(app.url, "bench.board", {}), ["bench.board"]],
    [
      "Keywords",
      "/keywords",
      "[role=row] mark",
      () =>
        Promise.all([
          ask(app.url, "keywords.matrix", {}),
          ask(app.url, "keywords.coverage", { show: "all", search: "", from: 0, count: 100 }),
        ]),
      ["keywords.matrix", "keywords.coverage"],
    ],
    [
      "Addresses",
      "/addresses",
      "text=/more could, and are not included/",
      () =>
        Promise.all([
          ask(app.url, "review.folders", { within: "/" }),
          ask(app.url, "review.moves", { ...unfiltered, from: 0, count: 100 }),
        ]),
      ["review.folders", "review.moves"],
    ],
    [
      "the Bench, as its address says,",
      "/bench?kind=post&text=description&sort=shortest",
      "[role=option] [data-proof]",
      // It is asked with its draft: what comes with it is warm once it was opened.
      () => Promise.resolve(),
      ["bench.prove", "bench.rows"],
    ],
  ] as const)("comes with what %s asks for first, and does not ask again", async (_name, path, ready, warm, first) => {
    await warm();
    // On a busy machine the answers may be late once; then the view asks itself, as it should.
    await expect
      .poll(
        async () => {
          const { page, calls } = await listening();
          await page.goto(app.url + path);
          await page.locator(ready).first().waitFor();
          await page.waitForLoadState("networkidle");
          await page.context().close();
          return calls.filter((call) => (first as readonly string[]).includes(call));
        },
        { timeout: 100_000 },
      )
      .toEqual([]);
  });

  it("is there before any script has run", async () => {
    await ask(app.url, "bench.board", {});
    const html = async () => (await fetch(app.url, { headers: { "sec-fetch-dest": "document" } })).text();
    await expect.poll(html).toMatch(/too wide/);
    // Whoever goes on from another view is not kept waiting for it.
    expect(await (await fetch(app.url, { headers: { "sec-fetch-dest": "empty" } })).text()).not.toMatch(/too wide/);
    const bench = async () =>
      (await fetch(`${app.url}/bench?kind=product`, { headers: { "sec-fetch-dest": "document" } })).text();
    await expect.poll(bench, { timeout: 100_000 }).toMatch(/role="option"[^>]* aria-label="[^"]+ px[",]/);
  });

  it("brings in what shows the selected page when that is in view", async () => {
    const context = await app.browser.newContext({ viewport: { width: 390, height: 844 } });
    const page = await context.newPage();
    await page.goto(`${app.url}/bench?kind=product&text=title`);
    await page.locator("[role=option] [data-proof]").first().waitFor();
    await page.waitForLoadState("networkidle");
    const results = page.locator("section[aria-label=Results]");
    expect(await results.innerText()).toBe("");
    await results.scrollIntoViewIfNeeded();
    await expect.poll(() => results.innerText()).toMatch(/Desktop result/);
    await context.close();
  });

  it("fetches another view when somebody points at its link, and not before", async () => {
    const { page, ahead } = await listening();
    await page.goto(app.url);
    await page.locator("text=too wide").first().waitFor();
    await page.waitForLoadState("networkidle");
    expect(ahead).toEqual([]);
    await page.getByRole("link", { name: "Runs", exact: true }).hover();
    await expect.poll(() => ahead).toContain("/fennick-dray/runs");
    await page.context().close();
  });

  it("works nothing out for an address that asks for something else", async () => {
    await ask(app.url, "review.folders", { within: "/" });
    const html = async (path: string) =>
      (await fetch(app.url + path, { headers: { "sec-fetch-dest": "document" } })).text();
    await expect.poll(() => html("/addresses"), { timeout: 100_000 }).toMatch(/review\.folders/);
    expect(await html("/addresses?face=links")).not.toMatch(/review\.folders/);
  });
});

describe("a line whose editor is still to come", () => {
  let page: Page;
  let come: () => void;
  beforeEach(async () => {
    page = await app.page();
    const mayCome = new Promise<void>((resolve) => (come = resolve));
    await page.route(/\/_next\/static\/chunks\/.*\.js$/, async (route) => {
      const answer = await route.fetch();
      // The editor’s script is the one that has its classes.
      if ((await answer.text()).includes("cm-tooltip-autocomplete")) await mayCome;
      await route.fulfill({ response: answer });
    });
    await page.goto(`${app.url}/bench?kind=product&text=title`);
    await page.locator("[role=option]").first().waitFor();
    expect(await page.locator(".cm-content").count()).toBe(0);
    expect(await page.locator(".line-static").first().innerText()).toContain("{name}");
  });
  afterEach(async () => {
    // Scripts may still be on their way.
    await page.unrouteAll({ behavior: "ignoreErrors" });
    await page.context().close();
  });

  it("keeps what is put into it", async () => {
    await page.getByRole("button", { name: "Insert into the title line" }).click();
    await page.fill("[placeholder='Search fields']", "diameter");
    await page.locator("[cmdk-item][aria-selected=true]", { hasText: "diameter" }).waitFor();
    await page.keyboard.press("Enter");
    await page.waitForSelector("[placeholder='Search fields']", { state: "detached" });
    come();
    await expect.poll(() => page.getByLabel("Title line").innerText()).toContain("{diameter}");
  });

  it("is chosen by a click, and has the focus when its editor is there", async () => {
    await page.locator(".line-static").nth(1).click();
    await page.waitForURL(/text=description/);
    come();
    await page.waitForSelector(".cm-content[aria-label='Description line']:focus");
    expect(await page.locator(".cm-content").count()).toBe(1);
  });

  it("keeps what is typed and pasted into it, where it was clicked", async () => {
    const title = page.getByLabel("Title line");
    await title.click();
    await page.keyboard.press("Control+A");
    await page.keyboard.type("{name} of brass");
    await page.keyboard.press("Backspace");
    await page.keyboard.insertText("s, drawn");
    const description = page.getByLabel("Description line");
    await description.click({ position: { x: 1, y: 12 } });
    await page.keyboard.type("Sold: ");
    come();
    await expect.poll(() => title.innerText()).toBe("{name} of brass, drawn");
    await expect.poll(() => description.innerText()).toMatch(/^Sold: ./);
    await page.waitForSelector(".cm-content[aria-label='Description line']:focus");
    await page.keyboard.press("Control+Z");
    await page.keyboard.press("Control+Z");
    await expect.poll(() => title.innerText()).toContain("{name}[");
    await page.waitForSelector("[data-draft=stored]");
  });

  it("keeps what is typed where the cursor was then, though another line has it by now", async () => {
    const title = page.getByLabel("Title line");
    const before = await title.innerText();
    await title.click({ position: { x: 30, y: 12 } });
    const at = await page.evaluate(() => {
      const { anchorNode, anchorOffset } = document.getSelection()!;
      const upTo = document.createRange();
      upTo.selectNodeContents(anchorNode!.parentElement!.closest(".line-static")!);
      upTo.setEnd(anchorNode!, anchorOffset);
      return upTo.toString().length;
    });
    expect(at).toBeGreaterThan(0);
    await page.keyboard.type("Fine");
    await page.getByLabel("Description line").click();
    come();
    await expect.poll(() => title.innerText()).toBe(`${before.slice(0, at)}Fine${before.slice(at)}`);
    await page.waitForSelector(".cm-content[aria-label='Description line']:focus");
    await page.keyboard.press("Control+Z");
    await expect.poll(() => title.innerText()).toBe(before);
    await page.waitForSelector("[data-draft=stored]");
  });

  it("gives no line the focus that was only gone through", async () => {
    await page.getByLabel("Title line").focus();
    await page.keyboard.press("Tab");
    const focused = () =>
      page.evaluate(() => document.activeElement?.getAttribute("aria-label") ?? document.activeElement?.textContent);
    const before = await focused();
    expect(before).not.toBe("Title line");
    come();
    await page.locator(".cm-content").first().waitFor();
    expect(await focused()).toBe(before);
  });
});

describe("a script", () => {
  it("is sent as it was compressed when it was built, in the form that is asked for, and kept", async () => {
    const html = await (await fetch(app.url)).text();
    const script = new URL(/src="(\/_next\/static\/chunks\/[^"]+\.js)"/.exec(html)![1]!, app.url);
    const plain = await (await fetch(script, { headers: { "accept-encoding": "identity" } })).text();
    for (const form of ["br", "gzip"]) {
      const answer = await fetch(script, { headers: { "accept-encoding": form } });
      expect(answer.headers.get("content-encoding")).toBe(form);
      expect(answer.headers.get("cache-control")).toMatch(/immutable/);
      expect(answer.headers.get("x-content-type-options")).toBe("nosniff");
      expect(await answer.text()).toBe(plain);
    }
    expect((await fetch(new URL("/_next/static/chunks/no-such.js", app.url))).status).toBe(404);
    expect((await fetch(new URL("/_next/static/..%2f..%2fpackage.json", app.url))).status).not.toBe(200);
  });
});
