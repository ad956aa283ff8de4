import Database from "better-sqlite3";
import { type ChildProcess, spawn } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { readConnection } from "../core/connection/connection-file";
import { type Connection } from "../core/connection/schema";
import flat from "../demo/connections/flat.connection.json";
import nested from "../demo/connections/nested.connection.json";
import { practiceToken } from "../demo/practice-token";
import { DEMO_SITE } from "../demo/site";
import { PracticeStore } from "../practice/practice-store";
import { Review } from "../server/review/review";
import { lookAtSite } from "../server/wire/look";
import { writeSecret } from "../server/wire/secrets";
import { SiteClient } from "../server/wire/site-client";
import { Workspace } from "../server/workspace/workspace";
import { type Db, openStore } from "../store/open";
import { chooseGroup } from "../store/review-choices";
import { changesAfter, type ChangeWithName } from "../store/runs";
import { writeSite } from "../store/site";
import { sentPages, writeConnection } from "../store/wire";
import { movingDesign } from "../test/moving-design";
import { practicePage } from "../test/practice-page";
import { runOfReview } from "../test/run-of-review";
import { startServer } from "./app";
import { ask } from "./calls";

/** How hard it blows. */
export interface StormAsked {
  readonly face: "flat" | "nested";
  readonly pages: number;
  /** How often one of the two processes is killed. */
  readonly kills: number;
  readonly random: () => number;
  /** Requests a second: the slower, the more kills find something under way. */
  readonly perSecond: number;
}

/** What is left when it is over. */
export interface StormFigures {
  readonly kills: number;
  readonly seconds: number;
  readonly changes: number;
  readonly confirmed: number;
  readonly refused: number;
  readonly changed: number;
  /** What should not be, in words; nothing is right. */
  readonly wrong: readonly string[];
}

const FAULTS = ["too-many", "errors", "slow", "hanging", "dropped", "half-refused", "changed-meanwhile", "rubbish"];
/** Of a hundred requests at most so many meet one of the faults. */
const MOST_SHARE = 6;

