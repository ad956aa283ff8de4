import { type Lines, type Rule } from "../design/design";
import { type ExtraName, type TextName } from "../design/kinds";
import { type ItemSet } from "../proof/items";
import { readCondition } from "./condition";
import { matchingRows } from "./match";

/** The lines that can decide a text, and for each row the number of the one that does; -1 where none is set. */
export interface Decision {
  readonly lines: readonly {
    readonly from: "rule" | "base";
    readonly rule: Pick<Rule, "id" | "name"> | null;
    readonly source: string;
  }[];
  readonly decides: Int16Array;
}

/** A rule as far as deciding needs it: one of a lines file has no id. */
export type DecidingRule = Omit<Rule, "id"> & { readonly id?: string };

/** Whether a line is set: one of white space only is none. */
export function isSet(source: string | undefined): source is string {
  return source !== undefined && source.trim() !== "";
}

/**
 * Which line decides a text, or which setting the robots, for each item: that of the first matching rule that has one, otherwise the base's. Rules that
 * are switched off are passed over.
 *
 * @param rowsOf the rows that a rule's condition takes: {@link matchingRows}, or what is remembered of it.
 */
export function decide(
  rules: readonly DecidingRule[],
  base: Lines,
  text: TextName | ExtraName | "robots",
  items: ItemSet,
  rowsOf: (rule: DecidingRule) => Uint8Array = (rule) => matchingRows(readCondition(rule.when), items),
): Decision {
  const lines: Decision["lines"][number][] = [];
  const decides = new Int16Array(items.size).fill(-1);
  for (const rule of rules) {
    const source = rule[text];
    if (rule.off || !isSet(source)) continue;
    const taken = rowsOf(rule);
    for (let row = 0; row < taken.length; row++)
      if (taken[row] === 1 && decides[row] === -1) decides[row] = lines.length;
    lines.push({ from: "rule", rule: { id: rule.id ?? rule.name, name: rule.name }, source });
  }
  const source = base[text];
  if (isSet(source)) {
    for (let row = 0; row < decides.length; row++) if (decides[row] === -1) decides[row] = lines.length;
    lines.push({ from: "base", rule: null, source });
  }
  return { lines, decides };
}
