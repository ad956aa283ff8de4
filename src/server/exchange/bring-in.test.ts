import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { DEMO_SITE } from "../../demo/site";
import { guessTargets } from "../../formats/mapping";
import { openStore } from "../../store/open";
import { writeSite } from "../../store/site";
import { bringIn } from "./bring-in";
import { uploadedFile } from "./uploads";
import { outgoingLines, refusedLines, textStream } from "./take-out";

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
    expect(await bringIn(db, file, "a.csv", mapping, "none", { now })).toMatchObject({
      status: "done",
      rows: 3,
      added: 2,
      updated: 0,
      refused: 1,
    });
    const again = fileOf("b.csv", ["1,/a,Rope,New title,red", "3,/c,Twine,,blue"]);
    expect(await bringIn(db, again, "b.csv", mapping, "none", { now })).toMatchObject({
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
      Array.from({ length: 3500 }, (_, i) => `${i},/p/${i},Rope ${i},,`),
    );
    let batches = 0;
    const stopped = await bringIn(db, file, "c.csv", mapping, "none", { now, stopped: () => ++batches === 2 });
    expect(stopped).toMatchObject({ status: "stopped", added: 2000 });
    expect(await bringIn(db, file, "c.csv", mapping, "none", { now })).toMatchObject({
      status: "done",
      added: 1500,
      unchanged: 2000,
    });
  });

  it("says what is in when the disk is full, and keeps the batches before", async () => {
    const db = fresh();
    const file = fileOf(
      "d.csv",
      Array.from({ length: 2500 }, (_, i) => `${i},/p/${i},Rope ${i},,`),
    );
    let batches = 0;
    const full = () => {
      if (++batches === 2) throw Object.assign(new Error("database or disk is full"), { code: "SQLITE_FULL" });
    };
    await expect(bringIn(db, file, "d.csv", mapping, "none", { now, progress: full })).rejects.toThrow(
      /disk.*is full.*2,000 pages are in; bring the file in again/s,
    );
    expect(db.prepare("SELECT count(*) FROM items").pluck().get()).toBe(2000);
    expect(db.prepare("SELECT status FROM imports").pluck().get()).toBe("failed");
  });

  it("refuses a wrong mapping before it touches anything, and tokens that lead elsewhere", async () => {
    const db = fresh();
    await expect(
      bringIn(db, fileOf("e.csv", ["1,/a,b,c,d"]), "e.csv", { targets: ["name"], kind: "post" }, "none", { now }),
    ).rejects.toThrow(/Look at the file again/);
    expect(db.prepare("SELECT count(*) FROM imports").pluck().get()).toBe(0);
    expect(() => uploadedFile("../../etc/passwd")).toThrow(/not known/);
  });
});

describe("taking out", () => {
  it("gives back what was brought in, formulas harmless and named, as CSV and as JSON Lines", async () => {
    const db = fresh();
    await bringIn(db, fileOf("f.csv", ['1,/a,"=HYPERLINK(1)","plain, with comma",']), "f.csv", mapping, "none", {
      now,
    });
    const csv = [...outgoingLines(db, "items", "csv", null)];
    expect(csv[0]).toMatch(/^\ufeffid,kind,address,name/);
    expect(csv[1]).toContain(`1,product,/a,'=HYPERLINK(1),`);
    expect(csv[1]!.trimEnd().endsWith(",name")).toBe(true);
    const [json] = [...outgoingLines(db, "items", "jsonl", null)];
    expect(JSON.parse(json!)).toMatchObject({ id: "1", name: "=HYPERLINK(1)", title: "plain, with comma" });
    const bytes = await new Response(textStream(outgoingLines(db, "items", "csv", null))).text();
    expect(`\ufeff${bytes.replace(/^\ufeff/, "")}`).toBe(csv.join(""));
  });
});
