import { Refusal } from "../refusal";
import { RE2JS } from "re2js";

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

/** A pattern that cannot be read, in words. */
export class ReplacementError extends Refusal {
  constructor(message: string) {
    super("invalid", message);
  }
}

/**
 * A function that replaces everything that is found in a text, in linear time.
 *
 * @example replacer({ find: "cleat", replace: "clamp", matchCase: false, wholeWords: true, pattern: false })("Cleats and a Cleat") // "Cleats and a clamp"
 * @throws {ReplacementError} for an empty text to find, a pattern that is none, or a group that it has not.
 */
export function replacer({ find, replace, matchCase, wholeWords, pattern }: Replacement): (text: string) => string {
  if (find === "") throw new ReplacementError("There is nothing to look for");
  const source = pattern ? find : RE2JS.quote(find);
  let compiled: RE2JS;
  try {
    compiled = RE2JS.compile(source, matchCase ? 0 : RE2JS.CASE_INSENSITIVE);
  } catch (error) {
    throw new ReplacementError(
      `“${find}” is no pattern in RE2 syntax: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
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

function isWordAt(text: string, at: number): boolean {
  return at >= 0 && at < text.length && /[\p{L}\p{N}\p{M}]/u.test(text[at]!);
}
