import { atOneMoment } from "../../test/at-one-moment";
import { kindDesignSchema } from "../../core/design/schema";
import { type ItemPage, type ListedItem } from "./listed-item";
import { type Designs } from "../../core/design/designs";
import fc from "fast-check";
import { beforeAll, describe, expect, it } from "vitest";
import { FINDINGS, type FindingId, type Subject } from "../../core/checks/findings";
import { TEXTS } from "../../core/design/kinds";
import { ALL_PAGES, DIFFERENCES, type FindingRef, type ItemQuery } from "../../core/items/query";
import { DEMO_LINES, DEMO_RULES } from "../../demo/site";
import { loadDemo } from "../../demo/load";
import { type LivePage, livePageWriter } from "../../store/live";
import { type Db, openStore } from "../../store/open";
import { ItemsList } from "./items-list";
import { Workspace } from "../workspace/workspace";
import { SiteFindings } from "../findings/site-findings";

const DEMO_KINDS = ["post", "product", "category"] as const;
const designs: Designs = Object.fromEntries(
  DEMO_KINDS.map((kind) => [
    kind,
    kindDesignSchema.parse({
      moves: "all",
      base: Object.fromEntries(Object.entries(DEMO_LINES[kind]!).filter(([, line]) => line !== "")),
      rules: [
        ...(kind === "post"
          ? [{ id: "quiet", name: "Quiet", when: { field: "name", contains: "rope" }, robots: "noindex, follow" }]
          : []),
        ...(DEMO_RULES[kind] ?? []),
      ],
    }),
  ]),
);
const ALL: ItemQuery = { ...ALL_PAGES };
const COLUMNS = ["material", "price", "category"];
let engine: Workspace;
let list: ItemsList;
let pages: readonly ListedItem[];

/** Writes down that a page was looked at on the live site. */
function lookedAt(db: Db, id: number, findings: LivePage["findings"]): void {
  const met = { hops: [], trouble: null, says: null, title: null, description: null };
  if (db.prepare("SELECT 1 FROM items WHERE id = ?").get(id))
    livePageWriter(db)(id, { ...met, findings }, "2026-11-27T10:00:00Z");
}

beforeAll(() => {
  const db = openStore(":memory:");
  loadDemo(db, { products: 160 });
  engine = new Workspace(db);
  const mark = db.prepare("INSERT INTO hand_texts (item_id, text, value) VALUES (?, ?, ?)");
  for (const [id, text, value] of [
    [20, "title", "By hand"],
    [21, "robots", "noindex, nofollow"],
    [22, "robots", "index, follow"],
  ] as const)
    mark.run(id, text, value);
  for (let id = 7; id < 200; id += 7) lookedAt(db, id, ["noindex"]);
  lookedAt(db, 15, []);
  list = atOneMoment(engine, new ItemsList(engine, new SiteFindings(engine, () => 2026)));
  pages = asked({}).items;
});

const asked = (query: Partial<ItemQuery>, from = 0, count = 100_000): ItemPage =>
  list.list(designs, { ...ALL, ...query }, { from, count, columns: COLUMNS });
const nameOf = ({ kind, id }: ListedItem) => `${kind} ${id}`;
const has = (page: ListedItem, side: "live" | "draft", findings: readonly FindingRef[]) =>
  findings.every(({ subject, id }) => page.findings[side].some((own) => own.subject === subject && own.id === id));

const subjects = Object.keys(FINDINGS) as Subject[];
const ref: fc.Arbitrary<FindingRef> = fc
  .constantFrom(...subjects)
  .chain((subject) => fc.constantFrom(...FINDINGS[subject].map(({ id }) => ({ subject, id: id as FindingId }))));
const CONDITIONS = [
  { where: null, holds: () => true },
  { where: { field: "material", is: "bronze" }, holds: (page: ListedItem) => page.fields["material"] === "bronze" },
  {
    where: { none: [{ field: "category", "is empty": true }] },
    holds: (page: ListedItem) => (page.fields["category"] ?? "") !== "",
  },
  {
    where: {
      all: [
        { field: "price", "<": "20" },
        { field: "keyword", "is empty": true },
      ],
    },
    holds: (page: ListedItem) => Number.parseFloat(page.fields["price"] ?? "NaN") < 20 && page.keyword === "",
  },
] as const;
const MARKS = [
  [null, () => true],
  ["by-hand", (page: ListedItem) => TEXTS.some((text) => page.texts[text].from === "hand")],
  [
    "waiting",
    (page: ListedItem) =>
      TEXTS.some((text) => page.texts[text].from === "hand" && page.texts[text].draft !== page.texts[text].live) ||
      (page.robots.from === "hand" && page.robots.draft !== page.robots.live),
  ],
  [
    "changes",
    (page: ListedItem) =>
      TEXTS.some((text) => page.texts[text].draft !== "" && page.texts[text].draft !== page.texts[text].live) ||
      page.robots.draft !== page.robots.live,
  ],
  ["found-live", (page: ListedItem) => page.id % 7 === 0 && page.id < 200],
] as const;
const anyQuery = fc.record({
  kind: fc.constantFrom("all" as const, ...DEMO_KINDS),
  side: fc.constantFrom("live" as const, "draft" as const),
  findings: fc.uniqueArray(ref, { maxLength: 2, selector: ({ subject, id }) => `${subject}.${id}` }),
  difference: fc.option(fc.constantFrom(...DIFFERENCES), { nil: null }),
  condition: fc.constantFrom(...CONDITIONS),
  mark: fc.constantFrom(...MARKS),
});

