import { type Line } from "../lines/ast";
import { compileLine } from "../lines/program";
import { tellApart } from "./apart";
import { TextGroups } from "./groups";
import { type ItemSet } from "./items";
import { type Limits, roomFor } from "./room";
import { type SlugRules } from "../slugs/slug";
import { LineSetter } from "./setter";

/** What one line makes of one item. */
export interface ProvedLine {
  readonly text: string;
  readonly fits: boolean;
  /** The bare fields without a value, as written. */
  readonly empty: readonly string[];
}

/** One line set for every item of a set, by itself: no rules, no texts by hand. Meant for small sets and tests. */
export function proveLine(
  line: Line,
  items: ItemSet,
  options: { limits: Limits; slug?: SlugRules; constants?: ReadonlyMap<string, string> },
): ProvedLine[] {
  const program = compileLine(line, options.constants);
  const setter = new LineSetter(program, items, roomFor(options.limits), options.slug ?? null);
  const groups = new TextGroups(items.size);
  const levels = new Uint8Array(items.size);
  const proved: ProvedLine[] = [];
  const set = (row: number) => {
    setter.set(row, levels[row]!);
    groups.putText(row, setter.text);
    proved[row] = {
      text: setter.text,
      fits: setter.fits,
      empty: setter.emptyFields().map((field) => fieldSource(line, program.fields[field]!)),
    };
  };
  for (let row = 0; row < items.size; row++) set(row);
  tellApart(groups, levels, () => program.apartCount, set);
  return proved;
}

/** A field as written, less its braces. */
export function fieldSource(
  line: { readonly source: string },
  field: { readonly from: number; readonly to: number },
): string {
  return line.source.slice(field.from + 1, field.to - 1).trim();
}
