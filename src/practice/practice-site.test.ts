import Database from "better-sqlite3";
import { gunzipSync } from "node:zlib";
import { type AddressInfo } from "node:net";
import { request } from "node:http";
import { Parser } from "htmlparser2";
import { SaxesParser } from "saxes";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { fillPractice } from "./fill";
import { PracticeSite } from "./practice-site";
import { PracticeStore, type PracticePage } from "./practice-store";

const BASE = "http://127.0.0.1:4910";
const store = new PracticeStore(new Database(":memory:"));
const TOKEN = "a token for tests";
const site = new PracticeSite(store, { name: "Fennick & Dray", base: BASE }, TOKEN);
let all: PracticePage[];
beforeAll(() => {
  fillPractice(store, 400);
  all = store
    .valuesOf("kind")
    .flatMap((kind) => store.pages({ sql: "kind = ?", value: kind }, { from: 0, count: 1e6 }));
});

const get = (target: string) => site.answer({ method: "GET", target });

/** What a page says to who reads it as HTML. */
function read(html: string) {
  const found = {
    title: "",
    h1: [] as string[],
    meta: new Map<string, string>(),
    canonical: "",
    links: [] as string[],
  };
  let within = "";
  const parser = new Parser({
    onopentag(name, attributes) {
      within = name;
      if (name === "meta")
        found.meta.set(attributes["name"] ?? attributes["property"] ?? "", attributes["content"] ?? "");
      if (name === "link" && attributes["rel"] === "canonical") found.canonical = attributes["href"] ?? "";
      if (name === "h1") found.h1.push("");
      if (name === "a" && attributes["href"] !== undefined) found.links.push(attributes["href"]);
    },
    ontext(text) {
      if (within === "title") found.title += text;
      if (within === "h1") found.h1[found.h1.length - 1] += text;
    },
    onclosetag: () => (within = ""),
  });
  parser.end(html);
  return found;
}

/** The texts of an element of an XML file; it has to be well-formed. */
function textsOf(xml: string, element: string): string[] {
  const texts: string[] = [];
  const parser = new SaxesParser();
  let within = "";
  parser.on("opentag", ({ name }) => {
    within = name;
    if (name === element) texts.push("");
  });
  parser.on("text", (text) => {
    if (within === element) texts[texts.length - 1] += text;
  });
  parser.on("closetag", () => (within = ""));
  parser.on("error", (error) => {
    throw error;
  });
  parser.write(xml).close();
  return texts;
}

const indexed = ({ robots, canonical }: PracticePage) => !robots.includes("noindex") && canonical === "";

