import { z } from "zod";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf, kindSchema } from "../answer";

export function POST(request: Request): Promise<Response> {
  return answer(async () => backend().keepDraft((await bodyOf(request, z.object({ kind: kindSchema }))).kind));
}
