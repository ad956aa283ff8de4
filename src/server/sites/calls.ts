import { siteSchema } from "../../core/design/schema";
import * as z from "zod";
import { endpoint, NOTHING } from "../api/endpoint";
import {
  backUpNow,
  siteOfBackup,
  duplicateSite,
  listSites,
  makeDemo,
  makeEmpty,
  removeOpened,
  renewDemo,
  type SiteList,
} from "./site-cases";
import { bringBack } from "./site-files";
import { type Sites } from "./sites";

const id = z.object({ id: z.string() });
/** What a new site is begun with. */
const newSite = z.object({
  name: z.string().trim().min(1, { error: "the site needs a name" }).max(100),
  baseUrl: siteSchema.shape.baseUrl,
  language: siteSchema.shape.language,
});

/** What can be asked of all sites together. */
export const sitesCalls = {
  sites: {
    list: endpoint<typeof NOTHING, SiteList, Sites>(NOTHING, (sites) => listSites(sites)),
    /** Makes a site without pages. */
    make: endpoint<typeof newSite, { id: string }, Sites>(newSite, (_, site) => ({ id: makeEmpty(site) })),
    /** Makes the demo site anew, beside one that is there already. */
    makeDemo: endpoint<typeof NOTHING, { id: string }, Sites>(NOTHING, async () => ({ id: await makeDemo() })),
    /** Moves a demo site aside and makes it anew. */
    renewDemo: endpoint<typeof id, { id: string }, Sites>(id, async (sites, own) => ({
      id: await renewDemo(sites, own.id),
    })),
    duplicate: endpoint<typeof id, { id: string }, Sites>(id, async (_, own) => ({ id: await duplicateSite(own.id) })),
    /** Moves a site aside; it can be brought back for some time. */
    remove: endpoint<typeof id, SiteList, Sites>(id, (sites, own) => removeOpened(sites, own.id)),
    /** Backs a site up now, beside those that are made each day. */
    backUp: endpoint<typeof id, SiteList, Sites>(id, async (sites, own) => {
      await backUpNow(own.id);
      return listSites(sites);
    }),
    /** Makes a site of a back-up, beside the one that it is of. */
    ofBackup: endpoint<z.ZodObject<{ file: z.ZodString }>, { id: string }, Sites>(
      z.object({ file: z.string() }),
      async (_, { file }) => ({ id: await siteOfBackup(file) }),
    ),
    bringBack: endpoint<z.ZodObject<{ file: z.ZodString }>, { id: string }, Sites>(
      z.object({ file: z.string() }),
      (_, { file }) => ({ id: bringBack(file) }),
    ),
  },
};
