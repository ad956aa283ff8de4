import { setTimeout } from "node:timers/promises";
import { type z } from "zod";
import { Refusal } from "../../core/refusal";
import { answer, answerInPieces, PIECES } from "./answer";
import { type Asking, type Endpoint } from "./endpoint";

/** How calls are answered besides: what they are about stays open meanwhile, and who waits for others is told for what. */
interface Answering {
  readonly held: <T>(work: () => Promise<T>) => Promise<T>;
  readonly watch: (told: Asking["progress"]) => () => void;
}

/** A call that is not answered after so many ms says what it waits for. */
const PATIENCE = 400;
const isDone = () => false;

/**
 * Answers what the interface asks by a call's name.
 *
 * @param calls by room and name. @param on what the calls are about.
 */
export async function answerCall<On>(
  calls: Readonly<Record<string, object>>,
  name: string,
  request: Request,
  on: On,
  { held, watch }: Answering,
): Promise<Response> {
  const endpoint = endpointNamed<On>(calls, name);
  if (!endpoint)
    return answer(() => {
      throw new Refusal("not-found", `There is no call “${name}”`);
    }, name);
  const client = (request.headers.get("x-client") ?? "").slice(0, 60);
  const work = (progress: Asking["progress"]) =>
    held(async () => {
      const input: unknown = endpoint.input.parse(await request.json());
      return endpoint.run(on, input, { signal: request.signal, progress, client });
    });
  if (endpoint.inPieces) return answerInPieces(work, name);
  const working = work(() => {});
  if (!request.headers.get("accept")?.includes(PIECES)) return answer(() => working, name);
  // Answered at once where that is possible; what takes longer, since others are before it, says meanwhile what it waits for.
  const isLate = await Promise.race([working.then(isDone, isDone), setTimeout(PATIENCE, true, { ref: false })]);
  if (!isLate) return answer(() => working, name);
  return answerInPieces((progress) => working.finally(watch(progress)), name, true);
}

type AnyEndpoint<On> = Endpoint<z.ZodType, unknown, On>;

function endpointNamed<On>(calls: Readonly<Record<string, object>>, name: string): AnyEndpoint<On> | null {
  const [room = "", own = ""] = name.split(".");
  if (!Object.hasOwn(calls, room)) return null;
  const ofRoom = calls[room] as Record<string, AnyEndpoint<On>>;
  return Object.hasOwn(ofRoom, own) ? ofRoom[own]! : null;
}
