import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type App, axeFindings, startApp } from "./app";
import { drawn } from "./calls";

let app: App;
beforeAll(async () => {
  app = await startApp();
}, 120_000);
afterAll(() => app.close());

/** Every view, and what stands on it once it is there. */
const VIEWS: readonly (readonly [name: string, path: string, ready: string])[] = [
  ["the sites", "/..", "text=Start with your own site"],
  ["Board", "/", "text=too wide"],
  ["Bench", "/bench?kind=product&text=title", "[role=option]"],
  ["Items", "/pages", "[role=gridcell]"],
  ["an item’s sheet", "/pages?item=product-2000", "text=Preview"],
  ["Keywords", "/keywords", "[role=row] mark"],
  ["Review", "/review", "text=Every change can be undone"],
  ["Runs", "/runs", "text=Nothing applied yet"],
  ["moves", "/addresses", "text=/more could, and are not included/"],
  ["redirects", "/addresses?face=redirects", "text=known paths checked"],
  ["links", "/addresses?face=links", "[data-row='0'] a"],
  ["the Bench’s addresses", "/bench?kind=product&text=slug", "[data-figure=address-moves]"],
  ["Settings", "/settings?topic=surfaces", "text=A text must fit every"],
  ["Import", "/import", "text=CSV"],
  ["the lines file", "/lines", "text=lines file"],
  ["a connection", "/connection", "text=Try the first page"],
  ["live pages", "/live", "text=Nothing was checked yet"],
  ["Compare", "/compare?kind=product", "[role=option]"],
];

async function opened(
  path: string,
  ready: string,
  options: Parameters<App["browser"]["newContext"]>[0] = {},
  errors: string[] = [],
): Promise<Page> {
  const context = await app.browser.newContext({ viewport: { width: 1280, height: 800 }, ...options });
  const page = await context.newPage();
  page.setDefaultTimeout(30_000);
  page.on("pageerror", (error) => errors.push(error.message));
  page.on("console", (message) => message.type() === "error" && errors.push(message.text()));
  // What is caught is told, too: a library that tries whether it may.
  await page.addInitScript(() =>
    document.addEventListener("securitypolicyviolation", ({ blockedURI, violatedDirective }) =>
      console.error(`${violatedDirective} does not allow ${blockedURI}`),
    ),
  );
  await page.goto(app.url + path);
  await page.locator(ready).first().waitFor();
  return page;
}

/** What reaches out of the window, and the actions of the bar that are cut off. */
const outside = (page: Page) =>
  page.evaluate(() => {
    const { scrollWidth, scrollHeight } = document.documentElement;
    const cut = [...document.querySelectorAll("header button, header a:not(.sr-only)")].filter(
      (one) => one.getBoundingClientRect().right > innerWidth + 1 && one.closest("nav") === null,
    );
    const main = document.querySelector("main")!;
    return [
      ...(scrollWidth > innerWidth ? [`${scrollWidth} px wide`] : []),
      ...(main.scrollWidth > main.clientWidth ? [`main ${main.scrollWidth} px wide`] : []),
      ...(scrollHeight > innerHeight ? [`${scrollHeight} px high`] : []),
      ...cut.map((one) => one.textContent),
    ];
  });

