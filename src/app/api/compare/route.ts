import { z } from "zod";
import { backend } from "../../../server/backend-handle";
import { bodyOf, designNameSchema, kindSchema, streamed, textSchema } from "../answer";

const schema = z.object({
  kind: kindSchema,
  a: designNameSchema,
  b: designNameSchema,
  text: textSchema,
  from: z.number().int().min(0),
  count: z.number().int().min(0).max(500),
  client: z.string().max(60),
});

/** Two designs of a kind side by side over the whole set. */
export function POST(request: Request): Promise<Response> {
  return streamed(async (progress) => {
    const { kind, a, b, client, ...query } = await bodyOf(request, schema);
    const made = backend();
    return made.proof.call(
      "compare",
      { kind, a: made.designNamed(kind, a), b: made.designNamed(kind, b), query },
      { lane: `compare ${client} ${query.from}`, signal: request.signal, progress },
    );
  });
}
