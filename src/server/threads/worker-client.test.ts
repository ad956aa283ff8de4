import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { build } from "esbuild";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { type Call, CancelledCall, WorkerClient } from "./rpc";

/** What the worker below answers. */
interface Answers extends Record<string, (params: never, call: Call) => unknown> {
  double: (value: number) => number;
  fail: (words: string) => never;
  count: (to: { ms: number; tell: number }) => string;
}

const SOURCE = `
import { workerData } from "node:worker_threads";
import { CancelledCall, serveWorker } from "./rpc";
serveWorker({
  double: (value) => value * 2,
  fail: (words) => { throw Object.assign(new Error(words), { name: "Odd" }); },
  count: ({ ms, tell }, call) => {
    for (let i = 0; i < tell; i++) call.progress(i);
    const end = performance.now() + ms;
    while (performance.now() < end) if (call.cancelled()) throw new CancelledCall();
    return "counted";
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
    stdin: { contents: SOURCE, resolveDir: join(process.cwd(), "src", "server") },
    bundle: true,
    platform: "node",
    format: "esm",
    outfile: file,
    logLevel: "silent",
  });
});
const start = (options: { sharesProgress?: boolean } = {}) => (client = new WorkerClient<Answers>(file, {}, options));
afterEach(() => client.close());
afterAll(() => rmSync(folder, { recursive: true }));

describe("calls to a worker", () => {
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
