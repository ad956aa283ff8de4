import { kindDesignSchema } from "../../core/design/schema";
import { atOneMoment } from "../../test/at-one-moment";
import { beforeEach, describe, expect, it } from "vitest";
import { ALL_CHANGES, type ReviewFilter, type ReviewOrder } from "../../core/plan/review-filter";
import { CHANGE_GROUPS, type ChangeGroup, LEFT_OUT_AT_FIRST, NEVER_APPLIED } from "../../core/plan/groups";
import { findingBit } from "../../core/checks/findings";
import { type Designs } from "../../core/design/designs";
import { HAND } from "../../core/proof/text-proof";
import { findingKey } from "./change-facets";
import { difference } from "../../core/proof/order";
import { loadDemo } from "../../demo/load";
import { DEMO_LINES, DEMO_RULES } from "../../demo/site";
import { writeDraft } from "../../store/drafts";
import { type Db, openStore } from "../../store/open";
import { type Call } from "../threads/call";
import { SiteFindings } from "../findings/site-findings";
import { ItemsList } from "../items/items-list";
import { Workspace } from "../workspace/workspace";
import { reviewMethods } from "./methods";
import { Review } from "./review";
import { type ReviewedChange } from "./reviewed-change";

const KINDS = ["post", "product", "category"] as const;
const PRODUCT_TITLES: ReviewFilter = { ...ALL_CHANGES, kind: "product", text: "title" };
const CALL = { progress: () => {}, isCancelled: () => false } as unknown as Call;

let db: Db;
let methods: ReturnType<typeof reviewMethods>;
let pages: ItemsList;
let designs: () => Designs;

beforeEach(() => {
  db = openStore(":memory:");
  loadDemo(db, { products: 240 });
  for (const kind of KINDS) {
    const base = Object.fromEntries(Object.entries(DEMO_LINES[kind]!).filter(([, line]) => line !== ""));
    const design = kindDesignSchema.parse({ base, rules: DEMO_RULES[kind] ?? [], moves: "all" });
    writeDraft(db, kind, design, "2026-11-26T10:00:00Z");
  }
  const workspace = new Workspace(db);
  const list = new ItemsList(workspace, new SiteFindings(workspace, () => 2026));
  pages = atOneMoment(workspace, list);
  designs = () => workspace.drafts();
  const made = reviewMethods(workspace, new Review(workspace, (designs, watch) => list.views(designs, watch)));
  methods = { ...made, asking: atOneMoment(workspace, made.asking) };
});

const summary = (filter: ReviewFilter = ALL_CHANGES) => methods.asking.reviewSummary({ filter }, CALL);
const listed = (group: ChangeGroup, filter: ReviewFilter, order: ReviewOrder = "site") =>
  methods.asking.reviewList({ query: { group, filter, order, from: 0, count: 100_000 } }, CALL).changes;
const changesOf = (filter: ReviewFilter): ReviewedChange[] => CHANGE_GROUPS.flatMap((group) => listed(group, filter));
const countOf = (filter: ReviewFilter) => summary(filter).groups.reduce((sum, { count }) => sum + count, 0);
const isOfFilter = ({ kind, text }: ReviewedChange, filter: ReviewFilter) =>
  (filter.kind ?? kind) === kind && (filter.text ?? text) === text;

