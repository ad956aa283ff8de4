/**
 * What kind of trouble it is, stable across versions: programs decide by it, people read the words.
 *
 * `invalid` the request cannot be done as it is asked for · `not-found` what it names is not there · `stale` what it rests
 * on has changed since it was looked at · `busy` something else is under way · `conflict` it was changed elsewhere ·
 * `worker-died` the thread that was at it ended · `refused-call` it ended a thread twice and is not tried again ·
 * `store` the database or disk failed · `site` the live site does not answer as it should · `bug` nobody expected it.
 */
export const TROUBLE_CODES = [
  "invalid",
  "not-found",
  "stale",
  "busy",
  "conflict",
  "worker-died",
  "refused-call",
  "store",
  "site",
  "bug",
] as const;
export type TroubleCode = (typeof TROUBLE_CODES)[number];

/** Something that is not done, said in words for the person who asked: what, where and what to do. */
export class Refusal extends Error {
  constructor(
    readonly code: TroubleCode,
    message: string,
    options?: ErrorOptions,
  ) {
    super(message, options);
    this.name = "Refusal";
  }
}