/** A port that nobody listens on just now. */
const freePort = () =>
  new Promise<number>((resolve) => {
    const probe = createServer();
    probe.listen(0, "127.0.0.1", () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });

function practiceProcess(folder: string, port: number): Promise<ChildProcess> {
  const site = spawn(process.execPath, ["dist/practice.mjs"], {
    env: { ...process.env, NODE_ENV: "production", NINE_LINES_DATA: folder, PRACTICE_PORT: String(port) },
    stdio: ["ignore", "pipe", "inherit"],
  });
  return new Promise((resolve, reject) => {
    site.stdout!.on("data", (part: Buffer) => part.toString().includes("Practice site:") && resolve(site));
    site.on("exit", (code) => reject(new Error(`The practice site ended with ${code}`)));
  });
}

function killed(child: ChildProcess): Promise<void> {
  return new Promise((resolve) => {
    child.removeAllListeners("exit");
    child.on("exit", () => resolve());
    child.kill("SIGKILL");
  });
}

function connectionTo(base: string, { face, perSecond }: StormAsked): Connection {
  const file = face === "flat" ? flat : nested;
  const limits = { perSecond, atOnce: 6, timeoutSeconds: 3, giveUpMinutes: 5 };
  const kinds = { product: file.kinds.product, post: file.kinds.post };
  const connection = readConnection(
    JSON.stringify({ ...file, kinds, base: `${base}/api/${face}`, visitors: base, limits }),
  );
  // Few together, so that more of them are on their way when something is killed.
  if (connection.write?.batch) connection.write.batch.most = 10;
  return connection;
}

/** Brings the practice site in and writes a run down: titles of all pages, and new addresses of posts. @returns its number. */
async function preparedRun(db: Db, database: string, connection: Connection, token: string): Promise<number> {
  const now = () => new Date().toISOString();
  writeConnection(db, JSON.stringify(connection), true, now());
  const client = new SiteClient(
    { ...connection, limits: { ...connection.limits, perSecond: 1000 } },
    { secret: token },
  );
  await lookAtSite(db, client, { connection, isFull: true, byHand: "none" }, { now });
  await client.close();
  writeSecret(database, connection.base, token);
  chooseGroup(db, "moves", true, () => false);
  const product = movingDesign({ title: "Storm: {name}" });
  const post = movingDesign({ title: "Storm: {name}", slug: "storm-{name}" });
  return runOfReview(db, new Review(new Workspace(db)), { product, post });
}

/**
 * Sends a run while both processes are killed again and again and everything goes wrong now and then, until all is settled; then
 * looks what became of each change, here and in the practice site’s own log.
 */
export async function storm(asked: StormAsked): Promise<StormFigures> {
  const { random } = asked;
  const folder = mkdtempSync(join(tmpdir(), "nine-lines-storm-"));
  const database = join(folder, "sites", "storm.db");
  mkdirSync(join(folder, "sites"));
  const store = new PracticeStore(new Database(join(folder, "practice.db")));
  store.db.transaction(() => {
    for (let i = 1; i <= asked.pages; i++) store.put(practicePage(i));
  })();
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const token = practiceToken(folder);
  let practice = await practiceProcess(folder, port);
  const db = openStore(database);
  writeSite(db, { ...DEMO_SITE, name: "Storm" });
  const run = await preparedRun(db, database, connectionTo(base, asked), token);
  db.close();
  let app = await startServer(database);
  const began = Date.now();
  let kills = 0;
  try {
    for (;;) {
      if (await isSettled(app.url, run)) break;
      const shares = FAULTS.map((name) => [name, random() < 0.5 ? Math.floor(random() * MOST_SHARE) : 0]);
      await fetch(`${base}/_practice/faults`, { method: "PUT", body: JSON.stringify(Object.fromEntries(shares)) });
      await pause(200 + random() * 1000);
      if (kills >= asked.kills) continue;
      kills++;
      if (random() < 0.5) {
        await killed(practice);
        practice = await practiceProcess(folder, port);
      } else {
        await killed(app.server);
        app = await startServer(database);
      }
    }
    return {
      kills,
      seconds: Math.round((Date.now() - began) / 1000),
      ...settledFigures(database, run, store, asked.face === "flat"),
    };
  } finally {
    await killed(app.server);
    await killed(practice);
    store.db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Goes on with the run where it is not under way; says whether it is done. */
async function isSettled(url: string, run: number): Promise<boolean> {
  const { status } = await ask(url, "runs.read", { id: run });
  if (status === "done") return true;
  if (status !== "running") await ask(url, "runs.goOn", { id: run });
  return false;
}

/** What became of each change, and what of that cannot be. */
function settledFigures(
  database: string,
  run: number,
  store: PracticeStore,
  hasRedirects: boolean,
): Omit<StormFigures, "kills" | "seconds"> {
  const writes = store.writes();
  const db = openStore(database);
  const counts = { confirmed: 0, refused: 0, changed: 0 };
  const wrong: string[] = [];
  const keyOf = db.prepare("SELECT key FROM items WHERE id = ?").pluck();
  const all: ChangeWithName[] = [];
  for (let after = 0; ;) {
    const some = changesAfter(db, run, after, 1000);
    if (some.length === 0) break;
    all.push(...some);
    after = some.at(-1)!.id;
  }
  for (const change of all) {
    const key = keyOf.get(change.item_id) as string;
    const own = writes.filter(({ page, writer }) => page === key && writer === "program");
    const made = own.filter(({ after }) =>
      change.text === "title" ? after.title === change.after : after.path === change.path_after,
    );
    const say = (words: string) => wrong.push(`${key} ${change.text}: ${words}`);
    if (made.length > 1) say(`written ${made.length} times`);
    if (change.status === "applied") {
      counts.confirmed++;
      if (made.length === 0) say("confirmed, and never written");
      // Only one of the faces takes redirects.
      if (hasRedirects && change.text === "slug" && store.redirectAt(change.path_before!)?.to !== change.path_after)
        say("has no redirect");
    } else if (change.trouble === null || !change.reason) say(`is ${change.status} without a reason`);
    else counts[change.trouble]++;
  }
  const sent = sentPages(db, run).length;
  if (sent > 0) wrong.push(`${sent} pages are still on their way`);
  db.close();
  return { changes: all.length, ...counts, wrong };
}
