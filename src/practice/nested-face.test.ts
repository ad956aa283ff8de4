import Database from "better-sqlite3";
import fc from "fast-check";
import { beforeEach, describe, expect, it } from "vitest";
import { PracticeSite } from "./practice-site";
import { PracticeStore } from "./practice-store";
import { practicePage } from "../test/practice-page";

const TOKEN = "a token for tests";
const BASE = "http://127.0.0.1:4910";
const PAGES = 23;

let store: PracticeStore;
let site: PracticeSite;
beforeEach(() => {
  store = new PracticeStore(new Database(":memory:"));
  site = new PracticeSite(store, { name: "Fennick & Dray", base: BASE }, TOKEN);
  for (let i = 1; i <= PAGES; i++) store.put(practicePage(i));
});

interface Entry {
  entry: { ref: string; type: string; rev: number };
  place: { segments: string[]; leaf: string };
  content: { heading: { rendered: string }; lead: { rendered: string }; html: string };
  meta: { key: string; value: string }[];
}

function ask<T = Entry>(method: string, target: string, body?: unknown) {
  const headers = { authorization: `Bearer ${TOKEN}` };
  const sent = body === undefined ? "" : JSON.stringify(body);
  const answer = site.answer({ method, target: target.replace(BASE, ""), headers, body: sent });
  return { ...answer, json: JSON.parse(answer.body) as T };
}

const entryOf = (ref: string) => ask("GET", `/api/nested/entries/${ref}`).json;

describe("the list of entries", () => {
  it.each([1, 10, 22, 23, 100])("gives every entry once by its Link headers, %i at a time", (per) => {
    const refs: string[] = [];
    for (let next: string | undefined = `/api/nested/entries?per=${per}`; next;) {
      const { json, headers }: ReturnType<typeof ask<Entry[]>> = ask<Entry[]>("GET", next);
      refs.push(...json.map(({ entry }) => entry.ref));
      expect(headers["x-total"]).toBe(String(PAGES));
      next = /<([^>]+)>; rel="next"/.exec(headers["link"]!)?.[1];
    }
    expect(refs).toEqual(Array.from({ length: PAGES }, (_, i) => `p${i + 1}`));
  });

  it("gives those of a type, and those that were modified since; its links keep what was asked", () => {
    const { json, headers } = ask<Entry[]>(
      "GET",
      "/api/nested/entries?type=post&modified_after=2026-01-06T00:00:00Z&per=2",
    );
    expect(json.map(({ entry }) => entry.ref)).toEqual(["p10", "p15"]);
    expect(headers["link"]).toContain("type=post&modified_after=2026-01-06T00%3A00%3A00Z&per=2&page=2");
    expect(ask("GET", "/api/nested/entries?per=101").status).toBe(400);
  });
});

describe("an entry", () => {
  it("that is written back as it was read changes nothing, whatever letters and places it has", () => {
    fc.assert(
      fc.property(
        fc.record({
          title: fc.string({ unit: "grapheme" }),
          description: fc.string({ unit: fc.constantFrom("&", "<", ">", '"', "'", ";", "a", "amp", "#39", "é", " ") }),
          name: fc.string({ minLength: 1 }),
        }),
        fc.constantFrom("/a", "/a/b", "/a/b/", "/", "/?p=7", "/a//b", "/é/b.html"),
        (texts, path) => {
          store.change("p1", { ...texts, path }, null, "2026-02-01T00:00:00Z");
          const written = store.writes().length;
          const before = entryOf("p1");
          expect(ask("PUT", "/api/nested/entries/p1", before)).toMatchObject({ status: 200, json: before });
          expect(store.writes()).toHaveLength(written);
        },
      ),
    );
  });

  it("has its entities in the interface alone: what is written is what visitors read", () => {
    const entry = entryOf("p1");
    entry.meta.find(({ key }) => key === "seo_title")!.value = "Rope &amp; &#34;twine&#34; &lt;new&gt;";
    entry.place = { segments: ["goods", "new"], leaf: "rope" };
    expect(ask("PUT", "/api/nested/entries/p1", entry).status).toBe(200);
    expect(store.pageOf("p1")).toMatchObject({ title: 'Rope & "twine" <new>', path: "/goods/new/rope" });
    expect(site.answer({ method: "GET", target: "/goods/new/rope" }).status).toBe(200);
  });

  it("that was made for another revision, or is not whole, is refused in words, and changes nothing", () => {
    const old = entryOf("p1");
    store.change("p1", { title: "Meanwhile" }, null, "2026-02-01T00:00:00Z");
    const refused = (entry: unknown, ref = "p1") => {
      const { status, json } = ask<{ error: { code: string; message: string } }>(
        "PUT",
        `/api/nested/entries/${ref}`,
        entry,
      );
      return [status, json.error.code];
    };
    const fresh = entryOf("p1");
    expect(refused(old)).toEqual([409, "other_revision"]);
    expect(refused({ ...fresh, place: { segments: ["goods"], leaf: "rope-2" } })).toEqual([409, "place_taken"]);
    expect(refused({ ...fresh, meta: undefined })).toEqual([422, "unprocessable_content"]);
    expect(refused(fresh, "p2")).toEqual([422, "other_entry"]);
    expect(refused({ ...fresh, entry: { ...fresh.entry, ref: "zz" } }, "zz")).toEqual([404, "unknown_entry"]);
    expect(store.writes()).toHaveLength(1);
  });
});
