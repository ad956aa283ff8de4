import { kindDesignSchema } from "../../core/design/schema";
import { type FindingCount } from "../items/listed-item";
import { type Designs } from "../../core/design/designs";
import { beforeAll, describe, expect, it } from "vitest";
import { FINDINGS, findingBit, type Subject } from "../../core/checks/findings";
import { withLine } from "../../core/design/change-rules";
import { type Kind } from "../../core/design/kinds";
import { DEMO_LINES, DEMO_RULES, DEMO_SITE } from "../../demo/site";
import { loadDemo } from "../../demo/load";
import { type Db, openStore } from "../../store/open";
import { revision, writeSite } from "../../store/site";
import { ItemsList } from "../items/items-list";
import { ALL_PAGES, type ItemQuery } from "../../core/items/query";
import { Workspace } from "../workspace/workspace";
import { type NearFinder, nearHere } from "./near-finder";
import { type KindFindings, SiteFindings } from "./site-findings";
import { BenchDesk } from "../bench/bench-desk";
import { syncSearch } from "../../store/search";

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
const query: ItemQuery = ALL_PAGES;
const first500 = { from: 0, count: 500, columns: [] };
const year = () => 2026;
let db: Db;
let engine: Workspace;
let findings: SiteFindings;
let list: ItemsList;
beforeAll(() => {
  db = openStore(":memory:");
  loadDemo(db, { products: 1260 });
  engine = new Workspace(db);
  findings = new SiteFindings(engine, year);
  list = new ItemsList(engine, findings);
});

/** How many pages have each finding that some page has, on both sides. */
function countFindings(live: ReadonlyMap<Kind, KindFindings>, draft: ReadonlyMap<Kind, KindFindings>): FindingCount[] {
  return (Object.keys(FINDINGS) as Subject[]).flatMap((subject) => {
    const counts = FINDINGS[subject].map(({ id }) => ({
      subject,
      id,
      live: 0,
      draft: 0,
      bit: findingBit(subject, id),
    }));
    for (const [side, all] of [
      ["live", live],
      ["draft", draft],
    ] as const) {
      for (const found of all.values())
        for (const bits of found[subject])
          if (bits !== 0) for (const own of counts) if ((bits & own.bit) !== 0) own[side]++;
    }
    return counts.filter((own) => own.live > 0 || own.draft > 0).map(({ bit: _, ...own }) => own);
  });
}

describe("findings over a whole site", () => {
  it("are checked again only where texts changed, with the same result as anew", () => {
    findings.find(designs, "draft");
    const typed: Designs = {
      ...designs,
      product: withLine(designs.product!, "brass-and-bronze", "title", "{name} - &amp; {name}"),
    };
    for (const step of [typed, designs]) {
      const again = findings.find(step, "draft");
      const anew = new SiteFindings(new Workspace(db), year).find(step, "draft");
      for (const [kind, found] of anew) {
        for (const subject of Object.keys(FINDINGS) as Subject[]) {
          // Of near duplicates only the first of equal texts is looked at, in an order that may differ.
          const mask = ~findingBit(subject, "near-duplicate");
          expect(
            [...again.get(kind)![subject]].map((bits) => bits & mask),
            `${kind} ${subject}`,
          ).toEqual([...found[subject]].map((bits) => bits & mask));
        }
      }
    }
  });

  it("are those of the live site where drafts leave texts as they are, and anew only where they do not", () => {
    let searched = 0;
    const counting: NearFinder = (asked) => {
      searched += asked.texts.length;
      return nearHere(asked);
    };
    const few: Designs = {
      product: {
        base: {},
        rules: [
          {
            id: "few",
            name: "Few",
            when: { field: "name", contains: "cleat" },
            title: "{name} - &amp; {name}",
          },
        ],
      },
    };
    const own = new SiteFindings(engine, year, counting);
    own.find({}, "live");
    const ofLive = searched;
    expect(ofLive).toBeGreaterThan(2000);
    own.find({}, "draft");
    expect(searched).toBe(ofLive);
    const seeded = own.find(few, "draft");
    // All titles of the kind, for what changed may be like any other; its descriptions are what they were.
    expect(searched - ofLive).toBeLessThan(ofLive);
    for (const [kind, found] of new SiteFindings(new Workspace(db), year).find(few, "draft"))
      for (const subject of Object.keys(FINDINGS) as Subject[])
        expect([...seeded.get(kind)![subject]], `${kind} ${subject}`).toEqual([...found[subject]]);
    const changed = seeded.get("product")!.title.filter((bits) => bits & findingBit("title", "entities-or-tags"));
    expect(changed.length).toBeGreaterThan(5);
  });

  it("tell the live site from the drafts", () => {
    const counts = countFindings(findings.find(designs, "live"), findings.find(designs, "draft"));
    const of = (subject: Subject, id: string) => counts.find((own) => own.subject === subject && own.id === id)!;
    expect(of("title", "too-wide").draft).toBeLessThan(of("title", "too-wide").live);
    expect(of("title", "entities-or-tags")).toMatchObject({ draft: 0 });
    expect(of("slug", "capitals")).toMatchObject({ draft: 0 });
    // Addresses that are not what their lines make: just those that a review would move, but for pages that have no slug yet.
    const moves = (["post", "product", "category"] as const).reduce(
      (sum, kind) => sum + new BenchDesk(engine).prove(kind, designs[kind]!).texts.slug.draft.changed,
      0,
    );
    expect(of("slug", "unlike-line")).toMatchObject({ live: moves - of("slug", "missing").live, draft: 0 });
    expect(of("page", "no-keyword").live).toBe(of("page", "no-keyword").draft);
  });

  it("see a title that stands on pages of two kinds", () => {
    const own = openStore(":memory:");
    loadDemo(own, { products: 3 });
    own
      .prepare(
        "UPDATE items SET title = 'One and the same title here' WHERE id IN (SELECT min(id) FROM items GROUP BY kind)",
      )
      .run();
    const found = new SiteFindings(new Workspace(own), year).find({}, "live");
    for (const kind of ["post", "product", "category"] as const)
      expect(found.get(kind)!.title[0]! & findingBit("title", "duplicate")).not.toBe(0);
  });

  it("leave out what the site has switched off", () => {
    const own = openStore(":memory:");
    loadDemo(own, { products: 84 });
    writeSite(own, { ...DEMO_SITE, checks: { ...DEMO_SITE.checks, off: ["title too-wide"] } });
    const found = new SiteFindings(new Workspace(own), year).find({}, "live");
    expect([...found.get("product")!.title].some((bits) => (bits & findingBit("title", "too-wide")) !== 0)).toBe(false);
    expect([...found.get("product")!.title].some((bits) => (bits & findingBit("title", "straight-quotes")) !== 0)).toBe(
      true,
    );
  });
});

