import { parse } from "csv-parse/sync";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type KindDesign } from "../core/design/design";
import { endServer, freshDatabase, startServer } from "./app";

let current: Awaited<ReturnType<typeof startServer>>;
beforeAll(async () => {
  current = await startServer(freshDatabase());
}, 120_000);
afterAll(() => endServer(current.server));

interface Answer<T> {
  readonly status: number;
  readonly body: T;
  readonly text: string;
}

/** Asks the server; of an answer in lines the last one, which is the result or the error. */
async function call<T = { error?: string }>(method: string, path: string, body?: unknown): Promise<Answer<T>> {
  const response = await fetch(current.url + path, {
    method,
    ...(body === undefined
      ? {}
      : {
          body: typeof body === "string" ? body : JSON.stringify(body),
          headers: { "content-type": "application/json" },
        }),
  });
  const text = await response.text();
  const last = text.trim().split("\n").at(-1)!;
  return { status: response.status, text, body: (/^[[{]|^null/.test(last) ? JSON.parse(last) : null) as T };
}

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
const rows = { text: "title", scope: "all", sort: "site", filter: "all", search: "", from: 0, count: 5 };
const list = (over: object) => ({ query: { ...query, ...over }, columns: [], from: 0, count: 3, client: "test" });
const design = { base: { title: "{name}" }, rules: [] };

describe("what is no good is refused in words, whichever way it is asked", () => {
  it.each<[method: string, path: string, body: unknown, words: RegExp]>([
    ["POST", "/api/bench", "no JSON at all", /holds no JSON/],
    ["POST", "/api/bench", { kind: "boat", design, query: rows, client: "t" }, /not understood.*kind/s],
    [
      "POST",
      "/api/bench",
      { kind: "product", design, query: { ...rows, count: 1e9 }, client: "t" },
      /not understood.*count/s,
    ],
    [
      "POST",
      "/api/bench",
      { kind: "product", design: { base: { title: 7 }, rules: [] }, query: rows, client: "t" },
      /not understood.*title/s,
    ],
    [
      "POST",
      "/api/rows",
      { kind: "product", design, query: { ...rows, from: -1 }, client: "t" },
      /not understood.*from/s,
    ],
    ["POST", "/api/items", list({ findings: [{ subject: "title", id: "made-up" }] }), /there is no such finding/],
    ["POST", "/api/items", list({ where: { field: "name" } }), /not understood|operator|condition/i],
    ["POST", "/api/items", list({ where: { field: "name", matches: "(" } }), /pattern|not understood/i],
    ["POST", "/api/items", list({ sort: "__proto__" }), /not understood.*sort/s],
    ["POST", "/api/items", list({ search: "x".repeat(201) }), /not understood.*search/s],
    [
      "PUT",
      "/api/draft",
      { kind: "product", design: { base: {}, rules: [{ id: "r", name: "R", when: {} }] }, seen: 0 },
      /not understood/,
    ],
    ["PUT", "/api/draft", { kind: "product", design, seen: -1 }, /not understood.*seen/s],
    ["POST", "/api/kept", { kind: "home" }, /not understood.*kind/s],
    ["POST", "/api/named", { kind: "product", name: "   " }, /not understood.*name/s],
    ["PUT", "/api/named", { kind: "product", which: "../../etc" }, /no name of a design/],
    ["PUT", "/api/named", { kind: "product", which: "999" }, /no longer there/],
    [
      "POST",
      "/api/compare",
      { kind: "product", a: "kept", b: "404", text: "title", from: 0, count: 5, client: "t" },
      /no longer there/,
    ],
    [
      "POST",
      "/api/edits",
      { do: "make", choice: { kind: "product", id: 1e9 }, action: { type: "set", field: "title", value: "x" } },
      /no longer there/,
    ],
    [
      "POST",
      "/api/edits",
      {
        do: "make",
        choice: { query, ranges: [[0, 5]], order: "another" },
        action: { type: "set", field: "title", value: "x" },
      },
      /list has changed/,
    ],
    [
      "POST",
      "/api/edits",
      { do: "plan", choice: { kind: "product", id: 1 }, action: { type: "set", field: "name", value: "x" } },
      /not understood.*field/s,
    ],
    [
      "POST",
      "/api/edits",
      {
        do: "plan",
        choice: { kind: "product", id: 1 },
        action: { type: "set", field: "title", value: "x".repeat(1_000_001) },
      },
      /more than a megabyte/,
    ],
    ["POST", "/api/edits/steps", { id: 4711, goal: "set" }, /no longer there/],
    ["POST", "/api/items/rule", { choice: { query, ranges: [], order: "x" } }, /list has changed|No page/],
    ["PUT", "/api/views", { name: "", query: "" }, /a view needs a name/],
    ["PUT", "/api/settings", { site: { slug: { max: -5 } }, seen: {} }, /not understood.*max/s],
    ["PUT", "/api/settings", { site: { name: "Somebody else’s" }, seen: {} }, /changed in another window/],
    ["POST", "/api/keywords", { ask: "everything" }, /not understood.*ask/s],
    [
      "POST",
      "/api/keywords",
      { ask: "coverage", show: "all", search: "", from: 0, count: 0 },
      /not understood.*count/s,
    ],
    [
      "PUT",
      "/api/keywords/list",
      { token: "no-such-token", mapping: { keyword: 0, volume: null, firstToo: false } },
      /./,
    ],
    ["POST", "/api/review", { ask: "list", group: "nice", from: 0, count: 10 }, /not understood.*group/s],
    ["POST", "/api/runs/77", { action: "go-on" }, /There is no run 77/],
    ["POST", "/api/runs/77", { action: "take-back" }, /There is no run 77/],
    ["POST", "/api/runs/77", { action: "burn" }, /not understood.*action/s],
    ["GET", "/api/runs/77", undefined, /There is no run 77/],
    ["GET", "/api/fields?kind=boats", undefined, /not understood/],
    ["GET", "/api/out/secrets", undefined, /Ask for items/],
    ["GET", "/api/out/changes", undefined, /Ask for items/],
    ["GET", "/api/out/items?format=exe", undefined, /Ask for items/],
    ["POST", "/api/lines", { name: "x.json", text: "{" }, /x\.json:1:2: this is not JSON/],
    ["POST", "/api/lines", { name: "x.json", text: "[]" }, /./],
    [
      "POST",
      "/api/imports",
      { token: "no-such", name: "x.csv", mapping: { targets: ["boat"], kind: "product" } },
      /not understood.*targets/s,
    ],
  ])("%s %s %j", async (method, path, body, words) => {
    const answer = await call(method, path, body);
    expect(answer.body?.error, answer.text.slice(0, 300)).toMatch(words);
    expect(answer.body.error).not.toMatch(/undefined|\bat .*\.(ts|js|mjs)\b|SQLITE|TypeError|Cannot read/);
    if (!/^(\/api\/(bench|items|compare|keywords|keywords\/list))$/.test(path))
      expect([400, 409, 422]).toContain(answer.status);
  });

  it("and the server answers all the same afterwards", async () => {
    const { body } = await call<{ result: { total: number; items: unknown[] } }>("POST", "/api/items", list({}));
    expect(body.result.total).toBeGreaterThan(10_000);
    expect(body.result.items.length).toBe(3);
  });
});

describe("a draft in two windows", () => {
  const put = (title: string, seen: number) =>
    call<{ saved?: { version: number }; conflict?: { version: number; design: KindDesign } }>("PUT", "/api/draft", {
      kind: "post",
      design: { base: { title }, rules: [] },
      seen,
    });

  it("is stored once, and the later writer is given what the other wrote", async () => {
    const { body: state } = await call<{ drafts: { post: { version: number } } }>("GET", "/api/state");
    const { version } = state.drafts.post;
    const first = await put("{name} one", version);
    expect(first.body.saved!.version).toBe(version + 1);
    const late = await put("{name} two", version);
    expect(late.body.saved).toBeUndefined();
    expect(late.body.conflict).toMatchObject({ version: version + 1, design: { base: { title: "{name} one" } } });
    // The same once more is no conflict: an answer may have been lost on its way.
    expect((await put("{name} one", version)).body.saved).toBeDefined();
    expect((await put("{name} two", version + 5)).body.saved).toBeDefined();
  });

  it("is put aside under a name, chosen again, and forgotten", async () => {
    const { body: named } = await call<{ id: number; name: string }>("POST", "/api/named", {
      kind: "post",
      name: "Second thoughts",
    });
    await call("PUT", "/api/draft", {
      kind: "post",
      design: { base: { title: "{name} three" }, rules: [] },
      seen: 1e6,
    });
    const { body: chosen } = await call<{ design: KindDesign }>("PUT", "/api/named", {
      kind: "post",
      which: String(named.id),
    });
    expect(chosen.design.base.title).toBe("{name} two");
    const { body: all } = await call<{ id: number; name: string }[]>("GET", "/api/named?kind=post");
    // What was the draft before is not lost.
    expect(all.map(({ name }) => name)).toEqual(
      expect.arrayContaining(["Second thoughts", "Draft before another was chosen"]),
    );
    await call("DELETE", "/api/named", { id: named.id });
    expect((await call<{ id: number }[]>("GET", "/api/named?kind=post")).body.some(({ id }) => id === named.id)).toBe(
      false,
    );
  });
});

describe("settings in two windows", () => {
  it("are not overwritten by who saw older ones", async () => {
    const { body: before } = await call<{ site: { tagline: string } }>("GET", "/api/state");
    const seen = before.site;
    const first = await call<{ site: { tagline: string } }>("PUT", "/api/settings", {
      site: { ...seen, tagline: "First" },
      seen,
    });
    expect(first.body.site.tagline).toBe("First");
    const late = await call("PUT", "/api/settings", { site: { ...seen, tagline: "Late" }, seen });
    expect(late.body.error).toMatch(/changed in another window/);
    expect((await call<{ site: { tagline: string } }>("GET", "/api/state")).body.site.tagline).toBe("First");
  });
});

describe("what is taken out", () => {
  it("is every page, as CSV and as JSON Lines, with the same texts", async () => {
    const csv = await call("GET", "/api/out/items?format=csv");
    const json = await call("GET", "/api/out/items?format=jsonl");
    const pages = json.text
      .trim()
      .split("\n")
      .map((line) => JSON.parse(line) as { title: string; slug: string });
    const rows = parse(csv.text, { columns: true, bom: true }) as { title: string; slug: string }[];
    expect(rows.map(({ slug }) => slug)).toEqual(pages.map(({ slug }) => slug));
    // A text that a spreadsheet would run as a formula has an apostrophe before it there.
    expect(rows.map(({ title }) => title.replace(/^'(?=[=+\-@])/, ""))).toEqual(pages.map(({ title }) => title));
    const { body } = await call<{ counts: Record<string, number> }>("GET", "/api/state");
    expect(pages.length).toBe(Object.values(body.counts).reduce((sum, one) => sum + one, 0));
  });

  it("is a lines file that changes nothing when it comes in again", async () => {
    const file = await call("GET", "/api/lines");
    const { body } = await call<{ kinds: { differences: unknown[]; rules: number }[]; site: unknown[] }>(
      "POST",
      "/api/lines",
      { name: "site.lines.json", text: file.text },
    );
    expect(body.kinds.length).toBe(3);
    expect([...body.kinds.flatMap(({ differences }) => differences), ...body.site]).toEqual([]);
    const { body: other } = await call<{ kinds: { kind: string; differences: unknown[] }[] }>("POST", "/api/lines", {
      name: "site.lines.json",
      text: file.text.replace("{name} two", "{name} four"),
    });
    expect(other.kinds.filter(({ differences }) => differences.length > 0).map(({ kind }) => kind)).toEqual(["post"]);
  });
});

describe("an address of a page", () => {
  it.each([
    "/",
    "/bench?kind=product&text=title",
    "/items",
    "/keywords",
    "/review",
    "/runs",
    "/runs/1",
    "/settings",
    "/bring-in",
    "/lines",
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
