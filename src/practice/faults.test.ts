import Database from "better-sqlite3";
import { createGunzip } from "node:zlib";
import { type AddressInfo } from "node:net";
import { Readable } from "node:stream";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { practicePage } from "../test/practice-page";
import { FAULTS, Faults, type FaultName } from "./faults";
import { PracticeSite } from "./practice-site";
import { PracticeStore } from "./practice-store";

const BASE = "http://127.0.0.1:4910";
const TOKEN = "a token for tests";

let store: PracticeStore;
let faults: Faults;
let site: PracticeSite;
/** What chance says, again and again: below a half is heads, and every share above it befalls. */
let chance = 0;
beforeEach(() => {
  chance = 0;
  store = new PracticeStore(new Database(":memory:"));
  faults = new Faults(store, () => chance);
  site = new PracticeSite(store, { name: "Fennick & Dray", base: BASE }, TOKEN, faults);
  for (let i = 1; i <= 6; i++) store.put(practicePage(i));
  store.putRedirect({ from: "/old", to: "/goods/rope-1", status: 301, isPrefix: false });
});

const visit = (target = "/goods/rope-1") => site.answer({ method: "GET", target });
const api = (method: string, path: string, body: unknown = "", headers: Record<string, string> = {}) =>
  site.answer({
    method,
    target: `/api/flat${path}`,
    headers: { authorization: `Bearer ${TOKEN}`, "if-match": "*", ...headers },
    body: typeof body === "string" ? body : JSON.stringify(body),
  });
const put = (shares: unknown, headers: Record<string, string> = {}) =>
  site.answer({ method: "PUT", target: "/_practice/faults", headers, body: JSON.stringify(shares) });
const title = () => /<title>(.*?)<\/title>/.exec(visit().body)?.[1];
const description = () => /name="description" content="(.*?)"/.exec(visit().body)?.[1];

describe("faults", () => {
  it("are off at first, are switched by a program, and stay as they are when the site begins again", () => {
    const asked = () => JSON.parse(site.answer({ method: "GET", target: "/_practice/faults" }).body) as object;
    expect(Object.keys(asked())).toEqual(FAULTS.map(({ name }) => name));
    expect(new Set(Object.values(asked()))).toEqual(new Set([0]));
    expect(put({ errors: 20, "adds-name": 100 }).status).toBe(200);
    expect([...new Faults(store).shares()].sort()).toEqual([
      ["adds-name", 100],
      ["errors", 20],
    ]);
    put({ errors: 0 });
    expect([...faults.shares().keys()]).toEqual(["adds-name"]);
  });

  it("that there are not, and shares that are none, change nothing; nor do other sites’ pages", () => {
    expect(put({ errors: 20, weather: 5 }).status).toBe(422);
    expect(put({ errors: 101 }).status).toBe(422);
    expect(put({ errors: 20 }, { origin: "https://elsewhere.example" }).status).toBe(403);
    expect(faults.shares().size).toBe(0);
    expect(put({ errors: 20 }, { origin: BASE }).status).toBe(200);
  });

  it("are switched by the forms of the start page, every one of them", () => {
    const page = () => site.answer({ method: "GET", target: "/_practice" }).body;
    const forms = [...page().matchAll(/name="name" value="([^"]+)".*?name="share" value="(\d+)"/g)];
    expect(forms.map(([, name]) => name)).toEqual(FAULTS.map(({ name }) => name));
    for (const [, name, share] of forms) {
      const body = new URLSearchParams({ name: name!, share: share! }).toString();
      expect(site.answer({ method: "POST", target: "/_practice/faults", body }).status).toBe(303);
    }
    expect([...faults.shares()].sort()).toEqual(FAULTS.map(({ name, usually }) => [name, usually]).sort());
    expect(page()).toContain("on, 20 %: switch off");
  });

  it("befall so many requests out of a hundred as is said", () => {
    faults.set("errors", 30);
    const befallen = Array.from({ length: 100 }, (_, i) => {
      chance = i / 100;
      return api("GET", "/pages/p1").status;
    });
    expect(befallen.filter((status) => status === 500)).toHaveLength(30);
  });
});

