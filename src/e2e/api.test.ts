import { parse } from "csv-parse/sync";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { CallInput } from "../server/api/contract";
import type { StoredDraft } from "../store/drafts";
import { kindIds } from "../core/design/kinds";
import { endServer, freshDatabase, startServer } from "./app";
import { ask, send } from "./calls";

let current: Awaited<ReturnType<typeof startServer>>;
beforeAll(async () => {
  current = await startServer(freshDatabase());
}, 120_000);
afterAll(() => endServer(current.server));

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
const rows = { text: "title", scope: "all", sort: "widest", filter: "all", search: "", from: 0, count: 5 };
const list = (over: object) => ({ query: { ...query, ...over }, columns: [], from: 0, count: 3 });
const design = { base: { title: "{name}" }, rules: [] };

describe("what is no good is refused in words, whichever way it is asked", () => {
  const choice = { kind: "product", id: 1 };
  it.each<[name: string, body: unknown, code: string, words: RegExp]>([
    ["bench.prove", "no JSON at all", "invalid", /has no JSON/],
    ["bench.prove", { kind: "boat", design, scope: "all", text: "title" }, "not-found", /has no kind “boat”/],
    ["bench.rows", { kind: "product", design, ...rows, count: 1e9 }, "invalid", /not valid.*count/s],
    [
      "bench.prove",
      { kind: "product", design: { base: { title: 7 }, rules: [] }, scope: "all", text: "title" },
      "invalid",
      /not valid.*title/s,
    ],
    ["bench.rows", { kind: "product", design, ...rows, from: -1 }, "invalid", /not valid.*from/s],
    ["bench.fields", { kind: "boats" }, "not-found", /has no kind “boats”; it has post, product/],
    ["bench.fields", { kind: "constructor" }, "invalid", /not valid/],
    [
      "bench.compare",
      { kind: "product", a: "live", b: "404", text: "title", from: 0, count: 5 },
      "not-found",
      /no longer exists/,
    ],
    ["items.list", list({ findings: [{ subject: "title", id: "made-up" }] }), "invalid", /there is no such finding/],
    ["items.list", list({ where: { field: "name" } }), "invalid", /not valid|operator|condition/i],
    ["items.list", list({ where: { field: "name", matches: "(" } }), "invalid", /pattern|not valid/i],
    ["items.list", list({ sort: "__proto__" }), "invalid", /not valid.*sort/s],
    ["items.list", list({ search: "x".repeat(201) }), "invalid", /not valid.*search/s],
    ["items.makeRule", { choice: { query, ranges: [], order: "x" } }, "stale", /list has changed/],
    ["items.putView", { name: "", query: "" }, "invalid", /a view needs a name/],
    [
      "designs.save",
      { kind: "product", design: { base: {}, rules: [{ id: "r", name: "R", when: {} }] }, seen: 0 },
      "invalid",
      /not valid/,
    ],
    ["designs.save", { kind: "product", design, seen: -1 }, "invalid", /not valid.*seen/s],
    ["designs.saveVersion", { kind: "boat", name: "Mine" }, "not-found", /has no kind “boat”/],
    ["designs.saveVersion", { kind: "product", name: "   " }, "invalid", /not valid.*name/s],
    ["designs.choose", { kind: "product", which: "../../etc" }, "invalid", /no version/],
    ["designs.choose", { kind: "product", which: "999" }, "not-found", /no longer exists/],
    [
      "edits.make",
      { choice: { kind: "product", id: 1e9 }, action: { type: "set", field: "title", value: "x" } },
      "not-found",
      /no longer exists/,
    ],
    [
      "edits.make",
      { choice: { query, ranges: [[0, 5]], order: "another" }, action: { type: "set", field: "title", value: "x" } },
      "stale",
      /list has changed/,
    ],
    ["edits.plan", { choice, action: { type: "set", field: "name", value: "x" } }, "invalid", /not valid.*field/s],
    [
      "edits.plan",
      { choice, action: { type: "set", field: "title", value: "x".repeat(1_000_001) } },
      "invalid",
      /more than a megabyte/,
    ],
    ["edits.run", { id: 4711, goal: "set" }, "not-found", /no longer exists/],
    ["site.saveSettings", { site: { slug: { max: -5 } }, seen: {} }, "invalid", /not valid.*max/s],
    ["site.saveSettings", { site: { name: "Somebody else’s" }, seen: {} }, "conflict", /changed in another window/],
    ["keywords.coverage", { show: "all", search: "", from: 0, count: -1 }, "invalid", /not valid.*count/s],
    [
      "keywords.bringIn",
      { token: "no-such-token", mapping: { keyword: 0, volume: null, firstToo: false } },
      "invalid",
      /expired|unknown/,
    ],
    ["review.list", { group: "nice", from: 0, count: 10 }, "invalid", /not valid.*group/s],
    ["review.chooseChange", { item: 1e9, text: "title", included: true }, "stale", /no longer exists/],
    [
      "runs.start",
      { goingOut: "of yesterday", click: "a-click-of-a-test" },
      "stale",
      /changed since you opened this review/,
    ],
    ["runs.goOn", { id: 77 }, "not-found", /There is no run 77/],
    ["runs.takeBack", { id: 77 }, "not-found", /There is no run 77/],
    ["runs.read", { id: 77 }, "not-found", /There is no run 77/],
    ["runs.burn", { id: 77 }, "not-found", /There is no call “runs.burn”/],
    ["constructor.name", {}, "not-found", /There is no call/],
    ["exchange.reviewLines", { name: "x.json", text: "{" }, "invalid", /x\.json:1:2: this is not JSON/],
    ["exchange.reviewLines", { name: "x.json", text: "[]" }, "invalid", /./],
    [
      "exchange.bringIn",
      { token: "no-such", name: "x.csv", mapping: { targets: ["boat"], kind: "product" } },
      "invalid",
      /not valid.*targets/s,
    ],
    [
      "exchange.bringIn",
      { token: "no-such", name: "x.csv", mapping: { targets: ["id"], kind: "product" } },
      "not-found",
      /choose it again/,
    ],
  ])("%s %j", async (name, body, code, words) => {
    const answer = await send(current.url, `/api/${name}`, body);
    expect(answer.body?.error, answer.text.slice(0, 300)).toMatch(words);
    expect(answer.body.code).toBe(code);
    expect(answer.body.error).not.toMatch(/undefined|\bat .*\.(ts|js|mjs)\b|SQLITE|TypeError|Cannot read/);
    // What is answered in pieces has said already that it is well by then.
    if (answer.text.trim().split("\n").length === 1 && answer.status !== 200)
      expect([400, 404, 409, 422]).toContain(answer.status);
  });

  it.each(["/api/out/secrets", "/api/out/changes", "/api/out/items?format=exe"])("%s", async (path) => {
    const answer = await send(current.url, path);
    expect(answer.body.error).toMatch(/Ask for items/);
    expect(answer.status).toBe(400);
  });

  it("and the server answers all the same afterwards", async () => {
    const { total, items } = await ask(current.url, "items.list", list({}) as CallInput<"items.list">);
    expect(total).toBeGreaterThan(10_000);
    expect(items.length).toBe(3);
  });
});

