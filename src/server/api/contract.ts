import type { z } from "zod";
import type { sitesCalls } from "../sites/calls";
import type { calls } from "./calls";

type Calls = typeof calls & typeof sitesCalls;

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
  EndpointOf<N> extends { input: infer I extends z.ZodType } ? z.input<I> : never;

/** What it answers. */
export type CallResult<N extends CallName> =
  EndpointOf<N> extends { run: (...asked: never[]) => infer O } ? Awaited<O> : never;
