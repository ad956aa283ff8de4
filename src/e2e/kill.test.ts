import { type ChildProcess } from "node:child_process";
import Database from "better-sqlite3";
import { afterAll, describe, expect, it } from "vitest";
import { endServer, freshDatabase, startServer } from "./app";

interface Texts {
  id: number;
  title: string;
  description: string;
  slug: string;
  path: string;
}

const ask = async <T>(url: string, body?: unknown, method = "POST"): Promise<T> => {
  const response = await fetch(url, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { "content-type": "application/json" } }),
  });
  expect(response.ok, await response.clone().text()).toBe(true);
  return (await response.json()) as T;
};
const get = async <T>(url: string): Promise<T> => (await (await fetch(url)).json()) as T;
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

interface Run {
  status: string;
  waiting: number;
  applied: number;
  skipped: number;
}

async function ended(url: string, run: number): Promise<Run> {
  for (;;) {
    const now = await get<Run>(`${url}/api/runs/${run}`);
    if (now.status === "done" || now.status === "stopped") return now;
    await wait(100);
  }
}

/** Ends a server as a power cut would. */
async function killed(server: ChildProcess): Promise<void> {
  server.removeAllListeners("exit");
  const gone = new Promise((resolve) => server.on("exit", resolve));
  server.kill("SIGKILL");
  await gone;
}

const texts = (db: string): Texts[] => {
  const handle = new Database(db, { readonly: true });
  const rows = handle.prepare("SELECT id, title, description, slug, path FROM items ORDER BY id").all() as Texts[];
  handle.close();
  return rows;
};

describe("a server killed while a run is applied", () => {
  const db = freshDatabase();
  let current: Awaited<ReturnType<typeof startServer>>;
  afterAll(() => endServer(current.server));

  it("says how far it got, has half changed nothing, goes on, and takes every byte back", async () => {
    current = await startServer(db);
    const before = texts(db);
    const { run } = await ask<{ run: number }>(`${current.url}/api/runs`);
    for (;;) {
      const now = await get<Run>(`${current.url}/api/runs/${run}`);
      if (now.applied > 2000) break;
      await wait(5);
    }
    await killed(current.server);

    current = await startServer(db);
    const stopped = await get<Run>(`${current.url}/api/runs/${run}`);
    expect(stopped.status).toBe("stopped");
    expect(stopped.applied).toBeGreaterThan(2000);
    expect(stopped.waiting).toBeGreaterThan(0);
    expect(stopped.applied + stopped.waiting + stopped.skipped).toBeGreaterThan(12_000);

    // Of every item, either all changes of the run were applied or none; and the item reads as its changes say.
    const handle = new Database(db, { readonly: true });
    const mixed = handle
      .prepare(
        "SELECT count(*) AS n FROM (SELECT item_id FROM run_changes WHERE run_id = ? GROUP BY item_id HAVING count(DISTINCT status = 'waiting') > 1)",
      )
      .get(run) as { n: number };
    expect(mixed.n).toBe(0);
    const wrong = handle
      .prepare(
        `SELECT count(*) AS n FROM run_changes JOIN items ON items.id = run_changes.item_id
         WHERE run_id = ? AND text IN ('title', 'description', 'slug')
           AND CASE text WHEN 'title' THEN title WHEN 'description' THEN description ELSE slug END <> CASE status WHEN 'applied' THEN after ELSE before END`,
      )
      .get(run) as { n: number };
    expect(wrong.n).toBe(0);
    const redirects = handle
      .prepare(
        "SELECT count(*) AS n FROM run_changes WHERE run_id = ? AND status = 'applied' AND path_before <> path_after",
      )
      .get(run) as { n: number };
    const written = handle
      .prepare("SELECT count(*) AS n, count(DISTINCT from_path) AS distinctly FROM redirects WHERE run_id = ?")
      .get(run) as { n: number; distinctly: number };
    expect(written.n).toBe(redirects.n);
    handle.close();

    await ask(`${current.url}/api/runs/${run}`, { action: "go-on" });
    const done = await ended(current.url, run);
    expect(done).toMatchObject({ status: "done", waiting: 0, skipped: 0 });
    expect(texts(db)).not.toEqual(before);

    const back = await ask<{ run: number }>(`${current.url}/api/runs/${run}`, { action: "take-back" });
    expect(await ended(current.url, back.run)).toMatchObject({ status: "done", waiting: 0, skipped: 0 });
    expect(texts(db)).toEqual(before);
  });
});

