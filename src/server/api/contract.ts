import type { z } from "zod";
import type { calls } from "./calls";
import type { Endpoint } from "./endpoint";

type Calls = typeof calls;

/** The name of something that the interface can ask of the server, such as `review.summary`. */
export type CallName = { [R in keyof Calls & string]: `${R}.${keyof Calls[R] & string}` }[keyof Calls & string];

type EndpointOf<N extends CallName> = N extends `${infer R}.${infer C}`
  ? R extends keyof Calls
    ? C extends keyof Calls[R]
      ? Calls[R][C]
      : never
    : never
  : never;

/** What a call takes. */
export type CallInput<N extends CallName> =
  EndpointOf<N> extends Endpoint<infer I extends z.ZodType, unknown> ? z.input<I> : never;

/** What it answers. */
export type CallResult<N extends CallName> =
  EndpointOf<N> extends { run: (...asked: never[]) => infer O } ? Awaited<O> : never;
