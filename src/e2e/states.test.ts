import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type App, axeFindings, startApp } from "./app";
import { drawn } from "./calls";

let app: App;
beforeAll(async () => {
  app = await startApp();
}, 120_000);
afterAll(() => app.close());

const BENCH = "/bench?kind=product&text=title";
const button = (page: Page, name: string | RegExp) => page.getByRole("button", { name }).first();

interface State {
  readonly path: string;
  /** What stands on the view once it is there. */
  readonly ready: string;
  readonly open: (page: Page) => Promise<void>;
  /** What stands there once the state is. */
  readonly opened: string;
  readonly size?: { readonly width: number; readonly height: number };
  /** What is looked at alone: all else is out of reach as long as it is open. */
  readonly within?: string;
}

const click = (name: string | RegExp) => (page: Page) => button(page, name).click();
const press = (keys: string) => (page: Page) => page.keyboard.press(keys);

/** What opens, unfolds, is wrong or is empty on the views. */
const STATES: Readonly<Record<string, State>> = {
  "every action by name": {
    path: "/",
    ready: "text=too wide",
    open: press("Control+k"),
    opened: "[role=option]",
    within: "[role=dialog]",
  },
  "an action that there is not": {
    path: "/",
    ready: "text=too wide",
    open: async (page) => {
      await page.keyboard.press("Control+k");
      await page.keyboard.type("zzz");
    },
    opened: "text=No matches",
    within: "[role=dialog]",
  },
  "the other sites": { path: "/", ready: "text=too wide", open: click(/other sites/), opened: "text=All sites" },
  "what a word means": { path: "/", ready: "text=too wide", open: click("lines"), opened: "[popover]:popover-open" },
  "the fields to insert": {
    path: BENCH,
    ready: "[role=option]",
    open: click("Insert into the title line"),
    opened: "[role=dialog] [role=tab]",
  },
  "the filters to insert": {
    path: BENCH,
    ready: "[role=option]",
    open: async (page) => {
      await button(page, "Insert into the title line").click();
      await page.locator("[role=dialog] [role=tab]").nth(1).click();
    },
    opened: "[role=dialog] [role=tab]:nth-child(2)[aria-selected=true]",
  },
  "the versions of a kind": {
    path: BENCH,
    ready: "[role=option]",
    open: click("Versions"),
    opened: "[role=menu]",
    within: "[role=menu]",
  },
  "what can be done with a rule": {
    path: BENCH,
    ready: "[role=option]",
    open: click("Actions with “Clearance”"),
    opened: "[role=menuitem]",
    within: "[role=menu]",
  },
  "a rule": {
    path: BENCH,
    ready: "[role=option]",
    open: click("Add a rule"),
    opened: "[role=dialog]",
    within: "[role=dialog]",
  },
  "a line with an error, and what could stand there": {
    path: BENCH,
    ready: "[role=option]",
    open: async (page) => {
      await page.getByLabel("Title line").click();
      await page.keyboard.press("End");
      await page.keyboard.type(" {na");
    },
    opened: ".cm-tooltip-autocomplete >> text=name",
  },
  "the preview folded": {
    path: BENCH,
    ready: "[aria-label=Preview]",
    open: click("Preview"),
    opened: "[aria-label=Preview][aria-expanded=false]",
  },
  "a page over the rows": {
    path: BENCH,
    ready: "[role=option]",
    size: { width: 1000, height: 760 },
    open: click("Why this text"),
    opened: "aside[aria-label='The selected page']",
  },
  "the preview beside the rows": {
    path: BENCH,
    ready: "[role=option]",
    size: { width: 1920, height: 1080 },
    open: () => Promise.resolve(),
    opened: "aside >> text=Browser tab",
  },
  "the columns of the list": {
    path: "/pages",
    ready: "[role=gridcell]",
    open: click("Columns"),
    opened: "[role=group][aria-label=Columns]",
  },
  "the views of the list": {
    path: "/pages",
    ready: "[role=gridcell]",
    open: click("Views"),
    opened: "[role=menu]",
    within: "[role=menu]",
  },
  "a condition on the list": {
    path: "/pages",
    ready: "[role=gridcell]",
    open: click(/^Where/),
    opened: "[role=dialog]",
  },
  "what to export": {
    path: "/pages",
    ready: "[role=gridcell]",
    open: click(/^Export/),
    opened: "[role=dialog]",
    within: "[role=dialog]",
  },
  "many pages selected": {
    path: "/pages",
    ready: "[role=gridcell]",
    open: async (page) => {
      await page.getByRole("grid").focus();
      await page.keyboard.press("Control+a");
    },
    opened: "text=/pages selected/",
  },
  "a cell that is written": {
    path: "/pages",
    ready: "[role=gridcell]",
    open: async (page) => {
      await page.getByRole("grid").focus();
      await page.keyboard.press("ArrowRight");
      await page.keyboard.press("ArrowRight");
      await page.keyboard.press("Enter");
    },
    opened: "[role=dialog] textarea, [role=dialog] input",
  },
  "a list without a page": {
    path: "/pages?search=qqqqq",
    ready: "text=/Nothing|No page/",
    open: () => Promise.resolve(),
    opened: "text=/Nothing|No page/",
  },
  "a list of keywords to import": {
    path: "/keywords",
    ready: "[role=row] mark",
    open: click("Import a list"),
    opened: ".desk-side",
  },
  "suggested keywords": {
    path: "/keywords?tab=suggestions",
    ready: "[role=tabpanel] [role=row], [role=tabpanel] button",
    open: () => Promise.resolve(),
    opened: "[role=tabpanel] [data-row='0']",
  },
  "more filters of the review": {
    path: "/review",
    ready: "text=Every change can be undone",
    open: click(/^Rule, category, finding/),
    opened: "select[aria-label*=inding]",
  },
  applying: {
    path: "/review",
    ready: "text=Every change can be undone",
    open: click(/^Apply [\d,]+ changes/),
    opened: "[role=dialog] button[type=submit]",
    within: "[role=dialog]",
  },
  "changes that are filtered": {
    path: "/review?kind=product&text=title",
    ready: "text=Include only these",
    open: click("Include only these"),
    opened: "text=Undo “Include only these”",
  },
  "a redirect that is changed": {
    path: "/addresses?face=redirects",
    ready: "[data-row='0'] button",
    open: click(/^Change /),
    opened: "text=/→|leads|Look/ >> nth=0",
  },
  "where a path leads": {
    path: "/addresses?face=redirects&path=%2Fclearance%2Foars",
    ready: "[data-row='0'] button",
    open: () => Promise.resolve(),
    opened: "section[aria-label='Where a path leads'] [role=status] *",
  },
  ...Object.fromEntries(
    ["site", "kinds", "slugs", "figures", "extras", "checks"].map((topic): [string, State] => [
      `the settings of ${topic}`,
      {
        path: `/settings?topic=${topic}`,
        ready: `#${topic}`,
        open: () => Promise.resolve(),
        opened: `#${topic} :is(input, select)`,
      },
    ]),
  ),
  "what can be done with a site": {
    path: "/..",
    ready: "text=Start with your own site",
    open: click(/^What can be done/),
    opened: "[role=menuitem]",
    within: "[role=menu]",
  },
};

describe("what opens, unfolds, is wrong or is empty", () => {
  it.each(Object.entries(STATES))("%s breaks no rule of accessibility", async (_name, state) => {
    const context = await app.browser.newContext({
      viewport: state.size ?? { width: 1280, height: 800 },
      reducedMotion: "reduce",
    });
    const page = await context.newPage();
    page.setDefaultTimeout(20_000);
    await page.goto(app.url + state.path);
    await page.locator(state.ready).first().waitFor();
    await state.open(page);
    await page.locator(state.opened).first().waitFor();
    for (const colorScheme of ["light", "dark"] as const) {
      await page.emulateMedia({ colorScheme });
      await drawn(page);
      expect(
        await axeFindings(page, { within: state.within, ...(colorScheme === "dark" ? { colours: "only" } : {}) }),
        colorScheme,
      ).toEqual([]);
    }
    await context.close();
  });
});
