import { endpoint, NOTHING } from "../api/endpoint";

export const extraCalls = {
  /** What the drafts make of the extra texts that are switched on. */
  prove: endpoint(NOTHING, (site, _, { signal, client }) =>
    site.proof.call("extras", undefined, { lane: `extras ${client}`, signal }),
  ),
};
