import { kindDesignSchema } from "../../core/design/schema";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, afterEach, beforeEach, describe, expect, it } from "vitest";
import { TEXTS } from "../../core/design/kinds";
import { ALL_PAGES, type ItemQuery } from "../../core/items/query";
import { Cancelled } from "../../core/proof/prove-set";
import { loadDemo } from "../../demo/load";
import { DEMO_SITE } from "../../demo/site";
import { writeDraft } from "../../store/drafts";
import { createEdit } from "../../store/edits";
import { type Db, openStore } from "../../store/open";
import { nextRevision, readSite, writeSite } from "../../store/site";
import { applyEdit } from "../edits/apply-edit";
import { SiteFindings } from "../findings/site-findings";
import { ItemsList } from "../items/items-list";
import { Review } from "../review/review";
import { BenchDesk } from "../bench/bench-desk";
import { Activity, fingerprintOf } from "./activity";
import { Workspace } from "./workspace";
import { movingDesign } from "../../test/moving-design";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-workspace-"));
afterAll(() => rmSync(folder, { recursive: true }));

const now = "2026-11-25T10:00:00Z";
const design = movingDesign({ title: "{name} – {keyword}", description: "{intro}", slug: "{name}" });
let number = 0;
let db: Db;
/** Another connection, as the thread that writes has one. */
let other: Db;
let workspace: Workspace;

beforeEach(() => {
  const path = join(folder, `${++number}.db`);
  db = openStore(path);
  loadDemo(db, { products: 120 });
  writeDraft(db, "product", design, now);
  other = openStore(path);
  workspace = new Workspace(db);
});
afterEach(() => {
  db.close();
  other.close();
});

const hand = (item: number, after: string | null, before: string | null = null) =>
  applyEdit(other, createEdit(other, "by hand", [{ item, field: "title", before, after }], now), "set");
const idOf = (row: number) => workspace.data("product").ids[row]!;
const titles = () => workspace.textProof("product", "title", design).proof;
const all = (proof: { size: number; textOf: (row: number) => string }) =>
  Array.from({ length: proof.size }, (_, row) => proof.textOf(row));

describe("a proof that was given", () => {
  it("stays as it is, whatever is written, proved and cancelled afterwards", () => {
    const id = idOf(3);
    hand(id, "Written by hand");
    const before = titles();
    const [texts, groups] = [all(before), Array.from({ length: before.size }, (_, row) => before.groups.countOf(row))];
    expect(texts[3]).toBe("Written by hand");
    hand(id, null, "Written by hand");
    const after = titles();
    expect(after.textOf(3)).not.toBe("Written by hand");
    expect(() =>
      workspace.textProof("product", "title", movingDesign({ title: "{name} {sku}" }), { cancelled: () => true }),
    ).toThrow();
    workspace.textProof("product", "title", movingDesign({ title: "[{id}]^apart {name}" }));
    // What was by hand then is read as it was then: this was `undefined`, and the search for near duplicates died of it.
    expect(all(before)).toEqual(texts);
    expect(Array.from({ length: before.size }, (_, row) => before.groups.countOf(row))).toEqual(groups);
  });

  it("stays as it is though a field that its line reads is changed", () => {
    const before = titles();
    const texts = all(before);
    const id = idOf(0);
    const change = {
      item: id,
      field: "keyword" as const,
      before: workspace.data("product").items.value("keyword", 0),
      after: "quite another keyword",
    };
    applyEdit(other, createEdit(other, "keyword", [change], now), "set");
    expect(titles().textOf(0)).toContain("quite another keyword");
    expect(all(before)).toEqual(texts);
  });
});

describe("what is looked at at one moment", () => {
  it("is of that moment, though others write meanwhile", () => {
    const id = idOf(5);
    const [inside, during] = workspace.at(() => {
      const first = titles().textOf(5);
      hand(id, "Written meanwhile");
      writeSite(other, { ...readSite(other)!, name: "Another name" });
      expect(workspace.site().name).toBe(DEMO_SITE.name);
      expect(workspace.data("product").hands.title.get(5)).toBeUndefined();
      return [first, titles().textOf(5)];
    });
    expect(during).toBe(inside);
    expect(titles().textOf(5)).toBe("Written meanwhile");
    expect(workspace.site().name).toBe("Another name");
  });

  it("writes nothing where the site is another one by then: pages, drafts or settings", () => {
    const changes: (() => unknown)[] = [
      () => hand(idOf(1), "by hand"),
      () => writeDraft(other, "post", movingDesign({ title: "{name}!" }), now),
      () => writeSite(other, { ...readSite(other)!, tagline: "Other" }),
    ];
    for (const change of changes) {
      const { stamp } = workspace.moment;
      change();
      expect(() => workspace.commit(stamp, () => db.prepare("DELETE FROM items").run())).toThrow(
        expect.objectContaining({ code: "stale" }),
      );
    }
    expect(workspace.commit(workspace.moment.stamp, () => nextRevision(db))).toBeGreaterThan(0);
    // The same settings and drafts stored once more change nothing that rests on them.
    const { stamp } = workspace.moment;
    writeSite(other, readSite(other)!);
    writeDraft(other, "product", design, now);
    expect(workspace.moment.stamp).toBe(stamp);
  });
});

