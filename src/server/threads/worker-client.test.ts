import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { build } from "esbuild";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { type Call, CancelledCall } from "./call";
import { WorkerClient, type WorkerDeath, type WorkerOptions } from "./worker-client";

/** What the worker below answers. */
interface Answers extends Record<string, (params: never, call: Call) => unknown> {
  double: (value: number) => number;
  fail: (words: string) => never;
  break: (code: string) => never;
  count: (to: { ms: number; tell: number }) => string;
  refuse: (words: string) => never;
  late: (to: { ms: number; name: string }) => Promise<string[]>;
  die: (how: "throw" | "exit" | "memory") => never;
}

const SOURCE = `
import { workerData } from "node:worker_threads";
import { CancelledCall } from "./call";
import { serveWorker } from "./serve-worker";
import { Refusal } from "../../core/refusal";
const said = [];
serveWorker({
  double: (value) => value * 2,
  break: (code) => { throw Object.assign(new Error("of the database"), { code }); },
  fail: (words) => { throw Object.assign(new Error(words), { name: "Odd" }); },
  count: ({ ms, tell }, call) => {
    for (let i = 0; i < tell; i++) call.progress(i);
    const end = performance.now() + ms;
    while (performance.now() < end) if (call.cancelled()) throw new CancelledCall();
    return "counted";
  },
  refuse: (words) => { throw new Refusal("busy", words); },
  late: async ({ ms, name }) => {
    said.push("begins " + name);
    await new Promise((resolve) => setTimeout(resolve, ms));
    said.push("ends " + name);
    return said;
  },
  die: (how) => {
    if (how === "exit") process.exit(3);
    // Thrown where no call catches it, as a bug in a callback is.
    if (how === "throw") setTimeout(() => { throw new Error("beyond the call"); }, 0);
    else { const all = []; for (;;) all.push(new Array(1e6).fill(how + all.length)); }
    return new Promise(() => {});
  },
}, workerData.stop);
`;

let folder: string;
let client: WorkerClient<Answers>;
let file: string;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "nine-lines-rpc-"));
  file = join(folder, "worker.mjs");
  await build({
    stdin: { contents: SOURCE, resolveDir: join(process.cwd(), "src", "server", "threads") },
    bundle: true,
    platform: "node",
    format: "esm",
    outfile: file,
    logLevel: "silent",
  });
});
const start = (options: Partial<WorkerOptions> = {}) =>
  (client = new WorkerClient<Answers>(file, { name: "the thread", data: () => ({}), ...options }));
afterEach(() => client.close());
afterAll(() => rmSync(folder, { recursive: true }));

describe("calls to a worker", () => {
  it("fail with what the database calls it, so that it can be told in words", async () => {
    start();
    await expect(client.call("break", "SQLITE_CORRUPT")).rejects.toMatchObject({ code: "SQLITE_CORRUPT" });
  });

  it("are answered, each with its own result, however many wait", async () => {
    start();
    const values = Array.from({ length: 50 }, (_, i) => i);
    expect(await Promise.all(values.map((value) => client.call("double", value)))).toEqual(
      values.map((value) => value * 2),
    );
  });

  it("fail with the worker’s words and name, and the next one is answered", async () => {
    start();
    await expect(client.call("fail", "The disk is full")).rejects.toMatchObject({
      message: "The disk is full",
      name: "Odd",
    });
    expect(await client.call("double", 4)).toBe(8);
  });

  it("hear of their own progress, in order", async () => {
    start();
    const heard: unknown[][] = [[], []];
    await Promise.all([
      client.call("count", { ms: 5, tell: 3 }, { progress: (value) => heard[0]!.push(value) }),
      client.call("count", { ms: 5, tell: 2 }, { progress: (value) => heard[1]!.push(value) }),
    ]);
    expect(heard).toEqual([
      [0, 1, 2],
      [0, 1],
    ]);
  });

  it("hear of the progress of the one that they wait for, where that is wanted", async () => {
    start({ sharesProgress: true });
    const heard: unknown[] = [];
    await Promise.all([
      client.call("count", { ms: 20, tell: 3 }),
      client.call("double", 1, { progress: (value) => heard.push(value) }),
    ]);
    expect(heard).toEqual([0, 1, 2]);
  });
});

describe("an onlooker", () => {
  it("hears how far the thread is, whoever asked, until it ends", async () => {
    start();
    const heard: unknown[] = [];
    const end = client.watch((value) => heard.push(value));
    await client.call("count", { ms: 5, tell: 2 });
    end();
    await client.call("count", { ms: 5, tell: 3 });
    expect(heard).toEqual([0, 1]);
  });
});