describe("the list of all pages", () => {
  const of = (change: Partial<ItemQuery>) => list.list(designs, { ...query, ...change }, first500);

  it("holds every page once, and of a finding just those that its count says", () => {
    const { counts, total } = of({});
    expect(total).toBe(1260 + 906 + 420);
    for (const { subject, id, live, draft } of counts) {
      expect(of({ findings: [{ subject, id }] }).total).toBe(live);
      expect(of({ side: "draft", findings: [{ subject, id }] }).total).toBe(draft);
    }
  });

  it("is filtered by findings, fields and states together, and counts what that leaves", () => {
    const both = of({
      findings: [
        { subject: "title", id: "too-wide" },
        { subject: "page", id: "no-keyword" },
      ],
    });
    expect(both.total).toBeGreaterThan(0);
    expect(
      both.items.every((item) =>
        ["too-wide", "no-keyword"].every((id) => item.findings.live.some((own) => own.id === id)),
      ),
    ).toBe(true);
    const brass = of({ kind: "product", where: { field: "material", is: "brass" } });
    expect(brass.total).toBeLessThan(1260);
    expect(brass.counts.find((own) => own.id === "too-wide" && own.subject === "title")!.live).toBe(
      of({
        kind: "product",
        where: { field: "material", is: "brass" },
        findings: [{ subject: "title", id: "too-wide" }],
      }).total,
    );
    const hands = db.prepare("SELECT count(DISTINCT item_id) FROM hand_texts").pluck().get();
    expect(of({ mark: "by-hand" }).total).toBe(hands);
    expect(of({ mark: "waiting" }).total).toBe(0);
  });

  it("tells what the drafts mend, what is new and what stays", () => {
    for (const id of ["too-wide", "near-duplicate", "missing"] as const) {
      const live = of({ findings: [{ subject: "title", id }] });
      const draft = of({ side: "draft", findings: [{ subject: "title", id }] });
      const { mended, new: added, stays } = live.differences!;
      expect(mended + stays).toBe(live.total);
      expect(added + stays).toBe(draft.total);
      const only = of({ findings: [{ subject: "title", id }], difference: "mended" });
      expect(only.total).toBe(mended);
      for (const item of only.items)
        expect(
          [item.findings.live, item.findings.draft].map((all) =>
            all.some((own) => own.subject === "title" && own.id === id),
          ),
        ).toEqual([true, false]);
    }
    expect(of({}).differences).toBeNull();
  });

  it("is searched by words and their beginnings, in all that a page holds", () => {
    syncSearch(db, revision(db));
    const found = of({ search: "CLEAT brass", kind: "product" });
    expect(found.total).toBeGreaterThan(0);
    expect(found.total).toBeLessThan(1260);
    const [item] = found.items;
    expect(of({ search: `"${item!.name}"` }).items.map(({ id }) => id)).toContain(item!.id);
    expect(of({ search: "“brass cleat” AND OR NOT (" }).total).toBe(0);
    expect(of({ search: item!.path.slice(1) }).items.map(({ id }) => id)).toContain(item!.id);
  });

  it("is sorted by width, findings and any field, pages without a value last", () => {
    const widths = of({ sort: "title", down: true }).items.map((item) => item.texts.title.liveSize);
    expect(widths).toEqual([...widths].sort((a, b) => b - a));
    const most = of({ sort: "findings", down: true }).items.map((item) => item.findings.live.length);
    expect(most).toEqual([...most].sort((a, b) => b - a));
    const names = of({ sort: "field:name" }).items.map((item) => item.name);
    expect(names).toEqual([...names].sort(new Intl.Collator("en", { numeric: true }).compare));
    const prices = list
      .list(designs, { ...query, sort: "field:price" }, { from: 0, count: 500, columns: ["price"] })
      .items.map((item) => Number(item.fields["price"]!.replace(/[^0-9.]/g, "")));
    expect(prices).toEqual([...prices].sort((a, b) => a - b));
    const keywords = of({ kind: "product", sort: "field:keyword", down: true });
    expect(keywords.items[0]!.keyword).not.toBe("");
    expect(
      list.list(
        designs,
        { ...query, kind: "product", sort: "field:keyword", down: true },
        { from: keywords.total - 1, count: 1, columns: [] },
      ).items[0]!.keyword,
    ).toBe("");
  });

  it("puts pages together, each as often as it has what is asked", () => {
    const kinds = of({ group: "kind" });
    expect(kinds.sections).toEqual([
      { label: "Posts", count: 906 },
      { label: "Products", count: 1260 },
      { label: "Categories", count: 420 },
    ]);
    const rules = of({ kind: "product", group: "rule" });
    expect(rules.sections!.reduce((sum, section) => sum + section.count, 0)).toBe(1260);
    expect(rules.sections!.map(({ label }) => label)).toContain("Brass & bronze fittings");
    const found = of({ group: "finding" });
    const { counts } = of({});
    const wide = counts.find((own) => own.subject === "title" && own.id === "too-wide")!;
    expect(found.sections).toContainEqual({ label: "Title: Too wide", count: wide.live });
    expect(found.total).toBeGreaterThan(kinds.total);
  });

  it("gives windows that follow one another", () => {
    const whole = of({}).items.map((item) => item.id);
    const parts = [0, 100, 200, 300, 400].flatMap((from) =>
      list.list(designs, query, { from, count: 100, columns: [] }).items.map((item) => item.id),
    );
    expect(parts).toEqual(whole);
  });

  it("opens a page with its findings where they stand", () => {
    const [item] = of({ findings: [{ subject: "title", id: "entities-or-tags" }] }).items;
    const sheet = list.sheet(designs, item!.kind, item!.id)!;
    const found = sheet.found.live.texts.title.find(({ id }) => id === "entities-or-tags")!;
    expect(sheet.texts.title.live.slice(found.from!, found.to!)).toMatch(/^&\w+;$/);
    expect(sheet.found.draft.texts.title.some(({ id }) => id === "entities-or-tags")).toBe(false);
    expect(list.sheet(designs, "product", 999_999)).toBeNull();
  });
});

