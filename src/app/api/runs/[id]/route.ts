import { z } from "zod";
import { backend } from "../../../../server/backend-handle";
import { answer, bodyOf } from "../../answer";

type Context = { params: Promise<{ id: string }> };
const schema = z.object({ action: z.enum(["go-on", "stop", "take-back"]) });

export function GET(_request: Request, { params }: Context): Promise<Response> {
  return answer(async () => backend().run(Number((await params).id)));
}

export function POST(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const id = Number((await params).id);
    const { action } = await bodyOf(request, schema);
    if (action === "take-back") return { run: backend().takeBack(id) };
    if (action === "go-on") backend().continueRun(id);
    else backend().stopJob(`run-${id}`);
    return { run: id };
  });
}
