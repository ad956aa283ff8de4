import { SLASH_ENDS } from "../addresses/address-targets";
import * as z from "zod";
import { checksSchema } from "../checks/schema";
import { SLUG_FAULTS } from "../checks/slug-fault-ids";
import { FONT_IDS } from "../measure/font-id";
import { surfacesOf } from "../measure/surface";
import { conditionSchema } from "../rules/condition";
import { SLUG_DEFAULTS } from "../slugs/options";
import { DAY_FORMATS, NUMBER_FORMATS } from "../text/figures";
import { kindIdSchema, kindInfoSchema } from "./kind-schema";
import { kindIds, kindOf, MOST_OWN_KINDS } from "./kinds";
import { ROBOTS } from "./robots";

/** Longest line that is stored; the parser refuses shorter ones still, with a message of its own. */
const LINE = z.string().max(100_000);

/** The three lines of a base or a rule, those of the extra texts, and its robots setting; one left out is not set there. */
export const linesSchema = z.object({
  title: LINE.optional(),
  description: LINE.optional(),
  slug: LINE.optional(),
  alt: LINE.optional(),
  keywords: LINE.optional(),
  canonical: LINE.optional(),
  robots: z
    .enum(ROBOTS, {
      error: (issue) =>
        `“${String(issue.input)}” is no robots setting; there are ${ROBOTS.map((one) => `“${one}”`).join(", ")}`,
    })
    .optional(),
});
export type Lines = z.infer<typeof linesSchema>;

/** What a rule is called, what it takes, and the lines it sets. One that is switched off takes nothing. */
const writtenRuleSchema = linesSchema.extend({
  name: z.string().max(200),
  when: conditionSchema,
  off: z.boolean().optional(),
});

/** A rule of a kind. `id` tells it from the others of its kind, whatever it is called. */
export const ruleSchema = writtenRuleSchema.extend({ id: z.string().min(1).max(60) });
export type Rule = z.infer<typeof ruleSchema>;

/** So many rules a kind may have. */
export const MOST_RULES = 5000;

/** Which pages a slug line and an address line may move: those without an address alone, those whose slug has a fault, too, or all. */
export const MOVES = ["new", "found", "all"] as const;

/** How a kind’s addresses are put together, and which pages may move for it; left out, pages stay in their folders. */
const addressSchema = z.object({
  address: LINE.optional(),
  moves: z.enum(MOVES).optional(),
  movesFor: z.array(z.enum(SLUG_FAULTS)).optional(),
});

/** The lines of one kind: its rules in their order, the first match wins, and what everything else gets. */
export const kindDesignSchema = addressSchema.extend({
  base: linesSchema,
  rules: z.array(ruleSchema).max(MOST_RULES).default([]),
});
export type KindDesign = z.infer<typeof kindDesignSchema>;

/** A surface as a site has it: one of the known ones with figures of its own, or one that only this site has. */
const surfaceSchema = z.object({
  id: z.string().regex(/^[a-z0-9][a-z0-9-]{0,39}$/, { error: "an id is of small letters, digits and hyphens" }),
  label: z.string().trim().min(1, { error: "a surface needs a name" }).max(80),
  font: z.enum(FONT_IDS),
  size: z.number().min(6, { error: "at least 6 px" }).max(96, { error: "at most 96 px" }),
  width: z.number().min(40, { error: "at least 40 px" }).max(4000, { error: "at most 4,000 px" }),
  lines: z.number().int().min(1, { error: "at least one line" }).max(20, { error: "at most 20 lines" }),
  total: z.number().min(40, { error: "at least 40 px" }).max(20_000).nullable(),
  mark: z.string().max(8),
});

const textLimitsSchema = z.object({
  surfaces: z.array(z.string().max(40)).optional(),
  chars: z.number().int().positive().nullable().optional(),
});

/** How the figures of a field are written. */
export const fieldFormatSchema = z.object({
  number: z.enum(NUMBER_FORMATS).optional(),
  day: z.enum(DAY_FORMATS).optional(),
});

