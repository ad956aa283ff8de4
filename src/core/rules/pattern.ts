import { RE2JS } from "re2js";
import { Refusal } from "../refusal";

/** A condition that cannot be read: what is wrong, and where in it. */
export class ConditionError extends Refusal {
  constructor(
    message: string,
    readonly path: readonly (string | number)[],
  ) {
    super("invalid", message);
  }
}

/** Beyond so many instructions a pattern is refused: each may be a step for every letter that is looked at. */
export const MOST_INSTRUCTIONS = 1500;

/**
 * A pattern in RE2 syntax, without regard to case; matched in linear time, whatever it is.
 *
 * @throws {ConditionError} for one that is none, or that repeats so much that it is too large.
 */
export function compilePattern(pattern: string, path: readonly (string | number)[]): RE2JS {
  let compiled: RE2JS;
  try {
    compiled = RE2JS.compile(pattern, RE2JS.CASE_INSENSITIVE);
  } catch (error) {
    throw new ConditionError(
      `“${pattern}” is no pattern in RE2 syntax: ${error instanceof Error ? error.message : String(error)}`,
      path,
    );
  }
  if (compiled.programSize() > MOST_INSTRUCTIONS)
    throw new ConditionError(
      `“${pattern.slice(0, 60)}” is too large a pattern: it comes to ${compiled.programSize().toLocaleString("en")} steps, ${MOST_INSTRUCTIONS.toLocaleString("en")} are the most. Repeat less, such as {1,20} for {1,1000}.`,
      path,
    );
  return compiled;
}
