import * as z from "zod";
import { kindDesignSchema } from "../../core/design/schema";

const keptSchema = z.object({
  design: kindDesignSchema,
  seen: z.number(),
  sending: kindDesignSchema.nullable().default(null),
  at: z.number().default(0),
});

/** A draft as the browser's store has it, with when it was kept; `null` for what is none. */
export function readKept(text: string | null): z.infer<typeof keptSchema> | null {
  try {
    return keptSchema.parse(JSON.parse(text ?? "null"));
  } catch {
    return null;
  }
}
