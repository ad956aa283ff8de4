import * as z from "zod";
import { PAGE_EXTRA_NAMES, TEXTS } from "../../core/design/kinds";
import { editSteps } from "../../store/edits";
import { endpoint, NOTHING } from "../api/endpoint";
import { choiceSchema, idSchema, textSchema } from "../api/schemas";
import { madeStep, runEdit } from "./edit-work";

const field = z.enum([...TEXTS, "keyword", "robots", ...PAGE_EXTRA_NAMES]);
/** So much may be pasted in one go. */
const MOST_LINES = 200_000;
/** An image may stand in the body itself, as data. */
const MOST_ADDRESS = 10_000_000;
const value = z.string().max(1_000_000, { error: "that is more than a megabyte for one page" });
const actionSchema = z.discriminatedUnion("type", [
  z.object({ type: z.literal("set"), field, value }),
  z.object({ type: z.literal("let-go"), field: z.enum([...TEXTS, "robots", ...PAGE_EXTRA_NAMES]) }),
  z.object({ type: z.literal("describe"), field: z.literal("alt"), image: z.string().max(MOST_ADDRESS), value }),
  z.object({ type: z.literal("undescribe"), field: z.literal("alt"), image: z.string().max(MOST_ADDRESS) }),
  z.object({ type: z.literal("hold"), field: textSchema }),
  z.object({
    type: z.literal("replace"),
    field: z.enum([...TEXTS, "keyword"]),
    find: z.string().max(2000),
    replace: z.string().max(2000),
    matchCase: z.boolean(),
    wholeWords: z.boolean(),
    pattern: z.boolean(),
  }),
  z.object({
    type: z.literal("paste"),
    field,
    values: z.array(value).max(MOST_LINES, { error: `more than ${MOST_LINES.toLocaleString("en")} lines were pasted` }),
  }),
]);
const edit = z.object({ choice: choiceSchema, action: actionSchema });

export const editCalls = {
  /** What an action would do to chosen pages. */
  plan: endpoint(edit, (site, asked, { signal }) => site.proof.call("planEdit", asked, { signal })),
  /** Does an action to chosen pages, as one step that can be taken back. */
  make: endpoint(edit, async (site, asked, { client }) =>
    madeStep(site, await site.proof.call("makeEdit", { ...asked, now: site.now() }), client),
  ),
  /** The steps that can be taken back, done again or gone on with now. */
  steps: endpoint(NOTHING, (site) => editSteps(site.db)),
  /** Takes a step back, does it again, or goes on with one that was stopped. */
  run: endpoint(z.object({ id: idSchema, goal: z.enum(["set", "undone"]) }), (site, { id, goal }, { client }) =>
    runEdit(site, { edit: id, goal }, client),
  ),
};
