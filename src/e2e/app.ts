import { type ChildProcess, spawn } from "node:child_process";
import { cpSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, dirname, join } from "node:path";
import { AxeBuilder } from "@axe-core/playwright";
import { type Browser, chromium, type Page } from "playwright-core";
import { inject } from "vitest";

/** A production server on a database of its own, and a browser. */
export interface App {
  readonly url: string;
  readonly db: string;
  readonly browser: Browser;
  readonly server: ChildProcess;
  page(): Promise<Page>;
  close(): Promise<void>;
}

const FLAGS = [
  "--no-sandbox",
  "--disable-gpu",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  "--font-render-hinting=none",
];

/**
 * Starts the built server on the folder that a site's database is in; waits for the line that says where it listens.
 *
 * @returns with the address of that site.
 */
export async function startServer(
  db: string,
  port = 0,
  more: Record<string, string> = {},
): Promise<{ server: ChildProcess; url: string }> {
  const server = spawn(process.execPath, ["dist/server.mjs"], {
    env: {
      ...process.env,
      NODE_ENV: "production",
      NEXT_TELEMETRY_DISABLED: "1",
      NINE_LINES_DATA: dirname(dirname(db)),
      PORT: String(port),
      ...more,
    },
    stdio: ["ignore", "pipe", "pipe"],
  });
  let said = "";
  const url = await new Promise<string>((resolve, reject) => {
    const hear = (chunk: Buffer) => {
      said += chunk.toString();
      const ready = /ready at (\S+)/.exec(said);
      if (ready) resolve(ready[1]!);
    };
    server.stdout!.on("data", hear);
    server.stderr!.on("data", hear);
    server.on("exit", (code) => reject(new Error(`The server ended with ${code}: ${said}`)));
  });
  return { server, url: `${url}/${basename(db, ".db")}` };
}

export function endServer(server: ChildProcess): Promise<number | null> {
  return new Promise((resolve) => {
    server.removeAllListeners("exit");
    server.on("exit", (code) => resolve(code));
    server.kill("SIGINT");
  });
}

/** Where the demo site will be in a folder that has nothing yet. */
export function freshDatabase(): string {
  return join(mkdtempSync(join(tmpdir(), "nine-lines-")), "sites", "fennick-dray.db");
}

/** Where the demo site is, in a folder of its own that is as a first start left it. */
function demoDatabase(): string {
  const db = freshDatabase();
  cpSync(inject("demoData"), dirname(dirname(db)), { recursive: true });
  return db;
}

export async function startApp(): Promise<App> {
  const db = demoDatabase();
  const { server, url } = await startServer(db);
  const browser = waitingForScripts(await chromium.launch({ executablePath: "/usr/bin/chromium", args: FLAGS }));
  browsers.add(browser);
  return {
    url,
    db,
    browser,
    server,
    async page() {
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, acceptDownloads: true });
      const page = await context.newPage();
      page.setDefaultTimeout(PATIENCE);
      return page;
    },
    async close() {
      await browser.close();
      await endServer(server);
    },
  };
}

/** On a busy machine an answer takes its time, in ms; what never comes fails all the same. */
const PATIENCE = 40_000;

const browsers = new Set<Browser>();

/** Pages that are open in the browsers of this test's file. */
export function openPages(): Page[] {
  return [...browsers].flatMap((browser) => browser.contexts()).flatMap((context) => context.pages());
}

/** A page of ours is at work, or it is a page without scripts. */
const isAtWork = () =>
  document.documentElement.dataset["atWork"] !== undefined || !document.querySelector("script[src*='/_next/']");

/** Views come drawn from the server: a page of the browser is gone to when it hears clicks and keys, as a person notices who tries again. */
function waitingForScripts(browser: Browser): Browser {
  const newContext = browser.newContext.bind(browser);
  browser.newContext = async (options) => {
    const context = await newContext(options);
    context.on("page", (page) => {
      const [goto, reload] = [page.goto.bind(page), page.reload.bind(page)];
      const atWork = async <T>(answer: T): Promise<T> => {
        await page.waitForFunction(isAtWork);
        return answer;
      };
      page.goto = async (to, how) => atWork(await goto(to, how));
      page.reload = async (how) => atWork(await reload(how));
    });
    return context;
  };
  return browser;
}

