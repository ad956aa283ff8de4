import { beforeAll, describe, expect, it } from "vitest";
import { FINDINGS, findingBit, type Subject } from "../core/checks/findings";
import { withLine } from "../core/design/change-rules";
import { kindDesignSchema } from "../core/design/design";
import { DEMO_LINES, DEMO_RULES, DEMO_SITE } from "../demo/site";
import { loadDemo } from "../demo/load";
import { type Db, openStore } from "../store/open";
import { writeSite } from "../store/site";
import { ItemsList, type ItemQuery } from "./items-list";
import { ProofEngine } from "./proof-engine";
import { type Designs } from "./review";
import { countFindings, SiteFindings } from "./site-findings";

const designs: Designs = Object.fromEntries((["post", "product", "category"] as const).map((kind) => [kind, kindDesignSchema.parse({ base: Object.fromEntries(Object.entries(DEMO_LINES[kind]!).filter(([, line]) => line !== "")), rules: DEMO_RULES[kind] ?? [] })]));
const query: ItemQuery = { kind: "all", side: "live", finding: null, search: "", sort: "site", from: 0, count: 500 };
const year = () => 2026;
let db: Db;
let engine: ProofEngine;
let findings: SiteFindings;
let list: ItemsList;
beforeAll(() => {
  db = openStore(":memory:");
  loadDemo(db, { products: 1260 });
  engine = new ProofEngine(db);
  findings = new SiteFindings(db, engine, year);
  list = new ItemsList(engine, findings);
});

describe("findings over a whole site", () => {
  it("are checked again only where texts changed, with the same result as anew", () => {
    findings.find(designs, "draft");
    const typed: Designs = { ...designs, product: withLine(designs.product!, "brass-and-bronze", "title", "{name} - &amp; {name}") };
    for (const step of [typed, designs]) {
      const again = findings.find(step, "draft");
      const anew = new SiteFindings(db, new ProofEngine(db), year).find(step, "draft");
      for (const [kind, found] of anew) {
        for (const subject of Object.keys(FINDINGS) as Subject[]) {
          // Of near duplicates only the first of equal texts is looked at, in an order that may differ.
          const mask = ~findingBit(subject, "near-duplicate");
          expect([...again.get(kind)![subject]].map((bits) => bits & mask), `${kind} ${subject}`).toEqual([...found[subject]].map((bits) => bits & mask));
        }
      }
    }
  });

  it("tell the live site from the drafts", () => {
    const counts = countFindings(findings.find(designs, "live"), findings.find(designs, "draft"));
    const of = (subject: Subject, id: string) => counts.find((own) => own.subject === subject && own.id === id)!;
    expect(of("title", "too-wide").draft).toBeLessThan(of("title", "too-wide").live);
    expect(of("title", "entities-or-tags")).toMatchObject({ draft: 0 });
    expect(of("slug", "capitals")).toMatchObject({ draft: 0 });
    // Addresses that are not what their lines make: just those that a review would move.
    const moves = (["post", "product", "category"] as const).reduce((sum, kind) => sum + engine.prove(kind, designs[kind]!).texts.slug.draft.changed, 0);
    expect(of("slug", "unlike-line")).toMatchObject({ live: moves, draft: 0 });
    expect(of("page", "no-keyword").live).toBe(of("page", "no-keyword").draft);
  });

  it("see a title that stands on pages of two kinds", () => {
    const own = openStore(":memory:");
    loadDemo(own, { products: 3 });
    own.prepare("UPDATE items SET title = 'One and the same title here' WHERE id IN (SELECT min(id) FROM items GROUP BY kind)").run();
    const found = new SiteFindings(own, new ProofEngine(own), year).find({}, "live");
    for (const kind of ["post", "product", "category"] as const) expect(found.get(kind)!.title[0]! & findingBit("title", "duplicate")).not.toBe(0);
  });

  it("leave out what the site has switched off", () => {
    const own = openStore(":memory:");
    loadDemo(own, { products: 84 });
    writeSite(own, { ...DEMO_SITE, checks: { ...DEMO_SITE.checks, off: ["title too-wide"] } });
    const found = new SiteFindings(own, new ProofEngine(own), year).find({}, "live");
    expect([...found.get("product")!.title].some((bits) => (bits & findingBit("title", "too-wide")) !== 0)).toBe(false);
    expect([...found.get("product")!.title].some((bits) => (bits & findingBit("title", "straight-quotes")) !== 0)).toBe(true);
  });
});

describe("the list of all pages", () => {
  it("holds every page once, and of a finding just those that its count says", () => {
    const { counts, total } = list.list(designs, query);
    expect(total).toBe(1260 + 906 + 420);
    for (const { subject, id, live, draft } of counts) {
      expect(list.list(designs, { ...query, finding: { subject, id }, count: 0 }).total).toBe(live);
      expect(list.list(designs, { ...query, side: "draft", finding: { subject, id }, count: 0 }).total).toBe(draft);
    }
  });

  it("is searched, sorted, and kept to one kind", () => {
    const found = list.list(designs, { ...query, search: "CLEAT brass", kind: "product" });
    expect(found.total).toBeGreaterThan(0);
    expect(found.items.every((item) => item.kind === "product" && /cleat/i.test(`${item.name} ${item.path} ${item.title.live}`))).toBe(true);
    const widths = list.list(designs, { ...query, sort: "widest" }).items.map((item) => item.title.liveSize);
    expect(widths).toEqual([...widths].sort((a, b) => b - a));
    const names = list.list(designs, { ...query, sort: "name" }).items.map((item) => item.name);
    const collator = new Intl.Collator("en", { numeric: true });
    expect(names).toEqual([...names].sort(collator.compare));
    const most = list.list(designs, { ...query, sort: "findings" }).items.map((item) => item.findings.live.length);
    expect(most).toEqual([...most].sort((a, b) => b - a));
  });

  it("gives windows that follow one another", () => {
    const whole = list.list(designs, query).items.map((item) => item.id);
    const parts = [0, 100, 200, 300, 400].flatMap((from) => list.list(designs, { ...query, from, count: 100 }).items.map((item) => item.id));
    expect(parts).toEqual(whole);
  });

  it("opens a page with its findings where they stand", () => {
    const [item] = list.list(designs, { ...query, finding: { subject: "title", id: "entities-or-tags" } }).items;
    const sheet = list.sheet(designs, item!.kind, item!.id)!;
    const found = sheet.found.live.texts.title.find(({ id }) => id === "entities-or-tags")!;
    expect(sheet.texts.title.live.slice(found.from!, found.to!)).toMatch(/^&\w+;$/);
    expect(sheet.found.draft.texts.title.some(({ id }) => id === "entities-or-tags")).toBe(false);
    expect(list.sheet(designs, "product", 999_999)).toBeNull();
  });
});
