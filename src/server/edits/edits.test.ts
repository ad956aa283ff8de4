import { atOneMoment } from "../../test/at-one-moment";
import { kindDesignSchema } from "../../core/design/schema";
import { createTakeBack } from "../runs/take-back";
import { type Designs } from "../../core/design/designs";
import fc from "fast-check";
import { beforeEach, describe, expect, it } from "vitest";
import { TEXTS } from "../../core/design/kinds";
import { DEMO_LINES, DEMO_RULES } from "../../demo/site";
import { loadDemo } from "../../demo/load";
import { createEdit, editChunk, editSteps, readEdit, setEdit, stopInterruptedEdits } from "../../store/edits";
import { type Db, openStore } from "../../store/open";
import { readSite } from "../../store/site";
import { applyEdit } from "./apply-edit";
import { applyRun } from "../runs/apply-run";
import { ItemsList } from "../items/items-list";
import { ALL_PAGES, type ItemQuery } from "../../core/items/query";
import { type EditAction, planEdit } from "./plan-edit";
import { Workspace } from "../workspace/workspace";
import { Review } from "../review/review";
import { SiteFindings } from "../findings/site-findings";
import { runOfReview } from "../../test/run-of-review";
import { BenchDesk } from "../bench/bench-desk";

const KINDS = ["post", "product", "category"] as const;
// A line that reads the keyword and one that reads the live slug: what is edited changes what other texts are made of.
const designs: Designs = Object.fromEntries(
  KINDS.map((kind) => {
    const base = Object.fromEntries(Object.entries(DEMO_LINES[kind]!).filter(([, line]) => line !== ""));
    return [
      kind,
      kindDesignSchema.parse({
        moves: "all",
        base: { ...base, description: "{keyword or name}. {summary or intro:fit}[ ({slug})]", robots: "index, follow" },
        rules: [
          {
            id: "keyed",
            name: "Keyed",
            when: { field: "keyword", "starts with": "b" },
            title: "{keyword:title}[ – {name}]^1[ – {id}]^apart",
            robots: "noindex, follow",
          },
          ...(DEMO_RULES[kind] ?? []),
        ],
      }),
    ];
  }),
);
const query: ItemQuery = { ...ALL_PAGES, side: "draft" as const };
const now = () => "2026-11-25T00:00:00.000Z";
let db: Db;
let engine: Workspace;
let list: ItemsList;

beforeEach(() => {
  db = openStore(":memory:");
  loadDemo(db, { products: 84 });
  engine = new Workspace(db);
  list = atOneMoment(engine, new ItemsList(engine, new SiteFindings(engine, () => 2026)));
});

function plan(ranges: [number, number][], action: EditAction, of: Partial<ItemQuery> = {}) {
  return planEdit(readSite(db)!, list.chosen(designs, { ...query, ...of }, ranges), action);
}

function make(ranges: [number, number][], action: EditAction, of: Partial<ItemQuery> = {}): number {
  const made = plan(ranges, action, of);
  const id = createEdit(db, made.label, made.changes, now());
  applyEdit(db, id, readEdit(db, id)!.goal);
  return id;
}

/** All that the engine, the findings and the list say now. */
function everything(own: Workspace, items: ItemsList) {
  return own.at(() => allOf(own, items));
}

function allOf(own: Workspace, items: ItemsList) {
  const { counts, total } = items.list(designs, query, { from: 0, count: 0, columns: [] });
  return {
    counts,
    total,
    kinds: KINDS.map((kind) => {
      const { texts, report } = new BenchDesk(own).prove(kind, designs[kind]!);
      const robots = own.robots(kind, designs[kind]!);
      const proofs = TEXTS.map((text) => {
        const { proof } = own.textProof(kind, text, designs[kind]!);
        const { proof: live } = own.liveProof(kind, text);
        return Array.from({ length: proof.size }, (_, row) => [
          proof.textOf(row),
          proof.sizes[row],
          proof.fits[row],
          proof.from[row],
          proof.form[row],
          proof.keywordAt[row],
          proof.keywordSeen[row],
          proof.groups.countOf(row),
          live.textOf(row),
          live.form[row],
          live.groups.countOf(row),
        ]);
      });
      return {
        texts,
        report,
        proofs,
        robots: Array.from({ length: own.data(kind).ids.length }, (_, row) => robots(row)),
        fields: [0, 5, 40].map((row) => own.data(kind).fieldsOf(row, false)),
      };
    }),
  };
}

