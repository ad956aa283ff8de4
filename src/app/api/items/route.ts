import { z } from "zod";
import { FINDINGS, type FindingId, type Subject } from "../../../core/checks/findings";
import { backend } from "../../../server/backend-handle";
import { ITEM_SORTS } from "../../../server/items-list";
import { SIDES } from "../../../server/site-findings";
import { bodyOf, kindSchema, streamed } from "../answer";

const findingSchema = z
  .object({ subject: z.enum(Object.keys(FINDINGS) as [Subject, ...Subject[]]), id: z.string().max(60) })
  .refine(({ subject, id }) => FINDINGS[subject].some((kind) => kind.id === id), { error: "there is no such finding" })
  .transform(({ subject, id }) => ({ subject, id: id as FindingId }));
const schema = z.object({
  kind: z.union([kindSchema, z.literal("all")]),
  side: z.enum(SIDES),
  finding: findingSchema.nullable(),
  search: z.string().max(200),
  sort: z.enum(ITEM_SORTS),
  from: z.number().int().min(0),
  count: z.number().int().min(0).max(500),
  client: z.string().max(60),
});

/** All pages with what was found in them, how far the checks are before it. */
export function POST(request: Request): Promise<Response> {
  return streamed(async (progress) => {
    const { client, ...query } = await bodyOf(request, schema);
    return backend().proof.call("items", { designs: backend().drafts(), query }, { lane: `items ${client} ${query.from}`, signal: request.signal, progress });
  });
}