describe("a draft in two windows", () => {
  const put = async (title: string, seen: number) =>
    (await ask(current.url, "designs.save", { kind: "post", design: { base: { title }, rules: [] }, seen })) as {
      saved?: StoredDraft;
      conflict?: StoredDraft;
    };

  it("is stored once, and the later writer is given what the other wrote", async () => {
    const { version } = (await ask(current.url, "site.state", {})).drafts.post!;
    const first = await put("{name} one", version);
    expect(first.saved!.version).toBe(version + 1);
    const late = await put("{name} two", version);
    expect(late.saved).toBeUndefined();
    expect(late.conflict).toMatchObject({ version: version + 1, design: { base: { title: "{name} one" } } });
    // The same once more is no conflict: an answer may have been lost on its way. It is no other draft either.
    expect((await put("{name} one", version)).saved!.version).toBe(version + 1);
    expect((await put("{name} two", version + 5)).saved).toBeDefined();
  });

  it("is saved as a version, chosen again, and deleted", async () => {
    const { url } = current;
    const named = await ask(url, "designs.saveVersion", { kind: "post", name: "Second thoughts" });
    await ask(url, "designs.save", { kind: "post", design: { base: { title: "{name} three" }, rules: [] }, seen: 1e6 });
    const chosen = await ask(url, "designs.choose", { kind: "post", which: String(named.id) });
    expect(chosen.design.base.title).toBe("{name} two");
    // What was the draft before is not lost.
    expect((await ask(url, "designs.versions", { kind: "post" })).map(({ name }) => name)).toEqual(
      expect.arrayContaining(["Second thoughts", "Draft before another version"]),
    );
    // What a window shows counts, be it stored yet or not.
    const shown = { base: { title: "{name} shown" }, rules: [] };
    await ask(url, "designs.saveVersion", { kind: "post", name: "Shown", design: shown });
    const { id } = (await ask(url, "designs.versions", { kind: "post" })).find(({ name }) => name === "Shown")!;
    expect(await ask(url, "designs.deleteVersion", { id })).toMatchObject({ name: "Shown", design: shown });
    await ask(url, "designs.deleteVersion", { id: named.id });
    expect((await ask(url, "designs.versions", { kind: "post" })).some(({ id }) => id === named.id)).toBe(false);
  });
});