describe("what is worked out and written", () => {
  it("is worked out again where others write in between, and written of the moment that it was worked out at", () => {
    let others = 3;
    const names: string[] = [];
    const { plan, written } = workspace.settle(
      () => {
        names.push(workspace.site().name);
        if (others-- > 0) writeSite(other, { ...readSite(other)!, name: `Name ${others}` });
        return names.at(-1)!;
      },
      (name) => ({ name, stored: readSite(db)!.name }),
    );
    expect(names).toEqual([DEMO_SITE.name, "Name 2", "Name 1", "Name 0"]);
    expect(plan).toBe("Name 0");
    expect(written).toEqual({ name: "Name 0", stored: "Name 0" });
  });

  it("is given up with words where others never stop", () => {
    let n = 0;
    const work = () => writeSite(other, { ...readSite(other)!, name: `Name ${n++}` });
    expect(() => workspace.settle(work, () => db.prepare("DELETE FROM items").run())).toThrow(
      expect.objectContaining({ code: "stale" }),
    );
    expect(workspace.data("product").ids.length).toBeGreaterThan(0);
  });
});

describe("what rests on the settings", () => {
  const saved = (change: object) => writeSite(other, { ...readSite(other)!, ...change });

  it("is worked out again when they change, and nothing else is", () => {
    const known = Object.fromEntries(TEXTS.map((text) => [text, workspace.textProof("product", text, design)]));
    const { loading } = workspace.data("product");
    saved({ limits: { title: { surfaces: [], chars: 20 } } });
    expect(workspace.textProof("product", "title", design).proof.fits).not.toEqual(known["title"]!.proof.fits);
    expect(workspace.textProof("product", "description", design)).toBe(known["description"]);
    saved({ slug: { ...DEMO_SITE.slug, max: 12 } });
    expect(Math.max(...workspace.textProof("product", "slug", design).proof.lengths)).toBeLessThanOrEqual(12);
    saved({ checks: { ...DEMO_SITE.checks, depth: 1 } });
    // No figure of a check asks for the items to be loaded again; the site's name does, lines read it.
    expect(workspace.data("product").loading).toBe(loading);
    saved({ name: "Another name" });
    expect(workspace.data("product").loading).not.toBe(loading);
  });

  it("is not found from before in findings, lists, figures and reviews", () => {
    const designs = { product: design, post: movingDesign({}), category: movingDesign({}) };
    const query = { ...ALL_PAGES, side: "draft" as const };
    const fresh = () => {
      const own = new Workspace(db);
      return {
        own,
        list: new ItemsList(own, new SiteFindings(own, () => 2026)),
        desk: new BenchDesk(own),
        review: new Review(own),
      };
    };
    const kept = {
      own: workspace,
      ...{
        list: new ItemsList(workspace, new SiteFindings(workspace, () => 2026)),
        desk: new BenchDesk(workspace),
        review: new Review(workspace),
      },
    };
    const told = ({ list, desk, review }: ReturnType<typeof fresh>) => ({
      list: list.list(designs, query, { from: 0, count: 5, columns: [] }),
      figures: desk.prove("product", design).texts,
      review: review.summary(designs).groups,
    });
    told(kept);
    for (const change of [
      { checks: { ...DEMO_SITE.checks, lateShare: 0.05, shortTitle: 60 } },
      { limits: { title: { surfaces: ["phone-title"] }, description: { chars: 60 } } },
      { slug: { ...DEMO_SITE.slug, dropStopWords: true, max: 30 } },
      { reserved: ["bronze-mooring-cleat"], name: "Somebody else" },
      { sep: "·", language: "de" },
    ]) {
      saved(change);
      expect(told(kept)).toEqual(told(fresh()));
    }
  });
});

