import { type Site } from "../../core/design/design";
import { readTable, type TableShape } from "../../formats/csv-read";
import { type RefusedRow } from "../../formats/table";
import { type Mapping, rowReader } from "../../formats/mapping";
import { type Place } from "../../store/compare-items";
import { type ItemInput } from "../../store/items";
import { type Db } from "../../store/open";
import { SinglePages } from "./single-pages";
import { TwiceFinder } from "./twice-finder";

/** A row of a file as it is brought in: an item, or why it is none. */
export interface ImportRow {
  readonly line: number;
  readonly item: ItemInput | RefusedRow;
}

/** Why a row is refused whose page would come to where another is. */
export function takenReason({ path, occupant }: Place): string {
  const who = occupant?.key ? `with the id “${occupant.key}”` : `“${occupant?.name ?? ""}”`;
  return `The page ${who} is at ${path} already and stays there; two pages cannot be at one address`;
}

/** Every row of a file in its order, those that are refused among them. */
export async function* importRows(
  db: Db,
  file: string,
  shape: TableShape,
  mapping: Mapping,
  site: Pick<Site, "dropQueries" | "kinds">,
): AsyncGenerator<ImportRow> {
  const read = rowReader(shape.header, mapping, { dropsQueries: site.dropQueries, site });
  const twice = new TwiceFinder();
  const single = new SinglePages(db, site);
  let broken: ImportRow[] = [];
  for await (const row of readTable(file, shape, (bad) => broken.push({ line: bad.line, item: bad }))) {
    yield* broken;
    broken = [];
    const item = read(row);
    const reason =
      "reason" in item ? null : (twice.reasonToRefuse(item, row.line) ?? single.reasonToRefuse(item, row.line));
    const refused = { line: row.line, reason: reason!, content: row.cells.join(" | ").slice(0, 2000) };
    yield { line: row.line, item: reason === null ? item : refused };
  }
  yield* broken;
}
