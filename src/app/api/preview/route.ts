import { z } from "zod";
import { kindDesignSchema } from "../../../core/design/design";
import { conditionSchema } from "../../../core/rules/condition";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf, kindSchema, textSchema } from "../answer";

const schema = z.object({
  kind: kindSchema,
  design: kindDesignSchema,
  when: conditionSchema,
  above: z.number().int().min(0),
  texts: z.array(textSchema),
  client: z.string().max(60),
});

/** What a condition would take as a rule with so many rules above it. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { client, ...asked } = await bodyOf(request, schema);
    return backend().proof.call("preview", asked, { lane: `preview ${client}`, signal: request.signal });
  });
}
