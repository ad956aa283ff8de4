import { z } from "zod";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf } from "../answer";

export const dynamic = "force-dynamic";

export function GET(): Promise<Response> {
  return answer(() => backend().listJobs());
}

/** Stops a job. What it has done stays done. */
export function DELETE(request: Request): Promise<Response> {
  return answer(async () => backend().stopJob((await bodyOf(request, z.object({ id: z.string() }))).id));
}
