import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { DEMO_SITE } from "../../demo/site";
import { guessTargets } from "../../formats/guess-by-names";
import { jsonLinesTable } from "../../formats/json-read";
import { writeRowFile } from "../../formats/row-file";
import { Readable } from "node:stream";
import { createEdit, editChunk } from "../../store/edits";
import { type Db, openStore } from "../../store/open";
import { readSite, writeSite } from "../../store/site";
import { parseLine } from "../../core/lines/parse";
import { proveLine } from "../../core/proof/prove-line";
import { readCondition } from "../../core/rules/condition";
import { matchingRows } from "../../core/rules/match";
import { loadDemo } from "../../demo/load";
import { tableShape } from "../../formats/csv-read";
import { Workspace } from "../workspace/workspace";
import { bringIn } from "./bring-in";
import { takeImportBack } from "./take-import-back";
import { uploadedFile } from "./uploads";
import { outgoingLines, refusedLines, byteStream } from "./take-out";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-in-"));
const now = () => "2026-11-24T10:00:00Z";
const header = ["id", "address", "name", "title", "colour"];
const mapping = { targets: guessTargets(header), kind: "product" as const };
const fileOf = (name: string, rows: string[]) => {
  const file = join(folder, name);
  writeFileSync(file, `${header.join(",")}\n${rows.join("\n")}\n`);
  return file;
};
const fresh = () => {
  const db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  return db;
};

describe("bringing a file in", () => {
  it("adds, then updates by id, tells what is unchanged, and stores what it refuses", async () => {
    const db = fresh();
    const file = fileOf("a.csv", ["1,/a,Rope,Rope now,red", "2,nowhere at all,Bad,x,y", "3,/c,Twine,,blue"]);
    expect(await bringIn(db, file, "a.csv", { mapping, byHand: "none" }, { now })).toMatchObject({
      status: "done",
      rows: 3,
      added: 2,
      updated: 0,
      refused: 1,
    });
    const again = fileOf("b.csv", ["1,/a,Rope,New title,red", "3,/c,Twine,,blue"]);
    expect(await bringIn(db, again, "b.csv", { mapping, byHand: "none" }, { now })).toMatchObject({
      added: 0,
      updated: 1,
      unchanged: 1,
    });
    expect([...refusedLines(db, 1)].join("")).toBe(
      'line,reason,content\r\n3,“nowhere at all” is no address; one such as /rope/mooring-line or https://site/rope/mooring-line is,"2 | nowhere at all | Bad | x | y"\r\n'.replace(
        /,"2 \| nowhere at all \| Bad \| x \| y"/,
        ",2 | nowhere at all | Bad | x | y",
      ),
    );
  });

  it("stops when told to and keeps what is in; the same file again goes on", async () => {
    const db = fresh();
    const file = fileOf(
      "c.csv",
      Array.from({ length: 7000 }, (_, i) => `${i},/p/${i},Rope ${i},,`),
    );
    let batches = 0;
    const stopped = await bringIn(
      db,
      file,
      "c.csv",
      { mapping, byHand: "none" },
      { now, stopped: () => ++batches === 2 },
    );
    expect(stopped).toMatchObject({ status: "stopped", added: 4000 });
    expect(await bringIn(db, file, "c.csv", { mapping, byHand: "none" }, { now })).toMatchObject({
      status: "done",
      added: 3000,
      unchanged: 4000,
    });
  });

  it("says what is in when the disk is full, and keeps the batches before", async () => {
    const db = fresh();
    const file = fileOf(
      "d.csv",
      Array.from({ length: 5000 }, (_, i) => `${i},/p/${i},Rope ${i},,`),
    );
    let batches = 0;
    const full = () => {
      if (++batches === 2) throw Object.assign(new Error("database or disk is full"), { code: "SQLITE_FULL" });
    };
    await expect(bringIn(db, file, "d.csv", { mapping, byHand: "none" }, { now, progress: full })).rejects.toThrow(
      /disk.*is full.*4,000 pages are in; import the file again/s,
    );
    expect(db.prepare("SELECT count(*) FROM items").pluck().get()).toBe(4000);
    expect(db.prepare("SELECT status FROM imports").pluck().get()).toBe("failed");
  });

  it("takes halves of letters, which JSON can hold, for what the database makes of them: the same file again changes nothing", async () => {
    const db = fresh();
    const file = join(folder, "halves.rows");
    const own = ["id", "address", "name", "title", "colour"];
    const rows = [{ line: 1, cells: ["a\ud83d", "/p/1", "Rope \udc00", "", "\ud83d red"] }];
    const source = { type: "JSON Lines", sheets: [], sheet: null } as const;
    await writeRowFile(file, source, own, Readable.from(rows));
    const { header } = await tableShape(file);
    const asked = { mapping: { targets: guessTargets(header), kind: "product" as const }, byHand: "none" as const };
    expect(await bringIn(db, file, "halves.jsonl", asked, { now })).toMatchObject({ added: 1 });
    expect(await bringIn(db, file, "halves.jsonl", asked, { now })).toMatchObject({ added: 0, unchanged: 1 });
  });

  it("refuses a wrong mapping before it touches anything, and tokens that lead elsewhere", async () => {
    const db = fresh();
    await expect(
      bringIn(
        db,
        fileOf("e.csv", ["1,/a,b,c,d"]),
        "e.csv",
        { mapping: { targets: ["name"], kind: "post" }, byHand: "none" },
        { now },
      ),
    ).rejects.toThrow(/Look at the file again/);
    expect(db.prepare("SELECT count(*) FROM imports").pluck().get()).toBe(0);
    expect(() => uploadedFile("../../etc/passwd")).toThrow(/unknown/);
  });
});

