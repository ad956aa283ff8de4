import { backend } from "../../../server/backend-handle";
import { answer } from "../answer";

export const dynamic = "force-dynamic";

/** The nine cells: every kind's proof with two real results for each text. */
export function GET(): Promise<Response> {
  return answer(() => backend().proof.call("board", { designs: backend().drafts() }));
}