describe("the filter of a review", () => {
  it("parts the changes by kind and by text, each once", () => {
    const { kinds, texts, total } = summary();
    const all = changesOf(ALL_CHANGES);
    expect(all.length).toBe(total);
    for (const { of, count } of kinds) expect(changesOf({ ...ALL_CHANGES, kind: of }).length).toBe(count);
    for (const { of, count } of texts) expect(changesOf({ ...ALL_CHANGES, text: of }).length).toBe(count);
    expect(kinds.reduce((sum, { count }) => sum + count, 0)).toBe(total);
    expect(texts.reduce((sum, { count }) => sum + count, 0)).toBe(total);
    expect(changesOf(PRODUCT_TITLES)).toEqual(all.filter((change) => isOfFilter(change, PRODUCT_TITLES)));
    expect(summary(PRODUCT_TITLES).groups.reduce((sum, { count }) => sum + count, 0)).toBe(
      changesOf(PRODUCT_TITLES).length,
    );
  });

  it("finds words in the page’s name and address and in the text before and after, in capitals or not", () => {
    const all = changesOf(ALL_CHANGES);
    const word = all[0]!.name.split(" ")[0]!.toUpperCase();
    const found = changesOf({ ...ALL_CHANGES, words: ` ${word} ` });
    const has = ({ name, path, before, after }: ReviewedChange) =>
      [name, path, before, after].some((own) => own.toLowerCase().includes(word.toLowerCase()));
    expect(found.length).toBeGreaterThan(0);
    expect(found.length).toBeLessThan(all.length);
    expect(found).toEqual(all.filter(has));
  });

  it("takes signs for what they are", () => {
    const signs = [
      "-",
      "£",
      ".",
      "(",
      ")",
      "|",
      "\\",
      "[",
      "]",
      "{",
      "^",
      "$",
      "*",
      "+",
      "?",
      "/",
      "&",
      "4 mm",
      "mm (",
      "é",
    ];
    const all = changesOf(ALL_CHANGES);
    for (const words of signs) {
      const has = ({ name, path, before, after }: ReviewedChange) =>
        [name, path, before, after].some((own) => own.toLowerCase().includes(words));
      // Typed on, fewer are looked at.
      for (const typed of [words, `${words}a`, words, ""]) {
        const found = changesOf({ ...ALL_CHANGES, words: typed });
        if (typed === words) expect(found, words).toEqual(all.filter(has));
        else if (typed === "") expect(found.length).toBe(all.length);
        else
          expect(
            found.every((change) => has(change)),
            typed,
          ).toBe(true);
      }
    }
  });
});

