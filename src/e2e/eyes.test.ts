import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type App, type Colours, startApp, tellColours } from "./app";
import { ask, drawn } from "./calls";

let app: App;
beforeAll(async () => {
  app = await startApp();
}, 120_000);
afterAll(() => app.close());

/** Makes a run of a few changes, so that there is one to be looked at. */
async function aRun(): Promise<number> {
  const filter = { ...NOTHING_FILTERED, kind: "post", text: "title" as const };
  await ask(app.url, "review.chooseShown", { filter, included: true, only: true });
  const { goingOut, included } = await ask(app.url, "review.summary", { filter: NOTHING_FILTERED });
  expect(included).toBeGreaterThan(0);
  const { run: id } = await ask(app.url, "runs.start", { goingOut, name: "Titles of posts", click: "eyes-test-click" });
  return id;
}

const NOTHING_FILTERED = { kind: null, text: null, words: "", rule: null, category: null, finding: null };

/** Views with what stands on them once they are there. */
const VIEWS = [
  ["the sites", "/..", "text=Start with your own site"],
  ["Board", "/", "text=too wide"],
  ["Bench", "/bench?kind=product&text=title", "[role=option] [data-proof]"],
  ["Pages", "/pages", "[role=gridcell]"],
  ["a page’s sheet", "/pages?item=product-2000", "text=Preview"],
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
] as const;

async function opened(path: string, ready: string, options: Parameters<App["browser"]["newContext"]>[0] = {}) {
  const context = await app.browser.newContext({ viewport: { width: 1280, height: 800 }, ...options });
  const page = await context.newPage();
  page.setDefaultTimeout(30_000);
  await page.addInitScript(watchShifts);
  // Fonts come last, as they do on a slow line: what stands for them until then has to take the same room.
  let letThrough = () => {};
  const isDrawn = new Promise<void>((resolve) => (letThrough = resolve));
  await page.route("**/*.woff2", async (route) => {
    await isDrawn;
    await route.continue();
  });
  await page.goto(app.url + path, { waitUntil: "domcontentloaded" });
  await page.locator(ready).first().waitFor();
  await drawn(page);
  letThrough();
  await page.evaluate(() => document.fonts.ready);
  await drawn(page);
  return page;
}

/** Adds up by how much things moved that nobody touched (Cumulative Layout Shift, as the browser measures it). */
function watchShifts(): void {
  const sums = globalThis as unknown as { shifted: number; moved: string[] };
  sums.shifted = 0;
  sums.moved = [];
  new PerformanceObserver((list) => {
    for (const entry of list.getEntries() as unknown as {
      value: number;
      hadRecentInput: boolean;
      sources: { node?: Element }[];
    }[]) {
      if (entry.hadRecentInput) continue;
      sums.shifted += entry.value;
      for (const { node } of entry.sources)
        sums.moved.push(`${entry.value.toFixed(3)} ${(node?.outerHTML ?? node?.nodeName ?? "?").slice(0, 120)}`);
    }
  }).observe({ type: "layout-shift", buffered: true });
}

/** Fields of a form whose edge nobody can see: less than 3:1 with what is around them (WCAG 2.2, 1.4.11). */
async function weakFields(page: Page): Promise<string[]> {
  await tellColours(page);
  return page.evaluate(() => {
    const { contrast, groundOf } = (globalThis as unknown as { colours: Colours }).colours;
    const fields = document.querySelectorAll(
      "input:not([type=checkbox], [type=radio], [type=file]), select, textarea, [role=checkbox]",
    );
    return [...fields]
      .filter((field) => field.checkVisibility() && !field.matches(":disabled"))
      .flatMap((field) => {
        const { borderTopColor, borderTopWidth } = getComputedStyle(field);
        // A line under a field, or its own ground, marks it as well as a line around it.
        const edges = [groundOf(field), ...(parseFloat(borderTopWidth) > 0 ? [borderTopColor] : [])];
        const best = Math.max(...edges.map((edge) => contrast(edge, groundOf(field.parentElement))));
        const bottom = getComputedStyle(field);
        const line =
          parseFloat(bottom.borderBottomWidth) > 0
            ? contrast(bottom.borderBottomColor, groundOf(field.parentElement))
            : 0;
        return Math.max(best, line) >= 3 ? [] : [`${best.toFixed(2)} ${field.outerHTML.slice(0, 160)}`];
      });
  });
}

/** By how much things moved until all that comes had come. */
async function shiftsOf(page: Page): Promise<{ shifted: number; moved: string[] }> {
  // What is counted over every page comes late.
  await page.waitForLoadState("networkidle");
  await drawn(page);
  return page.evaluate(() => {
    const { shifted, moved } = globalThis as unknown as { shifted: number; moved: string[] };
    return { shifted, moved };
  });
}

