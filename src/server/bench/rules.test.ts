import { kindDesignSchema } from "../../core/design/schema";
import { BenchDesk, type RowQuery } from "./bench-desk";
import { beforeAll, describe, expect, it } from "vitest";
import { baseDesign, type KindDesign } from "../../core/design/design";
import { withLine, withRuleMoved } from "../../core/design/change-rules";
import { TEXTS } from "../../core/design/kinds";
import { DEMO_LINES, DEMO_RULES } from "../../demo/site";
import { loadDemo } from "../../demo/load";
import { writeDraft, readDraft } from "../../store/drafts";
import { listVersions, readVersion } from "../../store/versions";
import { type Db, openStore } from "../../store/open";
import { readSite } from "../../store/site";
import { compareDesigns } from "./compare";
import { adoptLinesFile, reviewLinesFile, writeLinesFile } from "../exchange/exchange-lines";
import { fieldInfos, fieldValues } from "./field-infos";
import { Workspace } from "../workspace/workspace";

const NOW = "2026-11-24T10:00:00Z";
const design: KindDesign = kindDesignSchema.parse({
  base: DEMO_LINES.product,
  rules: DEMO_RULES.product,
  moves: "all",
});
const query: RowQuery = { text: "title", scope: "all", sort: "site", filter: "all", search: "", from: 0, count: 500 };
let db: Db;
let engine: Workspace;
beforeAll(() => {
  db = openStore(":memory:");
  loadDemo(db, { products: 1680 });
  engine = new Workspace(db);
});