describe("a line that ended the thread before", () => {
  const words = "This ended the thread twice";
  const line = "{name} – {keyword}";

  it("is not tried again, is told as its fault, and is when it is changed", () => {
    const refused = new Map([[fingerprintOf({ what: "line", source: line }), words]]);
    const careful = new Workspace(db, { refused });
    const { faults, proof } = careful.textProof("product", "title", design);
    expect(faults).toEqual([{ rule: null, message: words }]);
    expect(all(proof)).toEqual(
      [...careful.data("product").live.title].map((own, row) => careful.data("product").hands.title.get(row) ?? own),
    );
    expect(careful.textProof("product", "title", movingDesign({ title: `${line}!` })).faults).toEqual([]);
    expect(careful.textProof("product", "description", design).faults).toEqual([]);
  });

  it("may be a rule’s condition, which takes nothing then", () => {
    const when = { field: "name", matches: "cleat" };
    const ruled = kindDesignSchema.parse({
      base: { title: "{name}" },
      rules: [{ id: "r", name: "Cleats", when, title: "Cleat: {name}" }],
    });
    const refused = new Map([[fingerprintOf({ what: "condition", source: JSON.stringify(when) }), words]]);
    const careful = new Workspace(db, { refused });
    expect(careful.textProof("product", "title", ruled).faults).toEqual([{ rule: "r", message: words }]);
    expect(all(careful.textProof("product", "title", ruled).proof).some((own) => own.startsWith("Cleat: "))).toBe(
      false,
    );
    expect(all(workspace.textProof("product", "title", ruled).proof).some((own) => own.startsWith("Cleat: "))).toBe(
      true,
    );
  });

  const slow = { field: "intro", matches: "(z?){60}Q" };
  const slowRule = kindDesignSchema.parse({
    base: { title: "{name}" },
    rules: [{ id: "r", name: "Slow", when: slow, title: "Slow: {name}" }],
  });

  const writeLongIntros = () =>
    db.prepare("UPDATE items SET intro = key || ' ' || ? WHERE kind = 'product'").run("brass ".repeat(100));

  it("may be a condition that takes too long: it is ended, takes nothing, and is told wherever it is asked for", () => {
    writeLongIntros();
    const hasty = new Workspace(db, { patience: -1 });
    const { faults, proof } = hasty.textProof("product", "title", slowRule);
    expect(faults).toEqual([{ rule: "r", message: expect.stringMatching(/took longer than .* matches no page/) }]);
    expect(all(proof).some((own) => own.startsWith("Slow: "))).toBe(false);
    const rules = hasty.rules("product");
    const nameOf = () => ({ id: 0, name: "" });
    expect(() => rules.preview(slowRule, slow, { above: 0, texts: [] }, nameOf)).toThrow(/took longer/);
    const list = new ItemsList(hasty, new SiteFindings(hasty, () => 2026));
    const query: ItemQuery = {
      ...{ kind: "all", side: "draft", findings: [], difference: null, mark: null, search: "", group: null },
      ...{ where: slow, sort: "site", down: false },
    };
    expect(() => list.list({}, query, { from: 0, count: 1, columns: [] })).toThrow(/took longer/);
    expect(rules.refusal({ field: "name", matches: "cleat" })).toBeNull();
    expect(workspace.textProof("product", "title", slowRule).faults).toEqual([]);
  });

  it("may be a condition whose caller goes away: it ends in the midst, and is whole when it is asked for again", () => {
    writeLongIntros();
    let asked = 0;
    const leaving = new Workspace(db);
    expect(() => leaving.rules("product").rows(slow, { cancelled: () => ++asked > 3 })).toThrow(Cancelled);
    expect(asked).toBe(4);
    expect(leaving.rules("product").refusal(slow)).toBeNull();
    expect(leaving.rules("product").rows(slow)).toEqual(workspace.rules("product").rows(slow));
  });

  it("is noted while it is worked on, and nothing is when all is done", () => {
    const activity = new Activity();
    const watched = new Workspace(db, { activity });
    const during = new Set<string>();
    const note = () => {
      const doing = activity.read();
      if (doing) during.add(`${doing.kind} ${doing.text} ${doing.rule} ${doing.source}`);
    };
    watched.textProof("product", "title", design, { progress: note });
    expect([...during]).toEqual([`product title null ${line}`]);
    expect(activity.read()).toBeNull();
  });
});
