import { z } from "zod";
import { EXTRAS } from "../../core/design/kinds";
import { CHANGE_GROUPS } from "../../core/plan/groups";
import { endpoint, NOTHING, slowEndpoint } from "../api/endpoint";
import { idSchema, stretchSchema, textSchema } from "../api/schemas";

const group = z.enum(CHANGE_GROUPS);

export const reviewCalls = {
  /** The whole change, live against the stored drafts, in groups. */
  summary: slowEndpoint(NOTHING, (site, _, { signal, progress }) =>
    site.proof.call("reviewSummary", undefined, { signal, progress }),
  ),
  list: endpoint(stretchSchema.extend({ group }), (site, query, { signal }) =>
    site.proof.call("reviewList", { query }, { signal }),
  ),
  chooseGroup: endpoint(z.object({ group, included: z.boolean() }), (site, asked) =>
    site.proof.call("chooseGroup", asked),
  ),
  chooseChange: endpoint(
    z.object({
      item: idSchema,
      text: z.union([textSchema, z.literal("robots"), z.enum(EXTRAS)]),
      part: z.number().int().min(0).default(0),
      included: z.boolean(),
    }),
    (site, asked) => site.proof.call("chooseChange", asked),
  ),
};
