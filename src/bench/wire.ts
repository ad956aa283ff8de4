import Database from "better-sqlite3";
import { type ChildProcess, spawn } from "node:child_process";
import { mkdirSync } from "node:fs";
import { createServer } from "node:net";
import { join } from "node:path";
import { readConnection } from "../core/connection/connection-file";
import { type Connection } from "../core/connection/schema";
import flat from "../demo/connections/flat.connection.json";
import { practiceToken } from "../demo/practice-token";
import { DEMO_SITE } from "../demo/site";
import { PracticeStore } from "../practice/practice-store";
import { Review } from "../server/review/review";
import { lookAtSite } from "../server/wire/look";
import { sendRun } from "../server/wire/send-run";
import { SiteClient } from "../server/wire/site-client";
import { walkList } from "../server/wire/walk-list";
import { Workspace } from "../server/workspace/workspace";
import { openStore } from "../store/open";
import { writeSite } from "../store/site";
import { writeConnection } from "../store/wire";
import { movingDesign } from "../test/moving-design";
import { practicePage } from "../test/practice-page";
import { runOfReview } from "../test/run-of-review";
import { type Figure, once, residentMb } from "./measure";

const PAGES = 100_000;
/** Pages that are changed one by one. */
const CHANGED = 3000;
const PER_SECOND = 50;
const now = () => new Date().toISOString();

/** A practice site with so many pages, as a process of its own. */
async function practiceSite(folder: string): Promise<{ readonly base: string; readonly site: ChildProcess }> {
  const store = new PracticeStore(new Database(join(folder, "practice.db")));
  store.db.transaction(() => {
    for (let i = 1; i <= PAGES; i++) {
      const kind = i <= CHANGED ? "post" : "product";
      store.put({
        ...practicePage(i),
        kind,
        changedAt: "2026-01-01T06:00:00Z",
        body: `<p>${"Rope and twine. ".repeat(30)}</p>`,
      });
    }
  })();
  store.db.close();
  const port = await new Promise<number>((resolve) => {
    const probe = createServer();
    probe.listen(0, "127.0.0.1", () => {
      const { port: free } = probe.address() as { port: number };
      probe.close(() => resolve(free));
    });
  });
  const site = spawn(process.execPath, ["dist/practice.mjs"], {
    env: { ...process.env, NODE_ENV: "production", NINE_LINES_DATA: folder, PRACTICE_PORT: String(port) },
    stdio: ["ignore", "pipe", "inherit"],
  });
  await new Promise<void>((resolve, reject) => {
    site.stdout.on("data", (part: Buffer) => part.toString().includes("Practice site:") && resolve());
    site.on("exit", (code) => reject(new Error(`The practice site ended with ${code}`)));
  });
  return { base: `http://127.0.0.1:${port}`, site };
}

function connectionTo(base: string, limits: object, isBatched: boolean): Connection {
  const { batch, ...write } = flat.write;
  return readConnection(
    JSON.stringify({
      ...flat,
      base: `${base}/api/flat`,
      visitors: base,
      kinds: { product: flat.kinds.product, post: flat.kinds.post },
      limits,
      write: isBatched ? { ...write, batch } : write,
    }),
  );
}

/** A large site over the wire: brought in, and changed page by page at a set rate. */
export async function wireFigures(folder: string): Promise<Figure[]> {
  mkdirSync(folder, { recursive: true });
  const { base, site } = await practiceSite(folder);
  const token = practiceToken(folder);
  const db = openStore(join(folder, "wire.db"));
  writeSite(db, DEMO_SITE);
  try {
    const connection = connectionTo(base, { perSecond: 1000, atOnce: 4 }, true);
    writeConnection(db, JSON.stringify(connection), true, now());
    const client = new SiteClient(connection, { secret: token });
    const bare = await once(async () => {
      for (const kind of Object.keys(connection.kinds))
        for await (const { records } of walkList(client, connection, kind, null)) void records.length;
    });
    const looked = await once(() => lookAtSite(db, client, { connection, isFull: true, byHand: "none" }, { now }));
    await client.close();
    const slow = connectionTo(base, { perSecond: PER_SECOND, atOnce: 8 }, false);
    writeConnection(db, JSON.stringify(slow), true, now());
    const run = runOfReview(db, new Review(new Workspace(db)), { post: movingDesign({ title: "New: {name}" }) });
    let first = 0;
    const sent = await once(() =>
      sendRun(
        db,
        run,
        { connection: slow, secret: token },
        {
          now,
          progress: ({ done }) => {
            if (first === 0 && done > CHANGED / 10) first = residentMb();
          },
        },
      ),
    );
    const ideal = (CHANGED / PER_SECOND) * 1000;
    return [
      {
        name: `${PAGES.toLocaleString("en")} pages over the interface: ${Math.round((PAGES / looked) * 1000).toLocaleString("en")} a second`,
        ms: looked,
        baseline: "its lists read and left",
        baselineMs: bare,
        bound: "at least 3,000 a second",
        holds: PAGES / (looked / 1000) >= 3000,
      },
      {
        name: `${CHANGED.toLocaleString("en")} changes sent one by one at ${PER_SECOND} a second`,
        ms: sent,
        baseline: "that many at that rate",
        baselineMs: ideal,
        bound: "at most 5 % more",
        holds: sent <= ideal * 1.05,
      },
      {
        name: "the process grows meanwhile, from its first tenth on, by",
        ms: residentMb() - first,
        unit: "MB",
        baseline: "",
        baselineMs: 0,
        bound: "under 60 MB",
        holds: residentMb() - first < 60,
      },
    ];
  } finally {
    site.kill("SIGTERM");
    db.close();
  }
}
