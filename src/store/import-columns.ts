import { type FieldFormat } from "../core/text/figures";
import { type Db } from "./open";

/** What a column was said to be when a file that has it was brought in. */
export interface RememberedColumn {
  readonly target: string;
  readonly format: FieldFormat | null;
}

/** What was said of a file besides its columns. */
export interface RememberedFile {
  readonly kind: string;
  readonly byHand: string;
}

const nameOf = (heading: string) => heading.trim().toLowerCase();
const headerOf = (header: readonly string[]) => JSON.stringify(header.map(nameOf));

/** What is known of each column of a header, `null` for one that no file had before; and of files with this very header. */
export function rememberedColumns(
  db: Db,
  header: readonly string[],
): { readonly columns: readonly (RememberedColumn | null)[]; readonly file: RememberedFile | null } {
  const column = db.prepare("SELECT target, format FROM import_columns WHERE name = ?");
  const file = db.prepare("SELECT kind, by_hand AS byHand FROM import_headers WHERE header = ?").get(headerOf(header));
  return {
    columns: header.map((heading) => {
      const row = column.get(nameOf(heading)) as { target: string; format: string | null } | undefined;
      return row ? { target: row.target, format: JSON.parse(row.format ?? "null") as FieldFormat | null } : null;
    }),
    file: (file as RememberedFile | undefined) ?? null,
  };
}

/** Remembers what the columns of a file are. Call it inside a transaction. */
export function rememberColumns(
  db: Db,
  header: readonly string[],
  columns: readonly RememberedColumn[],
  { kind, byHand }: RememberedFile,
): void {
  const put = db.prepare(
    "INSERT INTO import_columns (name, target, format) VALUES (?, ?, ?) ON CONFLICT (name) DO UPDATE SET target = excluded.target, format = excluded.format",
  );
  header.forEach((heading, i) => {
    const { target, format } = columns[i]!;
    put.run(nameOf(heading), target, format && JSON.stringify(format));
  });
  db.prepare(
    "INSERT INTO import_headers (header, kind, by_hand) VALUES (?, ?, ?) ON CONFLICT (header) DO UPDATE SET kind = excluded.kind, by_hand = excluded.by_hand",
  ).run(headerOf(header), kind, byHand);
}
