import { parse } from "csv-parse/browser/esm/sync";

/**
 * The values of a column pasted from a spreadsheet: a line each, of several cells the first; a cell in quotation marks may
 * hold line breaks. One line break at the end is not a value.
 *
 * @example pastedValues('One\t1\r\n"Two\nlines"\t2\n') // ["One", "Two\nlines"]
 */
export function pastedValues(text: string): string[] {
  const whole = text.replace(/\r?\n$/, "");
  try {
    const rows = parse(whole, {
      delimiter: "\t",
      relax_quotes: true,
      relax_column_count: true,
      skip_empty_lines: false,
    }) as string[][];
    return rows.map(([first]) => first ?? "");
  } catch {
    // A quotation mark that nothing closes is a part of the text.
    return whole.split(/\r?\n/).map((line) => line.split("\t")[0]!);
  }
}
