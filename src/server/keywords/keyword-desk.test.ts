import { kindDesignSchema } from "../../core/design/schema";
import { type Designs } from "../../core/design/designs";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { atOneMoment } from "../../test/at-one-moment";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { PLACES } from "../../core/keywords/places";
import { type Site } from "../../core/design/design";
import { DEMO_LINES, DEMO_RULES, DEMO_SITE } from "../../demo/site";
import { loadDemo } from "../../demo/load";
import { createEdit, editSteps } from "../../store/edits";
import { clearKeywordList, foldKeyword, listedKeywords } from "../../store/listed-keywords";
import { type Db, openStore } from "../../store/open";
import { writeSite } from "../../store/site";
import { applyEdit } from "../edits/apply-edit";
import { receiveFile } from "../exchange/uploads";
import { bringKeywords, lookAtKeywords } from "./bring-keywords";
import { ItemsList } from "../items/items-list";
import { type Assignment, KeywordDesk } from "./keyword-desk";
import { Workspace } from "../workspace/workspace";
import { SiteFindings } from "../findings/site-findings";
import type { Kind } from "../../core/design/kinds";

const designs: Designs = Object.fromEntries(
  (["post", "product", "category"] as const).map((kind) => [
    kind,
    kindDesignSchema.parse({
      base: Object.fromEntries(Object.entries(DEMO_LINES[kind]!).filter(([, line]) => line !== "")),
      rules: DEMO_RULES[kind] ?? [],
      moves: "all",
    }),
  ]),
);
let db: Db;
let engine: Workspace;
let list: ItemsList;
let desk: KeywordDesk;

beforeEach(() => {
  db = openStore(":memory:");
  loadDemo(db, { products: 168 });
  engine = new Workspace(db);
  const pages = new ItemsList(engine, new SiteFindings(engine, () => 2026));
  list = atOneMoment(engine, pages);
  desk = atOneMoment(engine, new KeywordDesk(engine, pages));
});

const everything = { from: 0, count: 100_000 };
const assign = (pages: readonly Assignment[]) => {
  const id = createEdit(db, "keywords", desk.changesFor(pages), new Date().toISOString());
  applyEdit(db, id, "set");
  return id;
};

describe("where keywords stand", () => {
  it("is counted as the list of pages counts it", () => {
    for (const row of desk.matrix(designs)) {
      const query = {
        kind: row.kind as Kind,
        side: "draft" as const,
        findings: [{ subject: "title" as const, id: "keyword-absent" as const }],
        difference: null,
        where: null,
        mark: null,
        search: "",
        sort: "site",
        down: false,
        group: null,
      };
      expect(row.missing.draft.title).toBe(list.list(designs, query, { from: 0, count: 0, columns: [] }).total);
      const held = db.prepare("SELECT count(*) FROM items WHERE kind = ? AND keyword <> ''").pluck().get(row.kind);
      expect(row.withKeyword).toBe(held);
      for (const place of PLACES) expect(row.missing.draft[place]).toBeLessThanOrEqual(row.withKeyword);
    }
  });
});

describe("where there is nothing for a keyword to stand in", () => {
  it("is counted apart: an empty introduction, a missing body, an empty text", () => {
    for (const row of desk.matrix(designs)) {
      const pages = (where: string) =>
        db
          .prepare(
            `SELECT count(*) FROM items LEFT JOIN bodies ON bodies.item_id = items.id WHERE kind = ? AND keyword <> '' AND ${where}`,
          )
          .pluck()
          .get(row.kind);
      expect(row.blank.live["first paragraph"]).toBe(pages("intro = ''"));
      expect(row.blank.live.body).toBe(pages("coalesce(body, '') = ''"));
      expect(row.blank.live.description).toBe(pages("description = ''"));
      expect(row.blank.live.H1).toBe(0);
      // What is missing is not counted again among what is blank.
      for (const side of ["live", "draft"] as const)
        for (const place of PLACES)
          expect(row.missing[side][place] + row.blank[side][place], `${row.kind} ${side} ${place}`).toBeLessThanOrEqual(
            row.withKeyword,
          );
    }
    expect(desk.matrix(designs).some(({ blank }) => blank.live.body > 0)).toBe(true);
  });
});

