import * as z from "zod";
import { type OpenedSite } from "../workspace/opened-site";

/** What an endpoint sees of the request beside its input. */
export interface Asking {
  /** Aborted when nobody waits for the answer any more. */
  readonly signal: AbortSignal;
  /** Says how far the answer is; heard only where the endpoint answers in pieces. */
  readonly progress: (value: unknown) => void;
  /** The window that asks. */
  readonly client: string;
}

/** One thing that the interface can ask of the server, of a site or of all of them: what it takes, checked, and what it answers. */
export interface Endpoint<I extends z.ZodType, O, On = OpenedSite> {
  readonly input: I;
  /** Whether it may take long: it answers in pieces then, how far it is before the result. */
  readonly inPieces: boolean;
  readonly run: (on: On, input: z.output<I>, asking: Asking) => O | Promise<O>;
}

/** An endpoint that is answered at once. */
export function endpoint<I extends z.ZodType, O, On = OpenedSite>(
  input: I,
  run: Endpoint<I, O, On>["run"],
): Endpoint<I, O, On> {
  return { input, inPieces: false, run };
}

/** An endpoint that says how far it is before it answers. */
export function slowEndpoint<I extends z.ZodType, O>(input: I, run: Endpoint<I, O>["run"]): Endpoint<I, O> {
  return { input, inPieces: true, run };
}

/** For what is asked without saying more. */
export const NOTHING = z.object({});
