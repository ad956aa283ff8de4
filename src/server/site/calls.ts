import { siteSchema } from "../../core/design/schema";
import * as z from "zod";
import { endpoint, NOTHING } from "../api/endpoint";
import { saveSettings, siteState } from "./site-state";

export const siteCalls = {
  state: endpoint(NOTHING, (site) => siteState(site)),
  /** Stores the site's settings, unless they were changed elsewhere since the writer saw them. */
  saveSettings: endpoint(z.object({ site: siteSchema, seen: siteSchema }), (opened, { site, seen }) =>
    saveSettings(opened, site, seen),
  ),
};
