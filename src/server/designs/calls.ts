import { z } from "zod";
import { kindDesignSchema } from "../../core/design/design";
import { forgetNamedDraft, listNamedDrafts } from "../../store/named-drafts";
import { endpoint, slowEndpoint } from "../api/endpoint";
import { designNameSchema, idSchema, kindSchema } from "../api/schemas";
import { firstDesigns, takeFirstDesigns } from "./first-designs";
import { chooseDraft, keepDraft, nameDraft, saveDraft } from "./design-cases";

const ofKind = z.object({ kind: kindSchema });

export const designCalls = {
  /** Stores a draft as it is typed. */
  save: endpoint(ofKind.extend({ design: kindDesignSchema, seen: z.number().int().min(0) }), (site, asked) =>
    saveDraft(site, asked.kind, asked.design, asked.seen),
  ),
  keep: endpoint(ofKind, (site, { kind }) => keepDraft(site, kind)),
  named: endpoint(ofKind, (site, { kind }) => listNamedDrafts(site.db, kind)),
  putAside: endpoint(ofKind.extend({ name: z.string().trim().min(1).max(100) }), (site, { kind, name }) =>
    nameDraft(site, kind, name),
  ),
  /** Makes a kept or named design the draft. */
  choose: endpoint(ofKind.extend({ which: designNameSchema }), (site, { kind, which }) =>
    chooseDraft(site, kind, which),
  ),
  /** First lines for the kinds that have none, of what their pages have. */
  propose: slowEndpoint(z.object({}), (site) => firstDesigns(site)),
  /** Makes those of some kinds their drafts. */
  takeProposed: slowEndpoint(z.object({ kinds: z.array(kindSchema).min(1) }), (site, { kinds }) =>
    takeFirstDesigns(site, kinds),
  ),
  forget: endpoint(z.object({ id: idSchema }), (site, { id }) => forgetNamedDraft(site.db, id)),
};