describe("the demo site", () => {
  it("has every finding that there is, on the site or under its drafts", () => {
    // What is said of images is looked at where it is switched on.
    const own = openStore(":memory:");
    loadDemo(own, { products: 1260 });
    writeSite(own, { ...DEMO_SITE, extras: { alt: true, keywords: false, canonical: false } });
    const whole = new SiteFindings(new Workspace(own), () => 2026);
    const counts = countFindings(whole.find(designs, "live"), whole.find(designs, "draft"));
    const all = (Object.keys(FINDINGS) as Subject[]).flatMap((subject) =>
      FINDINGS[subject].map(({ id }) => `${subject} ${id}`),
    );
    expect(all.filter((name) => !counts.some(({ subject, id }) => `${subject} ${id}` === name))).toEqual([]);
  });
});

describe("a search that was cancelled", () => {
  it("leaves nothing half checked behind", () => {
    const own = new SiteFindings(engine, year);
    let asked = 0;
    expect(() => own.find(designs, "live", { cancelled: () => ++asked > 3 })).toThrow();
    const again = own.find(designs, "live");
    const anew = new SiteFindings(new Workspace(db), year).find(designs, "live");
    for (const [kind, found] of anew)
      for (const subject of Object.keys(FINDINGS) as Subject[])
        expect([...again.get(kind)![subject]], `${kind} ${subject}`).toEqual([...found[subject]]);
  });
});
