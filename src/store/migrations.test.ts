import Database from "better-sqlite3";
import { mkdtempSync, readdirSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { migrationsFolder, openStore } from "./open";
import { readChoices } from "./review-choices";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-migrations-"));
const FILES = readdirSync(migrationsFolder())
  .filter((file) => file.endsWith(".sql"))
  .sort();
const NEWEST = FILES.length;

/** A database as the version of the program left it that knew so many migrations, with a page in it. */
function databaseOf(version: number, more = ""): string {
  const path = join(folder, `${version}-${more.length}.db`);
  const db = new Database(path);
  for (const file of FILES.slice(0, version)) db.exec(readFileSync(join(migrationsFolder(), file), "utf8"));
  db.pragma(`user_version = ${version}`);
  db.exec("INSERT INTO items (id, key, kind, path, name, title) VALUES (7, 'a', 'product', '/a', 'Oar', 'An oar')");
  db.exec(more);
  db.close();
  return path;
}

/** Everything that a database is made of, by name; white space counts for nothing. */
function schemaOf(path: string): Record<string, string> {
  const db = openStore(path);
  const rows = db.prepare("SELECT name, sql FROM sqlite_master WHERE sql IS NOT NULL").raw().all() as [
    string,
    string,
  ][];
  const broken = [db.pragma("foreign_key_check"), db.pragma("integrity_check", { simple: true })];
  db.close();
  expect(broken).toEqual([[], "ok"]);
  return Object.fromEntries(rows.map(([name, sql]) => [name, sql.replace(/\s+/g, " ")]));
}

describe("a database of an earlier version", () => {
  const fresh = schemaOf(join(folder, "fresh.db"));

  it.each(FILES.map((_, i) => i + 1))("%i becomes what a new one is, and keeps its page", (version) => {
    const path = databaseOf(version);
    expect(schemaOf(path)).toEqual(fresh);
    const db = openStore(path);
    expect(db.prepare("SELECT id, key, kind, path, name, title FROM items").raw().all()).toEqual([
      [7, "a", "product", "/a", "Oar", "An oar"],
    ]);
    expect(db.pragma("user_version", { simple: true })).toBe(NEWEST);
    db.close();
  });

  it("keeps what was said of groups of changes", () => {
    const db = openStore(databaseOf(9, "INSERT INTO group_choices VALUES ('worse', 1), ('shorter', 0)"));
    const { groups, stretches } = readChoices(db);
    expect(new Map(groups)).toEqual(
      new Map([
        ["worse", true],
        ["shorter", false],
      ]),
    );
    expect(stretches.size).toBe(0);
    db.close();
  });
});