describe("rules over a whole set", () => {
  it("decide each page once, and find the rule that can never win", () => {
    const { report, texts, total } = new BenchDesk(engine).prove("product", design);
    expect(report.rules.reduce((sum, rule) => sum + (rule.byText.title ?? 0), report.base.title)).toBe(total);
    expect(report.rules.find(({ id }) => id === "bronze-cleats")).toMatchObject({ idle: "hidden", takes: 0 });
    expect(texts.title.faults).toEqual([]);
  });

  it("say which values are no number or day where a line wants one, and on how many pages", () => {
    const db = openStore(":memory:");
    loadDemo(db, { products: 300 });
    db.prepare(
      "UPDATE items SET price = 'on request' WHERE key IN (SELECT key FROM items WHERE kind = 'product' ORDER BY id LIMIT 7)",
    ).run();
    const own = new BenchDesk(new Workspace(db));
    const line = baseDesign({ title: "{name}[ – {price:money(GBP)}]" });
    const { unread } = own.prove("product", line);
    expect(unread).toEqual([{ field: "{price:money(GBP)}", reads: "number", count: 7, examples: ["on request"] }]);
    expect(own.prove("product", baseDesign({ title: "{name} {price}" })).unread).toEqual([]);
    // Seven times ten times as long: the worker lives, and the pages are told.
    const grown = own.prove("product", baseDesign({ title: `{name${":replace(e,eeeeeeeeee)".repeat(7)}}` }));
    expect(grown.unread).toMatchObject([{ reads: "length" }]);
    expect(grown.unread[0]!.count).toBeGreaterThan(100);
    expect(own.prove("product", baseDesign({ title: "{name:replace(e,x)}" })).unread).toEqual([]);
  });

  it("say on how many pages a whole text comes to too many characters, and write nothing there", () => {
    const db = openStore(":memory:");
    loadDemo(db, { products: 300 });
    const sizes = [9_998, 9_999, 12_000];
    const ids = db.prepare("SELECT id FROM items WHERE kind = 'product' ORDER BY id LIMIT 3").pluck().all();
    for (const [i, id] of ids.entries())
      db.prepare("UPDATE items SET name = ? WHERE kind = 'product' AND id = ?").run("x".repeat(sizes[i]!), id);
    const workspace = new Workspace(db);
    const line = "{name} y";
    const design = baseDesign({ title: line });
    const proved = new BenchDesk(workspace).prove("product", design);
    expect(proved.unread).toEqual([{ field: line, reads: "text", count: 2, examples: [] }]);
    const { proof: title } = workspace.textProof("product", "title", design);
    expect(sizes.map((_, i) => title.textOf(i).length)).toEqual([10_000, 0, 0]);
    expect([title.fits[0], title.fits[1], title.sizes[1], title.lengths[2]]).toEqual([0, 1, 0, 0]);
  });

  it("show the pages of one rule, with its own figures and pieces", () => {
    const proved = new BenchDesk(engine).prove("product", design, {}, { scope: "brass-and-bronze", text: "title" });
    const takes = proved.report.rules.find(({ id }) => id === "brass-and-bronze")!.byText.title!;
    expect(proved.texts.title.part!.draft.total).toBe(takes);
    expect(proved.texts.title.draft.total).toBe(proved.total);
    expect(proved.pieces!.pieces.map(({ piece }) => piece)).toEqual([
      "[ in {finish} finish]^2",
      "[ – {category}]^1",
      "[ – {id}]^apart",
    ]);
    // Another line's keystroke compiles this one again, and its pieces stand where they stood.
    const typed = new BenchDesk(engine).prove(
      "product",
      withLine(design, "base", "title", "{name}!"),
      {},
      { scope: "brass-and-bronze", text: "title" },
    );
    expect(typed.pieces).toEqual(proved.pieces);
    expect(proved.pieces!.pieces.some(({ stands }) => stands > 0)).toBe(true);
    const rows = new BenchDesk(engine).rows("product", design, { ...query, scope: "brass-and-bronze" });
    expect(rows.total).toBe(takes);
    expect(
      rows.rows.every(
        (row) => ["brass", "bronze"].includes(row.fields["material"]!) && row.by.title === "brass-and-bronze",
      ),
    ).toBe(true);
    // Where the rule has no line for a text, the pages are those of which it decides another.
    expect(
      new BenchDesk(engine)
        .rows("product", design, { ...query, text: "slug", scope: "brass-and-bronze" })
        .rows.every((row) => row.by.slug === "base"),
    ).toBe(true);
  });

  it("count the pages of a rule that changed, for texts that it has no line for, too", () => {
    const view = { scope: "brass-and-bronze", text: "slug" } as const;
    const all = new BenchDesk(engine).prove("product", design, {}, view).texts.slug.part!.draft.total;
    const narrowed = {
      ...design,
      rules: design.rules.map((rule) =>
        rule.id === "brass-and-bronze" ? { ...rule, when: { field: "material", is: "brass" } } : rule,
      ),
    };
    const fewer = new BenchDesk(engine).prove("product", narrowed, {}, view).texts.slug.part!;
    expect(fewer.draft.total).toBeLessThan(all);
    expect(fewer.live.total).toBe(fewer.draft.total);
    expect(new BenchDesk(engine).prove("product", design, {}, view).texts.slug.part!.draft.total).toBe(all);
  });

  it("keep what the site has where a rule's line has an error, and say whose it is", () => {
    const broken = withLine(design, "brass-and-bronze", "title", "{nmae}");
    const { texts } = new BenchDesk(engine).prove("product", broken);
    expect(texts.title.faults).toEqual([
      { rule: "brass-and-bronze", message: "There is no field “nmae”; did you mean “name”?" },
    ]);
    const { rows } = new BenchDesk(engine).rows("product", broken, { ...query, scope: "brass-and-bronze", count: 20 });
    const { proof } = engine.textProof("product", "title", broken);
    for (const row of rows.filter((own) => own.hand.title === undefined))
      expect(proof.textOf(row.row)).toBe(row.live.title);
  });

  it("are the same however they were come to", () => {
    const moved = withRuleMoved(design, "bronze-cleats", 0);
    const fresh = new Workspace(db);
    for (const step of [
      withLine(design, "base", "title", "{name}[ {id}]^apart"),
      moved,
      { ...moved, rules: moved.rules.slice(1) },
      design,
    ]) {
      for (const text of TEXTS) {
        const again = engine.textProof("product", text, step).proof;
        const anew = new Workspace(db).textProof("product", text, step).proof;
        const differing = Array.from({ length: again.size }, (_, row) => row).filter(
          (row) =>
            again.textOf(row) !== anew.textOf(row) ||
            again.groups.countOf(row) !== anew.groups.countOf(row) ||
            again.form[row] !== anew.form[row],
        );
        expect(differing).toEqual([]);
      }
      expect(new BenchDesk(engine).prove("product", step).report).toEqual(
        new BenchDesk(fresh).prove("product", step).report,
      );
    }
  });

  it("are told beforehand what a condition would take, and how much is left below others", () => {
    const data = engine.data("product");
    const preview = engine
      .rules("product")
      .preview(design, { field: "material", is: "bronze" }, { above: 2, texts: ["title"] }, (row) => ({
        id: data.ids[row]!,
        name: data.items.value("name", row),
      }));
    expect(preview.matches).toBeGreaterThan(preview.free);
    expect(preview.free).toBe(0);
    expect(preview.examples.length).toBe(8);
    // No rule above sets slugs: one that does would win all of them.
    const slugs = engine
      .rules("product")
      .preview(design, { field: "material", is: "bronze" }, { above: 2, texts: ["slug"] }, () => ({ id: 0, name: "" }));
    expect(slugs.free).toBe(slugs.matches);
  });
});

