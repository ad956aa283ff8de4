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
/** One that may take long says how far it is, if it is not answered after so many ms. Until then it can be answered in one piece, compressed. */
const SOON = 250;
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
  const said = new Relay();
  const working = work((progress) => said.say(progress));
  const takesPieces = endpoint.inPieces || request.headers.get("accept")?.includes(PIECES);
  // Answered at once where that is possible; what takes longer, since others are before it, says meanwhile what it waits for.
  const isLate = takesPieces && (await takesLonger(working, endpoint.inPieces ? SOON : PATIENCE));
  if (!isLate) return answer(() => working, name);
  if (endpoint.inPieces) return answerInPieces((progress) => (said.passTo(progress), working), name);
  return answerInPieces((progress) => working.finally(watch(progress)), name, true);
}

function takesLonger(working: Promise<unknown>, ms: number): Promise<boolean> {
  return Promise.race([working.then(isDone, isDone), setTimeout(ms, true, { ref: false })]);
}

/** Keeps how far an answer is until there is somebody to tell. */
class Relay {
  private last: { readonly progress: unknown } | null = null;
  private to: Asking["progress"] | null = null;

  say(progress: unknown): void {
    this.last = { progress };
    this.to?.(progress);
  }

  passTo(to: Asking["progress"]): void {
    this.to = to;
    if (this.last) to(this.last.progress);
  }
}

/**
 * Answers a call that no request made, `undefined` where that takes longer: then it is ended, so that whoever asks again goes on from what
 * is there and is told how far it is.
 *
 * @param ms how long is waited. @throws what the call throws within that time; what it throws later is told by whoever asks again.
 */
export async function answerWithin<On>(
  calls: Readonly<Record<string, object>>,
  name: string,
  input: unknown,
  on: On,
  { held, ms }: Pick<Answering, "held"> & { readonly ms: number },
): Promise<unknown> {
  const endpoint = endpointNamed<On>(calls, name);
  if (!endpoint) throw new Refusal("not-found", `There is no call “${name}”`);
  const end = new AbortController();
  const asking: Asking = { signal: end.signal, progress: () => {}, client: "" };
  const working = held(async () => endpoint.run(on, endpoint.input.parse(input), asking));
  if (!(await takesLonger(working, ms))) return working;
  end.abort();
  working.catch(() => {});
  return undefined;
}

type AnyEndpoint<On> = Endpoint<z.ZodType, unknown, On>;

function endpointNamed<On>(calls: Readonly<Record<string, object>>, name: string): AnyEndpoint<On> | null {
  const [room = "", own = ""] = name.split(".");
  if (!Object.hasOwn(calls, room)) return null;
  const ofRoom = calls[room] as Record<string, AnyEndpoint<On>>;
  return Object.hasOwn(ofRoom, own) ? ofRoom[own]! : null;
}
