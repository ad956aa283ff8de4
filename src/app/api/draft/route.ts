import { z } from "zod";
import { kindDesignSchema } from "../../../core/design/design";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf, kindSchema } from "../answer";

const schema = z.object({ kind: kindSchema, design: kindDesignSchema, seen: z.number().int().min(0) });

/** Stores a draft as it is typed. A writer that saw an older one gets the newer one back with status 409 in words. */
export function PUT(request: Request): Promise<Response> {
  return answer(async () => {
    const { kind, design, seen } = await bodyOf(request, schema);
    try {
      return { saved: backend().saveDraft(kind, design, seen) };
    } catch (error) {
      if (error instanceof Error && "current" in error) return { conflict: error.current };
      throw error;
    }
  });
}
