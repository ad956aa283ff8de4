import { z } from "zod";
import { backend } from "../../../server/backend-handle";
import { bodyOf, streamed } from "../answer";
import { itemQuerySchema } from "./query-schema";

const schema = z.object({
  query: itemQuerySchema,
  /** Fields whose values are shown beside. */
  columns: z.array(z.string().max(200)).max(60),
  from: z.number().int().min(0),
  count: z.number().int().min(0).max(500),
  client: z.string().max(60),
});

/** All pages with what was found in them, how far the checks are before it. */
export function POST(request: Request): Promise<Response> {
  return streamed(async (progress) => {
    const { client, query, ...stretch } = await bodyOf(request, schema);
    return backend().proof.call(
      "items",
      { designs: backend().drafts(), query, stretch },
      { lane: `items ${client} ${stretch.from}`, signal: request.signal, progress },
    );
  });
}
