import { RE2JS } from "re2js";
import { Refusal } from "../refusal";
import { patternOf } from "../rules/pattern";

/** What is looked for and what it is replaced with. */
export interface Replacement {
  readonly find: string;
  readonly replace: string;
  readonly matchCase: boolean;
  /** Only where no letter or digit stands before or behind it. */
  readonly wholeWords: boolean;
  /** `find` is a pattern in RE2 syntax; `$1` in `replace` is what its first group found. */
  readonly pattern: boolean;
}

/** A replacement that cannot be made, in words. */
export class ReplacementError extends Refusal {
  constructor(message: string) {
    super("invalid", message);
  }
}

/**
 * A function that replaces everything that is found in a text, in linear time.
 *
 * @example replacer({ find: "cleat", replace: "clamp", matchCase: false, wholeWords: true, pattern: false })("Cleats and a Cleat") // "Cleats and a clamp"
 * @throws {ReplacementError} for an empty text to find, or a group that the pattern has not.
 * @throws {PatternError} for a pattern that is none, or too large.
 */
export function replacer({ find, replace, matchCase, wholeWords, pattern }: Replacement): (text: string) => string {
  if (find === "") throw new ReplacementError("There is nothing to look for");
  const compiled = pattern ? patternOf(find, { matchCase }) : plain(find, matchCase);
  const groups = compiled.groupCount();
  if (pattern)
    for (const [, number] of replace.matchAll(/\$(\d)/g))
      if (Number(number) > groups)
        throw new ReplacementError(`“$${number}” stands for a group that the pattern does not have; it has ${groups}`);
  return (text) => {
    const matcher = compiled.matcher(text);
    let made = "";
    let at = 0;
    while (matcher.find()) {
      const [from, to] = [matcher.start(), matcher.end()];
      if (from === to || (wholeWords && (isWordAt(text, from - 1) || isWordAt(text, to)))) continue;
      const put = pattern
        ? replace.replace(/\$(\d)/g, (_, number: string) => matcher.group(Number(number)) ?? "")
        : replace;
      made += text.slice(at, from) + put;
      at = to;
    }
    return at === 0 ? text : made + text.slice(at);
  };
}

function plain(find: string, matchCase: boolean): RE2JS {
  return RE2JS.compile(RE2JS.quote(find), matchCase ? 0 : RE2JS.CASE_INSENSITIVE);
}

function isWordAt(text: string, at: number): boolean {
  return at >= 0 && at < text.length && /[\p{L}\p{N}\p{M}]/u.test(text[at]!);
}