describe("a page of the practice site", () => {
  it("says in HTML what its database says, whatever letters stand there", () => {
    expect(all.length).toBeGreaterThan(1000);
    for (const page of all) {
      const { status, body } = get(encodeURI(page.path));
      expect(status, page.path).toBe(200);
      const { title, h1, meta, canonical } = read(body);
      expect({ title, h1, description: meta.get("description") ?? "" }, page.path).toEqual({
        title: page.title,
        h1: [page.name],
        description: page.description,
      });
      expect(meta.get("og:title")).toBe(page.title);
      expect(meta.get("robots") ?? "").toBe(page.robots);
      if (page.canonical === "") expect(canonical).toBe(BASE + encodeURI(page.path));
    }
    // The demo plants what is hard to write: markup and quotes in titles.
    expect(all.some(({ title }) => /[<"]|&amp;/.test(title))).toBe(true);
  });

  it("that there is not is a real 404, and one that is gone a 410", () => {
    expect(get("/nowhere/at-all").status).toBe(404);
    store.putRedirect({ from: "/gone-for-good", to: "", status: 410, isPrefix: false });
    expect(get("/gone-for-good").status).toBe(410);
  });

  it("leads nowhere but to pages by its own menus, breadcrumbs and lists", () => {
    const post = all.find(({ kind, author }) => kind === "post" && author !== "")!;
    const category = all.find(({ kind, path }) => kind === "category" && path.split("/").length > 2)!;
    const own = ({ path, body }: PracticePage) => {
      const links = new Set(read(get(encodeURI(path)).body).links);
      for (const link of read(body).links) links.delete(link);
      return [...links];
    };
    const links = [
      ...own(post),
      ...own(category),
      ...["/", "/shelves", "/authors", "/archive"].flatMap((path) => read(get(path).body).links),
    ];
    expect(links.length).toBeGreaterThan(60);
    for (const link of new Set(links)) expect(get(link).status, link).toBe(200);
  });
});

describe("an old path", () => {
  it("leads on by an exact redirect before the one of its longest folder, and keeps what is behind the folder", () => {
    store.putRedirect({ from: "/attic/", to: "/loft/", status: 301, isPrefix: true });
    store.putRedirect({ from: "/attic/box/", to: "/cellar/", status: 302, isPrefix: true });
    store.putRedirect({ from: "/attic/box/lid", to: "/lids", status: 308, isPrefix: false });
    const onward = (path: string) => [get(path).status, get(path).headers["location"]];
    expect(onward("/attic/chair")).toEqual([301, "/loft/chair"]);
    expect(onward("/attic/box/key")).toEqual([302, "/cellar/key"]);
    expect(onward("/attic/box/lid")).toEqual([308, "/lids"]);
  });

  it("of the moves long ago leads to a page in most cases, and in a circle or nowhere in some, as they do", () => {
    const ends = { page: 0, circle: 0, nowhere: 0 };
    for (const old of store.oldPaths(10_000)) {
      const seen = new Set<string>();
      let at = encodeURI(old);
      while (!seen.has(at) && at.startsWith("/") && get(at).headers["location"] !== undefined) {
        seen.add(at);
        at = get(at).headers["location"]!;
      }
      if (seen.has(at)) ends.circle++;
      else if (at.startsWith("/") && get(at).status === 200) ends.page++;
      else ends.nowhere++;
    }
    expect(ends.page).toBeGreaterThan(100);
    expect(ends.circle).toBeGreaterThan(0);
    expect(ends.nowhere).toBeGreaterThan(0);
  });
});

describe("lists", () => {
  it("of a month have every post of it, page after page", () => {
    const [month] = store.months();
    const found: string[] = [];
    for (let path: string | undefined = `/archive/${month!.replace("-", "/")}`; path;) {
      const { links } = read(get(path).body);
      found.push(...links.filter((link) => link.startsWith("/notes/")));
      path = links.find((link) => link.includes("?page="));
    }
    const meant = all.filter(({ published }) => published.startsWith(month!)).map(({ path }) => encodeURI(path));
    expect(new Set(found.map(encodeURI))).toEqual(new Set(meant.filter((path) => path.startsWith("/notes/"))));
    expect(get("/archive/1870/01").status).toBe(404);
  });

  it("of a search are not for search engines", () => {
    const { meta, links } = read(get("/search?q=cleat").body);
    expect(meta.get("robots")).toBe("noindex, follow");
    expect(links.filter((link) => /cleat/i.test(link)).length).toBeGreaterThan(3);
  });
});

describe("what crawlers read", () => {
  it("names every page that may be indexed once, in well-formed sitemaps", () => {
    const robots = get("/robots.txt").body;
    const named = /^Sitemap: (.+)$/m.exec(robots)![1]!.slice(BASE.length);
    const files = textsOf(get(named).body, "loc").map((loc) => loc.slice(BASE.length));
    const listed = files.filter((file) => !file.endsWith("old.xml")).flatMap((file) => textsOf(get(file).body, "loc"));
    expect(new Set(listed).size).toBe(listed.length);
    expect(new Set(listed)).toEqual(new Set(all.filter(indexed).map(({ path }) => BASE + encodeURI(path))));
  });

  it("has one sitemap that nobody looked after: its addresses are others by now", () => {
    const old = textsOf(get("/sitemaps/old.xml").body, "loc");
    expect(old.length).toBeGreaterThan(10);
    for (const loc of old) expect(get(loc.slice(BASE.length)).status, loc).not.toBe(200);
    expect(get("/sitemaps/product-99.xml").status).toBe(404);
  });
});

describe("over HTTP", () => {
  const server = site.server();
  let port: number;
  beforeAll(async () => {
    await new Promise<void>((listening) => server.listen(0, "127.0.0.1", listening));
    ({ port } = server.address() as AddressInfo);
  });
  afterAll(() => server.close());

  /** An answer as it comes over the wire. */
  const ask = (method: string, path: string, headers: Record<string, string> = {}) =>
    new Promise<{ status: number; headers: Record<string, unknown>; bytes: Buffer }>((resolve, reject) => {
      const asking = request({ host: "127.0.0.1", port, method, path, headers }, (response) => {
        const parts: Buffer[] = [];
        response.on("data", (part: Buffer) => parts.push(part));
        response.on("end", () =>
          resolve({ status: response.statusCode!, headers: response.headers, bytes: Buffer.concat(parts) }),
        );
      });
      asking.on("error", reject);
      asking.end();
    });

  it("is compressed for who takes that, and the same for who does not", async () => {
    const plain = await ask("GET", "/");
    const small = await ask("GET", "/", { "accept-encoding": "gzip" });
    expect(small.headers["content-encoding"]).toBe("gzip");
    expect(small.bytes.length).toBeLessThan(plain.bytes.length / 2);
    expect(gunzipSync(small.bytes).equals(plain.bytes)).toBe(true);
  });

  it("answers HEAD without a body, refuses what changes something, and paths that are none", async () => {
    const head = await ask("HEAD", "/");
    expect([head.status, head.bytes.length]).toEqual([200, 0]);
    expect(Number(head.headers["content-length"])).toBeGreaterThan(1000);
    expect((await ask("POST", "/")).status).toBe(405);
    expect((await ask("GET", "/%E0%A4%A")).status).toBe(400);
  });

  it("says on its own page what it is", async () => {
    const { status, bytes } = await ask("GET", "/_practice");
    expect(status).toBe(200);
    expect(bytes.toString()).toContain("does not exist");
    expect(read(bytes.toString()).meta.get("robots")).toBe("noindex");
  });
});
