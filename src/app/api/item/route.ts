import { z } from "zod";
import { kindDesignSchema } from "../../../core/design/design";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf, kindSchema, textSchema } from "../answer";

const schema = z.object({ kind: kindSchema, design: kindDesignSchema, text: textSchema, id: z.number().int() });

export function POST(request: Request): Promise<Response> {
  return answer(async () => backend().proof.call("item", await bodyOf(request, schema)));
}