describe.each(VIEWS)("%s", (_name, path, ready) => {
  let page: Page;
  const errors: string[] = [];
  beforeAll(async () => {
    page = await opened(path, ready, { reducedMotion: "reduce" }, errors);
  });
  afterAll(() => page.context().close());

  it("is made and shown without an error, and by what its policy allows", () => expect(errors).toEqual([]));

  it.each([
    ["a desktop", 1280, 800],
    ["the narrowest desktop", 1024, 700],
    ["a desktop at 200 %", 640, 400],
    ["a phone", 390, 844],
  ])("has room on %s", async (_screen, width, height) => {
    await page.setViewportSize({ width, height });
    await expect.poll(() => outside(page)).toEqual([]);
  });

  it.each([
    ["in the light theme", "light", 1280, 800, undefined],
    ["in the dark theme", "dark", 1280, 800, "only"],
    ["on a phone", "light", 390, 844, "not"],
  ] as const)("breaks no rule of accessibility %s", async (_where, colorScheme, width, height, colours) => {
    await page.setViewportSize({ width, height });
    await page.emulateMedia({ colorScheme });
    await drawn(page);
    expect(await axeFindings(page, { colours })).toEqual([]);
  });

  it("is gone through by Tab, and the focus is always seen", async () => {
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.locator("header").click({ position: { x: 2, y: 2 } });
    const seen = new Set<string>();
    for (let i = 0; i < 40; i++) {
      await page.keyboard.press("Tab");
      const at = await page.evaluate(() => {
        const one = document.activeElement;
        if (!one || one === document.body) return null;
        const style = getComputedStyle(one);
        const box = one.getBoundingClientRect();
        // A list that marks its chosen row, and an editor with its caret, show where one is in ways of their own.
        const shown =
          (style.outlineStyle !== "none" && parseFloat(style.outlineWidth) > 0) ||
          style.boxShadow !== "none" ||
          one.matches(".cm-content, [role=grid], [role=listbox]");
        return {
          name: `${one.tagName} ${one.getAttribute("aria-label") ?? one.textContent?.slice(0, 40)}`,
          shown,
          there: box.width > 0 && box.height > 0,
        };
      });
      if (at === null) break;
      expect(at, at.name).toMatchObject({ shown: true, there: true });
      seen.add(at.name);
    }
    expect(seen.size).toBeGreaterThan(7);
  });
});

describe("the views", () => {
  it("say to crawlers in their own language that there is nothing to keep from them", async () => {
    const answer = await fetch(new URL("/robots.txt", app.url));
    expect(answer.headers.get("content-type")).toContain("text/plain");
    expect(await answer.text()).toContain("User-Agent: *\nAllow: /");
  });

  it("are gone to by Alt and a number", async () => {
    const page = await opened("/", "text=too wide");
    for (const [key, path] of [
      ["2", "/bench"],
      ["3", "/pages"],
      ["4", "/keywords"],
      ["5", "/review"],
      ["6", "/runs"],
      ["7", "/settings"],
      ["8", "/import"],
      ["1", "/"],
    ] as const) {
      await page.keyboard.press(`Alt+${key}`);
      await page.waitForFunction((wanted) => location.pathname === wanted, `/fennick-dray${path === "/" ? "" : path}`);
    }
    await page.context().close();
  });

  it("are gone back to as they were left", async () => {
    const page = await opened("/pages?search=cleat&sort=title", "[role=gridcell]");
    await page.keyboard.press("Alt+6");
    await page.waitForURL(/\/runs/);
    await page.goBack();
    await page.waitForURL(/search=cleat&sort=title/);
    await page.waitForSelector("[role=gridcell]");
    expect(await page.inputValue("[aria-label^=Search]")).toBe("cleat");
    await page.context().close();
  });

  it("are gone back through step by step: filters, what was typed as one step, a page’s sheet, and where the list stood", async () => {
    const page = await opened("/pages", "[role=gridcell]");
    const query = () => new URL(page.url()).search;
    await page.click("[data-finding='title.too-wide']");
    await expect.poll(query).toBe("?findings=title.too-wide");
    await page.locator("[aria-label^=Search]").pressSequentially("cleat", { delay: 30 });
    await expect.poll(query).toContain("search=cleat");
    await page.waitForFunction(() => document.querySelectorAll("[role=gridcell]").length > 40);
    const grid = page.getByRole("grid");
    await grid.evaluate((box) => box.scrollTo({ top: 700 }));
    await page.keyboard.press("Alt+6");
    await page.waitForURL(/\/runs/);
    await page.goBack();
    await expect.poll(() => grid.evaluate((box) => box.scrollTop)).toBe(700);
    expect(await page.inputValue("[aria-label^=Search]")).toBe("cleat");
    await page.goBack();
    await expect.poll(query).toBe("?findings=title.too-wide");
    expect(await page.inputValue("[aria-label^=Search]")).toBe("");
    await page.goBack();
    await expect.poll(query).toBe("");
    await page.goForward();
    await page.waitForSelector(
      "[data-finding='title.too-wide'] [aria-pressed=true], [data-finding='title.too-wide'][aria-pressed=true]",
    );
    await page.context().close();
  });

  it("are found by name with every other action", async () => {
    const page = await opened("/", "text=too wide");
    await page.keyboard.press("Control+k");
    await page.keyboard.type("keyw");
    await page.locator("[cmdk-item]").first().waitFor();
    await page.keyboard.press("Enter");
    await page.waitForURL(/\/keywords/);
    await page.keyboard.press("Control+k");
    await page.keyboard.type("zzzz no such thing");
    expect(await page.locator("[cmdk-item]").count()).toBe(0);
    await page.keyboard.press("Escape");
    await page.waitForFunction(() => document.querySelector("[cmdk-input]") === null);
    await page.context().close();
  });
});

