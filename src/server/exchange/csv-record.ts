import { csvLine, harmless } from "../../formats/csv-write";

/** The column that names the cells of its row that were made harmless. */
export const MADE_HARMLESS = "made_harmless";

/** A record as a line of CSV, with the names of the cells that were made harmless at its end. */
export function csvRecord(header: readonly string[], record: Readonly<Record<string, string | number | null>>): string {
  const changed = header.filter((name) => {
    const value = record[name];
    return typeof value === "string" && harmless(value) !== value;
  });
  return csvLine([...header.map((name) => record[name] ?? null), changed.join(" ")]);
}