const siteObject = z.object({
  name: z.string().max(200).default(""),
  tagline: z.string().max(400).default(""),
  sep: z.string().max(20).default("–"),
  baseUrl: z.string().max(400).default(""),
  language: z.string().max(20).default("en"),
  /** The site's own kinds of page, and known ones that it calls otherwise. */
  kinds: z.array(kindInfoSchema).max(MOST_OWN_KINDS).default([]),
  /** How the files of a kind write the figures of a field: found when they are brought in, correctable there. */
  formats: z.record(kindIdSchema, z.record(z.string().max(200), fieldFormatSchema)).default({}),
  /** Words that keep their spelling when the case around them is changed: names, units, abbreviations. */
  fixedWords: z.array(z.string().trim().min(1).max(60)).max(5000).default([]),
  limits: z.object({ title: textLimitsSchema.optional(), description: textLimitsSchema.optional() }).default({}),
  slug: z
    .object({
      dropStopWords: z.boolean().default(SLUG_DEFAULTS.dropStopWords),
      dropNumbers: z.boolean().default(SLUG_DEFAULTS.dropNumbers),
      keepUnicode: z.boolean().default(SLUG_DEFAULTS.keepUnicode),
      max: z.number().int().min(5).max(400).default(SLUG_DEFAULTS.max),
    })
    .default(SLUG_DEFAULTS),
  /** Surfaces with other figures than the known ones, and the site's own. */
  surfaces: z.array(surfaceSchema).max(40).default([]),
  /** Whether a query does not belong to an address, so that `/rope?p=1` and `/rope?p=2` are one page. */
  dropQueries: z.boolean().default(false),
  /** Slugs that the site itself answers at: no page may have one. */
  /** Whether addresses that address lines put together end in a slash. */
  slashEnd: z.enum(SLASH_ENDS).default("as-it-is"),
  reserved: z.array(z.string().trim().min(1).max(100)).max(500).default([]),
  /** Which extra texts are designed. */
  extras: z
    .object({
      alt: z.boolean().default(false),
      keywords: z.boolean().default(false),
      canonical: z.boolean().default(false),
    })
    .prefault({}),
  checks: checksSchema.prefault({}),
});

/** What a site is and how its texts are measured. Every figure of the trade is here, none in code. */
export const siteSchema = siteObject.superRefine((site, context) => {
  const known = surfacesOf(site).map(({ id }) => id);
  const twice = site.surfaces.find(({ id }, i) => site.surfaces.findIndex((own) => own.id === id) !== i);
  if (twice)
    context.addIssue({ code: "custom", path: ["surfaces"], message: `two surfaces have the id “${twice.id}”` });
  const other = site.kinds.findIndex(({ id }, i) => site.kinds.findIndex((own) => own.id === id) !== i);
  if (other >= 0)
    context.addIssue({
      code: "custom",
      path: ["kinds", other, "id"],
      message: `two kinds have the id “${site.kinds[other]!.id}”`,
    });
  for (const text of ["title", "description"] as const) {
    (site.limits[text]?.surfaces ?? []).forEach((id, i) => {
      if (!known.includes(id))
        context.addIssue({
          code: "custom",
          path: ["limits", text, "surfaces", i],
          message: `there is no surface “${id}”; there are ${known.join(", ")}`,
        });
    });
  }
});
export type Site = z.infer<typeof siteSchema>;

const linesFileObject = z.object({
  format: z.literal("nine-lines/1", { error: "the format is not “nine-lines/1”" }),
  site: siteSchema.prefault({}),
  kinds: z
    .record(
      kindIdSchema,
      addressSchema.extend({
        base: linesSchema.default({}),
        rules: z.array(writtenRuleSchema).max(MOST_RULES).default([]),
      }),
    )
    .default({}),
});

/** The lines file: the whole design of a site (`LINES.md`). Its lines are for kinds that every site has, or that its own settings name. */
export const linesFileSchema = linesFileObject.superRefine(({ site, kinds }, context) => {
  for (const id of Object.keys(kinds)) {
    if (kindOf(site, id)) continue;
    context.addIssue({
      code: "custom",
      path: ["kinds", id],
      message: `there is no kind “${id}”; there are ${kindIds(site).join(", ")}, and those that “kinds” of the site names`,
    });
  }
});
export type LinesFile = z.infer<typeof linesFileSchema>;

/** The keys that a lines file may have, wherever they stand. */
export const LINES_FILE_KEYS: readonly string[] = [
  ...Object.keys(linesFileObject.shape),
  ...Object.keys(siteObject.shape),
  ...Object.keys(writtenRuleSchema.shape),
  ...Object.keys(textLimitsSchema.shape),
  ...Object.keys(addressSchema.shape),
  "base",
  "rules",
];
