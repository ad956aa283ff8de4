import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, dirname, join } from "node:path";
import { chromium, type Page } from "playwright-core";
import { loadDemo } from "../demo/load";
import { writeDraft } from "../store/drafts";
import { openStore } from "../store/open";
import { sixRules } from "./designs";

// From a key press on the Bench to what it changes, in the browser: the rows on screen, and the whole set's painted figures.

/** What is typed at the end of the base's title line, letter by letter, and taken back again. */
const TYPED = [..." by Fennick & Dray", ...new Array<string>(18).fill("Backspace")];
const ROUNDS = 2;
const FLAGS = [
  "--no-sandbox",
  "--disable-gpu",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  "--font-render-hinting=none",
];
const at = process.argv.indexOf("--items");
const SIZES = at >= 0 ? process.argv[at + 1]!.split(",").map(Number) : [12_480, 100_000];
const say = (text: string) => process.stderr.write(`${text}\n`);

interface Keystroke {
  /** Ms from the key press until the rows on screen have changed in the document. */
  readonly rows: number;
  /** Ms from the key press until the frame with the new figures was painted. */
  readonly painted: number;
}

async function startServer(db: string): Promise<{ server: ChildProcess; url: string }> {
  const server = spawn(process.execPath, ["dist/server.mjs"], {
    env: {
      ...process.env,
      NODE_ENV: "production",
      NEXT_TELEMETRY_DISABLED: "1",
      NINE_LINES_DATA: dirname(dirname(db)),
      PORT: "0",
    },
    stdio: ["ignore", "pipe", "inherit"],
  });
  const url = await new Promise<string>((resolve, reject) => {
    let said = "";
    server.stdout.on("data", (chunk: Buffer) => {
      said += chunk.toString();
      const ready = /ready at (\S+)/.exec(said);
      if (ready) resolve(ready[1]!);
    });
    server.on("exit", (code) => reject(new Error(`The server ended with ${code}: ${said}`)));
  });
  return { server, url: `${url}/${basename(db, ".db")}` };
}

async function press(page: Page, key: string, line: string): Promise<Keystroke> {
  await page.evaluate(
    ({ expected }) => {
      const state = { start: 0, rows: 0, painted: 0 };
      (window as never as { keystroke: typeof state }).keystroke = state;
      addEventListener("keydown", () => (state.start = performance.now()), { capture: true, once: true });
      const watch = new MutationObserver((changes) => {
        if (state.start === 0) return;
        if (
          state.rows === 0 &&
          changes.some(({ target }) =>
            (target instanceof Element ? target : target.parentElement)?.closest("[role=listbox]"),
          )
        )
          state.rows = performance.now();
        if (document.querySelector("[data-figures-of]")?.getAttribute("data-figures-of") !== expected.line) return;
        watch.disconnect();
        // A message sent from within a frame is heard when that frame has been painted.
        const channel = new MessageChannel();
        channel.port1.onmessage = () => (state.painted = performance.now());
        requestAnimationFrame(() => channel.port2.postMessage(null));
      });
      watch.observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true });
    },
    { expected: { line } },
  );
  await page.keyboard.press(key);
  // Not asked at every frame: that alone would keep a core busy drawing.
  await page.waitForFunction(
    () => (window as never as { keystroke: { painted: number } }).keystroke.painted > 0,
    undefined,
    { timeout: 120_000, polling: 100 },
  );
  return page.evaluate(() => {
    const { start, rows, painted } = (
      window as never as { keystroke: { start: number; rows: number; painted: number } }
    ).keystroke;
    return { rows: rows - start, painted: painted - start };
  });
}

const quantile = (values: readonly number[], share: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))]!;

async function measure(folder: string, items: number): Promise<void> {
  const file = join(folder, "sites", `${items}.db`);
  const db = openStore(file);
  say(`Making ${items.toLocaleString("en")} products …`);
  loadDemo(db, { products: items });
  writeDraft(db, "product", sixRules(), new Date().toISOString());
  db.close();
  const { server, url } = await startServer(file);
  const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: FLAGS });
  try {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    const opened = performance.now();
    await page.goto(`${url}/bench?kind=product&text=title`);
    await page.waitForSelector("[role=option] [data-proof]", { timeout: 600_000 });
    say(`Opened, loaded and proved in ${((performance.now() - opened) / 1000).toFixed(1)} s`);
    const editor = page.locator('[aria-label="Title line"]');
    await editor.click();
    await page.keyboard.press("Control+End");
    await page.keyboard.type(" –");
    let line = await editor.evaluate((node) => node.textContent ?? "");
    const strokes: Keystroke[] = [];
    for (let round = -1; round < ROUNDS; round++) {
      for (const key of TYPED) {
        line = key === "Backspace" ? line.slice(0, -1) : line + key;
        const stroke = await press(page, key, line);
        // The first round warms the machine's caches and compilers.
        if (round >= 0) strokes.push(stroke);
        await page.waitForTimeout(120);
      }
    }
    const painted = strokes.map((stroke) => stroke.painted);
    const rows = strokes.map((stroke) => stroke.rows);
    const bound =
      items === 100_000 ? (quantile(painted, 0.5) < 300 && quantile(painted, 0.95) < 600 ? "holds" : "MISSED") : "";
    process.stdout.write(
      `${items.toLocaleString("en").padStart(9)} items, six rules: figures painted after ${quantile(painted, 0.5).toFixed(0)} ms at the median, ${quantile(painted, 0.95).toFixed(0)} ms at p95${bound ? ` (bound 300 and 600: ${bound})` : ""}; rows on screen changed after ${quantile(rows, 0.5).toFixed(1)} ms at the median, ${quantile(rows, 0.95).toFixed(1)} ms at p95 (bound 16)\n`,
    );
  } finally {
    await browser.close();
    server.kill("SIGINT");
    await new Promise((resolve) => server.on("exit", resolve));
  }
}

const folder = mkdtempSync(join(tmpdir(), "nine-lines-typing-"));
try {
  for (const items of SIZES) await measure(folder, items);
} finally {
  rmSync(folder, { recursive: true, force: true });
}