describe("settings in two windows", () => {
  it("are not overwritten by who saw older ones", async () => {
    const { url } = current;
    const seen = (await ask(url, "site.state", {})).site!;
    const first = await ask(url, "site.saveSettings", { site: { ...seen, tagline: "First" }, seen });
    expect(first.site!.tagline).toBe("First");
    const late = await send(url, "/api/site.saveSettings", { site: { ...seen, tagline: "Late" }, seen });
    expect(late.body.error).toMatch(/changed in another window/);
    expect((await ask(url, "site.state", {})).site!.tagline).toBe("First");
  });
});

describe("what is exported", () => {
  it("is every page, as CSV and as JSON Lines, with the same texts", async () => {
    const csv = await send(current.url, "/api/out/items?format=csv");
    const json = await send(current.url, "/api/out/items?format=jsonl");
    const pages = json.text
      .trim()
      .split("\n")
      .map((line) => JSON.parse(line) as { title: string; slug: string });
    const rows = parse(csv.text, { columns: true, bom: true }) as { title: string; slug: string }[];
    expect(rows.map(({ slug }) => slug)).toEqual(pages.map(({ slug }) => slug));
    // A text that a spreadsheet would run as a formula has an apostrophe before it there.
    expect(rows.map(({ title }) => title.replace(/^'(?=[=+\-@])/, ""))).toEqual(pages.map(({ title }) => title));
    const { counts } = await ask(current.url, "site.state", {});
    expect(pages.length).toBe(Object.values(counts).reduce((sum, one) => sum + one, 0));
  });

  it("is a lines file that changes nothing when it comes in again", async () => {
    const { url } = current;
    const { text } = await send(url, "/api/files/lines");
    const same = await ask(url, "exchange.reviewLines", { name: "site.lines.json", text });
    expect(same.kinds.length).toBe(kindIds(null).length);
    expect([...same.kinds.flatMap(({ differences }) => differences), ...same.site]).toEqual([]);
    const changed = text.replace("{name} two", "{name} four");
    const other = await ask(url, "exchange.reviewLines", { name: "site.lines.json", text: changed });
    expect(other.kinds.filter(({ differences }) => differences.length > 0).map(({ kind }) => kind)).toEqual(["post"]);
  });
});

describe("an address of a page", () => {
  it.each([
    "/",
    "/bench?kind=product&text=title",
    "/pages",
    "/keywords",
    "/review",
    "/runs",
    "/runs/1",
    "/settings",
    "/import",
    "/lines",
    "/connection",
    "/live",
    "/compare",
  ])("%s is there", async (path) => {
    const response = await fetch(current.url + path);
    expect(response.status).toBe(200);
    expect(await response.text()).toContain("<title>");
  });

  it("that there is none of says so", async () => {
    const response = await fetch(`${current.url}/no-such-view`);
    expect(response.status).toBe(404);
  });
});
