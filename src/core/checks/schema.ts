import * as z from "zod";
import { TEXTS_THAT_SAY_NOTHING } from "../links/finding-names";
import { LATE_SHARE } from "../proof/summary";
import { NEAR_SHARE } from "./near-duplicates";

/** The figures of a site's checks. The trade disagrees on every one of them: all are settings. */
export const checksSchema = z.object({
  /** Findings that are switched off, as `title missing`. */
  off: z.array(z.string().max(80)).max(200).default([]),
  /** Fewest characters of a title and of a description; shorter ones are too short. */
  shortTitle: z.number().int().min(0).max(1000).default(25),
  shortDescription: z.number().int().min(0).max(1000).default(70),
  /** Most characters, whatever the width; `null` where only pixels count. */
  longTitle: z.number().int().min(1).max(1000).nullable().default(null),
  longDescription: z.number().int().min(1).max(1000).nullable().default(null),
  /** The share of the room in which the keyword should begin. */
  lateShare: z.number().min(0).max(1).default(LATE_SHARE),
  /** The number of the word by which the keyword should have begun. */
  lateWord: z.number().int().min(1).max(50).default(5),
  /** How often a keyword may stand in a title, and in a description. */
  keywordInTitle: z.number().int().min(1).max(20).default(1),
  keywordInDescription: z.number().int().min(1).max(20).default(2),
  /** The share of a body's words that may be the keyword's. */
  keywordShare: z.number().min(0).max(1).default(0.03),
  /** The share of the longer text's words that two share, from which on they are nearly the same. */
  nearShare: z.number().min(NEAR_SHARE).max(1).default(NEAR_SHARE),
  /** Most folders above a page. */
  depth: z.number().int().min(0).max(20).default(4),
  /** Whether people search for the site's name: then it may stand in titles. */
  siteNameSearched: z.boolean().default(true),
  /** Words of a page's name that say that it should not be indexed. */
  unindexed: z
    .array(z.string().max(60))
    .max(200)
    .default(["contact", "privacy", "terms", "imprint", "login", "basket", "checkout", "thank you", "download"]),
  /** Texts of links that say nothing of where they lead. */
  emptyLinkTexts: z
    .array(z.string().max(60))
    .max(200)
    .default([...TEXTS_THAT_SAY_NOTHING]),
});
export type Checks = z.infer<typeof checksSchema>;

export const CHECK_DEFAULTS: Checks = checksSchema.parse({});
