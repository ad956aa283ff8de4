import { workerData } from "node:worker_threads";
import { EMPTY_DESIGN, type KindDesign } from "../../core/design/design";
import { EXTRAS, type ExtraName, type Kind, kindWord, type TextName } from "../../core/design/kinds";
import { type ChangeGroup } from "../../core/plan/groups";
import { openStore } from "../../store/open";
import { chooseChange, chooseGroup, changeScope } from "../../store/review-choices";
import { type RawCondition } from "../../core/rules/condition";
import { compareDesigns } from "../bench/compare";
import { fieldInfosOf, fieldValues } from "../bench/field-infos";
import { createEdit } from "../../store/edits";
import { ItemsList } from "../items/items-list";
import { type ItemQuery, type Ranges } from "../../core/items/query";
import { type EditAction, EditError, planEdit } from "../edits/plan-edit";
import { type EngineWatch, ProofEngine, type ProvedExtra, type RowQuery } from "./proof-engine";
import { type Designs, Review } from "../review/review";
import { type Assignment, KeywordDesk } from "../keywords/keyword-desk";
import { nearThread } from "../findings/near-thread";
import { SiteFindings } from "../findings/site-findings";
import { type Call, CancelledCall, serveWorker } from "../threads/rpc";

const { path, stop, nearWorker } = workerData as { path: string; stop: Int32Array; nearWorker: string };
const db = openStore(path);
const engine = new ProofEngine(db);
const review = new Review(db, engine);
const items = new ItemsList(
  db,
  engine,
  new SiteFindings(db, engine, () => new Date().getFullYear(), nearThread(nearWorker)),
);

const keywords = new KeywordDesk(db, engine, items);

function guarded<T>(call: Call, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (call.cancelled()) throw new CancelledCall();
    throw error;
  }
}

type Proved = { kind: Kind; design: KindDesign };

/** A call's watch: long steps are told to whoever waits, and end when nobody does. */
const watching = (call: Call): EngineWatch => ({
  cancelled: call.cancelled,
  progress: every(FIRST_PROGRESS, 150, call.progress),
});

/** Work that takes longer than so many ms says how far it is. */
const FIRST_PROGRESS = 300;

/** Passes a value on for the first time after so many ms, and then at most once in so many. */
function every<T>(first: number, then: number, tell: (value: T) => void): (value: T) => void {
  let next = performance.now() + first;
  return (value) => {
    const now = performance.now();
    if (now < next) return;
    next = now + then;
    tell(value);
  };
}

/** Pages at places in the order that a query gives, or one page. `order` is that of the list that they were chosen in. */
export type Choice = { query: ItemQuery; ranges: Ranges; order: string } | { kind: Kind; id: number };
/** So many values a condition can name. */
const MOST_IDS = 5000;
type Edit = { designs: Designs; choice: Choice; action: EditAction };

function planned({ designs, choice, action }: Edit) {
  const plan = planEdit(engine, engine.site(), pagesOf(designs, choice), action);
  return { ...plan, count: plan.changes.length };
}

function pagesOf(designs: Designs, choice: Choice) {
  if ("id" in choice) {
    const page = items.byId(designs, choice.kind, choice.id);
    if (!page) throw new EditError("That page is no longer there");
    return [page];
  }
  const { order } = items.list(designs, choice.query, { from: 0, count: 0, columns: [] });
  if (order !== choice.order)
    throw new EditError("The list has changed since the pages were chosen; choose them again");
  return items.chosen(designs, choice.query, choice.ranges);
}

const kindsOf = (kind: Kind | "all") => (kind === "all" ? engine.boardKinds() : [kind]);