describe("what a filter leaves", () => {
  it("is all that goes out when only that is included, in whatever group it is", () => {
    const after = methods.writing.chooseShown({ filter: PRODUCT_TITLES, included: true, only: true });
    const all = changesOf(ALL_CHANGES);
    const included = all.filter((change) => change.included);
    expect(included.length).toBe(after.included);
    const never = changesOf(PRODUCT_TITLES).length - included.length;
    expect(included.length).toBeGreaterThan(100);
    expect(included.every((change) => isOfFilter(change, PRODUCT_TITLES))).toBe(true);
    // Texts by hand stay, and what a person has to look at is taken in by its own group alone.
    const stays = summary(PRODUCT_TITLES).groups.filter(
      ({ group }) => NEVER_APPLIED.has(group) || LEFT_OUT_AT_FIRST.has(group),
    );
    expect(stays.length).toBeGreaterThan(1);
    expect(never).toBe(stays.reduce((sum, { count }) => sum + count, 0));
  });

  it("is left out and included without a word on the rest, and goes before single changes of it", () => {
    const before = changesOf(ALL_CHANGES);
    const one = before.find((change) => change.included && isOfFilter(change, PRODUCT_TITLES))!;
    methods.writing.chooseChange({ item: one.id, text: "title", included: true, filter: ALL_CHANGES });
    methods.writing.chooseShown({ filter: PRODUCT_TITLES, included: false, only: false });
    const after = changesOf(ALL_CHANGES);
    expect(after.filter((change) => isOfFilter(change, PRODUCT_TITLES) && change.included)).toEqual([]);
    const rest = (changes: readonly ReviewedChange[]) =>
      changes.filter((change) => !isOfFilter(change, PRODUCT_TITLES)).map(({ included }) => included);
    expect(rest(after)).toEqual(rest(before));
  });

  it("goes back to what is included at first", () => {
    const before = summary();
    expect(before.isChosen).toBe(false);
    expect(methods.writing.chooseShown({ filter: PRODUCT_TITLES, included: true, only: true }).isChosen).toBe(true);
    expect(methods.writing.forgetChoices({ filter: ALL_CHANGES })).toEqual({ ...before, lastChoice: "reset" });
  });

  it("goes back to what was included before the last word on many changes, single ticks and groups", () => {
    methods.writing.forgetChoices({ filter: ALL_CHANGES });
    methods.writing.chooseGroup({ group: "shorter", filter: PRODUCT_TITLES, included: false });
    const [ticked] = changesOf(ALL_CHANGES).filter(({ included, text }) => included && text === "description");
    methods.writing.chooseChange({ item: ticked!.id, text: "description", included: false, filter: ALL_CHANGES });
    const before = { ...summary(), lastChoice: "only" };
    expect(summary().lastChoice).toBe("group");
    const narrowed = methods.writing.chooseShown({ filter: PRODUCT_TITLES, included: true, only: true });
    expect(narrowed.lastChoice).toBe("only");
    expect(narrowed.included).not.toBe(before.included);
    expect({ ...methods.writing.restoreChoices({ filter: ALL_CHANGES }), lastChoice: "only" }).toEqual(before);
    // What is not kept any more cannot be gone back to twice.
    expect(summary().lastChoice).toBeNull();
    expect(methods.writing.restoreChoices({ filter: ALL_CHANGES })).toEqual(summary());
    methods.writing.forgetChoices({ filter: ALL_CHANGES });
  });

  it("can be one group of it, and the whole group afterwards", () => {
    const group = "shorter";
    expect(summary().groups.length).toBeGreaterThan(2);
    methods.writing.chooseGroup({ group, filter: PRODUCT_TITLES, included: false });
    const own = () => summary().groups.find((one) => one.group === group)!;
    expect(own().includedByText.title).toBeLessThan(own().byText.title);
    expect(own().included).toBeGreaterThan(0);
    methods.writing.chooseGroup({ group, filter: ALL_CHANGES, included: true });
    expect(own().included).toBe(own().count);
  });

  it("can be the changes with a word, one by one, as long as each is the same", () => {
    const word = changesOf(PRODUCT_TITLES)
      .find(({ included }) => included)!
      .name.split(" ")
      .at(-1)!;
    const filter = { ...PRODUCT_TITLES, words: word };
    const count = changesOf(filter).filter(({ included }) => included).length;
    const before = summary().included;
    expect(methods.writing.chooseShown({ filter, included: false, only: false }).included).toBe(before - count);
    expect(changesOf(filter).some(({ included }) => included)).toBe(false);
    const design = kindDesignSchema.parse({ base: { title: "{name} anew" }, rules: [] });
    writeDraft(db, "product", design, "2026-11-26T11:00:00Z");
    expect(changesOf(filter).some(({ included }) => included)).toBe(true);
  });
});

