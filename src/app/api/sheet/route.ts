import { z } from "zod";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf, kindSchema } from "../answer";

/** One page whole, with its findings and where they stand. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { kind, id } = await bodyOf(request, z.object({ kind: kindSchema, id: z.number().int() }));
    return backend().itemSheet(kind, id);
  });
}
