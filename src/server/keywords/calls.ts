import * as z from "zod";
import { COVERAGE } from "../../core/keywords/places";
import { Refusal } from "../../core/refusal";
import { clearKeywordList } from "../../store/listed-keywords";
import { endpoint, NOTHING, slowEndpoint } from "../api/endpoint";
import { idSchema, kindSchema, kindsSchema, stretchSchema } from "../api/schemas";
import { madeStep } from "../edits/edit-work";
import { type BroughtKeywords } from "./bring-keywords";
import { type KeywordParams } from "./keyword-work";

const columnSchema = z.number().int().min(0);
const assignmentSchema = z.object({ kind: kindSchema, id: idSchema, keyword: z.string().max(200) });

export const keywordCalls = {
  matrix: slowEndpoint(NOTHING, (site, _, { signal, progress }) =>
    site.proof.call("keywordMatrix", undefined, { signal, progress }),
  ),
  coverage: slowEndpoint(
    stretchSchema.extend({ show: z.enum(COVERAGE), search: z.string().max(200) }),
    (site, query, { signal, progress }) => site.proof.call("keywordCoverage", { query }, { signal, progress }),
  ),
  suggestions: slowEndpoint(stretchSchema.extend({ kind: kindsSchema }), (site, query, { signal, progress }) =>
    site.proof.call("keywordSuggestions", { query }, { signal, progress }),
  ),
  competing: slowEndpoint(stretchSchema, (site, query, { signal, progress }) =>
    site.proof.call("keywordsCompeting", { query }, { signal, progress }),
  ),
  /** Gives pages their keywords, as one step that can be taken back. */
  assign: slowEndpoint(
    z.object({ pages: z.array(assignmentSchema).max(50_000) }),
    async (site, { pages }, { client, progress }) =>
      madeStep(site, await site.proof.call("assignKeywords", { pages, now: site.now() }, { progress }), client),
  ),
  /** Gives every page the keyword that is suggested for it: of the list, of their own names, or both. */
  assignSuggested: slowEndpoint(
    z.object({ kind: kindsSchema, only: z.enum(["list", "name"]).nullable() }),
    async (site, asked, { client, progress }) =>
      madeStep(site, await site.proof.call("assignSuggested", { ...asked, now: site.now() }, { progress }), client),
  ),
  /** Puts a list that was looked at on the site's; says what came of it when it is there. */
  bringIn: slowEndpoint(
    z.object({
      token: z.string().max(64),
      mapping: z.object({ keyword: columnSchema, volume: columnSchema.nullable(), firstToo: z.boolean() }),
    }),
    async (site, params: KeywordParams, { client }): Promise<BroughtKeywords> => {
      const label = "Importing keywords";
      const { id } = site.jobs.add({ type: "keywords", label, params, total: null, begunBy: client });
      const job = await site.jobs.ended(id);
      if (job.state !== "done") throw new Refusal("invalid", job.message ?? "It was stopped before its end");
      return job.result as BroughtKeywords;
    },
  ),
  /** Takes every keyword off the list; pages keep theirs. */
  clear: endpoint(NOTHING, (site) => ({ cleared: clearKeywordList(site.db) })),
};
