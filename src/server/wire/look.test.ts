import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { DEMO_SITE } from "../../demo/site";
import { type Db, openStore } from "../../store/open";
import { writeSite } from "../../store/site";
import { countWirePages, lastLook, wireForm, wirePage, writeConnection } from "../../store/wire";
import { practicePage } from "../../test/practice-page";
import { practiceServer, type PracticeServer } from "../../test/practice-server";
import { foreseeSite, lookAtSite } from "./look";
import { SiteClient } from "./site-client";
import { walkList } from "./walk-list";

const PAGES = 450;
const now = () => new Date().toISOString();

let practice: PracticeServer;
let db: Db;
const clients: SiteClient[] = [];
beforeEach(async () => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  practice = await practiceServer((store) => {
    for (let i = 1; i <= PAGES; i++) store.put({ ...practicePage(i), changedAt: "2026-01-02T06:00:00Z" });
  });
});
afterEach(async () => {
  await Promise.all(clients.splice(0).map((client) => client.close()));
  practice.close();
  db.close();
});

function clientFor(connection: ConstructorParameters<typeof SiteClient>[0], signal?: AbortSignal): SiteClient {
  const client = new SiteClient(connection, { secret: practice.token, ...(signal && { signal }) });
  clients.push(client);
  return client;
}

type Face = "flat" | "nested";
const look = (face: Face, { isFull = false } = {}) => {
  const connection = practice.connection(face);
  return lookAtSite(db, clientFor(connection), { connection, isFull, byHand: "none" }, { now });
};

const itemOf = (key: string) =>
  db
    .prepare("SELECT kind, path, name, title, description, robots, category_path, price, slug FROM items WHERE key = ?")
    .get(key) as Record<string, string> | undefined;

describe.each(["flat", "nested"] as const)("a look over the %s interface", (face) => {
  it("brings in every page as it is, and what the interface calls it", async () => {
    practice.store.change("p7", { title: "Rope & <b>twine</b> “new”", path: "/goods/café/7" }, null, now());
    const found = await look(face);
    expect(found).toMatchObject({ status: "done", rows: PAGES, added: PAGES, refused: 0, gone: 0 });
    expect(countWirePages(db)).toBe(PAGES);
    expect(itemOf("p7")).toEqual({
      kind: "product",
      path: "/goods/café/7",
      name: "Rope 7",
      title: "Rope & <b>twine</b> “new”",
      description: "",
      robots: "",
      category_path: "Goods › Rope",
      price: "6.29",
      slug: "7",
    });
    const { id } = db.prepare("SELECT id FROM items WHERE key = 'p7'").get() as { id: number };
    expect(wirePage(db, id)).toEqual({ remote: "p7", etag: face === "flat" ? '"p7.2"' : "2" });
    expect(lastLook(db)).toMatchObject({ isFull: true, import: found.import });
    expect(await look(face, { isFull: true })).toMatchObject({ rows: PAGES, unchanged: PAGES, updated: 0 });
  });

  it("asks only for what changed the next time, and marks what is gone when it asks for everything", async () => {
    await look(face);
    practice.store.change("p3", { title: "Changed on the site" }, null, now());
    practice.heard.length = 0;
    expect(await look(face)).toMatchObject({ rows: 1, updated: 1, gone: 0 });
    expect(practice.heard.every((target) => /since=|modified_after=/.test(target))).toBe(true);
    expect(itemOf("p3")!["title"]).toBe("Changed on the site");
    practice.store.db.prepare("DELETE FROM pages WHERE id = 'p4'").run();
    expect(await look(face)).toMatchObject({ gone: 0 });
    expect(itemOf("p4")).toBeDefined();
    expect(await look(face, { isFull: true })).toMatchObject({ rows: PAGES - 1, gone: 1 });
    expect(itemOf("p4")).toBeUndefined();
    practice.store.put({ ...practicePage(4), changedAt: now() });
    expect(await look(face)).toMatchObject({ returned: 1 });
    expect(itemOf("p4")!["name"]).toBe("Rope 4");
  });

  it("comes to its end with everything going wrong now and then, and nothing is missing or twice", async () => {
    for (const name of ["too-many", "errors", "dropped", "rubbish"] as const) practice.fault(name, 12);
    const found = await look(face);
    expect(found).toMatchObject({ status: "done", rows: PAGES, added: PAGES });
  });

  it("asks again for a part that something else answered, and gives up where it is never one", async () => {
    const served = practice.connection(face);
    const kind = "product";
    const body = ["nothing", 1, null];
    const client = (failures: number) => {
      const real = clientFor(served);
      let left = failures;
      const read: SiteClient["read"] = async (url) => ({ ...(await real.read(url)), ...(left-- > 0 ? { body } : {}) });
      return { read } as SiteClient;
    };
    const walked = async (failures: number) => {
      let records = 0;
      for await (const part of walkList(client(failures), served, kind, null)) records += part.records.length;
      return records;
    };
    const all = await walked(0);
    expect(all).toBeGreaterThan(0);
    expect(await walked(3)).toBe(all);
    await expect(walked(4)).rejects.toThrow(/where the list of records is to be/);
  });

  it("says what it would bring in, and brings nothing in", async () => {
    await look(face);
    practice.store.change("p3", { title: "Changed on the site" }, null, now());
    const connection = practice.connection(face);
    const foreseen = await foreseeSite(db, clientFor(connection), { connection, isFull: false }, { now });
    expect(foreseen).toMatchObject({ rows: 1, updated: 1 });
    expect(foreseen.fields).toMatchObject([
      { field: "title", examples: [{ before: "Rope 3 | Fennick & Dray", after: "Changed on the site" }] },
    ]);
    expect(itemOf("p3")!["title"]).toBe("Rope 3 | Fennick & Dray");
  });
});

