import { afterAll, beforeAll, expect, it } from "vitest";
import { loadDemo } from "../demo/load";
import type { CallInput, CallName, CallResult } from "../server/api/contract";
import { openStore } from "../store/open";
import { endServer, freshDatabase, startServer } from "./app";
import { ask, send, settled } from "./calls";

const ROUNDS = 500;
/** No answer may come later, in ms. */
const LATEST = 5000;

let current: Awaited<ReturnType<typeof startServer>>;
beforeAll(async () => {
  const path = freshDatabase();
  const db = openStore(path);
  loadDemo(db, { products: 260 });
  db.close();
  current = await startServer(path);
}, 120_000);
afterAll(() => endServer(current.server));

const query = {
  kind: "product",
  side: "draft",
  findings: [],
  difference: null,
  where: null,
  mark: null,
  search: "",
  sort: "site",
  down: false,
  group: null,
} satisfies CallInput<"items.list">["query"];
const VIEWS: Partial<CallInput<"items.list">["query"]>[] = [
  {},
  { sort: "title", down: true },
  { mark: "by-hand" },
  { search: "rope" },
  { findings: [{ subject: "title", id: "near-duplicate" }], side: "live" },
  { sort: "field:name", group: "finding" },
  { kind: "all", sort: "findings" },
];

/** One window: edits a page, takes that back, filters, sorts, and goes away in the middle of answers. */
class Window {
  slowest = { name: "", ms: 0 };

  constructor(
    private readonly name: string,
    private readonly page: number,
  ) {}

  async round(n: number): Promise<void> {
    const choice = { kind: "product" as const, id: this.page };
    const value = `Written by hand in round ${n} by ${this.name}`;
    const { edit } = await this.timed("edits.make", { choice, action: { type: "set", field: "title", value } });
    await this.leave({ ...query, sort: "description" });
    await this.list(VIEWS[n % VIEWS.length]!);
    await this.timed("edits.run", { id: edit!, goal: "undone" });
    if (n % 3 === 0) await this.leave({ ...query, mark: "changes" });
    await this.list(VIEWS[(n * 5 + 1) % VIEWS.length]!);
  }

  private list(view: (typeof VIEWS)[number]) {
    return this.timed("items.list", { query: { ...query, ...view }, columns: [], from: 0, count: 40 });
  }

  /** Asks, and does not wait for the answer. */
  private async leave(of: CallInput<"items.list">["query"]): Promise<void> {
    const controller = new AbortController();
    const body = JSON.stringify({ query: of, columns: [], from: 0, count: 40 });
    const headers = { "content-type": "application/json", "x-client": this.name };
    const asked = fetch(`${current.url}/api/items.list`, { method: "POST", body, headers, signal: controller.signal });
    await new Promise((resolve) => setImmediate(resolve));
    controller.abort();
    await asked.then((response) => response.text()).catch(() => {});
  }

  private async askedOnce<N extends CallName>(name: N, input: CallInput<N>): Promise<CallResult<N> | null> {
    const headers = { "content-type": "application/json", "x-client": this.name };
    const { status, text } = await send(current.url, `/api/${name}`, input, { headers });
    const last = JSON.parse(text.trim().split("\n").at(-1)!) as { cancelled?: true; result?: CallResult<N> } | null;
    if (last?.cancelled) return null;
    expect(status, text.slice(0, 500)).toBe(200);
    return (last && "result" in last ? last.result : last) as CallResult<N>;
  }

  private async timed<N extends "edits.make" | "edits.run" | "items.list">(name: N, input: CallInput<N>) {
    const from = performance.now();
    // One that this window gave up may have come to the server after this, and taken its place: then it asks again.
    let answer: CallResult<N> | null = null;
    while (answer === null) answer = await this.askedOnce(name, input);
    const ms = performance.now() - from;
    if (ms > this.slowest.ms) this.slowest = { name, ms };
    return answer;
  }
}

it("two windows edit, take back, filter, sort and go away 500 times, and nothing hangs, fails or is late", async () => {
  const asked = { query, columns: [], from: 0, count: 2 };
  const { items } = await ask(current.url, "items.list", asked);
  const before = items.map(({ texts }) => texts.title.draft);
  const windows = items.map(({ id }, i) => new Window(`window${i}`, id));
  await Promise.all(
    windows.map(async (window) => {
      for (let n = 0; n < ROUNDS / windows.length; n++) await window.round(n);
    }),
  );
  await settled(current.url);
  for (const { slowest } of windows) expect(slowest.ms, slowest.name).toBeLessThan(LATEST);
  const after = await ask(current.url, "items.list", asked);
  expect(after.items.map(({ texts }) => texts.title.draft)).toEqual(before);
  expect((await ask(current.url, "bench.board", {})).length).toBe(3);
}, 600_000);