/** The kind and the sites' own ids of pages. @throws {EditError} where they are of several kinds, or one has no id. */
function idsOf(pages: ReturnType<typeof pagesOf>): { kind: Kind; ids: string[] } {
  const kinds = [...new Set(pages.map(({ view }) => view.kind))];
  if (kinds.length === 0) throw new EditError("No page is chosen");
  if (kinds.length > 1)
    throw new EditError(
      `The chosen pages are ${kinds.map((kind) => kindWord(kind, 2)).join(" and ")}: a rule is for one kind. Choose a kind above the list first`,
    );
  if (pages.length > MOST_IDS)
    throw new EditError(
      `A rule can name ${MOST_IDS.toLocaleString("en")} pages one by one; ${pages.length.toLocaleString("en")} are chosen. Make a rule by what they have in common`,
    );
  const ids = pages.map(({ view, row }) => engine.data(view.kind).items.value("id", row));
  if (ids.includes(""))
    throw new EditError("Some of the chosen pages were brought in without an id, by which the rule would know them");
  return { kind: kinds[0]!, ids };
}

function assigned(pages: readonly Assignment[], now: string) {
  const changes = keywords.changesFor(pages);
  const label = `${changes.length.toLocaleString("en")} focus keyword${changes.length === 1 ? "" : "s"} given`;
  return { edit: changes.length === 0 ? null : createEdit(db, label, changes, now), label, count: changes.length };
}

