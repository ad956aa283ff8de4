import { kindIdSchema, kindInfoSchema } from "../../core/design/kind-schema";
import { fieldFormatSchema } from "../../core/design/schema";
import * as z from "zod";
import { TARGETS } from "../../core/design/import-targets";
import { MOST_OWN_KINDS } from "../../core/design/kinds";
import { BY_HAND_CHOICES } from "../../core/infer/by-hand";
import { importChangesAfter } from "../../store/import-changes";
import { listImports } from "../../store/imports";
import { endpoint, NOTHING, slowEndpoint } from "../api/endpoint";
import { adoptLinesFile, reviewLinesFile } from "./exchange-lines";
import { type ImportParams, startImportBack } from "./import-work";
import { existingImport } from "./imports";
import { idSchema } from "../api/schemas";
import { makePagesFile, pagesOutSchema } from "./out-files";
import { firstLook } from "./bring-in";
import { inFileThread } from "../sites/file-thread";
import { foresee } from "./foresee";
import { uploadedFile } from "./uploads";

/** So many bringings in are listed, and so many pages of one given at once. */
const MOST_IMPORTS = 100;
const PAGE = 200;

const linesFile = z.object({
  name: z.string().max(200),
  text: z.string().max(20_000_000, { error: "the file is larger than 20 MB; no lines file is" }),
});

const mapping = z.object({
  targets: z.array(z.enum(TARGETS)).max(4000),
  kind: kindIdSchema,
  formats: z.array(fieldFormatSchema.nullable()).max(4000).optional(),
  kinds: z.array(kindInfoSchema).max(MOST_OWN_KINDS).optional(),
});

export const exchangeCalls = {
  /** Reads another sheet of a received spreadsheet, and takes a first look at it. */
  chooseSheet: endpoint(
    z.object({ token: z.string(), name: z.string().max(300), sheet: z.string().max(300) }),
    async (site, { token, name, sheet }) => {
      uploadedFile(token);
      await inFileThread((files) => files.call("makeRows", { token, sheet }));
      return firstLook(site.db, token, name);
    },
  ),
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
      /** Whether the file has all pages of its kinds: those that it does not have are gone. */
      areAll: z.boolean().default(false),
      /** How many rows the file has, where that is known already. */
      rows: z.number().int().min(0).nullable().default(null),
    }),
    (site, { rows, ...params }: ImportParams & { rows: number | null }, { client }) => {
      uploadedFile(params.token);
      const label = `Importing ${params.name}`;
      return { job: site.jobs.add({ type: "import", label, params, total: rows, begunBy: client }).id };
    },
  ),
  /** Makes a file of pages with their texts before and after; says how many pages are in it so far, and gives its token. */
  takeOutPages: slowEndpoint(pagesOutSchema, (site, asked, asking) => makePagesFile(site, asked, asking)),
  /** The files that were brought in, the newest first. */
  imports: endpoint(NOTHING, (site) => listImports(site.db, MOST_IMPORTS)),
  import: endpoint(z.object({ id: idSchema }), (site, { id }) => existingImport(site.db, id)),
  /** What bringing a file in did to pages: those behind a page's id. */
  importChanges: endpoint(z.object({ id: idSchema, after: z.number().int().min(0) }), (site, { id, after }) => {
    const changes = importChangesAfter(site.db, id, after, PAGE);
    return { changes, isWhole: changes.length < PAGE };
  }),
  /** Begins to take back what bringing a file in did. */
  takeImportBack: endpoint(z.object({ id: idSchema }), (site, { id }, { client }) => ({
    job: startImportBack(site, id, client),
  })),
  /** What a lines file would change. */
  reviewLines: endpoint(linesFile, (site, { name, text }) => reviewLinesFile(site.db, name, text)),
  /** Takes a lines file over into the drafts, and the site's settings where that is wanted. */
  adoptLines: endpoint(linesFile.extend({ site: z.boolean() }), (site, asked) =>
    adoptLinesFile(site.db, asked.name, asked.text, asked.site, site.now()),
  ),
};