describe("a whole column", () => {
  const stored = (db: Db) =>
    db.prepare("SELECT key, name, title, attributes FROM items ORDER BY id").raw().all() as unknown[][];
  const ROWS = ["1,/a,Rope,Rope now,red", "3,/c,Twine,Twine now,blue"];

  it("is cleared where the file has it empty, and left alone where the file has it not", async () => {
    const db = fresh();
    await bringIn(db, fileOf("whole.csv", ROWS), "whole.csv", { mapping, byHand: "none" }, { now });
    const cleared = fileOf("cleared.csv", ["1,/a,Rope,,", "3,/c,Twine,,"]);
    await bringIn(db, cleared, "cleared.csv", { mapping, byHand: "none" }, { now });
    expect(stored(db).map(([, name, title]) => [name, title])).toEqual([
      ["Rope", ""],
      ["Twine", ""],
    ]);
    expect(
      stored(db)
        .map(([, , , attributes]) => String(attributes ?? ""))
        .join(),
    ).not.toMatch(/red|blue/);
    await bringIn(db, fileOf("whole-again.csv", ROWS), "whole-again.csv", { mapping, byHand: "none" }, { now });
    const targets = mapping.targets.map((target, i) => (header[i] === "title" ? ("skip" as const) : target));
    const without = fileOf("without.csv", ["1,/a,Rope,,red", "3,/c,Twine,,blue"]);
    await bringIn(db, without, "without.csv", { mapping: { ...mapping, targets }, byHand: "none" }, { now });
    expect(stored(db).map(([, , title]) => title)).toEqual(["Rope now", "Twine now"]);
  });

  it("stays where an object does not speak of it, and is cleared where it says that there is none", async () => {
    const db = fresh();
    await bringIn(db, fileOf("objects-first.csv", ROWS), "first.csv", { mapping, byHand: "none" }, { now });
    const lines = join(folder, "objects.jsonl");
    writeFileSync(
      lines,
      `{"id":"1","address":"/a","title":"New","colour":null}\n{"id":"3","address":"/c","name":"Twine"}\n`,
    );
    const table = await jsonLinesTable(lines);
    const file = join(folder, "objects.rows");
    await writeRowFile(file, { type: "JSON Lines", sheets: [], sheet: null }, table.header, table.rows);
    const targets = guessTargets([...table.header]);
    await bringIn(db, file, "objects.jsonl", { mapping: { targets, kind: "product" }, byHand: "none" }, { now });
    expect(stored(db)).toEqual([
      ["1", "Rope", "New", "{}"],
      ["3", "Twine", "Twine now", '{"colour":"blue"}'],
    ]);
  });

  it("is another field where it is brought in again under another name, and so it was when that is undone", async () => {
    const db = fresh();
    await bringIn(db, fileOf("first.csv", ROWS), "first.csv", { mapping, byHand: "none" }, { now });
    const before = stored(db);
    const file = join(folder, "renamed.csv");
    writeFileSync(file, `id,address,name,colour,finish\n1,/a,Rope,,red\n3,/c,Twine,,blue\n`);
    const targets = guessTargets(["id", "address", "name", "colour", "finish"]);
    const renamed = { mapping: { targets, kind: "product" as const }, byHand: "none" as const };
    await bringIn(db, file, "renamed.csv", renamed, { now });
    expect(stored(db).map(([, , , attributes]) => JSON.parse(String(attributes)) as unknown)).toEqual([
      { finish: "red" },
      { finish: "blue" },
    ]);
    expect(await takeImportBack(db, 2, { now })).toMatchObject({ back: 2, kept: 0 });
    expect(stored(db)).toEqual(before);
  });
});

