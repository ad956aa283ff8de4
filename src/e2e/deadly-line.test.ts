import { type ChildProcess } from "node:child_process";
import { afterAll, beforeAll, expect, it } from "vitest";
import { baseDesign } from "../core/design/design";
import { loadDemo } from "../demo/load";
import { openStore } from "../store/open";
import { endServer, freshDatabase, startServer } from "./app";
import { ask, send } from "./calls";

/** So little memory that two hundred fields, each as long as a value may get, are more than there is. */
const MEMORY = { NINE_LINES_MEMORY: "130" };
const LONGER = `:replace(e,${"e".repeat(26)})`.repeat(2);
const DEADLY = Array.from({ length: 200 }, (_, i) => `{intro${LONGER}:words(${90_000 + i})}`).join("");

const db = freshDatabase();
let current: { server: ChildProcess; url: string };
let heard = "";

async function start(): Promise<void> {
  current = await startServer(db, 0, MEMORY);
  current.server.stderr!.on("data", (chunk: Buffer) => (heard += chunk.toString()));
}

beforeAll(async () => {
  const store = openStore(db);
  loadDemo(store, { products: 120 });
  store.close();
  await start();
}, 120_000);
afterAll(() => endServer(current.server));

const prove = (title: string) =>
  send<{ error?: string; code?: string; result?: { proved: { texts: { title: { faults: { message: string }[] } } } } }>(
    current.url,
    "/api/bench.prove",
    { kind: "product", design: baseDesign({ title }), scope: "all", text: "title" },
  );

it("a line that ends the thread is told in words, and twice is the line's fault: everything else works, after a new start, too", async () => {
  expect((await prove("{name}")).body.result!.proved.texts.title.faults).toEqual([]);
  await ask(current.url, "designs.save", { kind: "product", design: baseDesign({ title: DEADLY }), seen: 1e6 });
  for (let round = 0; round < 2; round++) {
    const { body } = await prove(DEADLY);
    expect(body.code).toBe("worker-died");
    expect(body.error).toMatch(/ended while it was at the title line of everything else .*It is being restarted/);
  }
  expect(heard).toMatch(/"event":"thread-died".*"deaths":2/);
  // From now on it is not tried again, by anybody: the line is told as faulty, and what it would decide keeps its live text.
  const { body } = await prove(DEADLY);
  expect(body.result!.proved.texts.title.faults[0]!.message).toMatch(
    /ended the thread .* 2 times.*until it is changed/,
  );
  const board = async () => (await ask(current.url, "bench.board", {})).find(({ kind }) => kind === "product")!;
  expect((await board()).texts.title.faults).toHaveLength(1);

  await endServer(current.server);
  await start();
  expect((await board()).texts.title.faults).toHaveLength(1);
  expect((await ask(current.url, "review.summary", {})).errors.map(({ kind, text }) => [kind, text])).toContainEqual([
    "product",
    "title",
  ]);
  await ask(current.url, "designs.save", { kind: "product", design: baseDesign({ title: "{name}!" }), seen: 1e6 });
  expect((await board()).texts.title.faults).toEqual([]);
}, 240_000);
