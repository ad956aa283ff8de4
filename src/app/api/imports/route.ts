import { z } from "zod";
import { KINDS } from "../../../core/design/kinds";
import { TARGETS } from "../../../core/design/import-targets";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf } from "../answer";

const schema = z.object({
  token: z.string(),
  name: z.string().max(300),
  mapping: z.object({ targets: z.array(z.enum(TARGETS)).max(4000), kind: z.enum(KINDS) }),
});

/** Begins to bring a received file in; its progress is a job. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { token, name, mapping } = await bodyOf(request, schema);
    return { job: backend().bringIn(token, name, mapping) };
  });
}