describe("a look", () => {
  it("says before it is taken over what was changed on the site and is worked on here", async () => {
    await look("flat");
    const idOf = (key: string) => db.prepare("SELECT id FROM items WHERE key = ?").pluck().get(key) as number;
    db.prepare("INSERT INTO hand_texts (item_id, text, value) VALUES (?, 'title', 'Written here')").run(idOf("p3"));
    for (const key of ["p3", "p4"]) practice.store.change(key, { title: "Changed on the site" }, null, now());
    const connection = practice.connection("flat");
    const foresee = () => foreseeSite(db, clientFor(connection), { connection, isFull: false }, { now });
    const conflict = { name: "Rope 3", text: "title", comes: "Changed on the site", here: "Written here", by: "hand" };
    expect((await foresee()).conflicts).toEqual({ count: 1, first: [conflict] });
    const ready = "INSERT INTO runs (type, status, note, design, created_at) VALUES ('apply', 'ready', '', '{}', '')";
    const run = db.prepare(ready).run().lastInsertRowid;
    db.prepare(
      "INSERT INTO run_changes (run_id, item_id, text, before, after, revision) VALUES (?, ?, 'title', 'Rope 4', 'By a run', 1)",
    ).run(run, idOf("p4"));
    expect((await foresee()).conflicts.first[1]).toMatchObject({ name: "Rope 4", here: "By a run", by: "run" });
  });

  it("calls no page gone the first time: those that are here may have come from a file", async () => {
    await look("flat");
    const other = practice.connection("nested");
    practice.store.db.prepare("DELETE FROM pages WHERE id = 'p4'").run();
    writeConnection(db, JSON.stringify(other), true, now());
    expect([lastLook(db), countWirePages(db)]).toEqual([null, 0]);
    expect(await look("nested")).toMatchObject({ rows: PAGES - 1, gone: 0 });
    expect(itemOf("p4")).toBeDefined();
    writeConnection(db, JSON.stringify(other), true, now());
    expect(lastLook(db)).not.toBeNull();
    writeConnection(db, JSON.stringify({ ...other, name: "Renamed" }), true, now());
    expect([lastLook(db), countWirePages(db)]).toEqual([null, PAGES - 1]);
  });

  it("that is stopped keeps what is in, marks nothing as gone, and the next one begins again", async () => {
    await look("flat");
    const stop = new AbortController();
    practice.store.db.prepare("DELETE FROM pages WHERE id = 'p4'").run();
    const connection = practice.connection("flat");
    connection.kinds["product"]!.list.limit = 50;
    practice.heard.length = 0;
    practice.heard.push = (target) => {
      if (target.includes("cursor")) stop.abort();
      return 0;
    };
    const client = clientFor(connection, stop.signal);
    const stopped = await lookAtSite(db, client, { connection, isFull: true, byHand: "none" }, { now });
    expect(stopped).toMatchObject({ status: "stopped", gone: 0 });
    expect(itemOf("p4")).toBeDefined();
    expect(await look("flat", { isFull: true })).toMatchObject({ status: "done", gone: 1 });
  });

  it.each([
    [
      "a list that is no list",
      (connection: { list: { records: string } }) => (connection.list.records = "/next"),
      /at \/next, where the list of records is to be/,
    ],
    [
      "a cursor that is none",
      (connection: { list: { next: unknown } }) => (connection.list.next = { by: "cursor", at: "/pages" }),
      /is no cursor/,
    ],
  ])("at %s ends in words with the address", async (_, change, words) => {
    const connection = practice.connection("flat", { giveUpMinutes: 0.01 });
    change(connection.kinds["product"] as never);
    const looked = lookAtSite(db, clientFor(connection), { connection, isFull: true, byHand: "none" }, { now });
    await expect(looked).rejects.toThrow(words);
  });

  it("refuses records that cannot be pages, each with its reason, and then calls none gone", async () => {
    await look("flat");
    practice.store.db.prepare("DELETE FROM pages WHERE id = 'p4'").run();
    const connection = practice.connection("flat");
    const fields = { ...connection.fields, name: "/attributes", title: "/none" };
    const found = await lookAtSite(
      db,
      clientFor(connection),
      { connection: { ...connection, fields }, isFull: true, byHand: "none" },
      { now },
    );
    expect(found).toMatchObject({ refused: PAGES - 1, gone: 0, stayed: PAGES });
    const reason = db.prepare("SELECT reason FROM refused_rows LIMIT 1").pluck().get();
    expect(reason).toBe("name: /attributes is an object and no text; point to what is in it");
  });

  it("keeps the form in which a value stands, where it would be written in another", async () => {
    const connection = practice.connection("flat");
    practice.store.change("p3", { title: "Rope &#038; twine" }, null, now());
    const fields = { ...connection.fields, title: { at: "/seo_title", decode: "entities" as const } };
    await lookAtSite(
      db,
      clientFor(connection),
      { connection: { ...connection, fields }, isFull: true, byHand: "none" },
      { now },
    );
    const { id } = db.prepare("SELECT id FROM items WHERE key = 'p3'").get() as { id: number };
    expect(itemOf("p3")!["title"]).toBe("Rope & twine");
    expect(wireForm(db, id, "title", "Rope & twine")).toBe("Rope &#038; twine");
    expect(wireForm(db, id, "title", "Another")).toBeNull();
  });
});
