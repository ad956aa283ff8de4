import { type Site } from "../../core/design/design";
import { type RefusedRow, type TableRow } from "../../formats/table";
import { type Mapping } from "../../formats/mapping";
import { rowReader } from "../../formats/row-reader";
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

/** Every row in its order as it is brought in, those that are refused among them; many at a time. */
export async function* importRows(
  db: Db,
  table: AsyncIterable<readonly (TableRow | RefusedRow)[]>,
  header: readonly string[],
  mapping: Mapping,
  site: Pick<Site, "dropQueries" | "kinds">,
): AsyncGenerator<readonly ImportRow[]> {
  const read = rowReader(header, mapping, { dropsQueries: site.dropQueries, site });
  const twice = new TwiceFinder();
  const single = new SinglePages(db, site);
  const importRow = (row: TableRow | RefusedRow): ImportRow => {
    const { line } = row;
    if ("reason" in row) return { line, item: row };
    const item = read(row);
    if ("reason" in item) return { line, item };
    const reason = twice.reasonToRefuse(item, line) ?? single.reasonToRefuse(item, line);
    if (reason === null) return { line, item };
    return { line, item: { line, reason, content: row.cells.join(" | ").slice(0, 2000) } };
  };
  for await (const rows of table) yield rows.map(importRow);
}
