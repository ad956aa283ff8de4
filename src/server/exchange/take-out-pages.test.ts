import { siteSchema } from "../../core/design/schema";
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { beforeAll, describe, expect, it } from "vitest";
import { ALL_PAGES, type ItemQuery } from "../../core/items/query";
import { fieldOfColumn, OUT_COLUMNS, OUT_FORMATS, type OutColumn, type OutShape } from "../../core/items/taken-out";
import { guessTargets } from "../../formats/guess-by-names";
import { itemWriter } from "../../store/bring-items";
import { writeDraft } from "../../store/drafts";
import { type Db, openStore } from "../../store/open";
import { nextRevision, readSite, writeSite } from "../../store/site";
import { ExtraDesk } from "../extras/extra-desk";
import { SiteFindings } from "../findings/site-findings";
import { ItemsList } from "../items/items-list";
import { Workspace } from "../workspace/workspace";
import { bringIn, firstLook } from "./bring-in";
import { foresee } from "./foresee";
import { exchangeMethods } from "./methods";
import { byteStream } from "./take-out";
import { makeRows } from "./table-files";
import { pageRecords, pagesFile, type PagesOutAsked } from "./take-out-pages";
import { filesOf, forgetFile, receiveFile, uploadedFile } from "./uploads";

const ALL: ItemQuery = ALL_PAGES;
const now = () => "2026-11-26T10:00:00Z";
let db: Db;
let workspace: Workspace;
let methods: ReturnType<typeof exchangeMethods>;

beforeAll(() => {
  process.env["NINE_LINES_DATA"] = mkdtempSync(join(tmpdir(), "nine-lines-out-"));
  db = openStore(":memory:");
  writeSite(
    db,
    siteSchema.parse({
      name: "Fennick & Dray",
      baseUrl: "https://fennickdray.example/",
      extras: { alt: true, keywords: true },
    }),
  );
  const bring = itemWriter(db);
  const revision = nextRevision(db);
  const put = (key: string, name: string, title: string, body: string | null = null) =>
    bring(
      {
        key,
        kind: "product",
        path: `/rope/${key}`,
        columns: { name, title, description: `${name}, “laid”\nin our loft`, slug: key, category: "Rope" },
        attributes: null,
        body,
        byHand: null,
      },
      revision,
    );
  for (let i = 0; i < 1200; i++) put(`p${i}`, `Rope ${i}`, i % 2 ? `Rope ${i} now` : `=Rope ${i}`);
  put("last", "Oar", "Oar now", '<p><img src="/i/oar.jpg"></p>');
  writeDraft(
    db,
    "product",
    {
      base: { keywords: "{name}", alt: "An {name}" },
      rules: [
        {
          id: "oars",
          name: "Oars",
          when: { field: "name", is: "Oar" },
          title: "{name} of ash",
          robots: "noindex, follow",
        },
      ],
    },
    now(),
  );
  workspace = new Workspace(db);
  methods = exchangeMethods(
    workspace,
    new ItemsList(workspace, new SiteFindings(workspace, () => 2026)),
    new ExtraDesk(workspace),
  );
});

const columnsOf = (shape: OutShape) =>
  OUT_COLUMNS[shape].map((column) => ({ column: column as OutColumn, name: column as string }));
function asked(shape: OutShape, more: Partial<PagesOutAsked> = {}): PagesOutAsked {
  return {
    shape,
    format: "csv",
    query: ALL,
    onlyDiffering: false,
    fullAddresses: false,
    exact: false,
    columns: columnsOf(shape),
    ...more,
  };
}
const fieldsOf = ({ columns }: PagesOutAsked) => columns.flatMap(({ column }) => fieldOfColumn(column) ?? []);
const call = { cancelled: () => false, progress: () => {} } as never;
const pagesOf = (own: PagesOutAsked) => (from: number, count: number) =>
  Promise.resolve(workspace.at(() => methods.pagesOut({ query: own.query, from, count, fields: fieldsOf(own) }, call)));
const recordsOf = (own: PagesOutAsked) =>
  pageRecords(
    own,
    workspace.at(() => workspace.site().baseUrl),
    pagesOf(own),
  );
async function records(own: PagesOutAsked): Promise<Record<string, string>[]> {
  const out = [];
  for await (const record of recordsOf(own)) out.push(record);
  return out;
}
const bytesOf = async (own: PagesOutAsked) =>
  new Uint8Array(await new Response(byteStream(pagesFile(own, recordsOf(own)))).arrayBuffer());