const actions: fc.Arbitrary<EditAction> = fc.oneof(
  fc.record({
    type: fc.constant("set" as const),
    field: fc.constantFrom("title" as const, "description" as const, "slug" as const),
    value: fc.constantFrom("Brass cleats for every deck", "Written by hand", "b"),
  }),
  fc.record({
    type: fc.constant("set" as const),
    field: fc.constant("keyword" as const),
    value: fc.constantFrom("", "brass cleat", "rope", "never seen before"),
  }),
  fc.record({
    type: fc.constant("set" as const),
    field: fc.constant("robots" as const),
    value: fc.constantFrom("noindex, follow", "index, nofollow"),
  }),
  fc.record({ type: fc.constant("let-go" as const), field: fc.constantFrom(...TEXTS, "robots" as const) }),
  fc.record({ type: fc.constant("hold" as const), field: fc.constantFrom(...TEXTS) }),
  fc.record({
    type: fc.constant("replace" as const),
    field: fc.constantFrom(...TEXTS, "keyword" as const),
    find: fc.constantFrom("a", "brass", "rope"),
    replace: fc.constantFrom("", "oak"),
    matchCase: fc.boolean(),
    wholeWords: fc.boolean(),
    pattern: fc.constant(false),
  }),
);

describe("what changed by hand", () => {
  it("is taken in without loading anew, and all is as if it had been", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            action: actions,
            from: fc.nat(1300),
            count: fc.integer({ min: 1, max: 60 }),
            undo: fc.boolean(),
          }),
          { minLength: 1, maxLength: 4 },
        ),
        (steps) => {
          everything(engine, list);
          const loaded = KINDS.map((kind) => engine.data(kind));
          for (const { action, from, count, undo } of steps) {
            const id = make([[from, from + count]], action);
            if (undo) {
              setEdit(db, id, "undone", "running");
              applyEdit(db, id, readEdit(db, id)!.goal);
            }
            list.list(designs, query, { from: 0, count: 5, columns: [] });
          }
          const anew = new Workspace(db);
          const known = everything(engine, list);
          // Of near duplicates only the first of equal texts is looked at, and of names that are alike any can be it.
          const exact = (all: ReturnType<typeof everything>) => ({
            ...all,
            counts: all.counts.filter(({ id }) => id !== "near-duplicate"),
          });
          expect(exact(known)).toEqual(
            exact(everything(anew, new ItemsList(anew, new SiteFindings(anew, () => 2026)))),
          );
          expect(KINDS.map((kind) => engine.data(kind).loading)).toEqual(loaded.map(({ loading }) => loading));
        },
      ),
      { numRuns: 8 },
    );
  });

  it("goes back and comes again, but for what someone else changed meanwhile", () => {
    const before = db.prepare("SELECT * FROM hand_texts ORDER BY 1, 2").all();
    const id = make([[0, 30]], { type: "set", field: "title", value: "Thirty titles" });
    const third = list.chosen(designs, query, [[2, 3]])[0]!;
    const item = engine.data(third.view.kind).ids[third.row]!;
    make([[2, 3]], { type: "set", field: "title", value: "Mine" });
    setEdit(db, id, "undone", "running");
    applyEdit(db, id, readEdit(db, id)!.goal);
    expect(readEdit(db, id)).toMatchObject({ goal: "undone", status: "done", skipped: 1, waiting: 0 });
    expect(db.prepare("SELECT value FROM hand_texts WHERE item_id = ? AND text = 'title'").pluck().get(item)).toBe(
      "Mine",
    );
    expect(db.prepare("SELECT * FROM hand_texts WHERE item_id <> ? ORDER BY 1, 2").all(item)).toEqual(
      before.filter((row) => (row as { item_id: number }).item_id !== item),
    );
    setEdit(db, id, "set", "running");
    applyEdit(db, id, readEdit(db, id)!.goal);
    expect(db.prepare("SELECT count(*) FROM hand_texts WHERE value = 'Thirty titles'").pluck().get()).toBe(29);
  });

  it("is whole at every moment: ended half-way it goes on, or goes back", () => {
    const { changes, label } = plan([[0, 2000]], { type: "set", field: "keyword", value: "rope" });
    const keywords = db.prepare("SELECT id, keyword FROM items ORDER BY id").all();
    for (const goal of ["set", "undone"] as const) {
      const id = createEdit(db, label, changes, now());
      expect(editChunk(db, id, 100)).toBe(100);
      stopInterruptedEdits(db);
      expect(editSteps(db).stopped).toMatchObject({ id, waiting: changes.length - 100, total: changes.length });
      setEdit(db, id, goal, "running");
      applyEdit(db, id, readEdit(db, id)!.goal);
      const wrong = db.prepare("SELECT count(*) FROM items WHERE keyword <> 'rope'").pluck().get();
      expect(goal === "set" ? wrong : db.prepare("SELECT id, keyword FROM items ORDER BY id").all()).toEqual(
        goal === "set" ? 0 : keywords,
      );
      setEdit(db, id, "undone", "running");
      applyEdit(db, id, readEdit(db, id)!.goal);
    }
  });
});

