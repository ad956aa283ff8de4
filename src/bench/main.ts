import { parse } from "csv-parse";
import { createReadStream, mkdtempSync, rmSync, writeFileSync, openSync, writeSync, closeSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fontById } from "../core/measure/font";
import { baseDesign, type KindDesign } from "../core/design/design";
import { loadDemo } from "../demo/load";
import { DEMO_LINES } from "../demo/site";
import { tableShape } from "../formats/csv-read";
import { guessTargets } from "../formats/mapping";
import { applyRun, createTakeBack } from "../server/apply-run";
import { bringIn } from "../server/bring-in";
import { ProofEngine } from "../server/proof-engine";
import { Review } from "../server/review";
import { outgoingLines } from "../server/take-out";
import { type Db, openStore } from "../store/open";
import { readRun } from "../store/runs";
import { writeSite } from "../store/site";
import { DEMO_SITE } from "../demo/site";
import { type Figure, median, once, residentMb, table } from "./measure";

const json = process.argv.includes("--json");
const at = process.argv.indexOf("--items");
const ITEMS = at >= 0 ? Number(process.argv[at + 1]) : 100_000;
const ROUNDS = 11;
const now = () => new Date().toISOString();
const say = (text: string) => process.stderr.write(`${text}\n`);

/** The least that any program must do for the same lines: put the fields together and sum the widths of their characters. */
function bareLoop(engine: ProofEngine, suffix: string): number {
  const { items } = engine.data("product");
  const font = fontById("arimo-400");
  const column = (name: string) => items.column(name);
  const [name, finish, category, intro, colour] = ["name", "finish", "category", "intro", "colour"].map(column);
  const value = (c: ReturnType<typeof column>, row: number) => c.table.values[c.codes[row]!]!;
  let sum = 0;
  for (let row = 0; row < items.size; row++) {
    const title = `${value(name!, row)} in ${value(finish!, row)} finish – ${value(category!, row)}${suffix}`;
    const description = `${value(intro!, row)} In ${value(finish!, row)} finish. Cut and sent from our loft the same day.${suffix}`;
    const slug = `${value(name!, row)}-${value(finish!, row)}-${value(colour!, row)}${suffix}`;
    for (const text of [title, description, slug]) for (let i = 0; i < text.length; i++) sum += font.advance[font.glyphOf[text.charCodeAt(i)]!]!;
  }
  return sum;
}

const BASE_LINES = {
  title: "{name}[ in {finish} finish]^2[ – {category}]^1",
  description: "{intro}[ In {finish} finish.]^1 Cut and sent from our loft the same day.",
  slug: "{name}[-{finish}]^1[-{colour}]^2",
};

function lines(round: number, of: Record<string, string> = BASE_LINES): KindDesign {
  // Another text each time, so that nothing proved before can be given again.
  return baseDesign(Object.fromEntries(Object.entries(of).map(([text, line]) => [text, `${line} ${"x".repeat((round + 2) % 5)}`])));
}

async function proving(folder: string, items: number, bound: string | null, limit: number): Promise<{ figures: Figure[]; db: Db }> {
  const db = openStore(join(folder, `${items}.db`));
  say(`Making ${items.toLocaleString("en")} products …`);
  loadDemo(db, { products: items });
  const engine = new ProofEngine(db);
  const load = await once(() => engine.prove("product", lines(-2)));
  say(`First load and proof: ${load.toFixed(0)} ms`);
  const ms = median(ROUNDS, (round) => void engine.prove("product", lines(round)));
  const baselineMs = median(ROUNDS, (round) => void bareLoop(engine, "x".repeat(round + 2)));
  const apart = median(3, (round) => void engine.prove("product", lines(round, DEMO_LINES.product)));
  const baseline = "concatenate and sum widths";
  const figures: Figure[] = [
    { name: `prove three base lines, ${items.toLocaleString("en")} products`, ms, baseline, baselineMs, ...(bound ? { bound, holds: ms <= limit } : {}) },
    { name: `the same with filters and ^apart`, ms: apart, baseline, baselineMs },
  ];
  return { figures, db };
}

const folder = mkdtempSync(join(tmpdir(), "nine-lines-bench-"));
try {
  const figures: Figure[] = [];
  const small = await proving(folder, 12_480, "under 150 ms", 150);
  figures.push(...small.figures);
  small.db.close();
  const { figures: large, db } = await proving(folder, ITEMS, ITEMS === 100_000 ? "under 1,500 ms" : null, 1500);
  figures.push(...large);

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
  const designs = { product: lines(0, DEMO_LINES.product) };
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