describe("who has which keyword", () => {
  it("is every keyword of list and pages once, each with all its pages", () => {
    const { counts, keywords, total } = desk.coverage({ show: "all", search: "", ...everything });
    expect(keywords).toHaveLength(total);
    expect(new Set(keywords.map(({ keyword }) => foldKeyword(keyword))).size).toBe(total);
    expect(keywords.reduce((sum, own) => sum + own.pages, 0)).toBe(
      db.prepare("SELECT count(*) FROM items WHERE keyword <> ''").pluck().get(),
    );
    expect(counts.none + counts.one + counts.shared).toBe(total);
    expect(keywords.filter(({ listed }) => listed)).toHaveLength(listedKeywords(db).length);
    const volumes = keywords.flatMap(({ volume }) => (volume === null ? [] : [volume]));
    expect(volumes).toEqual([...volumes].sort((a, b) => b - a));
  });

  it("follows the list and the pages", () => {
    const before = desk.coverage({ show: "none", search: "", ...everything });
    const page = db
      .prepare("SELECT id FROM items WHERE kind = 'product' AND keyword = '' LIMIT 1")
      .pluck()
      .get() as number;
    assign([{ kind: "product", id: page, keyword: before.keywords[0]!.keyword.toUpperCase() }]);
    expect(desk.coverage({ show: "none", search: "", ...everything }).total).toBe(before.total - 1);
    clearKeywordList(db);
    expect(desk.coverage({ show: "none", search: "", ...everything }).total).toBe(0);
  });
});

describe("suggested keywords", () => {
  it("are for pages without one, never one that a page has or another is given", () => {
    const { suggestions, total, listed, without } = desk.suggestions({ kind: "all", ...everything });
    expect(total).toBe(suggestions.length);
    expect(total).toBeLessThanOrEqual(without);
    expect(listed).toBeGreaterThan(0);
    const held = new Set(
      (db.prepare("SELECT DISTINCT keyword FROM items WHERE keyword <> ''").pluck().all() as string[]).map(foldKeyword),
    );
    expect(new Set(suggestions.map(({ keyword }) => foldKeyword(keyword))).size).toBe(total);
    for (const own of suggestions) {
      expect(held.has(foldKeyword(own.keyword))).toBe(false);
      expect(db.prepare("SELECT keyword FROM items WHERE id = ?").pluck().get(own.id)).toBe("");
      if (own.from === "name") expect(own.evidence).toContain("name");
    }
  });

  it("taken all leave no page that competes with another for one of them, and go back as one step", () => {
    const before = db.prepare("SELECT id, keyword FROM items ORDER BY id").all();
    const { suggestions } = desk.suggestions({ kind: "all", ...everything });
    const shared = desk.coverage({ show: "shared", search: "", ...everything }).total;
    const id = assign(suggestions);
    expect(desk.coverage({ show: "shared", search: "", ...everything }).total).toBe(shared);
    expect(editSteps(db).undo!.id).toBe(id);
    applyEdit(db, id, "undone");
    expect(db.prepare("SELECT id, keyword FROM items ORDER BY id").all()).toEqual(before);
  });
});

describe("after a save of settings", () => {
  const all = (own: KeywordDesk) => [
    own.suggestions({ kind: "all", ...everything }),
    own.coverage({ show: "all", search: "", ...everything }),
    own.competing(designs, everything),
  ];
  const anew = () => {
    const workspace = new Workspace(db);
    const pages = new ItemsList(workspace, new SiteFindings(workspace, () => 2026));
    return atOneMoment(workspace, new KeywordDesk(workspace, pages));
  };

  it.each<[string, Partial<Site>]>([
    ["nothing changed", {}],
    ["another tagline", { tagline: "Since long ago" }],
    ["another language", { language: "de" }],
    ["fixed words", { fixedWords: ["Rope"] }],
    ["other limits", { limits: { title: { chars: 30 } } }],
    ["figures written otherwise", { formats: { product: { price: { number: "comma", day: "day-first" } } } }],
  ])("suggestions are those that a fresh start makes: %s", (_, change) => {
    const before = all(desk);
    writeSite(db, { ...DEMO_SITE, ...change });
    const after = all(desk);
    expect(after).toEqual(all(anew()));
    if (!("language" in change)) expect(after[0]).toEqual(before[0]);
  });
});

