import Database from "better-sqlite3";
import { beforeEach, describe, expect, it } from "vitest";
import { PracticeSite } from "./practice-site";
import { PracticeStore } from "./practice-store";
import { practicePage } from "../test/practice-page";

const TOKEN = "a token for tests";
const PAGES = 25;

let store: PracticeStore;
let site: PracticeSite;
beforeEach(() => {
  store = new PracticeStore(new Database(":memory:"));
  site = new PracticeSite(store, { name: "Fennick & Dray", base: "http://127.0.0.1:4910" }, TOKEN);
  for (let i = 1; i <= PAGES; i++) store.put(practicePage(i));
});

interface Said {
  readonly status: number;
  readonly headers: Readonly<Record<string, string>>;
  readonly json: Record<string, unknown> & { pages?: { id: string; kind: string }[]; next?: string | null };
}

function ask(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Said {
  const answer = site.answer({
    method,
    target: `/api/flat${path}`,
    headers: { authorization: `Bearer ${TOKEN}`, ...headers },
    body: body === undefined ? "" : typeof body === "string" ? body : JSON.stringify(body),
  });
  return { ...answer, json: JSON.parse(answer.body) as Said["json"] };
}

describe("the list of pages", () => {
  it("gives every page once, a stretch at a time, whatever the limit, also while pages change", () => {
    for (const limit of [1, 7, 24, 25, 26]) {
      const ids: string[] = [];
      for (let cursor: string | null | undefined = ""; cursor !== null && cursor !== undefined;) {
        const { json } = ask("GET", `/pages?limit=${limit}${cursor && `&cursor=${cursor}`}`);
        ids.push(...json.pages!.map(({ id }) => id));
        ask("PATCH", `/pages/${ids[0]}`, { seo_title: `Title ${ids.length}` }, { "if-match": "*" });
        cursor = json.next;
      }
      expect(ids).toEqual(Array.from({ length: PAGES }, (_, i) => `p${i + 1}`));
    }
  });

  it("gives those of a kind, and those that changed since", () => {
    expect(ask("GET", "/pages?kind=post").json.pages!.map(({ id }) => id)).toEqual(["p5", "p10", "p15", "p20", "p25"]);
    expect(ask("GET", "/pages?since=2026-01-23T06:00:00Z").json.pages!.map(({ id }) => id)).toEqual(["p24", "p25"]);
    ask("PATCH", "/pages/p3", { seo_title: "Another" }, { "if-match": "*" });
    expect(ask("GET", "/pages?since=2026-02-01T00:00:00Z").json.pages!.map(({ id }) => id)).toEqual(["p3"]);
  });

  it.each([
    ["/pages?limit=0", /limit/],
    ["/pages?limit=201", /limit/],
    ["/pages?since=yesterday", /since/],
    ["/pages?cursor=nonsense", /cursor/],
  ])("says in words what is wrong with %s", (path, words) => {
    const { status, headers, json } = ask("GET", path);
    expect([status, headers["content-type"]]).toEqual([400, "application/problem+json"]);
    expect(json["detail"]).toMatch(words);
  });
});

describe("a change", () => {
  it("is of the values that are named, is seen by visitors at once, and is written down", () => {
    const before = ask("GET", "/pages/p1");
    const { status, headers, json } = ask(
      "PATCH",
      "/pages/p1",
      { seo_title: 'Rope & "twine" <new>', seo_description: null, url_path: "/goods/rope-one" },
      { "if-match": before.headers["etag"]! },
    );
    expect(status).toBe(200);
    expect(json).toEqual({
      ...before.json,
      etag: '"p1.2"',
      seo_title: 'Rope & "twine" <new>',
      url_path: "/goods/rope-one",
      changed_at: json["changed_at"],
    });
    expect(headers["etag"]).not.toBe(before.headers["etag"]);
    expect(site.answer({ method: "GET", target: "/goods/rope-one" }).body).toContain("Rope &amp; ");
    expect(site.answer({ method: "GET", target: "/goods/rope-1" }).status).toBe(404);
    expect(store.writes()).toMatchObject([
      {
        page: "p1",
        before: { title: "Rope 1 | Fennick & Dray", path: "/goods/rope-1" },
        after: { path: "/goods/rope-one" },
      },
    ]);
  });

  it("that was made for what is there no more is refused, with what is there now; one that changes nothing is none", () => {
    const { headers } = ask("GET", "/pages/p1");
    const first = ask("PATCH", "/pages/p1", { seo_title: "First" }, { "if-match": headers["etag"]! });
    const late = ask("PATCH", "/pages/p1", { seo_title: "Late" }, { "if-match": headers["etag"]! });
    expect([late.status, late.headers["etag"]]).toEqual([412, first.headers["etag"]]);
    const same = ask("PATCH", "/pages/p1", { seo_title: "First" }, { "if-match": first.headers["etag"]! });
    expect([same.status, same.headers["etag"]]).toEqual([200, first.headers["etag"]]);
    expect(store.writes()).toHaveLength(1);
  });

  it.each<[string, string, unknown, Record<string, string>, number, RegExp]>([
    ["no version", "/pages/p1", { seo_title: "x" }, {}, 428, /If-Match/],
    ["a version of nothing", "/pages/p1", { seo_title: "x" }, { "if-match": "abc" }, 412, /no version/],
    ["no such page", "/pages/zz", { seo_title: "x" }, { "if-match": "*" }, 404, /zz/],
    ["no JSON", "/pages/p1", "{", { "if-match": "*" }, 400, /no JSON/],
    ["a name that there is not", "/pages/p1", { title: "x" }, { "if-match": "*" }, 422, /title/],
    ["a wrong type", "/pages/p1", { seo_title: 7 }, { "if-match": "*" }, 422, /seo_title/],
    ["a path that is none", "/pages/p1", { url_path: "rope" }, { "if-match": "*" }, 422, /begins with a slash/],
    ["another page’s path", "/pages/p1", { url_path: "/goods/rope-2" }, { "if-match": "*" }, 409, /p2/],
  ])("with %s is refused in words, and changes nothing", (_, path, body, headers, status, words) => {
    const said = ask("PATCH", path, body, headers);
    expect([said.status, said.headers["content-type"]]).toEqual([status, "application/problem+json"]);
    expect(said.json["detail"]).toMatch(words);
    expect(store.writes()).toEqual([]);
  });

  it("of many pages at once says of each what became of it", () => {
    const { json } = ask("POST", "/pages/batch", [
      { id: "p1", changes: { seo_title: "One" } },
      { id: "p2", if_match: '"p2.7"', changes: { seo_title: "Two" } },
      { id: "p3", changes: { url_path: "/goods/rope-4" } },
    ]);
    expect((json["results"] as { id: string; status: number }[]).map(({ id, status }) => [id, status])).toEqual([
      ["p1", 200],
      ["p2", 412],
      ["p3", 409],
    ]);
    expect(store.writes().map(({ page }) => page)).toEqual(["p1"]);
    const many = Array.from({ length: 101 }, () => ({ id: "p1", changes: {} }));
    expect(ask("POST", "/pages/batch", many).status).toBe(422);
  });
});

describe("redirects", () => {
  it("are listed, made and removed, and lead visitors on from then", () => {
    const made = ask("POST", "/redirects", { from: "/old-rope", to: "/goods/rope-1", status: 308 });
    expect([made.status, made.json]).toEqual([
      201,
      { from: "/old-rope", to: "/goods/rope-1", status: 308, prefix: false },
    ]);
    const onward = site.answer({ method: "GET", target: "/old-rope" });
    expect([onward.status, onward.headers["location"]]).toEqual([308, "/goods/rope-1"]);
    expect(ask("GET", "/redirects").json["redirects"]).toEqual([made.json]);
    const remove = () =>
      site.answer({
        method: "DELETE",
        target: "/api/flat/redirects?from=/old-rope",
        headers: { authorization: `Bearer ${TOKEN}` },
      });
    expect([remove().status, remove().status]).toEqual([204, 404]);
    expect(ask("POST", "/redirects", { from: "old", to: "/x" }).status).toBe(422);
  });
});

describe("who may ask", () => {
  it("is who has the token, and nobody else", () => {
    for (const authorization of ["", "Bearer", "Bearer another", `Basic ${TOKEN}`, `bearer ${TOKEN} `]) {
      const said = ask("GET", "/pages", undefined, { authorization });
      expect([said.status, said.headers["www-authenticate"]]).toEqual([401, 'Bearer realm="practice"']);
      expect(JSON.stringify(said.json)).not.toContain(TOKEN);
    }
    expect(ask("GET", "/pages").status).toBe(200);
    expect(ask("DELETE", "/pages/p1").status).toBe(405);
  });
});