describe("a slug kept as written by hand", () => {
  it("is no longer told by its line, though it reads as the line told it", () => {
    const unlike = {
      ...query,
      side: "live" as const,
      findings: [{ subject: "slug" as const, id: "unlike-line" as const }],
    };
    const before = list.list(designs, unlike, { from: 0, count: 1, columns: [] });
    expect(before.total).toBeGreaterThan(10);
    const made = planEdit(readSite(db)!, list.chosen(designs, unlike, [[0, 5]]), {
      type: "hold",
      field: "slug",
    });
    applyEdit(db, createEdit(db, made.label, made.changes, now()), "set");
    expect(list.list(designs, unlike, { from: 0, count: 1, columns: [] }).total).toBe(before.total - 5);
  });
});

describe("an action on many pages", () => {
  it("says what it would do before it is done", () => {
    const replace = plan([[0, 5000]], {
      type: "replace",
      field: "title",
      find: "rope",
      replace: "line",
      matchCase: false,
      wholeWords: true,
      pattern: false,
    });
    expect(replace.changes.length).toBeGreaterThan(10);
    expect(replace.samples[0]!.before).toMatch(/\brope\b/i);
    expect(replace.samples[0]!.after).not.toMatch(/\brope\b/i);
    expect(replace.changes.length + replace.unchanged).toBe(
      list.list(designs, query, { from: 0, count: 0, columns: [] }).total,
    );
    const emptied = plan([[0, 50]], {
      type: "replace",
      field: "title",
      find: ".*",
      replace: "",
      matchCase: false,
      wholeWords: false,
      pattern: true,
    });
    expect(emptied.changes).toEqual([]);
    expect(emptied.refused[0]!.reason).toMatch(/^The title is empty/);
  });

  it("puts one pasted value on each page, and refuses another number of them", () => {
    const values = ["First", "", " Second\r", "\u202eThird"];
    const pasted = plan([[10, 14]], { type: "paste", field: "description", values });
    expect(pasted.changes.map(({ after }) => after)).toEqual(["First", "Second", "Third"]);
    expect(pasted.unchanged).toBe(1);
    expect(() => plan([[0, 2]], { type: "paste", field: "title", values })).toThrow(
      "2 pages are selected and 4 lines were pasted",
    );
    expect(() => plan([], { type: "let-go", field: "title" })).toThrow("No page is selected");
  });

  it("holds what the lines make, and lets go of it", () => {
    const id = make([[0, 20]], { type: "hold", field: "title" });
    expect(readEdit(db, id)!.total).toBeGreaterThan(15);
    const [page] = list.list(designs, query, { from: 0, count: 1, columns: [] }).items;
    expect(page!.texts.title.from).toBe("hand");
    make([[0, 20]], { type: "let-go", field: "title" });
    expect(list.list(designs, query, { from: 0, count: 1, columns: [] }).items[0]!.texts.title.from).not.toBe("hand");
  });
});

describe("texts by hand in a review", () => {
  it("are changes of their own, go out with a run, and come back", () => {
    make([[0, 3]], { type: "set", field: "title", value: "Three by hand" });
    make([[0, 2]], { type: "set", field: "robots", value: "noindex, nofollow" });
    const review = new Review(engine);
    const only = (group: string) => review.summary(designs).groups.find((own) => own.group === group);
    expect(only("written")).toMatchObject({ count: 3, included: 3 });
    expect(
      review
        .list(designs, { group: "robots", from: 0, count: 500 })
        .changes.filter(({ after }) => after === "noindex, nofollow"),
    ).toHaveLength(2);
    const run = runOfReview(db, review, designs);
    applyRun(db, run, { now });
    expect(db.prepare("SELECT count(*) FROM items WHERE title = 'Three by hand'").pluck().get()).toBe(3);
    expect(db.prepare("SELECT count(*) FROM items WHERE robots = 'noindex, nofollow'").pluck().get()).toBe(2);
    expect(only("written")).toBeUndefined();
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(
      db
        .prepare("SELECT count(*) FROM items WHERE title = 'Three by hand' OR robots = 'noindex, nofollow'")
        .pluck()
        .get(),
    ).toBe(0);
    expect(only("written")).toMatchObject({ count: 3 });
  });

  it("are left alone where one was written after the run was frozen", () => {
    const review = new Review(engine);
    const run = runOfReview(db, review, designs);
    const change = db
      .prepare("SELECT item_id FROM run_changes WHERE run_id = ? AND text = 'title' LIMIT 1")
      .get(run) as { item_id: number };
    db.prepare("INSERT INTO hand_texts VALUES (?, 'title', 'Meanwhile')").run(change.item_id);
    applyRun(db, run, { now });
    expect(
      db
        .prepare("SELECT reason FROM run_changes WHERE run_id = ? AND item_id = ? AND text = 'title'")
        .get(run, change.item_id),
    ).toEqual({ reason: "The title was written by hand meanwhile" });
  });
});
