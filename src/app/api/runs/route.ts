import { backend } from "../../../server/backend-handle";
import { answer } from "../answer";

export const dynamic = "force-dynamic";

export function GET(): Promise<Response> {
  return answer(() => ({ runs: backend().runs(), jobs: backend().listJobs() }));
}

/** Freezes what the review takes in and begins to apply it. */
export function POST(): Promise<Response> {
  return answer(async () => ({ run: await backend().startRun() }));
}
