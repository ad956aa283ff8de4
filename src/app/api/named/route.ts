import { z } from "zod";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf, designNameSchema, kindSchema } from "../answer";

export function GET(request: Request): Promise<Response> {
  return answer(() => backend().namedDrafts(kindSchema.parse(new URL(request.url).searchParams.get("kind"))));
}

/** Puts a kind's draft aside under a name. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { kind, name } = await bodyOf(
      request,
      z.object({ kind: kindSchema, name: z.string().trim().min(1).max(100) }),
    );
    return backend().nameDraft(kind, name);
  });
}

/** Makes a kept or named design the draft. */
export function PUT(request: Request): Promise<Response> {
  return answer(async () => {
    const { kind, which } = await bodyOf(request, z.object({ kind: kindSchema, which: designNameSchema }));
    return backend().chooseDraft(kind, which);
  });
}

export function DELETE(request: Request): Promise<Response> {
  return answer(async () => backend().forgetNamedDraft((await bodyOf(request, z.object({ id: z.number().int() }))).id));
}
