import * as z from "zod";

/** Words that stand for something else wherever a kind's id stands. */
const RESERVED: ReadonlySet<string> = new Set(["all", "constructor"]);

/** The id of a kind. */
export const kindIdSchema = z
  .string()
  .regex(/^[a-z][a-z0-9-]{0,39}$/, {
    error: "an id of a kind is of small letters, digits and hyphens, and begins with a letter",
  })
  .refine((id) => !RESERVED.has(id), { error: "that id means something else here; take another" });

/** What a kind of page is, as it is stored and written in files: {@link KindInfo}. */
export const kindInfoSchema = z.object({
  id: kindIdSchema,
  one: z.string().trim().min(1, { error: "a kind needs a word for one page" }).max(60),
  many: z.string().trim().min(1, { error: "a kind needs a word for several pages" }).max(60),
  isTree: z.boolean().default(false),
  isSingle: z.boolean().default(false),
  words: z.array(z.string().trim().min(1).max(60)).max(100).default([]),
});