/** Says by keyboard which value a field has to have, in a condition that was just begun. */
export async function pickCondition(page: Page, field: string, value: string): Promise<void> {
  await page.focus("[aria-label=Field]");
  await page.keyboard.press("Enter");
  await page.keyboard.type(field);
  await page.waitForSelector(`[cmdk-item] >> text=${field}`);
  await page.keyboard.press("Enter");
  await page.focus("[aria-label=Value]");
  await page.keyboard.press("Enter");
  await page.keyboard.type(value);
  await page.waitForSelector(`[cmdk-item] >> text=${value}`);
  await page.keyboard.press("Enter");
}

/** What of a page axe looks at. */
export interface AxeScope {
  /** A part of it that is open and leaves all else out of reach. */
  readonly within?: string | undefined;
  /** Only the colours, where all else was looked at in the other theme; or all but them, where they are those of another screen. */
  readonly colours?: "only" | "not";
}

/**
 * What axe finds on a page by the rules of WCAG 2.2 A and AA and by good practice, a line each. Nothing moves or fades meanwhile: a message
 * that goes away just then has letters of little contrast for a moment, which says nothing of its colours. Only what is amiss is put
 * together, and in the page itself, which has no frames: that is three times as quick.
 */
export async function axeFindings(page: Page, { within, colours }: AxeScope = {}): Promise<string[]> {
  await page.emulateMedia({ reducedMotion: "reduce" });
  const axe = new AxeBuilder({ page }).options({ resultTypes: ["violations"], preload: false }).setLegacyMode(true);
  if (within !== undefined) axe.include(within);
  if (colours === "only") axe.withRules("color-contrast");
  else axe.withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]);
  if (colours === "not") axe.disableRules("color-contrast");
  const { violations } = await axe.analyze();
  await page.emulateMedia({ reducedMotion: null });
  return violations.map(
    (v) =>
      `${v.id}: ${v.nodes
        .map((n) => n.html)
        .slice(0, 3)
        .join(" ")}`,
  );
}

/** Tells contrasts in a page (WCAG 2.2, relative luminance). Colours are as CSS has them. */
export interface Colours {
  readonly contrast: (one: string, other: string) => number;
  /** The colour that an element stands on, its own if it has one. */
  readonly groundOf: (element: Element | null) => string;
}

/** Puts {@link Colours} into a page, as `colours`. */
export function tellColours(page: Page): Promise<void> {
  return page.evaluate(() => {
    const canvas = document.createElement("canvas").getContext("2d", { willReadFrequently: true })!;
    const luminance = (colour: string) => {
      canvas.clearRect(0, 0, 1, 1);
      canvas.fillStyle = colour;
      canvas.fillRect(0, 0, 1, 1);
      const [r, g, b] = [...canvas.getImageData(0, 0, 1, 1).data].map((value) => {
        const share = value / 255;
        return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
      }) as [number, number, number];
      return 0.2126 * r + 0.7152 * g + 0.0722 * b;
    };
    const colours: Colours = {
      contrast: (one, other) => {
        const [a, b] = [luminance(one), luminance(other)];
        return (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
      },
      groundOf: (element) => {
        let behind = element;
        while (behind && /^(transparent|rgba\(0, 0, 0, 0\))$/.test(getComputedStyle(behind).backgroundColor))
          behind = behind.parentElement;
        return behind ? getComputedStyle(behind).backgroundColor : "white";
      },
    };
    Object.assign(globalThis, { colours });
  });
}

/** The contrast of an element's letters with what is behind them. */
export async function contrastOf(page: Page, selector: string): Promise<number> {
  await tellColours(page);
  return page.locator(selector).evaluate((element) => {
    const { contrast, groundOf } = (globalThis as unknown as { colours: Colours }).colours;
    return contrast(getComputedStyle(element).color, groundOf(element));
  });
}
