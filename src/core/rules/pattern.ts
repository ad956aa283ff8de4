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
const MOST_INSTRUCTIONS = 1500;

/** A pattern that is none, or that is too large. */
export class PatternError extends Refusal {
  constructor(message: string) {
    super("invalid", message);
  }
}

/**
 * A pattern in RE2 syntax; matched in linear time, whatever it is.
 *
 * @throws {PatternError} for one that is none, or that repeats so much that it is too large.
 */
export function patternOf(source: string, { matchCase }: { readonly matchCase: boolean }): RE2JS {
  let compiled: RE2JS;
  try {
    compiled = RE2JS.compile(source, matchCase ? 0 : RE2JS.CASE_INSENSITIVE);
  } catch (error) {
    throw new PatternError(
      `“${source}” is no pattern in RE2 syntax: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
  if (compiled.programSize() > MOST_INSTRUCTIONS)
    throw new PatternError(
      `“${source.slice(0, 60)}” is too large a pattern: it comes to ${compiled.programSize().toLocaleString("en")} steps, ${MOST_INSTRUCTIONS.toLocaleString("en")} are the most. Repeat less, such as {1,20} for {1,1000}.`,
    );
  return compiled;
}

/**
 * A condition's pattern, without regard to case.
 *
 * @throws {ConditionError} for one that {@link patternOf} does not take, with its place in the condition.
 */
export function compilePattern(pattern: string, path: readonly (string | number)[]): RE2JS {
  try {
    return patternOf(pattern, { matchCase: false });
  } catch (error) {
    throw error instanceof PatternError ? new ConditionError(error.message, path) : error;
  }
}
