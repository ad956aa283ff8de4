import * as z from "zod";
import { idSchema, kindSchema } from "../api/schemas";
import { endpoint, NOTHING } from "../api/endpoint";

export const extraCalls = {
  /** The extra texts of one page, on the site and under the drafts. */
  page: endpoint(z.object({ kind: kindSchema, id: idSchema }), (site, asked, { signal }) =>
    site.proof.call("extrasOfPage", asked, { signal }),
  ),
  /** What the drafts make of the extra texts that are switched on. */
  prove: endpoint(NOTHING, (site, _, { signal, client }) =>
    site.proof.call("extras", undefined, { lane: `extras ${client}`, signal }),
  ),
};
