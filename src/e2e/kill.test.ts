import { ALL_PAGES } from "../core/items/query";
import { type ChildProcess } from "node:child_process";
import { randomUUID } from "node:crypto";
import { closeSync, openSync, writeSync } from "node:fs";
import Database from "better-sqlite3";
import { afterAll, describe, expect, it } from "vitest";
import type { RunFigures } from "../store/runs";
import { endServer, freshDatabase, startServer } from "./app";
import { ask, send, settled } from "./calls";

interface Texts {
  id: number;
  title: string;
  description: string;
  slug: string;
  path: string;
}

type Run = Pick<RunFigures, "status" | "waiting" | "applied" | "skipped">;

async function ended(url: string, id: number): Promise<Run> {
  await settled(url);
  return ask(url, "runs.read", { id });
}

/** Applies what the review takes in, moves too; gives the run's number. */
async function applied(url: string): Promise<number> {
  const { goingOut } = await ask(url, "review.chooseGroup", { group: "moves", included: true });
  return (await ask(url, "runs.start", { goingOut, click: randomUUID() })).run;
}

/** Ends a server as a power cut would. */
async function killed(server: ChildProcess): Promise<void> {
  server.removeAllListeners("exit");
  const gone = new Promise((resolve) => server.on("exit", resolve));
  server.kill("SIGKILL");
  await gone;
}

/**
 * Ends a server in the midst of what it writes: at once when the database has so much of it.
 *
 * @param count counts what is done by now. @param least so much has to be.
 */
async function killedMidway(server: ChildProcess, db: string, count: string, least: number): Promise<void> {
  const handle = new Database(db, { readonly: true });
  const done = handle.prepare(count).pluck();
  while ((done.get() as number) < least) await new Promise((resolve) => setImmediate(resolve));
  await killed(server);
  handle.close();
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
    const run = await applied(current.url);
    const appliedSoFar = `SELECT count(*) FROM run_changes WHERE run_id = ${run} AND status = 'applied'`;
    await killedMidway(current.server, db, appliedSoFar, 2001);

    current = await startServer(db);
    const stopped = await ask(current.url, "runs.read", { id: run });
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

    await ask(current.url, "runs.goOn", { id: run });
    const done = await ended(current.url, run);
    expect(done).toMatchObject({ status: "done", waiting: 0, skipped: 0 });
    expect(texts(db)).not.toEqual(before);

    const back = await ask(current.url, "runs.takeBack", { id: run });
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
  it("says how far it got, and goes on or takes it back as one step", async () => {
    current = await startServer(db);
    const before = keywords();
    const query = ALL_PAGES;
    const asked = { query: { ...query, findings: [] }, columns: [], from: 0, count: 1 };
    const { order, total } = await ask(current.url, "items.list", asked);
    const making = ask(current.url, "edits.make", {
      choice: { query: { ...query, findings: [] }, ranges: [[0, total]], order },
      action: { type: "set", field: "keyword", value: "one for all" },
    });
    making.catch(() => {});
    await killedMidway(current.server, db, "SELECT count(*) FROM items WHERE keyword = 'one for all'", 1001);

    current = await startServer(db);
    const { stopped } = await ask(current.url, "edits.steps", {});
    expect(stopped).toMatchObject({ total });
    const done = keywords().filter((keyword) => keyword === "one for all").length;
    expect(done).toBe(total - stopped!.waiting);
    expect(done).toBeLessThan(total);

    await ask(current.url, "edits.run", { id: stopped!.id, goal: "set" });
    await settled(current.url);
    expect(new Set(keywords())).toEqual(new Set(["one for all"]));
    await ask(current.url, "edits.run", { id: stopped!.id, goal: "undone" });
    await settled(current.url);
    expect(keywords()).toEqual(before);
  });
});