describe("every row of a file", () => {
  const bring = async (rows: string[], own = header) => {
    const db = fresh();
    const file = join(folder, `rows-${Math.random()}.csv`);
    writeFileSync(file, `${own.join(",")}\n${rows.join("\n")}\n`);
    const targets = guessTargets(own);
    const made = await bringIn(
      db,
      file,
      "rows.csv",
      { mapping: { targets, kind: "product" }, byHand: "none" },
      { now },
    );
    const refused = db.prepare("SELECT line, reason FROM refused_rows ORDER BY line").all() as {
      line: number;
      reason: string;
    }[];
    return { db, made, refused };
  };

  it("is added, changed, the same, or refused with its line", async () => {
    const { made, refused, db } = await bring([
      "1,/a,Rope,,",
      "1,/b,Rope again,,",
      "2,/a,Cleat,,",
      "\u200b3,/c/../d,Ring,,",
      '4,"/e,Ring,,',
      "5,/f,Ring,,",
      "6,/f/?p=1,Ring,,",
      "7,/f/?p=2,Ring,,",
      "8,https://x.example/%C3%A9,Ring,,",
      "9,/é,Ring,,",
      "10,//x.example/g,Ring,,",
      ",,nobody,,",
    ]);
    const { rows, added, updated, unchanged, refused: count } = made;
    expect(added + updated + unchanged + count).toBe(rows);
    expect(rows).toBe(12);
    expect(refused.map(({ line }) => line)).toEqual([3, 4, 6, 11, 13]);
    expect(refused[0]!.reason).toBe("Line 2 has the id “1” already; an id is one page's");
    expect(refused[1]!.reason).toBe("Line 2 has the address /a already; two pages cannot be at one address");
    const paths = db.prepare("SELECT key || ' ' || path FROM items ORDER BY id").pluck().all();
    expect(paths).toEqual(["1 /a", "3 /d", "5 /f", "6 /f/?p=1", "7 /f/?p=2", "8 /é", "10 /g"]);
  });

  it("finds the page that came without an id before, by its address", async () => {
    const { db } = await bring(["/a,Rope", "/b,Cleat"], ["address", "name"]);
    const file = fileOf("ids.csv", ["1,/a,Rope,,", "2,/b,Cleat,,"]);
    expect(await bringIn(db, file, "ids.csv", { mapping, byHand: "none" }, { now })).toMatchObject({
      added: 0,
      updated: 2,
    });
  });

  it("is one page by its path alone where the site says that queries do not belong to addresses", async () => {
    const db = fresh();
    writeSite(db, { ...DEMO_SITE, dropQueries: true });
    const file = fileOf("queries.csv", ["1,/a?p=1,Rope,,", "2,/a?p=2,Cleat,,"]);
    expect(await bringIn(db, file, "queries.csv", { mapping, byHand: "none" }, { now })).toMatchObject({
      added: 1,
      refused: 1,
    });
  });

  it("keeps how its figures are written, for its kind, and lines and conditions read them so", async () => {
    const db = fresh();
    const own = ["id", "address", "name", "price", "published"];
    const file = join(folder, "figures.csv");
    writeFileSync(file, `${own.join(";")}\n1;/a;Rope;1.011;3/4/2024\n2;/b;Cleat;6,29;12/31/2024\n`);
    const formats = [null, null, null, { number: "comma" as const }, { day: "month-first" as const }];
    await bringIn(
      db,
      file,
      "figures.csv",
      { mapping: { targets: guessTargets(own), kind: "product", formats }, byHand: "none" },
      { now },
    );
    expect(readSite(db)!.formats).toEqual({
      product: { price: { number: "comma" }, published: { day: "month-first" } },
    });
    const { items } = new Workspace(db).data("product");
    expect(items.value("price", 0)).toBe("1.011");
    const title = (line: string) =>
      proveLine(parseLine(line), items, { limits: { surfaces: [], chars: null } }).map(({ text }) => text);
    expect(title("{price:money(GBP)} {published:date(d MMM yyyy)}")).toEqual([
      "£1,011.00 4 Mar 2024",
      "£6.29 31 Dec 2024",
    ]);
    expect([...matchingRows(readCondition({ field: "price", "<": 20 }), items)]).toEqual([0, 1]);
    // Set otherwise afterwards, they are read otherwise, without the file.
    const site = readSite(db)!;
    writeSite(db, { ...site, formats: { product: { price: { number: "point" }, published: { day: "day-first" } } } });
    const { items: again } = new Workspace(db).data("product");
    expect([...matchingRows(readCondition({ field: "price", "<": 20 }), again)]).toEqual([1, 1]);
    expect([...matchingRows(readCondition({ field: "published", "<": "2024-04-15" }), again)]).toEqual([1, 0]);
  });
});

