import { type Kind } from "../core/design/kinds";
import { type ItemRow, type NewRow } from "./items";

/** Pages as rows leave them that are not written: what tells them apart may be another thing by then. */
export class PagesAhead {
  private readonly rows = new Map<number, ItemRow>();
  private readonly keys = new Map<string, number>();
  private readonly added = new Set<string>();
  private readonly back = new Set<number>();
  private readonly backPaths = new Map<string, ItemRow>();

  /** Notes that a page that was gone is back. */
  bringBack(row: ItemRow): void {
    this.back.add(row.id);
    if (row.path !== null) this.backPaths.set(row.path, row);
    this.put(row);
  }

  isBack(id: number): boolean {
    return this.back.has(id);
  }

  backAt(path: string): ItemRow | undefined {
    return this.backPaths.get(path);
  }

  add({ kind, key }: NewRow): void {
    if (key !== null) this.added.add(`${kind} ${key}`);
  }

  /** Whether a page that was added has the id. */
  isAdded(kind: Kind, key: string | null): boolean {
    return this.added.has(`${kind} ${key}`);
  }

  put(row: ItemRow): void {
    this.rows.set(row.id, row);
    if (row.key !== null) this.keys.set(`${row.kind} ${row.key}`, row.id);
  }

  withKey(kind: Kind, key: string | null): ItemRow | undefined {
    const row = this.rows.get(this.keys.get(`${kind} ${key}`) ?? -1);
    return row?.kind === kind && row.key === key ? row : undefined;
  }

  /** A page that the database has as it is by now, if it still is what it was looked for as. */
  now(row: ItemRow | undefined, is: (row: ItemRow) => boolean): ItemRow | undefined {
    const later = row && (this.rows.get(row.id) ?? row);
    return later && is(later) ? later : undefined;
  }
}