/** Where a view begins while what is said in the bar becomes longer, as it does while work goes on; settings say what is wrong, which is no work. */
function topsOfView(page: Page): Promise<number[]> {
  return page.evaluate(() => {
    const status = document.querySelector<HTMLElement>("#bar-slot [role=status].truncate");
    const topWith = (words: string | null) => {
      if (status) status.textContent = words;
      return (document.querySelector("#view") ?? document.body).getBoundingClientRect().top;
    };
    const said = status?.textContent ?? null;
    const tops = ["", "Checking", "Checking titles: 11,204 of 12,480 products, and what differs", said].map(topWith);
    return [...new Set(tops)];
  });
}

describe.each(VIEWS)("%s", (_name, path, ready) => {
  let page: Page;
  beforeAll(async () => {
    page = await opened(path, ready);
  });
  afterAll(() => page.context().close());

  it("keeps the place of what comes on a desktop", async () => {
    const { shifted, moved } = await shiftsOf(page);
    expect(shifted, moved.join("\n")).toBeLessThan(0.02);
  });

  it("keeps the place of what comes on a phone", async () => {
    const phone = await opened(path, ready, { viewport: { width: 390, height: 844 } });
    const { shifted, moved } = await shiftsOf(phone);
    expect(shifted, moved.join("\n")).toBeLessThan(0.02);
    expect(await topsOfView(phone), "as the bar says less and more").toHaveLength(1);
    await phone.context().close();
  });

  it.each(["light", "dark"] as const)("has fields with edges that can be seen in the %s theme", async (colorScheme) => {
    await page.emulateMedia({ colorScheme });
    expect(await weakFields(page)).toEqual([]);
  });

  it("tells what is chosen by lines where the colours are one’s own", async () => {
    await page.emulateMedia({ colorScheme: "light", forcedColors: "active" });
    const untold = await page.evaluate(() => {
      const chosen =
        "[aria-current]:not([aria-current=false]), [aria-selected=true]:not([data-change]), [aria-pressed=true], [role=radio][aria-checked=true]";
      return [...document.querySelectorAll(chosen)]
        .filter((one) => one.checkVisibility() && getComputedStyle(one).outlineStyle !== "solid")
        .map((one) => one.outerHTML.slice(0, 120));
    });
    expect(untold).toEqual([]);
    // Bars and marks are drawn in colours that are not the ground’s.
    const lost = await page.evaluate(() => {
      const ground = getComputedStyle(document.body).backgroundColor;
      return [...document.querySelectorAll(".bg-rule, .bg-magenta, main .bg-key, .marker, main svg rect")]
        .filter((one) => one.checkVisibility())
        .filter((one) => {
          const style = getComputedStyle(one);
          return (one.tagName === "rect" ? style.fill : style.backgroundColor) === ground;
        })
        .map((one) => one.outerHTML.slice(0, 120));
    });
    expect(lost).toEqual([]);
  });
});

describe("colours of one’s own", () => {
  it("still tell the present view, the chosen page, the marker and what is beyond the limit", async () => {
    const page = await opened("/bench?kind=product&text=title", "[role=option] [data-proof]", {
      forcedColors: "active",
    });
    await page.locator("[role=option]").first().click();
    const outline = (selector: string) =>
      page
        .locator(selector)
        .first()
        .evaluate((one) => getComputedStyle(one).outlineStyle);
    expect(await outline("nav [aria-current=page]")).toBe("solid");
    expect(await outline("nav a:not([aria-current])")).toBe("none");
    expect(await outline("[role=option][aria-selected=true]")).toBe("solid");
    expect(await outline("[role=option][aria-selected=false]")).toBe("none");
    const ground = (selector: string) =>
      page
        .locator(selector)
        .first()
        .evaluate((one) => getComputedStyle(one).backgroundColor);
    const canvas = await ground("body");
    expect(await ground(".marker")).not.toBe(canvas);
    await page.context().close();
  });
});

it("lets clicks through a message to what it lies over", async () => {
  const page = await opened("/bench?kind=product&text=title", "[role=option] [data-proof]", {});
  const line = page.locator('[aria-label="Title line"]');
  await line.click();
  await page.keyboard.press("End");
  await page.keyboard.type(" seen");
  await expect.poll(() => line.innerText()).toContain("seen");
  await page.keyboard.press("Control+z");
  const message = page.locator("[data-sonner-toast]", { hasText: "Undone" });
  await message.waitFor();
  const isInTheWay = () =>
    message.evaluate((one) => {
      const { left, top, width, height } = one.getBoundingClientRect();
      return one.contains(document.elementFromPoint(left + width / 2, top + height / 2));
    });
  expect(await isInTheWay()).toBe(false);
  await page.context().close();
});