describe("fields and their values", () => {
  it("have a type, a share and a real value", () => {
    const infos = new Map(fieldInfos(engine.data("product")).map((info) => [info.name, info]));
    expect(infos.get("price")).toMatchObject({ type: "number", filled: 1 });
    expect(infos.get("published")).toMatchObject({ type: "date" });
    expect(infos.get("category")).toMatchObject({ type: "category" });
    expect(infos.get("material")).toMatchObject({ type: "text", filled: 1 });
    expect(infos.get("colour")!.filled).toBeLessThan(1);
    expect(infos.get("author")).toMatchObject({ filled: 0, example: "" });
  });

  it("are counted, and narrowed down by what is typed", () => {
    const all = fieldValues([engine.data("product")], "material", "", 100);
    expect(all.values.reduce((sum, { count }) => sum + count, 0)).toBe(1680);
    expect(all.values[0]!.count).toBeGreaterThanOrEqual(all.values.at(-1)!.count);
    expect(fieldValues([engine.data("product")], "material", "BRON", 100).values.map(({ value }) => value)).toEqual([
      "bronze",
    ]);
  });

  it("of a category are a tree with the items below each", () => {
    const { values } = fieldValues([engine.data("product")], "category", "", 1000);
    const top = values.filter(({ value }) => !value.includes(" › "));
    expect(top.length).toBe(12);
    expect(top.reduce((sum, { count }) => sum + count, 0)).toBe(1680);
    const [first] = top;
    const below = values.filter(
      ({ value }) => value.split(" › ").length === 2 && value.startsWith(`${first!.value} › `),
    );
    expect(below.reduce((sum, { count }) => sum + count, 0)).toBe(first!.count);
  });

  it("of a row are the same whether they are in memory or not", () => {
    const [row] = new BenchDesk(engine).rows("product", design, { ...query, count: 1 }).rows;
    const fresh = new Workspace(db);
    for (const field of fresh.data("product").fieldNames)
      if (field !== "body") fresh.data("product").items.column(field);
    expect({ ...new BenchDesk(fresh).rows("product", design, { ...query, count: 1 }).rows[0]!.fields }).toEqual({
      ...row!.fields,
    });
  });
});

describe("two drafts side by side", () => {
  it("have figures each, and the pages that differ most first", () => {
    const other = withLine(design, "base", "title", "{name}");
    const compared = compareDesigns(
      engine,
      new BenchDesk(engine),
      "product",
      design,
      other,
      { text: "title", from: 0, count: 500 },
      {},
    );
    expect(compared.texts.title.a.average).toBeGreaterThan(compared.texts.title.b.average);
    expect(compared.texts.title.a.duplicates).toBeLessThan(compared.texts.title.b.duplicates);
    expect(compared.texts.slug.different).toBe(0);
    expect(compared.total).toBe(compared.texts.title.different);
    expect(compared.items.every(({ a, b }) => a !== b)).toBe(true);
    const first = compared.items[0]!;
    const last = compared.items.at(-1)!;
    expect(Math.abs(first.a.length - first.b.length)).toBeGreaterThanOrEqual(Math.abs(last.a.length - last.b.length));
    // The draft is still proved as it was.
    expect(new BenchDesk(engine).prove("product", design).texts.title.draft).toEqual(compared.texts.title.a);
  });
});