describe("a server killed while pages are edited by hand", () => {
  const db = freshDatabase();
  let current: Awaited<ReturnType<typeof startServer>>;
  afterAll(() => endServer(current.server));
  const keywords = (): string[] => {
    const handle = new Database(db, { readonly: true });
    const rows = handle.prepare("SELECT keyword FROM items ORDER BY id").pluck().all() as string[];
    handle.close();
    return rows;
  };
  interface Steps {
    stopped: { id: number; waiting: number; total: number } | null;
    undo: { id: number } | null;
  }
  const settled = async (): Promise<void> => {
    while ((await get<{ status: string }[]>(`${current.url}/api/jobs`)).some(({ status }) => status === "running"))
      await wait(50);
  };

  it("says how far it got, and goes on or takes it back as one step", async () => {
    current = await startServer(db);
    const before = keywords();
    const query = {
      kind: "all",
      side: "live",
      findings: [],
      difference: null,
      where: null,
      mark: null,
      search: "",
      sort: "site",
      down: false,
      group: null,
    };
    const list = async () => {
      const response = await fetch(`${current.url}/api/items`, {
        method: "POST",
        body: JSON.stringify({ query, columns: [], from: 0, count: 1, client: "test" }),
        headers: { "content-type": "application/json" },
      });
      return (
        JSON.parse((await response.text()).trim().split("\n").at(-1)!) as { result: { order: string; total: number } }
      ).result;
    };
    const { order, total } = await list();
    const made = await ask<{ edit: number; count: number }>(`${current.url}/api/edits`, {
      do: "make",
      choice: { query, ranges: [[0, total]], order },
      action: { type: "set", field: "keyword", value: "one for all" },
    });
    expect(made.count).toBe(total);
    for (;;) {
      const done = keywords().filter((keyword) => keyword === "one for all").length;
      if (done > 1000) break;
      await wait(5);
    }
    await killed(current.server);

    current = await startServer(db);
    const { stopped } = await get<Steps>(`${current.url}/api/edits/steps`);
    expect(stopped).toMatchObject({ id: made.edit, total });
    const done = keywords().filter((keyword) => keyword === "one for all").length;
    expect(done).toBe(total - stopped!.waiting);
    expect(done).toBeLessThan(total);

    await ask(`${current.url}/api/edits/steps`, { id: made.edit, goal: "set" });
    await settled();
    expect(new Set(keywords())).toEqual(new Set(["one for all"]));
    await ask(`${current.url}/api/edits/steps`, { id: made.edit, goal: "undone" });
    await settled();
    expect(keywords()).toEqual(before);
  });
});

describe("the server", () => {
  it("refuses what other sites send", async () => {
    const { server, url } = await startServer(freshDatabase());
    const foreign = await fetch(`${url}/api/runs`, {
      method: "POST",
      headers: { origin: "https://elsewhere.example" },
    });
    expect(foreign.status).toBe(403);
    await endServer(server);
  });

  it("says why and ends when its database cannot be opened", async () => {
    await expect(startServer("/dev/null/nine-lines/site.db")).rejects.toThrow(/cannot be (opened|written)/);
  });

  it("ends cleanly on Ctrl-C", async () => {
    const { server } = await startServer(freshDatabase());
    expect(await endServer(server)).toBe(0);
  });
});
