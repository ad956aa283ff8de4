import { z } from "zod";
import { surfaceById, type Surface, SURFACES } from "../measure/surface";
import { type Limits } from "../proof/room";
import { SLUG_DEFAULTS } from "../slugs/slug";
import { checksSchema } from "../checks/settings";
import { conditionSchema } from "../rules/condition";
import { KINDS, type TextName } from "./kinds";
import { ROBOTS } from "./robots";

/** Longest line that is stored; the parser refuses shorter ones still, with a message of its own. */
const LINE = z.string().max(100_000);

/** The three lines of a base or a rule, and its robots setting; one left out is not set there. */
export const linesSchema = z.object({ title: LINE.optional(), description: LINE.optional(), slug: LINE.optional(), robots: z.enum(ROBOTS, { error: (issue) => `“${String(issue.input)}” is no robots setting; there are ${ROBOTS.map((one) => `“${one}”`).join(", ")}` }).optional() });
export type Lines = z.infer<typeof linesSchema>;

/** What a rule is called, what it takes, and the lines it sets. One that is switched off takes nothing. */
const writtenRuleSchema = linesSchema.extend({ name: z.string().max(200), when: conditionSchema, off: z.boolean().optional() });

/** A rule of a kind. `id` tells it from the others of its kind, whatever it is called. */
export const ruleSchema = writtenRuleSchema.extend({ id: z.string().min(1).max(60) });
export type Rule = z.infer<typeof ruleSchema>;

/** So many rules a kind may have. */
export const MOST_RULES = 5000;

/** The lines of one kind: its rules in their order, the first match wins, and what everything else gets. */
export const kindDesignSchema = z.object({ base: linesSchema, rules: z.array(ruleSchema).max(MOST_RULES).default([]) });
export type KindDesign = z.infer<typeof kindDesignSchema>;

/** A design of base lines only. */
export function baseDesign(base: Lines): KindDesign {
  return { base, rules: [] };
}

export const EMPTY_DESIGN: KindDesign = { base: {}, rules: [] };

const textLimitsSchema = z.object({
  surfaces: z.array(z.string().refine((id) => surfaceById(id) !== undefined, { error: (issue) => `there is no surface “${String(issue.input)}”; there are ${SURFACES.map((s) => s.id).join(", ")}` })).optional(),
  chars: z.number().int().positive().nullable().optional(),
});

/** What a site is and how its texts are measured. Every figure of the trade is here, none in code. */
export const siteSchema = z.object({
  name: z.string().max(200).default(""),
  tagline: z.string().max(400).default(""),
  sep: z.string().max(20).default("–"),
  baseUrl: z.string().max(400).default(""),
  language: z.string().max(20).default("en"),
  limits: z.object({ title: textLimitsSchema.optional(), description: textLimitsSchema.optional() }).default({}),
  slug: z
    .object({
      dropStopWords: z.boolean().default(SLUG_DEFAULTS.dropStopWords),
      dropNumbers: z.boolean().default(SLUG_DEFAULTS.dropNumbers),
      keepUnicode: z.boolean().default(SLUG_DEFAULTS.keepUnicode),
      max: z.number().int().min(5).max(400).default(SLUG_DEFAULTS.max),
    })
    .default(SLUG_DEFAULTS),
  checks: checksSchema.prefault({}),
});
export type Site = z.infer<typeof siteSchema>;

/** The lines file: the whole design of a site (`LINES.md`). */
export const linesFileSchema = z.object({
  format: z.literal("nine-lines/1", { error: "the format is not “nine-lines/1”" }),
  site: siteSchema.prefault({}),
  kinds: z.partialRecord(z.enum(KINDS), z.object({ base: linesSchema.default({}), rules: z.array(writtenRuleSchema).max(MOST_RULES).default([]) })).default({}),
});
export type LinesFile = z.infer<typeof linesFileSchema>;

const DEFAULT_SURFACE: Record<TextName, string | null> = { title: "desktop-title", description: "desktop-description", slug: null };

/** The limits of a text on a site: the desktop surface unless the site says otherwise. A slug's length is in its own settings. */
export function limitsOf(site: Site, text: TextName): Limits {
  if (text === "slug") return { surfaces: [], chars: null };
  const own = site.limits[text];
  const ids = own?.surfaces ?? [DEFAULT_SURFACE[text]!];
  return { surfaces: ids.map((id) => surfaceById(id)).filter((s): s is Surface => s !== undefined), chars: own?.chars ?? null };
}

/** The site's own fields, as a line reads them. */
export function siteConstants(site: Site): ReadonlyMap<string, string> {
  return new Map([["site", site.name], ["tagline", site.tagline], ["sep", site.sep]]);
}

