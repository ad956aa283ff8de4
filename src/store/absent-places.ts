import { type Kind } from "../core/design/kinds";
import { type ItemInput } from "./items";
import { type Db } from "./open";

/**
 * Ids and addresses of rows that no page has, there or gone. Most rows of a first file are about new pages: what is asked of a
 * thousand rows together need not be asked of each. What it was not asked of is not said to be absent.
 */
export class AbsentPlaces {
  private readonly keys = new Set<string>();
  private readonly paths = new Set<string>();
  private readonly presentKeys;
  private readonly presentPaths;

  constructor(db: Db) {
    const asked = (column: string, where: string) =>
      `SELECT ${column} FROM items WHERE ${where} UNION SELECT ${column} FROM gone_items WHERE ${where}`;
    this.presentKeys = db
      .prepare(asked("key", "kind = @kind AND key IS NOT NULL AND key IN (SELECT value FROM json_each(@among))"))
      .pluck();
    this.presentPaths = db
      .prepare(asked("path", "path IS NOT NULL AND path IN (SELECT value FROM json_each(@among))"))
      .pluck();
  }

  /** Looks the ids and addresses of rows up. It holds until {@link forget}, if what is written meanwhile is noted. */
  lookFor(inputs: readonly ItemInput[]): void {
    this.forget();
    const keysOf = new Map<Kind, Set<string>>();
    for (const { kind, key, path } of inputs) {
      if (path !== null && isPlain(path)) this.paths.add(path);
      if (key === null || !isPlain(key)) continue;
      const keys = keysOf.get(kind) ?? new Set();
      keysOf.set(kind, keys.add(key));
      this.keys.add(nameOf(kind, key));
    }
    for (const [kind, keys] of keysOf)
      for (const key of this.presentKeys.all({ kind, among: JSON.stringify([...keys]) }) as string[])
        this.keys.delete(nameOf(kind, key));
    for (const path of this.presentPaths.all({ among: JSON.stringify([...this.paths]) }) as string[])
      this.paths.delete(path);
  }

  /** Notes that a page has an id and an address from now on. */
  note({ kind, key, path }: Pick<ItemInput, "kind" | "key" | "path">): void {
    if (key !== null) this.keys.delete(nameOf(kind, key));
    if (path !== null) this.paths.delete(path);
  }

  forget(): void {
    this.keys.clear();
    this.paths.clear();
  }

  hasKey(kind: Kind, key: string): boolean {
    return this.keys.has(nameOf(kind, key));
  }

  hasPath(path: string): boolean {
    return this.paths.has(path);
  }
}

/** What would not come out of JSON as it went in is left to be asked one by one. */
const isPlain = (text: string) => !/[\u0000-\u001f\ud800-\udfff]/.test(text);

const nameOf = (kind: Kind, key: string) => `${kind} ${key}`;
