import { kindDesignSchema } from "../../core/design/schema";
import * as z from "zod";
import { conditionSchema } from "../../core/rules/condition";
import { endpoint, NOTHING, slowEndpoint } from "../api/endpoint";
import {
  designNameSchema,
  idSchema,
  kindSchema,
  kindsSchema,
  rowQuerySchema,
  stretchSchema,
  textSchema,
} from "../api/schemas";
import { designNamed } from "../designs/design-cases";

const rows = rowQuerySchema.extend({ kind: kindSchema, design: kindDesignSchema });
/** So many values of a field are given at once. */
const MOST_VALUES = 200;

export const benchCalls = {
  /** The drafts of every kind proved over the whole site. */
  board: slowEndpoint(NOTHING, (site, _, { signal, progress, client }) =>
    site.proof.call("board", undefined, { lane: `board ${client}`, signal, progress }),
  ),
  /** A design's figures over the whole set, and over the part in view; a newer one of the same window takes its place. */
  prove: slowEndpoint(
    z.object({ kind: kindSchema, design: kindDesignSchema, scope: z.string().max(60), text: textSchema }),
    async (site, { kind, design, ...view }, { signal, progress, client }) => {
      const from = performance.now();
      const asked = { kind, design, view };
      const proved = await site.proof.call("prove", asked, { lane: `prove ${client}`, signal, progress });
      return { proved, ms: performance.now() - from };
    },
  ),
  /** What a design does to addresses over the whole set; a newer one of the same window takes its place. */
  addresses: endpoint(z.object({ kind: kindSchema, design: kindDesignSchema }), (site, asked, { signal, client }) =>
    site.proof.call("addresses", asked, { lane: `addresses ${client}`, signal }),
  ),
  rows: endpoint(rows, (site, { kind, design, ...query }, { signal }) =>
    site.proof.call("rows", { kind, design, query }, { signal }),
  ),
  item: endpoint(
    z.object({ kind: kindSchema, design: kindDesignSchema, text: textSchema, id: idSchema }),
    (site, asked) => site.proof.call("item", asked),
  ),
  fields: endpoint(z.object({ kind: kindsSchema }), (site, asked) => site.proof.call("fields", asked)),
  /** Values of a field that hold what is looked for, with how many items have each. */
  values: endpoint(
    z.object({ kind: kindsSchema, field: z.string().min(1).max(200), search: z.string().max(200) }),
    (site, asked, { signal, client }) =>
      site.proof.call("values", { ...asked, most: MOST_VALUES }, { lane: `values ${client}`, signal }),
  ),
  /** What a condition would take before it is a rule. */
  preview: endpoint(
    z.object({
      kind: kindSchema,
      design: kindDesignSchema,
      when: conditionSchema,
      above: z.number().int().min(0),
      texts: z.array(textSchema),
    }),
    (site, asked, { signal, client }) => site.proof.call("preview", asked, { lane: `preview ${client}`, signal }),
  ),
  /** Two designs of a kind side by side over the whole set. */
  compare: slowEndpoint(
    stretchSchema.extend({ kind: kindSchema, a: designNameSchema, b: designNameSchema, text: textSchema }),
    (site, { kind, a, b, ...query }, { signal, progress, client }) =>
      site.proof.call(
        "compare",
        { kind, a: designNamed(site, kind, a), b: designNamed(site, kind, b), query },
        { lane: `compare ${client} ${query.from}`, signal, progress },
      ),
  ),
};