describe("at the interface", () => {
  const rename = () => api("PATCH", "/pages/p1", { seo_title: "New" });

  it.each([
    ["too-many", 429],
    ["token-ended", 401],
  ] as const)("%s refuses without doing anything", (name, status) => {
    faults.set(name, 100);
    expect(rename().status).toBe(status);
    expect(store.writes()).toEqual([]);
  });

  it.each(["errors", "hanging"] as const)("%s has done the work, or has not", (name) => {
    faults.set(name, 100);
    chance = 0.9;
    expect(rename().status).toBe(500);
    expect(store.writes()).toHaveLength(0);
    chance = 0.1;
    expect(rename().delivery?.hangs ?? false).toBe(name === "hanging");
    expect(store.writes()).toHaveLength(1);
  });

  it.each([
    ["slow", { afterMs: 2000 }],
    ["dropped", { isDropped: true }],
  ] as const)("%s does the work, and answers as it says", (name, delivery) => {
    faults.set(name, 100);
    expect(rename().delivery).toEqual(delivery);
    expect(store.pageOf("p1")!.title).toBe("New");
  });

  it("half of a batch is refused, each in words", () => {
    faults.set("half-refused", 100);
    const batch = ["p1", "p2", "p3", "p4"].map((id) => ({ id, changes: { seo_title: "New" } }));
    const { results } = JSON.parse(api("POST", "/pages/batch", batch).body) as {
      results: { status: number; problem?: { detail: string } }[];
    };
    expect(results.map(({ status }) => status)).toEqual([200, 422, 200, 422]);
    expect(results[1]!.problem!.detail).toContain("refused");
    expect(store.writes().map(({ page }) => page)).toEqual(["p1", "p3"]);
  });

  it("somebody edits a page right before it is changed, and the site’s log says who it was", () => {
    faults.set("changed-meanwhile", 100);
    const answer = api("PATCH", "/pages/p1", { seo_title: "New" }, { "if-match": '"p1.1"' });
    expect(answer.status).toBe(412);
    chance = 0.9;
    expect(rename().status).toBe(200);
    api("POST", "/pages/batch", [{ id: "p2", changes: { seo_title: "New" } }]);
    expect(api("GET", "/pages/p3").status).toBe(200);
    expect(store.writes().map(({ page, writer, after }) => [page, writer, Object.keys(after)[0]])).toEqual([
      ["p1", "editor", "title"],
      ["p1", "editor", "intro"],
      ["p1", "program", "title"],
      ["p2", "editor", "intro"],
      ["p2", "program", "title"],
    ]);
  });

  it("what comes may be no answer to anything", () => {
    faults.set("rubbish", 100);
    const bodies = Array.from({ length: 4 }, () => api("GET", "/pages").body);
    expect(new Set(bodies.map((body) => body.slice(0, 2)))).toEqual(new Set(["<!", '{"', '["', "[["]));
    for (const body of [bodies[0]!, bodies[1]!, bodies[3]!]) expect(() => void JSON.parse(body)).toThrow();
  });
});

describe("what visitors get", () => {
  const on = (...names: FaultName[]) => {
    for (const { name } of FAULTS) faults.set(name, names.includes(name) ? 100 : 0);
  };

  it("has the theme’s own ways with titles, descriptions and robots", () => {
    const long = "Rope & twine, ".repeat(20);
    store.change("p1", { description: long, title: "Rope & twine" }, null, "2026-01-01T00:00:00Z");
    on("adds-name");
    expect(title()).toBe("Rope &amp; twine | Fennick &amp; Dray");
    on("cuts-descriptions");
    expect(description()!.replaceAll("&amp;", "&")).toBe(long.slice(0, 160));
    on("escapes-twice");
    expect(title()).toBe("Rope &amp;amp; twine");
    on("noindex");
    expect(visit().body).toContain('name="robots" content="noindex"');
    on();
    expect(title()).toBe("Rope &amp; twine");
    expect(visit().body).not.toContain("noindex");
  });

  it("may be a minute old, and no older", () => {
    const ago = (seconds: number) => new Date(Date.now() - seconds * 1000).toISOString();
    store.change("p1", { title: "Changed long ago" }, null, ago(90));
    store.change("p1", { title: "Changed just now", path: "/goods/other" }, null, ago(5));
    on("stale-pages");
    expect(visit("/goods/other").body).toContain("<title>Changed long ago</title>");
    on();
    expect(visit("/goods/other").body).toContain("<title>Changed just now</title>");
  });

  it("is led on by what should be something else", () => {
    const walk = () => {
      const met: (string | number)[] = [];
      for (let at = "/old", i = 0; at !== "/goods/rope-1" && i < 6; i++) {
        const { status, headers } = visit(at);
        met.push(status);
        at = headers["location"]!;
      }
      return met;
    };
    expect(walk()).toEqual([301]);
    on("redirect-302");
    expect(walk()).toEqual([302]);
    on("redirect-chain");
    expect(walk()).toEqual([301, 301, 301]);
    on("redirect-loop");
    expect(walk()).toHaveLength(6);
  });

  it("is hard to read", () => {
    on("wrong-charset");
    expect(visit().headers["content-type"]).toBe("text/html; charset=iso-8859-1");
    expect(visit().body).toContain('<meta charset="iso-8859-1">');
    on("huge");
    expect(visit().body.length).toBeGreaterThan(20_000_000);
    on("broken-html");
    expect(visit().body).toContain("<title>Another title</title>");
    expect(visit().body.match(/<\/p>/g)).toBeNull();
  });
});

describe("over HTTP", () => {
  let port: number;
  let server: ReturnType<PracticeSite["server"]>;
  beforeEach(async () => {
    server = site.server();
    await new Promise<void>((listening) => server.listen(0, "127.0.0.1", listening));
    ({ port } = server.address() as AddressInfo);
  });
  afterEach(() => {
    server.closeAllConnections();
    server.close();
  });
  const ask = (path: string, signal?: AbortSignal) =>
    fetch(`http://127.0.0.1:${port}${path}`, {
      headers: { authorization: `Bearer ${TOKEN}` },
      ...(signal && { signal }),
    });

  it("an answer ends in its middle", async () => {
    faults.set("dropped", 100);
    const answer = await ask("/api/flat/pages");
    expect(answer.status).toBe(200);
    await expect(answer.text()).rejects.toThrow();
  });

  it("an answer never comes", async () => {
    faults.set("hanging", 100);
    await expect(ask("/api/flat/pages", AbortSignal.timeout(300))).rejects.toThrow(/timeout/);
  });

  it("a megabyte becomes a gigabyte", async () => {
    faults.set("gzip-bomb", 100);
    const answer = site.answer({ method: "GET", target: "/goods/rope-1" });
    const { gzipped } = answer.delivery!;
    expect(gzipped!.length).toBeLessThan(2_000_000);
    let size = 0;
    for await (const part of Readable.from([gzipped]).pipe(createGunzip()) as AsyncIterable<Buffer>)
      size += part.length;
    expect(size).toBeGreaterThan(1_000_000_000);
  });
});
