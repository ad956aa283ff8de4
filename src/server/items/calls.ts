import * as z from "zod";
import { EMPTY_DESIGN } from "../../core/design/design";
import { readDraft } from "../../store/drafts";
import { forgetView, listViews, putView } from "../../store/named-views";
import { historyOfItem } from "../../store/runs";
import { endpoint, NOTHING, slowEndpoint } from "../api/endpoint";
import { choiceSchema, goneChoiceSchema, idSchema, itemQuerySchema, kindSchema, stretchSchema } from "../api/schemas";
import { bringPagesBack, deletePages, goneList } from "./gone-pages";
import { ruleFor } from "../designs/design-cases";

const viewName = z.string().trim().min(1, { error: "a view needs a name" }).max(100);

export const itemCalls = {
  /** All pages with what was found in them. */
  list: slowEndpoint(
    stretchSchema.extend({ query: itemQuerySchema, columns: z.array(z.string().max(200)).max(60) }),
    (site, { query, ...stretch }, { signal, progress, client }) =>
      site.proof.call("items", { query, stretch }, { lane: `items/${client}/${stretch.from}`, signal, progress }),
  ),
  /** One page whole, with its findings and what runs did to it; `null` where there is none. */
  sheet: endpoint(z.object({ kind: kindSchema, id: idSchema }), async (site, { kind, id }) => {
    const design = readDraft(site.db, kind).design ?? EMPTY_DESIGN;
    const [sheet, row] = await Promise.all([
      site.proof.call("sheet", { kind, id }),
      site.proof.call("item", { kind, design, text: "title", id }),
    ]);
    return sheet && row ? { ...sheet, row, history: historyOfItem(site.db, id) } : null;
  }),
  /** Puts a rule for just the chosen pages into their kind's draft. */
  makeRule: endpoint(z.object({ choice: choiceSchema }), (site, { choice }) => ruleFor(site, choice)),
  /** The pages that are gone: those behind an id. */
  gone: endpoint(z.object({ after: z.number().int().min(0), search: z.string().max(300).default("") }), (site, asked) =>
    goneList(site.db, asked),
  ),
  /** Brings pages that are gone back as they were. */
  bringBack: endpoint(z.object({ pages: goneChoiceSchema }), (site, { pages }) => bringPagesBack(site.db, pages)),
  /** Deletes pages that are gone for good; `count` is how many the person typed that there are. */
  deleteGone: endpoint(
    z.object({ pages: goneChoiceSchema, count: z.number().int().min(1) }),
    (site, { pages, count }) => deletePages(site.db, pages, count),
  ),
  /** The views of the list that were kept under a name. */
  views: endpoint(NOTHING, (site) => listViews(site.db)),
  putView: endpoint(z.object({ name: viewName, query: z.string().max(20_000) }), (site, view) => {
    putView(site.db, view, site.now());
    return listViews(site.db);
  }),
  forgetView: endpoint(z.object({ name: viewName }), (site, { name }) => {
    forgetView(site.db, name);
    return listViews(site.db);
  }),
};
