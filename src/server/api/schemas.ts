import { kindIdSchema } from "../../core/design/kind-schema";
import * as z from "zod";
import { FINDINGS, type FindingId, SIDES, type Subject } from "../../core/checks/findings";
import { TEXTS } from "../../core/design/kinds";
import { DIFFERENCES, ITEM_GROUPS, ITEM_MARKS, ITEM_SORTS } from "../../core/items/query";
import { FILTERS, SORTS } from "../../core/proof/row-views";
import { conditionSchema } from "../../core/rules/condition";

export const kindSchema = kindIdSchema;
export const kindsSchema = z.union([z.literal("all"), kindSchema]);
export const textSchema = z.enum(TEXTS);
export const idSchema = z.number().int();

/** Some of the pages that are gone, or all. */
export const goneChoiceSchema = z.union([
  z.strictObject({ search: z.string().max(300) }),
  z.array(idSchema).min(1).max(1000),
]);

/** A stretch of a list. */
export const stretchSchema = z.object({ from: z.number().int().min(0), count: z.number().int().min(0).max(500) });

export const rowQuerySchema = stretchSchema.extend({
  text: textSchema,
  scope: z.string().max(60),
  sort: z.enum(SORTS),
  filter: z.enum(FILTERS),
  search: z.string().max(200),
});

/** What a design is called in a comparison: `draft`, `live`, or the number of a version. */
export const designNameSchema = z.string().regex(/^(draft|live|\d{1,12})$/, { error: "that is no version" });

const findingSchema = z
  .object({ subject: z.enum(Object.keys(FINDINGS) as [Subject, ...Subject[]]), id: z.string().max(60) })
  .refine(({ subject, id }) => FINDINGS[subject].some((kind) => kind.id === id), { error: "there is no such finding" })
  .transform(({ subject, id }) => ({ subject, id: id as FindingId }));

/** Which pages are wanted, and in what order. */
export const itemQuerySchema = z.object({
  kind: kindsSchema,
  side: z.enum(SIDES),
  findings: z.array(findingSchema).max(60),
  difference: z.enum(DIFFERENCES).nullable(),
  where: conditionSchema.nullable(),
  mark: z.enum(ITEM_MARKS).nullable(),
  search: z.string().max(200),
  sort: z.union([z.enum(ITEM_SORTS), z.string().regex(/^field:.{1,200}$/u)]),
  down: z.boolean(),
  group: z.enum(ITEM_GROUPS).nullable(),
});

const place = z.number().int().min(0);
const ranges = z.array(z.tuple([place, place])).max(10_000);

/** Chosen pages: places in a query's order, or one page. */
export const choiceSchema = z.union([
  z.object({ query: itemQuerySchema, ranges, order: z.string().max(60) }),
  z.object({ kind: kindSchema, id: idSchema }),
]);
