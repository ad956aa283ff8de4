import { spawnSync } from "node:child_process";
import { rmSync } from "node:fs";
import { join } from "node:path";
import { tableShape } from "../formats/csv-read";
import { guessTargets } from "../formats/guess-by-names";
import { DEMO_SITE } from "../demo/site";
import { bringIn } from "../server/exchange/bring-in";
import { LiveAhead } from "../server/workspace/live-ahead";
import { Workspace } from "../server/workspace/workspace";
import { openStore } from "../store/open";
import { writeSite } from "../store/site";
import { redirectFigures } from "./addresses";
import { sixRules } from "./designs";
import { once, residentMb } from "./measure";
import { keystrokeMs } from "./proving";
import { BenchDesk } from "../server/bench/bench-desk";

/** What takes a process of its own, as the server has worker threads for it, so that its memory is told apart. Each gets a file's path, or a number. */
const TASKS = {
  /** Loads and proves a large set, and types. */
  async large(path: string) {
    const ahead = new LiveAhead(join(process.cwd(), "dist", "live-worker.mjs"), path);
    const engine = new Workspace(openStore(path), { ahead });
    const firstMs = await once(() => new BenchDesk(engine).prove("product", sixRules()));
    const ms = keystrokeMs(engine, 5);
    return { firstMs, keystrokeMs: ms, peakMb: Math.max(residentMb(), process.resourceUsage().maxRSS / 1024) };
  },
  /** Folds and compacts so many redirects. */
  redirects: (count: string) => Promise.resolve(redirectFigures(Number(count))),
  /** Brings a CSV file of pages into an empty database; says by how many MB the process grows meanwhile. */
  async "bring-in"(path: string) {
    const file = `${path}.db`;
    const db = openStore(file);
    writeSite(db, DEMO_SITE);
    const mapping = { targets: guessTargets((await tableShape(path)).header), kind: "product" as const };
    const before = residentMb();
    let peak = before;
    const look = () => (peak = Math.max(peak, residentMb()));
    const watch = setInterval(look, 20);
    const ms = await once(() =>
      bringIn(
        db,
        path,
        "items.csv",
        { mapping, byHand: "unexplained" },
        { now: () => new Date().toISOString(), progress: look },
      ),
    );
    clearInterval(watch);
    db.close();
    for (const end of ["", "-wal", "-shm"]) rmSync(file + end, { force: true });
    return { ms, growthMb: peak - before };
  },
};

type Tasks = typeof TASKS;
const FLAG = "--own-process";

/** Runs a task in a process of its own, and waits for what it found. */
export function inOwnProcess<T extends keyof Tasks>(task: T, path: string): Awaited<ReturnType<Tasks[T]>> {
  const child = spawnSync(process.execPath, [process.argv[1]!, FLAG, task, path], {
    stdio: ["ignore", "pipe", "inherit"],
    maxBuffer: 1 << 20,
  });
  if (child.status !== 0) throw new Error(`The process for “${task}” ended with ${child.status}`);
  return JSON.parse(child.stdout.toString()) as Awaited<ReturnType<Tasks[T]>>;
}

/** Where this process is one of those: does its task, prints what it found and ends. */
export async function endAsOwnProcess(): Promise<void> {
  const at = process.argv.indexOf(FLAG);
  if (at < 0) return;
  const task = TASKS[process.argv[at + 1] as keyof Tasks];
  process.stdout.write(JSON.stringify(await task(process.argv[at + 2]!)));
  process.exit(0);
}
