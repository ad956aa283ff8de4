import { z } from "zod";
import { CHANGE_GROUPS } from "../../../core/plan/groups";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf, streamed, textSchema } from "../answer";

const group = z.enum(CHANGE_GROUPS);
const schema = z.discriminatedUnion("ask", [
  z.object({ ask: z.literal("list"), group, from: z.number().int().min(0), count: z.number().int().min(1).max(500) }),
  z.object({ ask: z.literal("choose-group"), group, included: z.boolean() }),
  z.object({
    ask: z.literal("choose-change"),
    id: z.number().int(),
    text: z.union([textSchema, z.literal("robots")]),
    included: z.boolean(),
  }),
]);

/** The whole change, live against the stored drafts, in groups; how far it is before it. */
export function PUT(request: Request): Promise<Response> {
  return streamed((progress) =>
    backend().proof.call("reviewSummary", { designs: backend().drafts() }, { signal: request.signal, progress }),
  );
}

/** A group's changes, and which are taken in. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, schema);
    const { proof } = backend();
    const designs = backend().drafts();
    switch (asked.ask) {
      case "list":
        return proof.call("reviewList", {
          designs,
          query: { group: asked.group, from: asked.from, count: asked.count },
        });
      case "choose-group":
        return proof.call("chooseGroup", { designs, group: asked.group, included: asked.included });
      case "choose-change":
        return proof.call("chooseChange", { designs, id: asked.id, text: asked.text, included: asked.included });
    }
  });
}
