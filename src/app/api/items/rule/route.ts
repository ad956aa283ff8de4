import { z } from "zod";
import { backend } from "../../../../server/backend-handle";
import { answer, bodyOf } from "../../answer";
import { choiceSchema } from "../query-schema";

/** Puts a rule for just the chosen pages into their kind's draft. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => backend().ruleFor((await bodyOf(request, z.object({ choice: choiceSchema }))).choice));
}