describe("a call in a lane", () => {
  it("ends the one before it, and no other", async () => {
    start();
    const first = client.call("count", { ms: 5000, tell: 0 }, { lane: "bench a" });
    const other = client.call("count", { ms: 30, tell: 0 }, { lane: "bench b" });
    const second = client.call("count", { ms: 5, tell: 0 }, { lane: "bench a" });
    await expect(first).rejects.toBeInstanceOf(CancelledCall);
    expect(await Promise.all([other, second])).toEqual(["counted", "counted"]);
  });

  it("that has not begun yet never begins", async () => {
    start();
    const busy = client.call("count", { ms: 40, tell: 0 });
    const waiting = client.call("count", { ms: 5000, tell: 9 }, { lane: "x", progress: () => expect.unreachable() });
    const newest = client.call("double", 3, { lane: "x" });
    await expect(waiting).rejects.toBeInstanceOf(CancelledCall);
    expect([await busy, await newest]).toEqual(["counted", 6]);
  });
});

describe("a call with a signal", () => {
  it("ends when its caller goes away", async () => {
    start();
    const controller = new AbortController();
    const long = client.call(
      "count",
      { ms: 5000, tell: 1 },
      { signal: controller.signal, progress: () => controller.abort() },
    );
    await expect(long).rejects.toBeInstanceOf(CancelledCall);
    expect(await client.call("double", 2)).toBe(4);
  });

  it("is not made for a caller that is gone already", async () => {
    start();
    await expect(client.call("count", { ms: 5000, tell: 0 }, { signal: AbortSignal.abort() })).rejects.toBeInstanceOf(
      CancelledCall,
    );
  });
});

describe("a call that is refused in words", () => {
  it("keeps its code on the way", async () => {
    start();
    await expect(client.call("refuse", "Wait for it")).rejects.toMatchObject({
      name: "Refusal",
      code: "busy",
      message: "Wait for it",
    });
  });
});

describe("calls that wait for something", () => {
  it("hold up those behind them: one is never in the middle of another", async () => {
    start();
    await client.call("double", 1);
    const [, second] = await Promise.all([
      client.call("late", { ms: 30, name: "a" }),
      client.call("late", { ms: 1, name: "b" }),
    ]);
    expect(second).toEqual(["begins a", "ends a", "begins b", "ends b"]);
  });
});

describe("a thread that dies", () => {
  const deadly = ["throw", "exit"] as const;

  it.each(deadly)("is told in words to all that waited, and another answers the next call (%s)", async (how) => {
    const deaths: WorkerDeath[] = [];
    start({
      onDeath: (death) => {
        deaths.push(death);
        return "the line “{name}”";
      },
    });
    const dying = client.call("die", how);
    const waiting = client.call("double", 2);
    await expect(dying).rejects.toMatchObject({
      code: "worker-died",
      message:
        "The thread ended while it was at the line “{name}”. It is being restarted; your request was not done. Try again.",
    });
    await expect(waiting).rejects.toMatchObject({ code: "worker-died" });
    expect(await client.call("double", 21)).toBe(42);
    expect(deaths).toHaveLength(1);
    expect(deaths[0]).toMatchObject({ method: "die", waiting: 1 });
  });

  it("is noticed where it runs out of memory", async () => {
    start({ memory: 64 });
    await expect(client.call("die", "memory")).rejects.toMatchObject({ code: "worker-died" });
    expect(await client.call("double", 4)).toBe(8);
  });

  it("again and again is started each time, within a second", async () => {
    start();
    for (let round = 0; round < 3; round++) {
      await expect(client.call("die", "exit")).rejects.toMatchObject({ code: "worker-died" });
      expect(await client.call("double", round)).toBe(round * 2);
    }
  });

  it("is told by the content of what it was asked: the same again is the same, another is not", async () => {
    const prints: (string | null)[] = [];
    start({
      onDeath: ({ fingerprint }) => {
        prints.push(fingerprint);
        return null;
      },
      refusal: (fingerprint) =>
        prints.filter((own) => own === fingerprint).length >= 2 ? "It ended the thread twice" : null,
    });
    for (let round = 0; round < 2; round++)
      await expect(client.call("die", "exit")).rejects.toMatchObject({ code: "worker-died" });
    await expect(client.call("die", "exit")).rejects.toMatchObject({
      code: "refused-call",
      message: "It ended the thread twice",
    });
    await expect(client.call("die", "throw")).rejects.toMatchObject({ code: "worker-died" });
    expect(new Set(prints).size).toBe(2);
    expect(await client.call("double", 5)).toBe(10);
  });

  it("is not started again where it was closed, and says so", async () => {
    start();
    await client.call("double", 1);
    await client.close();
    await expect(client.call("double", 1)).rejects.toMatchObject({ code: "worker-died" });
  });
});