describe("a server killed while a file with all pages comes in, and while that is undone", () => {
  const db = freshDatabase();
  let current: Awaited<ReturnType<typeof startServer>>;
  afterAll(() => endServer(current.server));

  it("has each page once, there or gone, and comes to where it began in the end", async () => {
    current = await startServer(db);
    const before = texts(db);
    const kept = before
      .filter((_, i) => i % 2 === 0)
      .map(({ path, title }) => `${path},"${title.replaceAll('"', '""')} now"`);
    const file = ["address,title", ...kept].join("\n");
    const { body } = await send<{ token: string }>(current.url, "/api/files/pages?name=half.csv", file, {
      method: "POST",
    });
    const mapping = { targets: ["address" as const, "title" as const], kind: "product" as const };
    const asked = { token: body.token, name: "half.csv", mapping, byHand: "none" as const, areAll: true };
    await ask(current.url, "exchange.bringIn", asked);
    const changes = "SELECT count(*) FROM import_changes WHERE import_id = 1";
    await killedMidway(current.server, db, changes, 2001);
    const whole = () => {
      const handle = new Database(db, { readonly: true });
      const both = "SELECT count(*) FROM items JOIN gone_items USING (id)";
      const all = "SELECT (SELECT count(*) FROM items) + (SELECT count(*) FROM gone_items)";
      const counts = [both, all].map((sql) => handle.prepare(sql).pluck().get());
      handle.close();
      return counts;
    };
    expect(whole()).toEqual([0, before.length]);

    current = await startServer(db);
    expect(await ask(current.url, "exchange.import", { id: 1 })).toMatchObject({
      status: "stopped",
      takenBackAt: null,
    });
    await ask(current.url, "exchange.takeImportBack", { id: 1 });
    await killedMidway(current.server, db, `${changes} AND state <> 'in'`, 501);
    expect(whole()).toEqual([0, before.length]);

    current = await startServer(db);
    await ask(current.url, "exchange.takeImportBack", { id: 1 });
    await settled(current.url);
    expect(await ask(current.url, "exchange.import", { id: 1 })).toMatchObject({ open: 0, kept: 0 });
    expect(texts(db)).toEqual(before);
  });
});

describe("a server killed while a file comes in that makes kinds", () => {
  const db = freshDatabase();
  let current: Awaited<ReturnType<typeof startServer>>;
  afterAll(() => endServer(current.server));

  it("knows the kind of every page that is in, and brings the others in with the same file", async () => {
    current = await startServer(db);
    const rows = Array.from({ length: 20_000 }, (_, i) => `${i + 1},/make/${i + 1},Recipe ${i + 1}`);
    const { body } = await send<{ token: string }>(
      current.url,
      "/api/files/pages?name=recipes.csv",
      ["id,address,name", ...rows].join("\n"),
      { method: "POST" },
    );
    const recipe = { id: "recipe", one: "recipe", many: "recipes", isTree: false, isSingle: false, words: [] };
    const targets = ["id" as const, "address" as const, "name" as const];
    const mapping = { targets, kind: "recipe", kinds: [recipe] };
    const asked = { token: body.token, name: "recipes.csv", mapping, byHand: "none" as const };
    await ask(current.url, "exchange.bringIn", asked);
    await killedMidway(current.server, db, "SELECT count(*) FROM items WHERE kind = 'recipe'", 2000);

    current = await startServer(db);
    const state = await ask(current.url, "site.state", {});
    expect(state.site!.kinds).toMatchObject([{ id: "recipe", many: "recipes" }]);
    expect(state.counts.recipe! % 2000).toBe(0);
    await ask(current.url, "exchange.bringIn", asked);
    await settled(current.url);
    expect(await ask(current.url, "exchange.import", { id: 2 })).toMatchObject({
      status: "done",
      added: 20_000 - state.counts.recipe!,
      unchanged: state.counts.recipe!,
      refused: 0,
    });
  });
});

describe("the server", () => {
  it("refuses what other sites send", async () => {
    const { server, url } = await startServer(freshDatabase());
    const foreign = await fetch(`${url}/api/runs.list`, {
      method: "POST",
      headers: { origin: "https://elsewhere.example" },
    });
    expect(foreign.status).toBe(403);
    await endServer(server);
  });

  it("says why and ends when its database cannot be opened", async () => {
    await expect(startServer("/dev/null/nine-lines/site.db")).rejects.toThrow(/cannot be (opened|written)/);
  });

  it("says in words that a part of its database cannot be read, and answers on", async () => {
    const db = freshDatabase();
    await endServer((await startServer(db)).server);
    const file = openSync(db, "r+");
    // Somewhere in the middle: what is at the start is looked at when it is opened.
    writeSync(file, Buffer.alloc(400 * 4096, 0xa5), 0, 400 * 4096, 200 * 4096);
    closeSync(file);
    const { server, url } = await startServer(db);
    const { body, text } = await send(url, "/api/review.summary", {});
    expect(body.code, text.slice(-300)).toBe("store");
    expect(body.error).toMatch(/is damaged: a part of it cannot be read/);
    expect(await ask(url, "jobs.list", {})).toEqual([]);
    await endServer(server);
  });

  it("ends cleanly on Ctrl-C", async () => {
    const { server } = await startServer(freshDatabase());
    expect(await endServer(server)).toBe(0);
  });
});