describe("rules, categories and findings", () => {
  const facets = () => methods.asking.reviewFacets({}, CALL);
  const nameOf = ({ kind, id, text, part }: ReviewedChange) => `${kind} ${id} ${text} ${part}`;
  const pageOf = (change: ReviewedChange) => pages.byId(designs(), change.kind, change.id)!;

  it("part the changes: each is of one rule, and each filter leaves as many as are counted", () => {
    const { rules, categories, findings } = facets();
    const all = changesOf(ALL_CHANGES);
    const byRule = rules.map(({ of }) => changesOf({ ...ALL_CHANGES, rule: of }).map(nameOf));
    expect(byRule.map((own) => own.length)).toEqual(rules.map(({ count }) => count));
    expect(byRule.flat().sort()).toEqual(all.map(nameOf).sort());
    expect(rules.filter(({ kind }) => kind === "product").length).toBeGreaterThan(3);
    for (const { of, count } of categories) expect(countOf({ ...ALL_CHANGES, category: of })).toBe(count);
    for (const { of, count } of findings) expect(countOf({ ...ALL_CHANGES, finding: of })).toBe(count);
    expect(categories.length).toBeGreaterThan(10);
    expect(findings.length).toBeGreaterThan(5);
  });

  it("leave the changes of a rule’s pages, and those on which the base decides", () => {
    const { rules } = facets();
    for (const { of, kind, label } of rules) {
      const [change] = changesOf({ ...ALL_CHANGES, rule: of, text: "title" });
      if (!change) continue;
      const { view, row } = pageOf(change);
      const { from, line } = view.draft.title;
      const decides = from[row] === HAND ? "Written by hand" : view.decision.lines[line[row]!]!.rule?.name;
      expect(decides ?? "Everything else", of).toBe(label);
      expect(change.kind).toBe(kind);
    }
  });

  it("leave a category with all that is below it", () => {
    const { categories } = facets();
    const inside = categories.find(({ of }) => categories.some((other) => other.of.startsWith(`${of} › `)))!;
    for (const change of changesOf({ ...ALL_CHANGES, category: inside.of })) {
      const { view, row } = pageOf(change);
      const path = view.data.items.value("category.path", row) || view.data.items.value("category", row);
      expect(path === inside.of || path.startsWith(`${inside.of} › `), path).toBe(true);
    }
  });

  it("leave the pages that have a finding now, whatever the drafts make of it", () => {
    const found = new Set(
      changesOf({ ...ALL_CHANGES, finding: findingKey("title", "too-wide") }).map(({ kind, id }) => `${kind} ${id}`),
    );
    const bit = findingBit("title", "too-wide");
    for (const change of changesOf(ALL_CHANGES)) {
      const { view, row } = pageOf(change);
      expect(found.has(`${change.kind} ${change.id}`)).toBe((view.found.live.title[row]! & bit) !== 0);
    }
    expect(changesOf({ ...ALL_CHANGES, finding: "title no-such-finding" })).toEqual([]);
  });

  it("take in and leave out what they leave, and nothing else", () => {
    const { of } = facets().findings[0]!;
    const filter = { ...ALL_CHANGES, finding: of };
    const names = new Set(changesOf(filter).map(nameOf));
    const others = () => changesOf(ALL_CHANGES).filter((change) => !names.has(nameOf(change)));
    const before = others();
    methods.writing.chooseShown({ filter, included: false, only: false });
    expect(changesOf(filter).every(({ included }) => !included)).toBe(true);
    expect(others().map(({ included }) => included)).toEqual(before.map(({ included }) => included));
  });
});

it("the biggest changes come first where they are wanted so, equal ones as the site has them, in every group", () => {
  for (const group of CHANGE_GROUPS) {
    const amount = ({ before, after }: ReviewedChange) => difference(before, after);
    const inSite = listed(group, ALL_CHANGES);
    // The engine's sort keeps equal ones in their order.
    expect(listed(group, ALL_CHANGES, "changed")).toEqual([...inSite].sort((a, b) => amount(b) - amount(a)));
  }
  const filtered = listed("reworded", PRODUCT_TITLES, "changed");
  expect(filtered.length).toBeGreaterThan(10);
  expect(filtered.every((change) => isOfFilter(change, PRODUCT_TITLES))).toBe(true);
});

it("a change for the worse says what makes it one", () => {
  const design = kindDesignSchema.parse({ base: { title: "{category} for every ship", description: "" }, rules: [] });
  writeDraft(db, "product", design, "2026-11-26T11:00:00Z");
  const changes = listed("worse", PRODUCT_TITLES);
  expect(changes.length).toBeGreaterThan(50);
  const texts = changesOf(PRODUCT_TITLES);
  for (const { worse, after, afterFits, beforeFits } of changes) {
    expect(worse.reasons.length).toBeGreaterThan(0);
    expect(worse.reasons.includes("too-wide")).toBe(beforeFits && !afterFits);
    if (worse.reasons.includes("duplicate"))
      expect(texts.filter((other) => other.after === after).length).toBeGreaterThanOrEqual(2);
  }
});