describe("the columns of the list", () => {
  const stand = (page: Page, ...wanted: string[]) =>
    page.waitForFunction(
      (all) =>
        [...document.querySelectorAll<HTMLElement>("[role=columnheader]")]
          .map((one) => one.innerText.trim())
          .filter(Boolean)
          .join() === all,
      wanted.join(),
    );

  it("are put into another order by keyboard and by mouse, and the address bar holds it", async () => {
    const page = await opened("/pages", "[role=gridcell]");
    await stand(page, "Page", "Focus keyword", "Title", "Findings");
    await page.focus("[aria-label='Move the column Title']");
    await page.keyboard.press("Space");
    await page.waitForSelector("[aria-label='Move the column Title'][aria-pressed=true]");
    await page.keyboard.press("ArrowLeft");
    // The column that it goes before makes room.
    await page.waitForFunction(() => {
      const header = document
        .querySelector("[aria-label='Move the column Focus keyword']")!
        .closest("[role=columnheader]")!;
      return (
        (header as HTMLElement).style.transform.includes("translate3d(") &&
        !/translate3d\(0px/.test((header as HTMLElement).style.transform)
      );
    });
    await page.keyboard.press("Space");
    await page.waitForURL(/columns=name\+title\+keyword\+findings/);
    await stand(page, "Page", "Title", "Focus keyword", "Findings");
    const handle = (await page.locator("[aria-label='Move the column Findings']").boundingBox())!;
    const target = (await page.locator("[role=columnheader]").filter({ hasText: "Title" }).boundingBox())!;
    await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2);
    await page.mouse.down();
    await page.mouse.move(target.x + target.width / 2, handle.y + handle.height / 2, { steps: 12 });
    await page.mouse.up();
    await page.waitForURL(/columns=name\+findings\+title\+keyword/);
    await page.reload();
    await page.waitForSelector("[role=gridcell]");
    await stand(page, "Page", "Findings", "Title", "Focus keyword");
    await page.context().close();
  });

  it("are gone through cell by cell, to the ends of the row and of the list", async () => {
    const page = await opened("/pages", "[role=gridcell]");
    await page.focus("[role=grid]");
    const at = () => page.locator("[role=grid]").getAttribute("aria-activedescendant");
    const press = async (...keys: string[]) => {
      for (const key of keys) await page.keyboard.press(key);
    };
    await press("ArrowDown", "ArrowRight");
    expect(await at()).toBe("cell-1-1");
    await press("End");
    expect(await at()).toBe("cell-1-3");
    await press("Home");
    expect(await at()).toBe("cell-1-0");
    await press("Control+End");
    await page.waitForFunction(() =>
      /^cell-13805-3$/.test(document.querySelector("[role=grid]")!.getAttribute("aria-activedescendant")!),
    );
    await page.waitForSelector("#cell-13805-3");
    await press("Control+Home");
    expect(await at()).toBe("cell-0-0");
    await page.context().close();
  });
});

