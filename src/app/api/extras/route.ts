import { backend } from "../../../server/backend-handle";
import { answer } from "../answer";

/** What the drafts make of the extra texts that are switched on. */
export function POST(request: Request): Promise<Response> {
  return answer(() =>
    backend().proof.call("extras", { designs: backend().drafts() }, { lane: "extras", signal: request.signal }),
  );
}
