import { z } from "zod";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf } from "../answer";

export const dynamic = "force-dynamic";

const name = z.string().trim().min(1, { error: "a view needs a name" }).max(100);

/** The views of the list of all pages that were kept under a name. */
export function GET(): Promise<Response> {
  return answer(() => backend().views());
}

export function PUT(request: Request): Promise<Response> {
  return answer(async () =>
    backend().putView(await bodyOf(request, z.object({ name, query: z.string().max(20_000) }))),
  );
}

export function DELETE(request: Request): Promise<Response> {
  return answer(async () => backend().forgetView((await bodyOf(request, z.object({ name }))).name));
}
