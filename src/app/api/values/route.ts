import { z } from "zod";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf, kindsSchema } from "../answer";

const schema = z.object({
  kind: kindsSchema,
  field: z.string().min(1).max(200),
  search: z.string().max(200),
  client: z.string().max(60),
});
const MOST = 200;

/** Values of a field that hold what is looked for, with how many items have each. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { kind, field, search, client } = await bodyOf(request, schema);
    return backend().proof.call(
      "values",
      { kind, field, search, most: MOST },
      { lane: `values ${client}`, signal: request.signal },
    );
  });
}