describe("settings", () => {
  const own = ["id", "address", "name", "price"];
  const formats = [null, null, null, { number: "comma" as const }];
  const asked = { targets: guessTargets(own), kind: "product" as const, formats };
  const manyOf = (name: string) => {
    const file = join(folder, name);
    const rows = Array.from({ length: 2500 }, (_, i) => `${i};/p/${i};Rope ${i};6,29`);
    writeFileSync(file, `${own.join(";")}\n${rows.join("\n")}\n`);
    return file;
  };

  it("say how figures are written from the first page on: stopped half-way, none is read otherwise", async () => {
    const db = fresh();
    await bringIn(
      db,
      manyOf("stopped.csv"),
      "stopped.csv",
      { mapping: asked, byHand: "none" },
      { now, stopped: () => true },
    );
    const { items } = new Workspace(db).data("product");
    expect(items.size).toBe(2000);
    expect([...matchingRows(readCondition({ field: "price", "<": 20 }), items)].every((is) => is === 1)).toBe(true);
  });

  it("that are saved while a file comes in stay", async () => {
    const db = fresh();
    const progress = () => writeSite(db, { ...readSite(db)!, tagline: "Saved meanwhile" });
    await bringIn(db, manyOf("meanwhile.csv"), "meanwhile.csv", { mapping: asked, byHand: "none" }, { now, progress });
    expect(readSite(db)).toMatchObject({
      tagline: "Saved meanwhile",
      formats: { product: { price: { number: "comma" } } },
    });
  });
});

describe("texts by hand that the site does not have yet", () => {
  const PAGE = "kind || coalesce(key, path) AS page";

  it("go out and come in again, into a new database, too", async () => {
    const db = openStore(":memory:");
    loadDemo(db, { products: 60 });
    const ids = db.prepare("SELECT id FROM items WHERE path IS NOT NULL ORDER BY id LIMIT 3").pluck().all() as number[];
    const changes = ids.flatMap((item, i) => [
      { item, field: "title" as const, before: handOf(db, item, "title"), after: `Title by hand ${i}` },
      { item, field: "slug" as const, before: handOf(db, item, "slug"), after: `by-hand-${i}` },
      { item, field: "robots" as const, before: null, after: "noindex, follow" },
      { item, field: "keywords" as const, before: null, after: `rope, "cleat" ${i}` },
      { item, field: "alt" as const, image: "/a,b.jpg", before: null, after: "" },
      { item, field: "alt" as const, image: "/c.jpg", before: null, after: `=A cleat, “${i}”` },
    ]);
    const step = createEdit(db, "by hand", changes, now());
    while (editChunk(db, step, 100) > 0);
    // One that the site has by now is by hand all the same.
    db.prepare("UPDATE items SET robots = 'noindex, follow' WHERE id = ?").run(ids[0]);
    const hands = (of: Db) => [
      of.prepare(`SELECT ${PAGE}, text, value FROM hand_texts JOIN items ON id = item_id ORDER BY 1, 2, 3`).all(),
      of
        .prepare(`SELECT ${PAGE}, text, image, value FROM hand_extras JOIN items ON id = item_id ORDER BY 1, 2, 3, 4`)
        .all(),
    ];
    const file = join(folder, "hands.csv");
    writeFileSync(file, [...outgoingLines(db, "items", "csv", null)].join(""));
    const shape = await tableShape(file);
    const own = { targets: guessTargets(shape.header), kind: "product" as const };
    const other = openStore(":memory:");
    writeSite(other, DEMO_SITE);
    await bringIn(other, file, "hands.csv", { mapping: own, byHand: "none" }, { now });
    expect(hands(other)).toEqual(hands(db));
    const again = await bringIn(db, file, "hands.csv", { mapping: own, byHand: "none" }, { now });
    expect(again).toMatchObject({ added: 0, updated: 0 });
    expect(hands(db)[0]!.filter((own) => (own as { text: string }).text === "robots")).toHaveLength(3);
    expect(hands(db)[1]).toHaveLength(9);
  });

  it("stay where a file does not speak of them", async () => {
    const db = fresh();
    const file = (title: string) => fileOf("stay.csv", [`1,/a,Rope,${title},`]);
    await bringIn(db, file("one"), "stay.csv", { mapping, byHand: "none" }, { now });
    db.prepare("INSERT INTO hand_texts VALUES (1, 'robots', 'noindex, follow')").run();
    db.prepare("INSERT INTO hand_extras VALUES (1, 'alt', '/a.jpg', 'A rope')").run();
    await bringIn(db, file("two"), "stay.csv", { mapping, byHand: "all" }, { now });
    expect(db.prepare("SELECT text, value FROM hand_texts ORDER BY text").all()).toEqual([
      { text: "robots", value: "noindex, follow" },
      { text: "title", value: "two" },
    ]);
    expect(db.prepare("SELECT count(*) FROM hand_extras").pluck().get()).toBe(1);
  });

  const handOf = (db: Db, item: number, text: string) =>
    (db.prepare("SELECT value FROM hand_texts WHERE item_id = ? AND text = ?").pluck().get(item, text) as string) ??
    null;
});

