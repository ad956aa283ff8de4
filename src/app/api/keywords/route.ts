import { z } from "zod";
import { COVERAGE } from "../../../core/keywords/places";
import { backend } from "../../../server/backend-handle";
import { bodyOf, kindSchema, kindsSchema, streamed } from "../answer";

const stretch = { from: z.number().int().min(0), count: z.number().int().min(1).max(500) };
const schema = z.discriminatedUnion("ask", [
  z.object({ ask: z.literal("matrix") }),
  z.object({ ask: z.literal("coverage"), show: z.enum(COVERAGE), search: z.string().max(200), ...stretch }),
  z.object({ ask: z.literal("suggestions"), kind: kindsSchema, ...stretch }),
  z.object({ ask: z.literal("competing"), ...stretch }),
  z.object({
    ask: z.literal("assign"),
    pages: z.array(z.object({ kind: kindSchema, id: z.number().int(), keyword: z.string().max(200) })).max(50_000),
  }),
  z.object({ ask: z.literal("assign-suggested"), kind: kindsSchema, only: z.enum(["list", "name"]).nullable() }),
]);

/** Keywords over the whole site; what takes long says how far it is before it answers. */
export function POST(request: Request): Promise<Response> {
  return streamed(async (progress) => {
    const asked = await bodyOf(request, schema);
    const own = backend();
    const designs = own.drafts();
    const options = { signal: request.signal, progress };
    switch (asked.ask) {
      case "matrix":
        return own.proof.call("keywordMatrix", { designs }, options);
      case "coverage":
        return own.proof.call("keywordCoverage", { query: asked }, options);
      case "suggestions":
        return own.proof.call("keywordSuggestions", { query: asked }, options);
      case "competing":
        return own.proof.call("keywordsCompeting", { designs, query: asked }, options);
      case "assign":
        return own.assignKeywords(asked.pages);
      case "assign-suggested":
        return own.assignSuggested(asked.kind, asked.only);
    }
  });
}
