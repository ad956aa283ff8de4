import * as z from "zod";
import { ALL_CHANGES, REVIEW_ORDERS, REVIEWED_TEXTS } from "../../core/plan/review-filter";
import { CHANGE_GROUPS } from "../../core/plan/groups";
import { endpoint, NOTHING, slowEndpoint } from "../api/endpoint";
import { idSchema, kindSchema, stretchSchema } from "../api/schemas";

const group = z.enum(CHANGE_GROUPS);
const reviewedText = z.enum(REVIEWED_TEXTS);
const folderSchema = z
  .string()
  .max(2000)
  .regex(/^\/(.*\/)?$/, { error: "a folder begins and ends with a slash" });
/** As the query of an address has it, too. */
export const movesFilterSchema = z.object({
  folder: folderSchema.default("/"),
  search: z.string().max(200).default(""),
  show: z.enum(["all", "included", "held"]).default("all"),
});
const filter = z
  .object({
    kind: kindSchema.nullable(),
    text: reviewedText.nullable(),
    words: z.string().max(200),
    rule: z.string().max(120).nullable(),
    category: z.string().max(2000).nullable(),
    finding: z.string().max(80).nullable(),
  })
  .default(ALL_CHANGES);

export const reviewCalls = {
  /** The whole change, live against the stored drafts, in groups. */
  summary: slowEndpoint(z.object({ filter }), (site, asked, { signal, progress }) => {
    // Where the reading of links ended half-way, whoever waits for it has it tried again.
    site.links.kick();
    return site.proof.call("reviewSummary", asked, { signal, progress });
  }),
  /** What the changes can be filtered by beside kinds and texts: rules, categories, findings, with counts. */
  facets: slowEndpoint(NOTHING, (site, _, { signal, progress }) =>
    site.proof.call("reviewFacets", {}, { signal, progress }),
  ),
  list: endpoint(
    stretchSchema.extend({ group, filter, order: z.enum(REVIEW_ORDERS).default("site") }),
    (site, query, { signal }) => site.proof.call("reviewList", { query }, { signal }),
  ),
  /** Every move that the drafts make. */
  moves: endpoint(stretchSchema.extend(movesFilterSchema.shape), (site, asked, { signal }) =>
    site.proof.call("movesList", asked, { signal }),
  ),
  /** How pages go between the folders within one, and how many move at all. */
  folders: slowEndpoint(z.object({ within: folderSchema }), (site, asked, { signal, progress }) =>
    site.proof.call("movesFolders", asked, { signal, progress }),
  ),
  /** What the moves that are taken in bring along. */
  movesAlong: slowEndpoint(
    stretchSchema.extend({ what: z.enum(["links", "redirects"]) }),
    (site, asked, { signal, progress }) => site.proof.call("movesAlong", asked, { signal, progress }),
  ),
  followLinks: endpoint(z.object({ follows: z.boolean(), filter }), (site, asked) =>
    site.proof.call("followLinks", asked),
  ),
  chooseGroup: endpoint(z.object({ group, filter, included: z.boolean() }), (site, asked) =>
    site.proof.call("chooseGroup", asked),
  ),
  chooseShown: endpoint(z.object({ filter, included: z.boolean(), only: z.boolean() }), (site, asked) =>
    site.proof.call("chooseShown", asked),
  ),
  restoreChoices: endpoint(z.object({ filter }), (site, asked) => site.proof.call("restoreChoices", asked)),
  forgetChoices: endpoint(z.object({ filter }), (site, asked) => site.proof.call("forgetChoices", asked)),
  chooseChange: endpoint(
    z.object({
      item: idSchema,
      filter,
      text: reviewedText,
      part: z.number().int().min(0).default(0),
      included: z.boolean(),
    }),
    (site, asked) => site.proof.call("chooseChange", asked),
  ),
};
