import { type FieldNode, type FilterCall } from "../lines/ast";
import { filterByName } from "../lines/filters";
import { printField } from "../lines/print";
import { type Program } from "../lines/program";
import { type Column, type ItemSet } from "./items";
import { HAND, type TextProof, TOO_LONG } from "./text-proof";

/** A field of a line that is to be a number or a day, or that a filter makes too long, and values that are such: they give nothing. */
export interface UnreadField {
  /** As it is written, in its plainest spelling; the whole line where its text is too long. */
  readonly field: string;
  readonly reads: "number" | "day" | "length" | "text";
  /** On how many of the pages that the line decides. */
  readonly count: number;
  /** Some of the values. */
  readonly examples: readonly string[];
}

const MOST_EXAMPLES = 3;

/** What of a value a filter may not come to terms with, `null` for one that takes any. */
function whatCanFail({ name, args }: FilterCall): Exclude<UnreadField["reads"], "text"> | null {
  const filter = filterByName(name)!;
  return filter.reads ?? (filter.grows && args[1]!.length > args[0]!.length ? "length" : null);
}

/** What of a line gives nothing on pages that it decides: fields that are to be numbers or days and are none, fields and texts that come to too much. */
export function unreadFields(proof: TextProof, program: Program, line: number, items: ItemSet): UnreadField[] {
  return [...tooLong(proof, program, line), ...fieldsOf(proof, program, line, items)];
}

function tooLong({ size, shape, line: decides }: TextProof, { source }: Program, line: number): UnreadField[] {
  let count = 0;
  for (let row = 0; row < size; row++) if (decides[row] === line && shape[row] === TOO_LONG) count++;
  return count === 0 ? [] : [{ field: source, reads: "text", count, examples: [] }];
}

function fieldsOf(proof: TextProof, program: Program, line: number, items: ItemSet): UnreadField[] {
  return program.fields.slice(0, program.own).flatMap((field) => {
    const at = field.filters.findIndex((call) => whatCanFail(call) !== null);
    if (at < 0) return [];
    const last = field.filters.findLastIndex((call) => whatCanFail(call) !== null);
    const upTo = (filters: number): Column =>
      items.fieldColumn({ ...field, filters: field.filters.slice(0, filters) } as FieldNode);
    const [before, after] = [upTo(at), upTo(last + 1)];
    const examples = new Set<string>();
    let count = 0;
    for (let row = 0; row < proof.size; row++) {
      if (proof.line[row] !== line || proof.from[row] === HAND) continue;
      if (before.codes[row] === 0 || after.codes[row] !== 0) continue;
      count++;
      if (examples.size < MOST_EXAMPLES) examples.add(before.table.values[before.codes[row]!]!);
    }
    if (count === 0) return [];
    return [
      {
        field: printField(field),
        reads: whatCanFail(field.filters[at]!)!,
        count,
        examples: [...examples],
      },
    ];
  });
}
