import Database from "better-sqlite3";
import { beforeEach, describe, expect, it } from "vitest";
import { practicePage } from "../test/practice-page";
import { PracticeSite } from "./practice-site";
import { PracticeStore } from "./practice-store";

const TOKEN = "a token for tests";
const BASE = "http://127.0.0.1:4910";

let store: PracticeStore;
let site: PracticeSite;
beforeEach(() => {
  store = new PracticeStore(new Database(":memory:"));
  site = new PracticeSite(store, { name: "Fennick & Dray", base: BASE }, TOKEN);
  for (let i = 1; i <= 25; i++) store.put(practicePage(i));
});

const ask = (method: string, path: string, body: unknown = "") =>
  site.answer({ method, target: `/api/third${path}`, headers: { "x-key": TOKEN }, body: JSON.stringify(body) });
const read = (path: string) =>
  JSON.parse(ask("GET", path).body) as { documents: { number: number; lock: number; web: { href: string } }[] };

describe("the third shape", () => {
  it("lists documents by offset, each once, of one collection where that is asked for", () => {
    const numbers = [0, 10, 20].flatMap((start) =>
      read(`/documents?start=${start}`).documents.map((own) => own.number),
    );
    expect(numbers).toEqual(Array.from({ length: 25 }, (_, i) => i + 1));
    expect(read("/documents?start=25").documents).toEqual([]);
    expect(read("/documents?collection=post&take=60").documents).toHaveLength(5);
    expect(ask("GET", "/documents?take=61").status).toBe(400);
    expect(site.answer({ method: "GET", target: "/api/third/documents" }).status).toBe(401);
  });

  it("writes texts with the lock that they were read with, and says nothing where it did", () => {
    const { documents } = read("/documents?take=1");
    expect(documents[0]).toMatchObject({ number: 1, lock: 1, web: { href: `${BASE}/goods/rope-1` } });
    const change = { lock: 1, search: { headline: "New" } };
    expect(ask("POST", "/documents/1/texts", change)).toMatchObject({ status: 204, body: "" });
    expect(store.pageOf("p1")).toMatchObject({ title: "New", description: "" });
    expect(ask("POST", "/documents/1/texts", change).status).toBe(409);
    expect(ask("POST", "/documents/1/texts", { search: {} }).status).toBe(422);
    expect(ask("POST", "/documents/99/texts", change).status).toBe(404);
  });
});