describe("pages that are taken out", () => {
  it("have any field as a column, and what was found on them before and after", async () => {
    const own = asked("wide", {
      columns: [
        { column: "id", name: "id" },
        { column: "field:name", name: "called" },
        { column: "field:no such field", name: "nothing" },
        { column: "findings_before", name: "found" },
        { column: "findings", name: "left" },
      ],
    });
    const rows = await records(own);
    expect(rows.length).toBe(1201);
    expect(rows.at(-1)).toMatchObject({ id: "last", called: "Oar", nothing: "" });
    expect(rows.at(-1)!["found"]).toMatch(/title: [a-z]/);
    expect(rows.every(({ called }) => called !== "")).toBe(true);
  });

  it("are a row each, with what the site has and what the drafts make; where those make nothing it stays", async () => {
    const rows = await records(asked("wide"));
    expect(rows.length).toBe(1201);
    expect(rows.at(-1)).toMatchObject({
      id: "last",
      address: "/rope/last",
      title_before: "Oar now",
      title: "Oar of ash",
      description: "Oar, “laid”\nin our loft",
      slug: "last",
      robots_before: "",
      robots: "noindex, follow",
      meta_keywords_before: "",
      meta_keywords: "Oar",
    });
    expect(rows[1]).toMatchObject({ title_before: "Rope 1 now", title: "Rope 1 now" });
  });

  it("have what the site says of extra texts that are switched off, too", async () => {
    const id = db.prepare("SELECT id FROM items WHERE key = 'last'").pluck().get();
    db.prepare("UPDATE items SET canonical = '/rope/1', meta_keywords = 'oars', revision = ? WHERE id = ?").run(
      nextRevision(db),
      id,
    );
    const site = readSite(db)!;
    writeSite(db, { ...site, extras: { alt: false, keywords: false, canonical: false } });
    expect((await records(asked("wide"))).at(-1)).toMatchObject({
      ...{ canonical_before: "/rope/1", canonical: "/rope/1" },
      ...{ meta_keywords_before: "oars", meta_keywords: "oars" },
    });
    db.prepare("UPDATE items SET canonical = '', meta_keywords = '', revision = ? WHERE id = ?").run(
      nextRevision(db),
      id,
    );
    writeSite(db, site);
  });

  it("are those of a query, only such as differ, with full addresses, under the site's own names", async () => {
    const where = { field: "name", is: "Oar" } as const;
    const columns = [
      { column: "address", name: "URL" },
      { column: "title", name: "SEO title" },
    ] as const;
    expect(await records(asked("wide", { query: { ...ALL, where }, fullAddresses: true, columns }))).toEqual([
      { URL: "https://fennickdray.example/rope/last", "SEO title": "Oar of ash" },
    ]);
    expect((await records(asked("wide", { onlyDiffering: true, columns }))).length).toBe(1);
    expect((await records(asked("wide", { onlyDiffering: true }))).length).toBe(1201);
  });

  it("are a row a change, extra texts among them", async () => {
    const where = { field: "name", is: "Oar" } as const;
    const rows = await records(asked("long", { query: { ...ALL, where } }));
    expect(rows.map(({ text, image_address, before, after }) => [text, image_address, before, after])).toEqual([
      ["title", "", "Oar now", "Oar of ash"],
      ["robots", "", "", "noindex, follow"],
      ["alt", "/i/oar.jpg", "", "An Oar"],
      ["keywords", "", "", "Oar"],
    ]);
  });

  it("are made harmless for spreadsheets, and said to be, or left exactly as they are", async () => {
    const columns = [{ column: "title", name: "title" }] as const;
    const [safe, exact] = await Promise.all(
      [false, true].map(async (own) => new TextDecoder().decode(await bytesOf(asked("wide", { exact: own, columns })))),
    );
    expect((parse(safe!, { columns: true, bom: true }) as object[])[0]).toEqual({
      title: "'=Rope 0",
      made_harmless: "title",
    });
    expect((parse(exact!, { columns: true }) as object[])[0]).toEqual({ title: "=Rope 0" });
  });

  it.each(OUT_FORMATS)("come in again as %s and change nothing", async (format) => {
    const same = ["id", "kind", "address", "name", "category", "keyword"] as const;
    const texts = ["title", "description", "slug", "robots"] as const;
    const columns = [
      ...same.map((column) => ({ column, name: column })),
      ...texts.map((text) => ({ column: `${text}_before` as const, name: text })),
    ];
    const token = await receiveFile(new Response(await bytesOf(asked("wide", { format, columns }))).body!);
    await makeRows(token);
    const look = await firstLook(db, token, `pages.${format}`);
    const mapping = { targets: guessTargets(look.columns.map(({ name }) => name)), kind: "post" as const };
    const seen = await foresee(db, uploadedFile(token), mapping);
    expect(seen).toMatchObject({ rows: 1201, unchanged: 1201, untouched: 0, fields: [] });
    expect(look.source?.type ?? null).toBe({ csv: null, jsonl: "JSON Lines", xlsx: "XLSX" }[format]);
  });

  it("are of one moment: what is changed meanwhile ends the file", async () => {
    const own = asked("wide");
    const rows = recordsOf(own);
    await rows.next();
    writeDraft(db, "post", { base: { title: "{name}" }, rules: [] }, now());
    await expect(
      (async () => {
        for await (const _ of rows);
      })(),
    ).rejects.toThrow("changed while the file was written");
  });
});