describe("with a run", () => {
  let run: number;
  beforeAll(async () => {
    run = await aRun();
  });

  it.each([
    ["desktop", { width: 1280, height: 800 }],
    ["phone", { width: 390, height: 844 }],
  ])("it keeps the place of what comes on a %s", async (_name, viewport) => {
    const page = await opened(`/runs/${run}`, "[role=row]", { viewport });
    const { shifted, moved } = await shiftsOf(page);
    expect(shifted, moved.join("\n")).toBeLessThan(0.02);
    await page.context().close();
  });

  it("the list of runs scrolls sideways on a phone, and nothing around it does", async () => {
    const page = await opened("/runs", "main td a", { viewport: { width: 390, height: 844 } });
    const wider = await page.evaluate(() =>
      ["main", "main div:has(> table)"].map((selector) => {
        const { scrollWidth, clientWidth } = document.querySelector(selector)!;
        return scrollWidth > clientWidth;
      }),
    );
    expect(wider).toEqual([false, true]);
    await page.context().close();
  });

  describe("on paper", () => {
    /** What is cut off: reaches beyond a box that hides it, or beyond the paper. */
    const cut = (page: Page) =>
      page.evaluate(() =>
        [...document.querySelectorAll("main p, main h1, main h2, main dd, main dt")]
          .filter((one) => one.checkVisibility() && one.getBoundingClientRect().right > innerWidth + 1)
          .map((one) => one.textContent?.slice(0, 60)),
      );
    /** A4 with the browser's margins, in CSS px. */
    const PAPER = { width: 718, height: 1046 };

    it.each([
      ["Review", () => "/review", "text=Every change can be undone", "h2", "Review before applying"],
      ["the Board", () => "/", "text=too wide", "h1", /^lines$/],
      ["a run", () => `/runs/${run}`, "[role=row]", "h1", "What it changed"],
      ["a page", () => "/pages?item=product-2000", "text=Preview", ".desk-side h2", "Fields"],
    ])("%s is whole, in black on white, without what is pressed", async (_name, path, ready, heading, stands) => {
      const page = await opened(path(), ready, { colorScheme: "dark" });
      await page.setViewportSize(PAPER);
      await page.emulateMedia({ media: "print", colorScheme: "dark" });
      await page.locator(`main ${heading}`).first().waitFor();
      expect(await page.locator("header").isVisible()).toBe(false);
      const pressed = page.locator("main :is(select, button:not([role=checkbox], [data-group], [popovertarget]))");
      expect(await pressed.filter({ visible: true }).count()).toBe(0);
      await page.getByText(stands).filter({ visible: true }).first().waitFor();
      const colours = await page
        .locator(`main ${heading}`)
        .first()
        .evaluate((one) => [getComputedStyle(one).color, getComputedStyle(document.body).backgroundColor]);
      expect(colours).toEqual(["rgb(0, 0, 0)", "rgb(255, 255, 255)"]);
      expect(await cut(page)).toEqual([]);
      // Nothing is in a box of its own that has to be scrolled.
      const hidden = await page.evaluate(() =>
        [...document.querySelectorAll("main, main *")]
          .filter((one) => one.checkVisibility() && one.scrollHeight > one.clientHeight + 2 && one.clientHeight > 0)
          .filter((one) => getComputedStyle(one).overflowY !== "visible")
          .map((one) => one.outerHTML.slice(0, 100)),
      );
      expect(hidden).toEqual([]);
      await page.context().close();
    });

    it("has the first 200 changes of a group one below another, and tells of the others", async () => {
      const page = await opened("/review", "text=Every change can be undone");
      await page.emulateMedia({ media: "print" });
      await expect.poll(() => page.locator("[role=row]").count()).toBe(200);
      const tops = await page
        .locator("[role=row]")
        .evaluateAll((rows) => rows.map((row) => row.getBoundingClientRect().top));
      expect(tops.every((top, i) => i === 0 || top > tops[i - 1]!)).toBe(true);
      expect(await page.locator("[role=row] >> nth=199").innerText()).not.toBe("");
      await page.getByText(/^200 of [\d,]+ changes are printed/).waitFor();
      await page.emulateMedia({ media: "screen" });
      await expect.poll(() => page.locator("[role=row]").count()).toBeLessThan(60);
      await page.context().close();
    });
  });
});
