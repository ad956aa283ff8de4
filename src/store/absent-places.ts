import { type Kind } from "../core/design/kinds";
import { type ItemInput } from "./items";
import { type Db } from "./open";

/**
 * Ids and addresses of rows that no page has, there or gone. Most rows of a first file are about new pages: what is asked of a
 * thousand rows together need not be asked of each. What it was not asked of is not said to be absent.
 */
export class AbsentPlaces {
  private readonly keys = new Map<Kind, Set<string>>();
  private readonly paths = new Set<string>();
  private readonly anyGone;
  private readonly statements;

  constructor(db: Db) {
    const asked = (column: string, table: string, where: string) =>
      db
        .prepare(`SELECT ${column} FROM ${table} WHERE ${where} ${column} IN (SELECT value FROM json_each(@among))`)
        .pluck();
    this.anyGone = db.prepare("SELECT 1 FROM gone_items LIMIT 1").pluck();
    this.statements = ["items", "gone_items"].map((table) => ({
      keys: asked("key", table, "kind = @kind AND key IS NOT NULL AND"),
      paths: asked("path", table, "path IS NOT NULL AND"),
    }));
  }

  /** Looks the ids and addresses of rows up. It holds until {@link forget}, if what is written meanwhile is noted. */
  lookFor(inputs: readonly ItemInput[]): void {
    this.forget();
    for (const { kind, key, path } of inputs) {
      if (path !== null && isPlain(path)) this.paths.add(path);
      if (key === null || !isPlain(key)) continue;
      const keys = this.keys.get(kind) ?? new Set();
      this.keys.set(kind, keys.add(key));
    }
    const paths = JSON.stringify([...this.paths]);
    const keysOf = [...this.keys].map(([kind, keys]) => ({ kind, keys, among: JSON.stringify([...keys]) }));
    const tables = this.anyGone.get() === undefined ? this.statements.slice(0, 1) : this.statements;
    for (const present of tables) {
      for (const path of present.paths.all({ among: paths }) as string[]) this.paths.delete(path);
      for (const { kind, keys, among } of keysOf)
        for (const key of present.keys.all({ kind, among }) as string[]) keys.delete(key);
    }
  }

  /** Notes that a page has an id and an address from now on. */
  note({ kind, key, path }: Pick<ItemInput, "kind" | "key" | "path">): void {
    if (key !== null) this.keys.get(kind)?.delete(key);
    if (path !== null) this.paths.delete(path);
  }

  forget(): void {
    this.keys.clear();
    this.paths.clear();
  }

  hasKey(kind: Kind, key: string): boolean {
    return this.keys.get(kind)?.has(key) ?? false;
  }

  hasPath(path: string): boolean {
    return this.paths.has(path);
  }
}

/** What would not come out of JSON as it went in is left to be asked one by one. */
const isPlain = (text: string) => !/[\u0000-\u001f\ud800-\udfff]/.test(text);
