import { type Lines } from "../design/design";
import { type TextName } from "../design/kinds";
import { type ItemSet } from "../proof/items";
import { type Condition } from "./condition";
import { matchingRows } from "./match";

/** A rule: what it takes, and the lines it sets. */
export interface Rule extends Lines {
  readonly name: string;
  readonly when: Condition;
}

/** The lines that can decide a text, and for each row the number of the one that does; -1 where none is set. */
export interface Decision {
  readonly lines: readonly { readonly from: "rule" | "base"; readonly rule: string | null; readonly source: string }[];
  readonly decides: Int16Array;
}

/** Which line decides a text for each item: that of the first matching rule that has one, otherwise the base's. */
export function decide(rules: readonly Rule[], base: Lines, text: TextName, items: ItemSet): Decision {
  const lines: Decision["lines"][number][] = [];
  const decides = new Int16Array(items.size).fill(-1);
  for (const rule of rules) {
    const source = rule[text];
    if (source === undefined) continue;
    const taken = matchingRows(rule.when, items);
    for (let row = 0; row < taken.length; row++) if (taken[row] === 1 && decides[row] === -1) decides[row] = lines.length;
    lines.push({ from: "rule", rule: rule.name, source });
  }
  const source = base[text];
  if (source !== undefined) {
    for (let row = 0; row < decides.length; row++) if (decides[row] === -1) decides[row] = lines.length;
    lines.push({ from: "base", rule: null, source });
  }
  return { lines, decides };
}