describe("a lines file", () => {
  it("goes out and comes in again without a difference", () => {
    writeDraft(db, "product", design, NOW);
    const text = writeLinesFile(db);
    const review = reviewLinesFile(db, "site.lines.json", text);
    expect(review.kinds.flatMap(({ differences }) => differences)).toEqual([]);
    expect(review.site).toEqual([]);
    expect(adoptLinesFile(db, "site.lines.json", text, true, NOW)).toEqual([]);
  });

  it("shows what it would change, and puts aside what it takes the place of", () => {
    const file = JSON.parse(writeLinesFile(db)) as {
      site: { sep: string };
      kinds: { product: KindDesign; page?: object };
    };
    file.kinds.product.rules.reverse();
    file.kinds.product.base.title = "{nmae";
    file.kinds.page = { base: { title: "{name}" } };
    file.site = { sep: "|" };
    const text = JSON.stringify(file);
    const review = reviewLinesFile(db, "site.lines.json", text);
    expect(review.kinds.find(({ kind }) => kind === "product")!.differences.map(({ what }) => what)).toEqual([
      "place",
      "place",
      "place",
      "title",
    ]);
    expect(review.site).toEqual([{ setting: "sep", before: "–", after: "|" }]);
    expect(review.kinds.map(({ kind }) => kind)).toContain("page");
    expect(review.faults).toEqual([expect.objectContaining({ rule: null, text: "title" })]);
    expect(readDraft(db, "product").design).toEqual(design);

    expect(adoptLinesFile(db, "site.lines.json", text, false, NOW)).toEqual(["product", "page"]);
    expect(readDraft(db, "product").design.rules[0]!.id).toBe("bronze-cleats");
    expect(readSite(db)!.sep).toBe("–");
    const aside = listVersions(db, "product").find(({ name }) => name === "Before site.lines.json")!;
    expect(readVersion(db, aside.id)!.design).toEqual(design);
    adoptLinesFile(db, "site.lines.json", text, true, NOW);
    expect(readSite(db)).toMatchObject({ sep: "|", name: "Fennick & Dray" });
  });

  it("is refused in words where it cannot be read", () => {
    expect(() => reviewLinesFile(db, "x.json", "{")).toThrow(/x\.json:1:\d+: this is not JSON/);
    expect(() => reviewLinesFile(db, "x.json", '{"format": "other"}')).toThrow(/the format is not/);
  });
});

describe("what no file should be able to do", () => {
  it("names fields like parts of every object, and gets them back", () => {
    const own = openStore(":memory:");
    loadDemo(own, { products: 3 });
    own
      .prepare("UPDATE items SET attributes = ? WHERE kind = 'product'")
      .run('{"__proto__":"proto","constructor":"maker","toString":"said"}');
    const small = new Workspace(own);
    const made = kindDesignSchema.parse({
      base: { title: "{proto} {constructor} {tostring}" },
      rules: [{ id: "r", name: "r", when: { field: "constructor", is: "other" }, title: "no" }],
    });
    const { rows } = new BenchDesk(small).rows("product", made, query);
    expect(
      small.textProof("product", "title", made).proof.textOf(rows.find((row) => row.hand.title === undefined)!.row),
    ).toBe("proto maker said");
    expect(rows[0]!.fields["constructor"]).toBe("maker");
  });

  it("has a thousand rules, and a pattern that would never end elsewhere", () => {
    const rules = Array.from({ length: 1000 }, (_, i) => ({
      id: `r${i}`,
      name: `r${i}`,
      when: { field: "name", matches: i === 999 ? "^(a+)+$" : `^x${i}` },
      title: "{name}",
    }));
    const made = kindDesignSchema.parse({ base: { title: "{name}" }, rules });
    const { report } = new BenchDesk(engine).prove("product", made);
    expect(report.rules.filter(({ idle }) => idle === "matches nothing").length).toBe(1000);
    expect(report.base.title).toBe(1680);
  });
});