describe("what opens on a phone", () => {
  const inside = (page: Page, selector: string) =>
    page
      .locator(selector)
      .first()
      .evaluate((one) => {
        const box = one.getBoundingClientRect();
        return [box.left >= 0, box.right <= innerWidth + 1, box.width > innerWidth * 0.7];
      });

  it("covers the screen: a rule, a page’s sheet, the edit of chosen pages, a list of keywords", async () => {
    const page = await opened("/bench?kind=product&text=title", "[role=option]", {
      viewport: { width: 390, height: 844 },
    });
    await page.getByRole("button", { name: /^Rules/ }).click();
    await page.getByRole("button", { name: "Add a rule" }).click();
    await page.waitForSelector("[role=dialog]");
    expect(await inside(page, "[role=dialog]")).toEqual([true, true, true]);
    expect(await axeFindings(page)).toEqual([]);
    await page.keyboard.press("Escape");
    await page.goto(`${app.url}/pages?item=product-2000`);
    await page.waitForSelector("text=Preview");
    expect(await inside(page, "[aria-label='The page']")).toEqual([true, true, true]);
    await page.getByRole("button", { name: "Close" }).click();
    await page.waitForSelector("[role=gridcell]");
    await page.focus("[role=grid]");
    await page.keyboard.press("Control+a");
    await page.getByRole("button", { name: "Find and replace …" }).click();
    await page.waitForSelector("[aria-label='Edit the selected pages']");
    expect(await inside(page, "[aria-label='Edit the selected pages']")).toEqual([true, true, true]);
    await page.goto(`${app.url}/keywords`);
    await page.getByRole("button", { name: "Import a list" }).first().click();
    expect(await inside(page, "[aria-label='Import a keyword list']")).toEqual([true, true, true]);
    await page.context().close();
  });
});

describe("terms of ours", () => {
  it("say what they mean where they stand, and give the focus back", async () => {
    const page = await opened("/", "text=Nine lines for");
    await page.focus("h1 >> role=button[name='lines']");
    await page.keyboard.press("Enter");
    await page.waitForSelector("[role=dialog] >> text=A template for one text, such as");
    expect(await axeFindings(page)).toEqual([]);
    await page.keyboard.press("Escape");
    await page.waitForSelector("[role=dialog]", { state: "hidden" });
    await expect.poll(() => page.evaluate(() => document.activeElement?.textContent)).toBe("lines");
    await page.context().close();
  });
});

describe("what is not there, and what breaks", () => {
  it("an address without a view says so among the views that there are", async () => {
    const page = await app.page();
    const answer = await page.goto(`${app.url}/nowhere/at/all`);
    expect(answer!.status()).toBe(404);
    await page.waitForSelector("role=heading[name='There is nothing at this address']");
    await page.getByText("/nowhere/at/all").waitFor();
    expect(await axeFindings(page)).toEqual([]);
    await page.click("main >> role=link[name='Runs']");
    await page.waitForURL(/\/runs$/);
    await page.context().close();
  });

  it("a view that broke says so, is tried again, and leaves the others alone", async () => {
    const page = await app.page();
    await page.goto(`${app.url}/settings`);
    await page.waitForSelector("role=heading[name='The site']");
    // An answer that no server of this version gives.
    await page.route("**/api/runs.list", (route) => route.fulfill({ json: { runs: [{}], jobs: [] } }));
    await page.click("role=link[name='Runs']");
    await page.waitForSelector("role=heading[name='This view broke']");
    expect(await page.evaluate(() => document.activeElement?.textContent)).toBe("This view broke");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("role=link[name='Go to the Board']");
    await page.waitForSelector("text=Nine lines for");
    await page.click("role=link[name='Runs']");
    await page.waitForSelector("role=heading[name='This view broke']");
    await page.unroute("**/api/runs.list");
    await page.click("role=button[name='Try again']");
    await page.waitForSelector("role=heading[name='Runs']");
    await page.context().close();
  });
});
