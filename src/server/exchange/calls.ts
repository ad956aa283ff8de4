import { z } from "zod";
import { fieldFormatSchema } from "../../core/design/design";
import { TARGETS } from "../../core/design/import-targets";
import { KINDS } from "../../core/design/kinds";
import { BY_HAND_CHOICES } from "../../core/infer/by-hand";
import { endpoint, slowEndpoint } from "../api/endpoint";
import { adoptLinesFile, reviewLinesFile } from "./exchange-lines";
import { type ImportParams } from "./import-work";
import { foresee } from "./foresee";
import { uploadedFile } from "./uploads";

const linesFile = z.object({
  name: z.string().max(200),
  text: z.string().max(20_000_000, { error: "the file is larger than 20 MB; no lines file is" }),
});

const mapping = z.object({
  targets: z.array(z.enum(TARGETS)).max(4000),
  kind: z.enum(KINDS),
  formats: z.array(fieldFormatSchema.nullable()).max(4000).optional(),
});

export const exchangeCalls = {
  /** What bringing a received file in would do; nothing is written. */
  foresee: slowEndpoint(z.object({ token: z.string(), mapping }), (site, asked, { signal, progress }) =>
    foresee(site.db, uploadedFile(asked.token), asked.mapping, { signal, progress }),
  ),
  /** Begins to bring a received file in; its progress is a job. */
  bringIn: endpoint(
    z.object({
      token: z.string(),
      name: z.string().max(300),
      mapping,
      byHand: z.enum(BY_HAND_CHOICES).default("unexplained"),
      /** How many rows the file has, where that is known already. */
      rows: z.number().int().min(0).nullable().default(null),
    }),
    (site, { rows, ...params }: ImportParams & { rows: number | null }, { client }) => {
      uploadedFile(params.token);
      const label = `Bringing in ${params.name}`;
      return { job: site.jobs.add({ type: "import", label, params, total: rows, begunBy: client }).id };
    },
  ),
  /** What a lines file would change. */
  reviewLines: endpoint(linesFile, (site, { name, text }) => reviewLinesFile(site.db, name, text)),
  /** Takes a lines file over into the drafts, and the site's settings where that is wanted. */
  adoptLines: endpoint(linesFile.extend({ site: z.boolean() }), (site, asked) =>
    adoptLinesFile(site.db, asked.name, asked.text, asked.site, site.now()),
  ),
};