describe("pages that compete", () => {
  it("are all that share a keyword, with places and with something else for each", () => {
    const { total, competitions } = desk.competing(designs, { from: 0, count: 20 });
    expect(total).toBe(desk.coverage({ show: "shared", search: "", ...everything }).total);
    for (const { competitors, pages } of competitions) {
      expect(pages).toBeGreaterThan(1);
      const instead = competitors.map((own) => own.instead).filter(Boolean);
      expect(new Set(instead).size).toBe(instead.length);
      for (const { places } of competitors) {
        if (places.includes("first third")) expect(places).toContain("visible");
        if (places.includes("visible")) expect(places).toContain("title");
      }
    }
  });

  it("no longer do when it is settled", () => {
    const [first] = desk.competing(designs, { from: 0, count: 1 }).competitions;
    const [keeps, ...others] = first!.competitors;
    assign(others.map(({ kind, id }, i) => ({ kind, id, keyword: `of its own ${i}` })));
    const left = desk
      .coverage({ show: "all", search: first!.keyword, ...everything })
      .keywords.find(({ keyword }) => foldKeyword(keyword) === foldKeyword(first!.keyword))!;
    expect(left.pages).toBe(first!.pages - others.length);
    expect(left.first.map(({ id }) => id)).toContain(keeps!.id);
  });
});

describe("a list of keywords", () => {
  const folder = mkdtempSync(join(tmpdir(), "nine-lines-"));
  const path = process.env["NINE_LINES_DATA"];
  beforeAll(() => {
    process.env["NINE_LINES_DATA"] = folder;
  });
  afterAll(() => {
    if (path === undefined) delete process.env["NINE_LINES_DATA"];
    else process.env["NINE_LINES_DATA"] = path;
  });
  const receive = (text: string) => receiveFile(new Blob([text]).stream() as ReadableStream<Uint8Array>);

  it.each([
    ["Query,Impressions,Clicks\nrope,120,3\n", { keyword: 0, volume: 1, firstToo: false }],
    ["intent;keyword;search volume\nbuy;rope;12\n", { keyword: 1, volume: 2, firstToo: false }],
    ["rope\t120\ntwine\t30\n", { keyword: 0, volume: 1, firstToo: true }],
    ["rope\ntwine\n", { keyword: 0, volume: null, firstToo: true }],
  ])("is guessed: %j", async (text, guess) => expect((await lookAtKeywords(await receive(text))).guess).toEqual(guess));

  it("comes in with its columns, each keyword once, rows without one left out", async () => {
    clearKeywordList(db);
    const token = await receive(
      'keyword,volume,Landing page\nMooring  Cleat,"1,300",/cleats\nmooring cleat,900,\n,5,\n<b>Bow</b> roller,n/a,x\n',
    );
    const { guess } = await lookAtKeywords(token);
    expect(await bringKeywords(db, token, guess)).toEqual({ added: 2, updated: 1, left: 1 });
    expect(listedKeywords(db).map(({ keyword, volume, columns }) => ({ keyword, volume, columns }))).toEqual([
      { keyword: "Mooring Cleat", volume: 900, columns: {} },
      { keyword: "Bow roller", volume: null, columns: { landing_page: "x" } },
    ]);
  });

  it("says what is wrong with one that is none", async () => {
    writeFileSync(join(folder, "empty"), "");
    await expect(lookAtKeywords(await receive(""))).rejects.toThrow("The file is empty");
    await expect(lookAtKeywords("../../etc/passwd")).rejects.toThrow("is unknown");
  });
});