describe("a category that a page names by its id", () => {
  it("goes out as it came, whatever lines read for it", () => {
    const own = openStore(":memory:");
    writeSite(own, siteSchema.parse({ name: "Fennick & Dray" }));
    const put = (kind: string, key: string, name: string, category: string) =>
      itemWriter(own)(
        { key, kind, path: `/${key}`, columns: { name, category }, attributes: null, body: null, byHand: null },
        nextRevision(own),
      );
    put("category", "c9", "Oars", "");
    put("product", "1", "Ash oar", "c9");
    const site = new Workspace(own);
    const list = new ItemsList(site, new SiteFindings(site, () => 2026));
    const { pages } = exchangeMethods(site, list, new ExtraDesk(site)).pagesOut(
      { query: ALL, from: 0, count: 9, fields: [] },
      call,
    );
    expect(site.data("product").items.value("category", 0)).toBe("Oars");
    expect(pages.map(({ category }) => category)).toEqual(["c9", ""]);
  });
});

describe("a received spreadsheet", () => {
  it("is read again by another sheet, and comes in like any table", async () => {
    const own = asked("wide", {
      format: "xlsx",
      columns: [
        { column: "id", name: "id" },
        { column: "title", name: "title" },
      ],
    });
    const token = await receiveFile(new Response(await bytesOf(own)).body!);
    await makeRows(token, "Pages");
    await expect(makeRows(token, "Prices")).rejects.toThrow("There is no sheet “Prices”");
    const mapping = { targets: guessTargets(["id", "title"]), kind: "product" as const };
    const fresh = openStore(":memory:");
    writeSite(fresh, siteSchema.parse({}));
    const done = await bringIn(fresh, uploadedFile(token), "pages.xlsx", { mapping, byHand: "none" }, { now });
    expect(done).toMatchObject({ rows: 1201, added: 1201 });
    expect(readFileSync(filesOf(token).rows, "utf8").split("\n").length).toBe(1203);
  });

  it("has numbers with a point, and dates that are texts as the site writes them", async () => {
    const german = openStore(":memory:");
    writeSite(german, siteSchema.parse({ language: "de" }));
    const figuresOf = async (text: string) => {
      const token = await receiveFile(new Response(text).body!);
      await makeRows(token);
      const { columns } = await firstLook(german, token, "x");
      forgetFile(token);
      expect(Object.values(filesOf(token)).filter((file) => existsSync(file))).toEqual([]);
      return columns.slice(1).map(({ figures }) => figures?.format);
    };
    expect(await figuresOf('{"id":1,"price":1.011,"day":"03/04/2026"}')).toEqual(["point", "day-first"]);
    expect(await figuresOf("id;price;day\n1;1.011;03/04/2026\n")).toEqual(["comma", "day-first"]);
  });

  it("of the old binary kind, or another zip file, is refused in words", async () => {
    const old = await receiveFile(new Response(new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 1, 2])).body!);
    await expect(makeRows(old)).rejects.toThrow("Save it as XLSX or ODS");
    const text = await receiveFile(new Response("id,address\n1,/a\n").body!);
    await makeRows(text);
    expect(uploadedFile(text)).toBe(filesOf(text).received);
    writeFileSync(filesOf(text).received, "PK\u0003\u0004");
    await expect(makeRows(text)).rejects.toThrow(/damaged/);
  });
});
