import { z } from "zod";
import { backend } from "../../../../server/backend-handle";
import { answer, bodyOf } from "../../answer";

export const dynamic = "force-dynamic";

/** The steps of editing that can be taken back, done again or gone on with now. */
export function GET(): Promise<Response> {
  return answer(() => backend().editSteps());
}

/** Takes a step back, does it again, or goes on with one that was stopped. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { id, goal } = await bodyOf(request, z.object({ id: z.number().int(), goal: z.enum(["set", "undone"]) }));
    return backend().runEdit(id, goal);
  });
}
