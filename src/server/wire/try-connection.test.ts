import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { type Connection } from "../../core/connection/schema";
import { DEMO_SITE } from "../../demo/site";
import { type Db, openStore } from "../../store/open";
import { writeSite } from "../../store/site";
import { practicePage } from "../../test/practice-page";
import { practiceServer, type PracticeServer } from "../../test/practice-server";
import { tryList, tryWrite } from "./try-connection";

let practice: PracticeServer;
let db: Db;
let folder: string;
beforeEach(async () => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  folder = mkdtempSync(join(tmpdir(), "nine-lines-try-"));
  practice = await practiceServer((store) => {
    for (let i = 1; i <= 30; i++) store.put(practicePage(i));
  });
});
afterEach(() => {
  practice.close();
  db.close();
  rmSync(folder, { recursive: true, force: true });
});

const database = () => join(folder, "site.db");
const asked = (connection: Connection, secret: string | null = practice.token) => ({
  description: JSON.stringify(connection),
  secret,
  kind: "product",
});
const list = (connection: Connection, secret?: string | null) =>
  tryList(db, database(), asked(connection, secret), new AbortController().signal);
const write = (connection: Connection) => tryWrite(db, database(), asked(connection), new AbortController().signal);

describe.each(["flat", "nested"] as const)("a connection to the %s interface that is tried", (face) => {
  it("shows the first records beside what is understood of them", async () => {
    const tried = await list(practice.connection(face));
    expect(tried.count).toBe(10);
    expect(tried.records).toHaveLength(10);
    expect(tried.next).toContain(face === "flat" ? "cursor=" : "page=2");
    const [first] = tried.records;
    expect(JSON.parse(first!.json)).toBeTypeOf("object");
    expect(first!.wrong).toBeNull();
    expect(Object.fromEntries(first!.fields.map(({ name, text }) => [name, text]))).toMatchObject({
      id: "p1",
      address: "/goods/rope-1",
      name: "Rope 1",
      title: "Rope 1 | Fennick & Dray",
      "category.path": "Goods › Rope",
      price: "6.29",
    });
  });

  it("writes a page as it is and reads it again: nothing changes on the site", async () => {
    const tried = await write(practice.connection(face));
    expect(tried).toMatchObject({ page: "p1", isSame: true, sent: { method: face === "flat" ? "PATCH" : "PUT" } });
    expect(tried.sent.body).toContain("Rope 1 | Fennick");
    expect(tried.sent.body + tried.sent.url).not.toContain(practice.token);
    expect(practice.store.writes()).toEqual([]);
  });
});

describe("what is wrong with a connection that is tried", () => {
  it("is said field by field, and of the record as a whole", async () => {
    const connection = practice.connection("flat");
    const tried = await list({ ...connection, fields: { ...connection.fields, name: "/attributes", title: "/none" } });
    const of = (name: string) => tried.records[0]!.fields.find((own) => own.name === name);
    expect(of("name")).toEqual({
      name: "name",
      text: null,
      wrong: "/attributes is an object and no text; point to what is in it",
    });
    expect(of("title")).toEqual({ name: "title", text: null, wrong: null });
    expect(tried.records[0]!.wrong).toContain("/attributes is an object");
  });

  it("is said of secrets, kinds, addresses and answers", async () => {
    const connection = practice.connection("flat");
    await expect(list(connection, "another")).rejects.toThrow(/401/);
    await expect(list(connection, null)).rejects.toThrow(/Type it in/);
    const kinds = { post: connection.kinds["post"]! };
    await expect(list({ ...connection, kinds })).rejects.toThrow(/no list of “product”, only of post/);
    await expect(list({ ...connection, base: "http://127.0.0.1:9" })).rejects.toThrow(/not answered/);
    const html = structuredClone(connection);
    Object.assign(html, { base: practice.base });
    html.kinds["product"]!.list.url = "/shelves";
    await expect(list(html)).rejects.toThrow(/an HTML page and no JSON/);
    await expect(write({ ...connection, write: undefined })).rejects.toThrow(/does not say how pages are written/);
  });
});
