import { type KindDesign } from "../core/design/design";
import { type Kind } from "../core/design/kinds";
import { ALL_PAGES, type ItemQuery } from "../core/items/query";
import { applyEdit } from "../server/edits/apply-edit";
import { ItemsList } from "../server/items/items-list";
import { planEdit } from "../server/edits/plan-edit";
import { type Workspace } from "../server/workspace/workspace";
import { type SiteFindings } from "../server/findings/site-findings";
import { createEdit } from "../store/edits";
import { type Db } from "../store/open";
import { syncSearch } from "../store/search";
import { type Figure } from "./measure";

const QUERY: ItemQuery = ALL_PAGES;
/** As many pages as a screen asks for. */
const SCREEN = { from: 0, count: 80, columns: [] };
const EDITED = 50_000;

/** What the list of all pages is asked for, each a few times over, with other words and orders. */
const QUESTIONS: Readonly<Record<string, readonly Partial<ItemQuery>[]>> = {
  filter: [
    { findings: [{ subject: "title", id: "too-wide" }] },
    { where: { field: "material", is: "bronze" } },
    { mark: "changes" },
    { kind: "product", side: "draft", findings: [{ subject: "description", id: "duplicate" }] },
    {
      where: {
        all: [
          { field: "price", ">": "50" },
          { field: "colour", "is one of": ["red", "navy"] },
        ],
      },
    },
  ],
  sort: [
    { sort: "title", down: true },
    { sort: "field:price" },
    { sort: "findings", down: true },
    { sort: "field:category", down: true },
    { sort: "description" },
  ],
  search: [
    { search: "bronze cleat" },
    { search: "“mooring cleat”" },
    { search: "rope" },
    { search: "cast foundry" },
    { search: "halyard 8 mm" },
  ],
  group: [{ group: "category" }, { group: "finding" }, { group: "rule" }],
};

const median = (times: readonly number[]) => [...times].sort((a, b) => a - b)[times.length >> 1]!;

/** How soon the list of all pages answers, and what an edit of many pages takes, on the set that the engine holds. */
export function itemsFigures(
  db: Db,
  engine: Workspace,
  findings: SiteFindings,
  designs: Readonly<Record<Kind, KindDesign>>,
  bareMs: number,
): Figure[] {
  const list = new ItemsList(engine, findings);
  const pages = list.list(designs, QUERY, SCREEN).total.toLocaleString("en");
  syncSearch(db, engine.data("product").revision);
  // Sorting by a field works its order out once; that is not what is asked for again and again.
  for (const change of QUESTIONS["sort"]!) list.list(designs, { ...QUERY, ...change }, SCREEN);
  const figures: Figure[] = Object.entries(QUESTIONS).map(([name, questions]) => {
    const times = questions.flatMap((change, i) =>
      [0, 1, 2].map((round) => {
        // Another kind of question between two: an order that is remembered would answer at once.
        list.list(designs, { ...QUERY, kind: "category", search: `${name}${i}${round}` }, SCREEN);
        const begin = performance.now();
        list.list(designs, { ...QUERY, ...change, down: round % 2 === 1 }, SCREEN);
        return performance.now() - begin;
      }),
    );
    return {
      name: `${name} the list of ${pages} pages`,
      ms: median(times),
      baseline: "concatenate and sum widths",
      baselineMs: bareMs,
      bound: name === "group" ? undefined : "under 150 ms",
      holds: median(times) < 150,
    } as Figure;
  });
  const chosen = list.chosen(designs, { ...QUERY, kind: "product" }, [[0, EDITED]]);
  const begin = performance.now();
  const plan = planEdit(engine.site(), chosen, {
    type: "replace",
    field: "title",
    find: "e",
    replace: "ee",
    matchCase: true,
    wholeWords: false,
    pattern: false,
  });
  const edit = createEdit(db, plan.label, plan.changes, new Date().toISOString());
  applyEdit(db, edit, "set");
  const done = performance.now();
  list.list(designs, QUERY, SCREEN);
  figures.push(
    {
      name: `find and replace in ${plan.changes.length.toLocaleString("en")} titles, set by hand`,
      ms: done - begin,
      baseline: "concatenate and sum widths",
      baselineMs: bareMs,
    },
    {
      name: "the list with all findings again after it",
      ms: performance.now() - done,
      baseline: "concatenate and sum widths",
      baselineMs: bareMs,
    },
  );
  return figures;
}
