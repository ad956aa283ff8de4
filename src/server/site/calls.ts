import { siteSchema } from "../../core/design/schema";
import * as z from "zod";
import { endpoint, NOTHING } from "../api/endpoint";
import { saveSettings, siteState } from "./site-state";

export const siteCalls = {
  state: endpoint(NOTHING, (site) => siteState(site)),
  /** Stores the site's settings, unless they were changed elsewhere since the writer saw them. */
  saveSettings: endpoint(z.object({ site: siteSchema, seen: siteSchema }), (opened, { site, seen }) => {
    const saved = saveSettings(opened, site, seen);
    // With another address of the site other links lead inside it.
    opened.links.kick();
    return saved;
  }),
  /** How many pages have another address once the drafts are applied, if these settings were those. */
  settingsMoves: endpoint(z.object({ from: siteSchema, to: siteSchema }), async (opened, asked, { signal }) => ({
    pages: await opened.proof.call("settingsMoves", asked, { signal }),
  })),
};