/** What the proof worker answers. */
export const proofMethods = {
  rows: ({ kind, design, query }: Proved & { query: RowQuery }, call: Call) =>
    guarded(call, () => engine.rows(kind, design, query, watching(call))),
  bench: ({ kind, design, query }: Proved & { query: RowQuery }, call: Call) =>
    guarded(call, () => ({
      proved: engine.prove(kind, design, watching(call), query),
      ...engine.rows(kind, design, query, watching(call)),
    })),
  board: ({ designs }: { designs: Designs }, call: Call) =>
    guarded(call, () =>
      engine
        .boardKinds()
        .map((kind) => ({
          ...engine.prove(kind, designs[kind] ?? EMPTY_DESIGN, watching(call)),
          examples: engine.examples(kind, designs[kind] ?? EMPTY_DESIGN),
        })),
    ),
  extras: ({ designs }: { designs: Designs }, call: Call) =>
    guarded(call, () =>
      engine
        .boardKinds()
        .map((kind) => ({
          kind,
          extras: Object.fromEntries(
            EXTRAS.filter((extra) => engine.site().extras[extra]).map((extra) => [
              extra,
              engine.extra(kind, designs[kind] ?? EMPTY_DESIGN, extra, watching(call)),
            ]),
          ) as Partial<Record<ExtraName, ProvedExtra>>,
        })),
    ),
  extraRows: ({ designs, kind, from, count }: { designs: Designs; kind: Kind; from: number; count: number }) => {
    const data = engine.data(kind);
    const texts = EXTRAS.map((extra) =>
      engine.site().extras[extra] ? engine.extraTexts(kind, designs[kind] ?? EMPTY_DESIGN, extra, from, count) : null,
    );
    return Array.from({ length: Math.max(0, Math.min(count, data.ids.length - from)) }, (_, i) => ({
      kind,
      id: data.items.value("id", from + i),
      address: data.paths[from + i]!,
      alt: texts[0]?.[i] ?? null,
      keywords: texts[1]?.[i] ?? null,
    }));
  },
  item: ({ kind, design, text, id }: Proved & { text: TextName; id: number }, call: Call) =>
    guarded(call, () => engine.item(kind, design, text, id, watching(call))),
  fields: ({ kind }: { kind: Kind | "all" }, call: Call) =>
    guarded(call, () => fieldInfosOf(kindsOf(kind).map((own) => engine.data(own, watching(call))))),
  values: (
    { kind, field, search, most }: { kind: Kind | "all"; field: string; search: string; most: number },
    call: Call,
  ) =>
    guarded(call, () =>
      fieldValues(
        kindsOf(kind).map((own) => engine.data(own, watching(call))),
        field,
        search,
        most,
      ),
    ),
  items: (
    {
      designs,
      query,
      stretch,
    }: { designs: Designs; query: ItemQuery; stretch: { from: number; count: number; columns: readonly string[] } },
    call: Call,
  ) => guarded(call, () => items.list(designs, query, stretch, watching(call))),
  planEdit: ({ designs, choice, action }: Edit, call: Call) =>
    guarded(call, () => ({ ...planned({ designs, choice, action }), changes: [] })),
  makeEdit: ({ designs, choice, action, now }: Edit & { now: string }, call: Call) =>
    guarded(call, () => {
      const plan = planned({ designs, choice, action });
      return {
        edit: plan.count === 0 ? null : createEdit(db, plan.label, plan.changes, now),
        label: plan.label,
        count: plan.count,
        unchanged: plan.unchanged,
        refused: plan.refused,
      };
    }),
  sheet: ({ designs, kind, id }: { designs: Designs; kind: Kind; id: number }, call: Call) =>
    guarded(call, () => items.sheet(designs, kind, id)),
  idsOf: ({ designs, choice }: { designs: Designs; choice: Choice }, call: Call) =>
    guarded(call, () => idsOf(pagesOf(designs, choice))),
  keywordMatrix: ({ designs }: { designs: Designs }, call: Call) =>
    guarded(call, () => keywords.matrix(designs, watching(call))),
  keywordCoverage: ({ query }: { query: Parameters<KeywordDesk["coverage"]>[0] }) => keywords.coverage(query),
  keywordSuggestions: ({ query }: { query: Parameters<KeywordDesk["suggestions"]>[0] }, call: Call) =>
    guarded(call, () => keywords.suggestions(query, watching(call))),
  keywordsCompeting: ({ designs, query }: { designs: Designs; query: { from: number; count: number } }, call: Call) =>
    guarded(call, () => keywords.competing(designs, query, watching(call))),
  assignKeywords: ({ pages, now }: { pages: readonly Assignment[]; now: string }, call: Call) =>
    guarded(call, () => assigned(pages, now)),
  assignSuggested: (
    { kind, only, now }: { kind: Kind | "all"; only: "list" | "name" | null; now: string },
    call: Call,
  ) =>
    guarded(call, () =>
      assigned(
        keywords
          .suggestions({ kind, from: 0, count: Infinity }, watching(call))
          .suggestions.filter(({ from }) => only === null || from === only),
        now,
      ),
    ),
  compare: (
    {
      kind,
      a,
      b,
      query,
    }: { kind: Kind; a: KindDesign; b: KindDesign; query: { text: TextName; from: number; count: number } },
    call: Call,
  ) => guarded(call, () => compareDesigns(engine, kind, a, b, query, watching(call))),
  preview: (
    { kind, design, when, above, texts }: Proved & { when: RawCondition; above: number; texts: readonly TextName[] },
    call: Call,
  ) =>
    guarded(call, () => {
      const data = engine.data(kind);
      return engine
        .rules(kind)
        .preview(design, when, { above, texts }, (row) => ({
          id: data.ids[row]!,
          name: data.items.value("name", row),
        }));
    }),
  reviewSummary: ({ designs }: { designs: Designs }, call: Call) =>
    guarded(call, () => review.summary(designs, watching(call))),
  reviewList: ({ designs, query }: { designs: Designs; query: { group: ChangeGroup; from: number; count: number } }) =>
    review.list(designs, query),
  chooseGroup: ({ designs, group, included }: { designs: Designs; group: ChangeGroup; included: boolean }) => {
    chooseGroup(db, group, included, review.isOfGroup(designs, group));
    return review.summary(designs);
  },
  chooseChange: ({
    designs,
    id,
    text,
    included,
  }: {
    designs: Designs;
    id: number;
    text: TextName | "robots";
    included: boolean;
  }) => {
    chooseChange(db, changeScope(id, text), included);
    return review.summary(designs);
  },
  freeze: ({ designs, now }: { designs: Designs; now: string }) => review.freeze(designs, now),
};

export type ProofMethods = typeof proofMethods;

serveWorker(proofMethods, stop);
