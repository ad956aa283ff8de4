import { z } from "zod";
import { TEXTS } from "../../../core/design/kinds";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf } from "../answer";
import { choiceSchema } from "../items/query-schema";

const texts = z.enum(TEXTS);
const field = z.enum([...TEXTS, "keyword", "robots"]);
/** So much may be pasted in one go. */
const MOST_LINES = 200_000;
const value = z.string().max(1_000_000, { error: "that is more than a megabyte for one page" });
const action = z.discriminatedUnion("type", [
  z.object({ type: z.literal("set"), field, value }),
  z.object({ type: z.literal("let-go"), field: z.enum([...TEXTS, "robots"]) }),
  z.object({ type: z.literal("hold"), field: texts }),
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
const schema = z.object({ do: z.enum(["plan", "make"]), choice: choiceSchema, action });

/** Works out what an action does to chosen pages; with `make` it is done, too. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { do: what, choice, action: wanted } = await bodyOf(request, schema);
    return what === "plan" ? backend().planEdit(choice, wanted) : backend().makeEdit(choice, wanted);
  });
}
