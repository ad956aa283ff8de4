import { createTakeBack } from "../server/runs/take-back";
import { parse } from "csv-parse";
import { createReadStream, mkdtempSync, rmSync, writeFileSync, openSync, writeSync, closeSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { withLine } from "../core/design/change-rules";
import { baseDesign, EMPTY_DESIGN } from "../core/design/design";
import { DEMO_LINES } from "../demo/site";
import { applyRun } from "../server/runs/apply-run";
import { Workspace } from "../server/workspace/workspace";
import { Review } from "../server/review/review";
import { SiteFindings } from "../server/findings/site-findings";
import { outgoingLines } from "../server/exchange/take-out";
import { openStore } from "../store/open";
import { chooseChange, chooseGroup, clearChoices } from "../store/review-choices";
import { listRuns, readRun } from "../store/runs";
import { sixRules } from "./designs";
import { addressFigure, linkFigure } from "./addresses";
import { wireFigures } from "./wire";
import { type Figure, median, once, table } from "./measure";
import { foreignFileFigure } from "./foreign-file";
import { endAsOwnProcess, inOwnProcess } from "./own-process";
import { bareLoop, keystrokeMs, provingFigures, templateFigure } from "./proving";
import { demoStore } from "./demo-store";
import { itemsFigures } from "./items";
import { nearThread } from "../server/findings/near-thread";
import { BenchDesk } from "../server/bench/bench-desk";
import { freeze } from "../server/review/freeze";

const json = process.argv.includes("--json");
const at = process.argv.indexOf("--items");
const ITEMS = at >= 0 ? Number(process.argv[at + 1]) : 100_000;
const ROUNDS = 11;
const largeItems = process.argv.indexOf("--large-items");
/** The largest set, 0 to leave it out. */
const LARGE = largeItems >= 0 ? Number(process.argv[largeItems + 1]) : 1_000_000;
const REDIRECTS = 1_000_000;
const LINKED_BODIES = 10_000;
/** Rows of the foreign file. */
const FOREIGN = 250_000;
const now = () => new Date().toISOString();
const say = (text: string) => process.stderr.write(`${text}\n`);

await endAsOwnProcess();

const folder = mkdtempSync(join(tmpdir(), "nine-lines-bench-"));
try {
  const figures: Figure[] = [];
  say("Over the wire …");
  figures.push(...(await wireFigures(join(folder, "wire"))));
  if (process.argv.includes("--wire")) {
    process.stdout.write(`${table(figures)}\n`);
    rmSync(folder, { recursive: true, force: true });
    process.exit(0);
  }
  const small = demoStore(folder, 12_480);
  const smallEngine = new Workspace(small.db);
  figures.push(...provingFigures(smallEngine, ROUNDS), templateFigure(smallEngine));
  small.db.close();

  const { db } = demoStore(folder, ITEMS);
  const everyday = new Workspace(db);
  figures.push(...provingFigures(everyday, ROUNDS));
  const typed = keystrokeMs(everyday, 17);
  const bare = median(5, (round) => void bareLoop(everyday, "y".repeat(round + 2)));
  figures.push({
    name: `keystroke, six rules with three lines each, ${ITEMS.toLocaleString("en")} products`,
    ms: typed,
    baseline: "concatenate and sum widths",
    baselineMs: bare,
    bound: "under 300 ms, of which the browser needs some",
    holds: typed < 300,
  });

  figures.push(addressFigure(everyday, bare));

  const near = nearThread(join(process.cwd(), "dist", "near-worker.mjs"));
  const blank = () => new SiteFindings(everyday, () => new Date().getFullYear(), near);
  const designs100 = { product: sixRules() };
  for (const kind of everyday.kindsWithPages())
    new BenchDesk(everyday).prove(kind, designs100[kind as "product"] ?? EMPTY_DESIGN);
  // Nothing is known of the texts in any round; the program has run once before, as `median` has it.
  const first = median(3, () => void blank().find(designs100, "live"));
  const findings = blank();
  findings.find(designs100, "live");
  await once(() => findings.find(designs100, "draft"));
  const again = median(5, (round) => {
    const typedDesign = { product: withLine(designs100.product, "rule-4", "title", `{name} ${"z".repeat(round + 2)}`) };
    new BenchDesk(everyday).prove("product", typedDesign.product);
    findings.find(typedDesign, "draft");
  });
  figures.push(
    {
      name: `all findings of ${ITEMS.toLocaleString("en")} products, near duplicates included`,
      ms: first,
      baseline: "concatenate and sum widths",
      baselineMs: bare,
      bound: "under 3,000 ms",
      holds: first < 3000,
    },
    {
      name: "proved and found again after a keystroke in one rule",
      ms: again,
      baseline: "concatenate and sum widths",
      baselineMs: bare,
    },
  );

  say("Listing, searching, editing …");
  figures.push(
    ...itemsFigures(db, everyday, findings, { post: EMPTY_DESIGN, category: EMPTY_DESIGN, ...designs100 }, bare),
  );

  say("Redirects and links …");
  figures.push(...inOwnProcess("redirects", String(REDIRECTS)), linkFigure(LINKED_BODIES));

  if (LARGE > 0) {
    const ten = demoStore(folder, 10_000);
    const tenMs = keystrokeMs(new Workspace(ten.db), 17);
    ten.db.close();
    const million = demoStore(folder, LARGE);
    million.db.close();
    const found = inOwnProcess("large", million.path);
    figures.push(
      {
        name: `opened and proved for the first time, ${LARGE.toLocaleString("en")} products`,
        ms: found.firstMs,
        baseline: "a keystroke's proof of the same",
        baselineMs: found.keystrokeMs,
        bound: "under 25,000 ms",
        holds: found.firstMs < 25_000,
      },
      {
        name: `keystroke, six rules, ${LARGE.toLocaleString("en")} products`,
        ms: found.keystrokeMs,
        baseline: "the same with 10,000",
        baselineMs: tenMs,
        bound: "under 4,000 ms",
        holds: found.keystrokeMs < 4000,
      },
      {
        name: `growing from 10,000 to ${LARGE.toLocaleString("en")}`,
        ms: found.keystrokeMs,
        baseline: "the same with 10,000",
        baselineMs: tenMs,
        bound: "at most 120 ×",
        holds: found.keystrokeMs <= 120 * tenMs,
      },
      {
        name: `memory of the process that proves ${LARGE.toLocaleString("en")}`,
        ms: found.peakMb,
        unit: "MB",
        baseline: "",
        baselineMs: 0,
        bound: "under 3,072 MB",
        holds: found.peakMb < 3072,
      },
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
  const imported = inOwnProcess("bring-in", file);
  figures.push({
    name: `bring in ${(ITEMS + 1326).toLocaleString("en")} pages (CSV)`,
    ms: imported.ms,
    baseline: "csv-parse alone",
    baselineMs: parsed,
    bound: `grows by ${imported.growthMb.toFixed(0)} MB, under 300`,
    holds: imported.growthMb < 300,
  });

  figures.push(await foreignFileFigure(folder, FOREIGN));

  say("Applying …");
  const engine = new Workspace(db);
  const review = new Review(engine);
  const designs = { product: { ...baseDesign(DEMO_LINES.product!), moves: "all" as const } };
  for (const kind of engine.kindsWithPages())
    new BenchDesk(engine).prove(kind, designs[kind as "product"] ?? EMPTY_DESIGN);
  const compared = await once(() => review.summary(designs));
  const { id, text } = review.list(designs, { group: "shorter", from: 0, count: 1 }).changes[0]!;
  const mark = review.markOf(designs, { item: id, text });
  const ticked = median(5, (round) => {
    chooseChange(db, { item: id, text }, mark, round % 2 === 0);
    review.summary(designs);
  });
  clearChoices(db);
  figures.push(
    {
      name: `the whole change of ${ITEMS.toLocaleString("en")} products in groups, all proved already`,
      ms: compared,
      baseline: "concatenate and sum widths",
      baselineMs: bare,
    },
    {
      name: "the same after one change was left out or taken in",
      ms: ticked,
      baseline: "concatenate and sum widths",
      baselineMs: bare,
    },
  );
  // All addresses move: what is told is the whole of what a run can be.
  chooseGroup(db, "moves", true, review.isOfGroup(designs, "moves"));
  review.summary(designs);
  const frozen = await once(() => {
    const going = review.going(designs, review.summary(designs).goingOut);
    return freeze(db, going, designs, { name: "", click: null, now: now() }, (write) =>
      db.transaction(write).immediate(),
    );
  });
  const run = listRuns(db, 1)[0]!.id;
  const applied = await once(() => applyRun(db, run, { now }));
  const changes = readRun(db, run)!.applied;
  const inserted = await once(() => rawInsert(folder, changes));
  figures.push({
    name: `write ${changes.toLocaleString("en")} changes down as a run`,
    ms: frozen,
    baseline: "raw insert of as many rows",
    baselineMs: inserted,
  });
  figures.push({
    name: `apply ${changes.toLocaleString("en")} changes`,
    ms: applied,
    baseline: "raw insert of as many rows",
    baselineMs: inserted,
    bound: "at most 20 ×",
    holds: applied <= 20 * inserted,
  });
  let back = 0;
  const wayBack = await once(() => (back = createTakeBack(db, run, now())));
  const takenBack = await once(() => applyRun(db, back, { now }));
  figures.push(
    {
      name: `write their way back down as a run`,
      ms: wayBack,
      baseline: "writing them down",
      baselineMs: frozen,
      bound: "at most 1.2 ×",
      holds: wayBack <= 1.2 * frozen,
    },
    {
      name: `take ${changes.toLocaleString("en")} changes back`,
      ms: takenBack,
      baseline: "applying them",
      baselineMs: applied,
      bound: "at most 1.2 ×",
      holds: takenBack <= 1.2 * applied,
    },
  );
  db.close();

  const peakMb = process.resourceUsage().maxRSS / 1024;
  if (json)
    process.stdout.write(`${JSON.stringify({ items: ITEMS, node: process.version, peakMb, figures }, null, 2)}\n`);
  else process.stdout.write(`${table(figures)}\n\npeak memory ${peakMb.toFixed(0)} MB, Node ${process.version}\n`);
} finally {
  rmSync(folder, { recursive: true, force: true });
}

function rawInsert(where: string, rows: number): void {
  const db = openStore(join(where, "raw.db"));
  db.exec("CREATE TABLE raw (id INTEGER PRIMARY KEY, text TEXT NOT NULL) STRICT");
  const insert = db.prepare("INSERT INTO raw (text) VALUES (?)");
  const text = "Bronze mooring cleat 200 mm in polished finish – Deck cleats";
  for (let done = 0; done < rows; done += 500)
    db.transaction(() => {
      for (let i = done; i < Math.min(rows, done + 500); i++) insert.run(text);
    }).immediate();
  db.close();
  writeFileSync(join(where, "raw.done"), "");
}
