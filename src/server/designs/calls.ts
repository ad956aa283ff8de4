import { kindDesignSchema } from "../../core/design/schema";
import * as z from "zod";
import { deleteVersion, listVersions, readVersion } from "../../store/versions";
import { endpoint, slowEndpoint } from "../api/endpoint";
import { designNameSchema, idSchema, kindSchema } from "../api/schemas";
import { firstDesigns, takeFirstDesigns } from "./first-designs";
import { chooseVersion, saveDraft, saveNamedVersion } from "./design-cases";

const ofKind = z.object({ kind: kindSchema });

export const designCalls = {
  /** Stores a draft as it is typed. */
  save: endpoint(ofKind.extend({ design: kindDesignSchema, seen: z.number().int().min(0) }), (site, asked) =>
    saveDraft(site, asked.kind, asked.design, asked.seen),
  ),
  versions: endpoint(ofKind, (site, { kind }) => listVersions(site.db, kind)),
  saveVersion: endpoint(
    ofKind.extend({ name: z.string().trim().min(1).max(100), design: kindDesignSchema.optional() }),
    (site, { kind, name, design }) => saveNamedVersion(site, kind, name, design),
  ),
  /** Makes a version the draft. */
  choose: endpoint(ofKind.extend({ which: designNameSchema }), (site, { kind, which }) =>
    chooseVersion(site, kind, which),
  ),
  /** First lines for the kinds that have none, of what their pages have. */
  propose: slowEndpoint(z.object({}), (site) => firstDesigns(site)),
  /** Makes those of some kinds their drafts. */
  takeProposed: slowEndpoint(z.object({ kinds: z.array(kindSchema).min(1) }), (site, { kinds }) =>
    takeFirstDesigns(site, kinds),
  ),
  /** Deletes a version; gives it whole, so that it can be saved again. */
  deleteVersion: endpoint(z.object({ id: idSchema }), (site, { id }) => {
    const version = readVersion(site.db, id);
    deleteVersion(site.db, id);
    return version;
  }),
};
