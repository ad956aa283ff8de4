import { spawnSync } from "node:child_process";
import { parse } from "csv-parse";
import { createReadStream, mkdtempSync, rmSync, writeFileSync, openSync, writeSync, closeSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { withLine } from "../core/design/change-rules";
import { baseDesign, EMPTY_DESIGN } from "../core/design/design";
import { DEMO_LINES } from "../demo/site";
import { tableShape } from "../formats/csv-read";
import { guessTargets } from "../formats/mapping";
import { applyRun, createTakeBack } from "../server/apply-run";
import { bringIn } from "../server/bring-in";
import { ProofEngine } from "../server/proof-engine";
import { Review } from "../server/review";
import { SiteFindings } from "../server/site-findings";
import { outgoingLines } from "../server/take-out";
import { openStore } from "../store/open";
import { readRun } from "../store/runs";
import { writeSite } from "../store/site";
import { DEMO_SITE } from "../demo/site";
import { sixRules } from "./designs";
import { type Figure, median, once, residentMb, table } from "./measure";
import { type Large, measureLarge } from "./million";
import { bareLoop, keystrokeMs, provingFigures, templateFigure } from "./proving";
import { demoStore } from "./demo-store";
import { itemsFigures } from "./items";
import { nearThread } from "../server/near-thread";

const json = process.argv.includes("--json");
const at = process.argv.indexOf("--items");
const ITEMS = at >= 0 ? Number(process.argv[at + 1]) : 100_000;
const ROUNDS = 11;
const largeItems = process.argv.indexOf("--large-items");
/** The largest set, 0 to leave it out. */
const LARGE = largeItems >= 0 ? Number(process.argv[largeItems + 1]) : 1_000_000;
const now = () => new Date().toISOString();
const say = (text: string) => process.stderr.write(`${text}\n`);

/** A large set in a process of its own, so that its memory is told apart. */
function large(path: string): Large {
  const child = spawnSync(process.execPath, [process.argv[1]!, "--large", path], { stdio: ["ignore", "pipe", "inherit"], maxBuffer: 1 << 20 });
  if (child.status !== 0) throw new Error(`The large set's process ended with ${child.status}`);
  return JSON.parse(child.stdout.toString()) as Large;
}

const largeAt = process.argv.indexOf("--large");
if (largeAt >= 0) {
  process.stdout.write(JSON.stringify(await measureLarge(process.argv[largeAt + 1]!)));
  process.exit(0);
}

const folder = mkdtempSync(join(tmpdir(), "nine-lines-bench-"));
try {
  const figures: Figure[] = [];
  const small = demoStore(folder, 12_480);
  const smallEngine = new ProofEngine(small.db);
  figures.push(...provingFigures(smallEngine, ROUNDS), templateFigure(smallEngine));
  small.db.close();

  const { db } = demoStore(folder, ITEMS);
  const everyday = new ProofEngine(db);
  figures.push(...provingFigures(everyday, ROUNDS));
  const typed = keystrokeMs(everyday, 17);
  const bare = median(5, (round) => void bareLoop(everyday, "y".repeat(round + 2)));
  figures.push({ name: `keystroke, six rules with three lines each, ${ITEMS.toLocaleString("en")} products`, ms: typed, baseline: "concatenate and sum widths", baselineMs: bare, bound: "under 300 ms, of which the browser needs some", holds: typed < 300 });

  const findings = new SiteFindings(db, everyday, () => new Date().getFullYear(), nearThread(join(process.cwd(), "dist", "near-worker.mjs")));
  const designs100 = { product: sixRules() };
  for (const kind of everyday.boardKinds()) everyday.prove(kind, designs100[kind as "product"] ?? EMPTY_DESIGN);
  const first = await once(() => findings.find(designs100, "live"));
  await once(() => findings.find(designs100, "draft"));
  const again = median(5, (round) => {
    const typedDesign = { product: withLine(designs100.product, "rule-4", "title", `{name} ${"z".repeat(round + 2)}`) };
    everyday.prove("product", typedDesign.product);
    findings.find(typedDesign, "draft");
  });
  figures.push(
    { name: `all findings of ${ITEMS.toLocaleString("en")} products, near duplicates included`, ms: first, baseline: "concatenate and sum widths", baselineMs: bare, bound: "under 3,000 ms", holds: first < 3000 },
    { name: "proved and found again after a keystroke in one rule", ms: again, baseline: "concatenate and sum widths", baselineMs: bare },
  );

  say("Listing, searching, editing …");
  figures.push(...itemsFigures(db, everyday, findings, { post: EMPTY_DESIGN, category: EMPTY_DESIGN, ...designs100 }, bare));

  if (LARGE > 0) {
    const ten = demoStore(folder, 10_000);
    const tenMs = keystrokeMs(new ProofEngine(ten.db), 17);
    ten.db.close();
    const million = demoStore(folder, LARGE);
    million.db.close();
    const found = large(million.path);
    say(`First load and proof of ${LARGE.toLocaleString("en")} products: ${(found.firstMs / 1000).toFixed(0)} s`);
    figures.push(
      { name: `keystroke, six rules, ${LARGE.toLocaleString("en")} products`, ms: found.keystrokeMs, baseline: "the same with 10,000", baselineMs: tenMs, bound: "under 4,000 ms", holds: found.keystrokeMs < 4000 },
      { name: `growing from 10,000 to ${LARGE.toLocaleString("en")}`, ms: found.keystrokeMs, baseline: "the same with 10,000", baselineMs: tenMs, bound: "at most 120 ×", holds: found.keystrokeMs <= 120 * tenMs },
      { name: `memory of the process that proves ${LARGE.toLocaleString("en")}`, ms: found.peakMb, unit: "MB", baseline: "", baselineMs: 0, bound: "under 3,072 MB", holds: found.peakMb < 3072 },
    );
    rmSync(million.path, { force: true });
  }

  say("Bringing in …");
  const file = join(folder, "items.csv");
  const handle = openSync(file, "w");
  for (const line of outgoingLines(db, "items", "csv", null)) writeSync(handle, line);
  closeSync(handle);
  const parsed = await once(async () => {
    let rows = 0;
    for await (const _row of createReadStream(file).pipe(parse({ relax_column_count: true }))) rows++;
    return rows;
  });
  const into = openStore(join(folder, "into.db"));
  writeSite(into, DEMO_SITE);
  const shape = tableShape(file);
  const mapping = { targets: guessTargets(shape.header), kind: "product" as const };
  const before = residentMb();
  let peak = before;
  const watch = setInterval(() => (peak = Math.max(peak, residentMb())), 20);
  const imported = await once(() => bringIn(into, file, "items.csv", mapping, { now, progress: () => (peak = Math.max(peak, residentMb())) }));
  clearInterval(watch);
  const growth = peak - before;
  figures.push({ name: `bring in ${(ITEMS + 1326).toLocaleString("en")} pages (CSV)`, ms: imported, baseline: "csv-parse alone", baselineMs: parsed, bound: `grows by ${growth.toFixed(0)} MB, under 300`, holds: growth < 300 });
  into.close();

  say("Applying …");
  const engine = new ProofEngine(db);
  const review = new Review(db, engine);
  const designs = { product: baseDesign(DEMO_LINES.product!) };
  const run = review.freeze(designs, now());
  const applied = await once(() => applyRun(db, run, { now }));
  const changes = readRun(db, run)!.applied;
  const inserted = await once(() => rawInsert(folder, changes));
  figures.push({ name: `apply ${changes.toLocaleString("en")} changes`, ms: applied, baseline: "raw insert of as many rows", baselineMs: inserted });
  const takenBack = await once(() => applyRun(db, createTakeBack(db, run, now()), { now }));
  figures.push({ name: `take ${changes.toLocaleString("en")} changes back`, ms: takenBack, baseline: "raw insert of as many rows", baselineMs: inserted });
  db.close();

  const peakMb = process.resourceUsage().maxRSS / 1024;
  if (json) process.stdout.write(`${JSON.stringify({ items: ITEMS, node: process.version, peakMb, figures }, null, 2)}\n`);
  else process.stdout.write(`${table(figures)}\n\npeak memory ${peakMb.toFixed(0)} MB, Node ${process.version}\n`);
} finally {
  rmSync(folder, { recursive: true, force: true });
}

function rawInsert(where: string, rows: number): void {
  const db = openStore(join(where, "raw.db"));
  db.exec("CREATE TABLE raw (id INTEGER PRIMARY KEY, text TEXT NOT NULL) STRICT");
  const insert = db.prepare("INSERT INTO raw (text) VALUES (?)");
  const text = "Bronze mooring cleat 200 mm in polished finish – Deck cleats";
  for (let done = 0; done < rows; done += 500) db.transaction(() => { for (let i = done; i < Math.min(rows, done + 500); i++) insert.run(text); }).immediate();
  db.close();
  writeFileSync(join(where, "raw.done"), "");
}