/** What is wanted, told page by page. */
function wanted({
  kind,
  side,
  findings,
  difference,
  condition,
  mark,
}: typeof anyQuery extends fc.Arbitrary<infer Q> ? Q : never): readonly ListedItem[] {
  return pages.filter((page) => {
    if ((kind !== "all" && page.kind !== kind) || !condition.holds(page) || !mark[1](page)) return false;
    const [live, draft] = [has(page, "live", findings), has(page, "draft", findings)];
    if (difference === null) return side === "live" ? live : draft;
    return difference === "mended" ? live && !draft : difference === "new" ? draft && !live : live && draft;
  });
}

describe("the list of all pages", () => {
  it("has just the pages that are asked for, whatever is combined", () => {
    fc.assert(
      fc.property(anyQuery, (own) => {
        const page = asked({
          kind: own.kind,
          side: own.side,
          findings: own.findings,
          difference: own.difference,
          where: own.condition.where as ItemQuery["where"],
          mark: own.mark[0],
        });
        expect(page.items.map(nameOf)).toEqual(wanted(own).map(nameOf));
        expect(page.total).toBe(page.items.length);
      }),
      { numRuns: 250 },
    );
  });

  it("counts each finding among the pages that the rest of the question leaves", () => {
    fc.assert(
      fc.property(anyQuery, (own) => {
        const { counts, differences } = asked({
          kind: own.kind,
          side: own.side,
          findings: own.findings,
          difference: own.difference,
          where: own.condition.where as ItemQuery["where"],
          mark: own.mark[0],
        });
        const rest = wanted({ ...own, findings: [], difference: null });
        for (const { subject, id, live, draft } of counts) {
          expect([subject, id, live, draft]).toEqual([
            subject,
            id,
            rest.filter((page) => has(page, "live", [{ subject, id }])).length,
            rest.filter((page) => has(page, "draft", [{ subject, id }])).length,
          ]);
        }
        if (own.findings.length === 0) expect(differences).toBeNull();
        else
          for (const difference of DIFFERENCES)
            expect(differences![difference]).toBe(wanted({ ...own, difference }).length);
      }),
      { numRuns: 60 },
    );
  });

  it("is the same in stretches as in one piece", () => {
    fc.assert(
      fc.property(
        anyQuery,
        fc.constantFrom("site", "title", "findings", "field:price"),
        fc.boolean(),
        fc.integer({ min: 1, max: 400 }),
        (own, sort, down, size) => {
          const query = { kind: own.kind, side: own.side, findings: own.findings, sort, down };
          const whole = asked(query);
          const parts: ListedItem[] = [];
          for (let from = 0; from < whole.total; from += size) parts.push(...asked(query, from, size).items);
          expect(parts).toEqual(whole.items);
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe("an order of the list", () => {
  const ordered = (sort: string, down: boolean, value: (page: ListedItem) => number) => {
    const values = asked({ sort, down }).items.map(value);
    expect(values.length).toBe(pages.length);
    expect(values).toEqual([...values].sort((a, b) => (down ? b - a : a - b)));
  };

  it.each([false, true])("goes by widths and by findings (down: %s)", (down) => {
    for (const text of TEXTS) ordered(text, down, (page) => Math.round(page.texts[text].liveSize * 100));
    ordered("findings", down, (page) => page.findings.live.length);
  });

  it.each([false, true])("goes by a text’s words, pages without it at the end (down: %s)", (down) => {
    const compare = new Intl.Collator("en", { numeric: true, sensitivity: "base", ignorePunctuation: false }).compare;
    const inOrder = (values: readonly string[]) =>
      values.every((value, i) => i === 0 || compare(values[i - 1]!, value) * (down ? -1 : 1) <= 0);
    for (const text of TEXTS) {
      const plain = /^[a-z0-9 ]+$/i;
      const texts = asked({ sort: `${text}-words`, down }).items.map((page) => page.texts[text].live);
      expect(texts).toHaveLength(pages.length);
      expect(texts.indexOf("") < 0 || texts.slice(texts.indexOf("")).every((own) => own === "")).toBe(true);
      // Signs have places of their own among the letters: only what is words alone is compared with another program's order.
      const words = texts.filter((own) => plain.test(own));
      expect(inOrder(words), text).toBe(true);
    }
    const [first] = asked({ sort: "title-words", down }).items;
    expect(first!.texts.title.live).not.toBe(asked({ sort: "title-words", down: !down }).items[0]!.texts.title.live);
  });

  it.each([false, true])("goes by a field’s values, pages without one at the end (down: %s)", (down) => {
    const values = asked({ sort: "field:price", down }).items.map((page) => page.fields["price"] ?? "");
    const first = values.indexOf("");
    expect(first).toBeGreaterThan(0);
    expect(values.slice(first).every((value) => value === "")).toBe(true);
    const prices = values.slice(0, first).map((value) => Number.parseFloat(value.replace(/[^\d.]/g, "")));
    expect(prices).toEqual([...prices].sort((a, b) => (down ? b - a : a - b)));
  });

  it("has a name that is another where the pages stand in another order, and only there", () => {
    const site = asked({});
    expect(asked({ sort: "title" }).order).not.toBe(site.order);
    expect(asked({ side: "draft" }).order).toBe(site.order);
    expect(asked({ kind: "post" }).order).not.toBe(site.order);
    expect(asked({ sort: "title" }).order).toBe(asked({ sort: "title" }, 5, 5).order);
  });
});

describe("pages put together", () => {
  it.each(["kind", "category", "rule", "finding", "same-title", "same-description"] as const)(
    "by %s stand in parts that are as long as they say",
    (group) => {
      const page = asked({ group });
      expect(page.sections!.reduce((sum, { count }) => sum + count, 0)).toBe(page.total);
      expect(new Set(page.items.map(nameOf)).size).toBeLessThanOrEqual(pages.length);
      if (group !== "finding") expect(page.total).toBe(pages.length);
      expect(new Set(page.sections!.map(({ label }) => label)).size).toBe(page.sections!.length);
      let at = 0;
      for (const { label, count } of page.sections!) {
        const part = page.items.slice(at, (at += count));
        if (group === "kind") expect(new Set(part.map(({ kind }) => kind)).size).toBe(1);
        if (group === "category") expect(new Set(part.map(({ fields }) => fields["category"] ?? "")).size).toBe(1);
        const same = group === "same-title" ? "title" : group === "same-description" ? "description" : null;
        if (same !== null && !label.startsWith("Every other page"))
          expect(part.map(({ texts }) => texts[same].live)).toEqual(part.map(() => label));
        if (group === "finding" && label === "In order")
          expect(part.every(({ findings }) => findings.live.length === 0)).toBe(true);
        else if (group === "finding")
          expect(
            part[0]!.findings.live.filter(({ subject, id }) => part.every((one) => has(one, "live", [{ subject, id }])))
              .length,
          ).toBeGreaterThan(0);
      }
    },
  );
});

describe("pages with the same title", () => {
  it("stand together, the most first; no other page stands among them", () => {
    const { sections, items } = asked({ group: "same-title" });
    const same = sections!.slice(0, -1);
    expect(same.length).toBeGreaterThan(1);
    expect(same.every(({ count }) => count > 1)).toBe(true);
    expect(same.map(({ count }) => count)).toEqual(same.map(({ count }) => count).sort((a, b) => b - a));
    const titles = pages.map(({ texts }) => texts.title.live).filter((title) => title !== "");
    const twice = titles.filter((title) => titles.indexOf(title) !== titles.lastIndexOf(title));
    expect(same.reduce((sum, { count }) => sum + count, 0)).toBe(twice.length);
    expect(new Set(items.slice(0, twice.length).map(({ texts }) => texts.title.live))).toEqual(new Set(twice));
  });
});

describe("pages chosen by their places", () => {
  it("are those that stand there, each once", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(900), fc.nat(60)), { maxLength: 5 }),
        fc.constantFrom("site", "title"),
        (stretches, sort) => {
          const ranges = stretches.map(([from, length]) => [from, from + length] as const);
          const { items } = asked({ sort });
          const expected = [...new Set(ranges.flatMap(([from, to]) => items.slice(from, to).map(nameOf)))];
          expect(
            list
              .chosen(designs, { ...ALL, sort }, ranges)
              .map(({ view, row }) => `${view.kind} ${engine.data(view.kind).ids[row]}`),
          ).toEqual(expected);
        },
      ),
      { numRuns: 60 },
    );
  });

  it("are found by their ids, whole, with where their findings stand", () => {
    for (const page of [pages[0]!, pages.at(-1)!, pages[500]!]) {
      const sheet = list.sheet(designs, page.kind, page.id)!;
      expect(sheet.texts).toEqual(page.texts);
      for (const side of ["live", "draft"] as const) {
        const told = new Set([
          ...TEXTS.flatMap((text) => sheet.found[side].texts[text].map(({ id }) => `${text} ${id}`)),
          ...sheet.found[side].page.map((id) => `page ${id}`),
        ]);
        expect(told).toEqual(new Set(page.findings[side].map(({ subject, id }) => `${subject} ${id}`)));
      }
    }
    expect(list.sheet(designs, "product", 1e9)).toBeNull();
  });
});

describe("pages on which something was found on the live site", () => {
  it("are others after every look", () => {
    const marked = () => asked({ mark: "found-live" }).items.map(({ id }) => id);
    expect(marked()).toContain(14);
    lookedAt(engine.db, 14, []);
    lookedAt(engine.db, 15, ["title-cut"]);
    expect([marked().includes(14), marked().includes(15)]).toEqual([false, true]);
  });
});