describe("taking out", () => {
  it("and bringing the same file in again changes nothing, of the whole demo site", async () => {
    const db = openStore(":memory:");
    loadDemo(db, { products: 1500 });
    // What a spreadsheet would run, and what looks like markup and entities.
    db.prepare(
      "UPDATE items SET name = '=SUM(1)', title = 'x' || char(39) || 'quoted', description = '-5 % &amp; <b>more</b>' WHERE id = 3",
    ).run();
    db.prepare(
      'UPDATE items SET path = path || \'?p=1\', attributes = \'{"sold_by":"&amp;lt;b&amp;gt;","Ünïcode":"x\\ny"}\' WHERE id = 4',
    ).run();
    db.prepare("UPDATE items SET category_path = 'Nuts/bolts › A | B', category = 'A | B' WHERE id = 5").run();
    const all = () => db.prepare("SELECT * FROM items ORDER BY id").all();
    const before = all();
    const hands = () => db.prepare("SELECT * FROM hand_texts ORDER BY item_id, text").all();
    const handsBefore = hands();
    const file = join(folder, "round.csv");
    writeFileSync(file, [...outgoingLines(db, "items", "csv", null)].join(""));
    const shape = await tableShape(file);
    const asked = { targets: guessTargets(shape.header), kind: "post" as const };
    const made = await bringIn(db, file, "round.csv", { mapping: asked, byHand: "unexplained" }, { now });
    expect(db.prepare("SELECT line, reason FROM refused_rows").all()).toEqual([]);
    expect(made).toMatchObject({
      rows: before.length,
      unchanged: before.length,
      added: 0,
      updated: 0,
      refused: 0,
      byHand: 0,
    });
    expect(all()).toEqual(before);
    expect(hands()).toEqual(handsBefore);
  });

  it("gives back what was brought in, formulas harmless and named, as CSV and as JSON Lines", async () => {
    const db = fresh();
    await bringIn(
      db,
      fileOf("f.csv", ['1,/a,"=HYPERLINK(1)","plain, with comma",']),
      "f.csv",
      { mapping, byHand: "none" },
      {
        now,
      },
    );
    const csv = [...outgoingLines(db, "items", "csv", null)];
    expect(csv[0]).toMatch(/^\ufeffid,kind,address,name/);
    expect(csv[1]).toContain(`1,product,/a,'=HYPERLINK(1),`);
    expect(csv[1]!.trimEnd().endsWith(",name")).toBe(true);
    const [json] = [...outgoingLines(db, "items", "jsonl", null)];
    expect(JSON.parse(json!)).toMatchObject({ id: "1", name: "=HYPERLINK(1)", title: "plain, with comma" });
    const bytes = await new Response(byteStream(outgoingLines(db, "items", "csv", null))).text();
    expect(`\ufeff${bytes.replace(/^\ufeff/, "")}`).toBe(csv.join(""));
  });
});
