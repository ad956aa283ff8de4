import { type Db } from "./open";

/** Filters, order and columns of the list of all pages under a name; `query` is what the address bar holds of them. */
export interface NamedView {
  readonly name: string;
  readonly query: string;
}

export function listViews(db: Db): NamedView[] {
  return db.prepare("SELECT name, query FROM named_views ORDER BY name COLLATE NOCASE").all() as NamedView[];
}

/** Keeps a view; one of that name is replaced. */
export function putView(db: Db, { name, query }: NamedView, now: string): void {
  db.prepare(
    "INSERT INTO named_views (name, query, saved_at) VALUES (?, ?, ?) ON CONFLICT (name) DO UPDATE SET query = excluded.query, saved_at = excluded.saved_at",
  ).run(name, query, now);
}

export function forgetView(db: Db, name: string): void {
  db.prepare("DELETE FROM named_views WHERE name = ?").run(name);
}
