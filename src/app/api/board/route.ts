import { backend } from "../../../server/backend-handle";
import { streamed } from "../answer";

/** The drafts of every kind proved over the whole site, how far that is before it. */
export function POST(request: Request): Promise<Response> {
  return streamed((progress) =>
    backend().proof.call("board", { designs: backend().drafts() }, { lane: "board", signal: request.signal, progress }),
  );
}
