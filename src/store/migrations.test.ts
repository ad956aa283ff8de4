import Database from "better-sqlite3";
import { createHash } from "node:crypto";
import { mkdtempSync, readdirSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { readDraft } from "./drafts";
import { takenTexts } from "./live";
import { migrationsFolder, openStore } from "./open";
import { iterateRedirects } from "./redirects";
import { readChoices } from "./review-choices";
import { listVersions, readVersion } from "./versions";

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

/** The migrations that were let out, by the beginning of their SHA-256: databases that went through one never do again. */
const LET_OUT: Readonly<Record<string, string>> = {
  "001-start.sql": "6210960dccf3dd14",
  "002-named-drafts.sql": "43bfa1fbcbf247cd",
  "003-edits.sql": "f9e76ba2dd0fd2a5",
  "004-run-figures.sql": "ce689194d5cac3b0",
  "005-one-truth.sql": "5aeb8a917d2426f9",
  "006-run-indexes.sql": "3ee2daf639273cf3",
  "007-extras.sql": "51cecd5ae9aa03b5",
  "008-remembered-columns.sql": "73ebd7878d9a3c99",
  "009-gone-pages.sql": "02a538eef67fbf65",
  "010-stretch-choices.sql": "4759bc4af6e68ed3",
  "011-versions.sql": "4f766d4a518e5191",
  "012-addresses.sql": "d90037dbfe0f26f1",
  "013-redirects.sql": "b452ec3d89552862",
  "014-links.sql": "421fa2416eb51d37",
  "015-canonicals.sql": "ade9b364dbcab88c",
  "016-choices-before.sql": "9911ffb9dba5fd72",
  "017-wire.sql": "a60ab69ce1a4976b",
  "018-live.sql": "4a136adb922a1ba8",
  "019-taken-surfaces.sql": "7850c503123b2b25",
};

describe("a migration that was let out", () => {
  it.each(Object.entries(LET_OUT))("%s is as it was: what it lacks is a migration of its own", (file, hash) => {
    const text = readFileSync(join(migrationsFolder(), file));
    expect(createHash("sha256").update(text).digest("hex").slice(0, hash.length)).toBe(hash);
  });
});

describe("what a theme adds, taken before it was noted which surfaces it made narrower", () => {
  it("stays taken", () => {
    const db = openStore(databaseOf(18, "INSERT INTO live_taken (text, added) VALUES ('title', ' | Rope')"));
    expect([...takenTexts(db)]).toEqual([["title  | Rope", []]]);
    db.close();
  });

  it("stays as it was noted by the version whose databases had the surfaces from the start", () => {
    const noted = `'[{"id":"title-desktop"}]'`;
    const path = databaseOf(
      18,
      `DROP TABLE live_taken;
       CREATE TABLE live_taken (text TEXT NOT NULL, added TEXT NOT NULL, surfaces TEXT NOT NULL, PRIMARY KEY (text, added)) STRICT, WITHOUT ROWID;
       INSERT INTO live_taken VALUES ('title', ' | Rope', ${noted})`,
    );
    const db = openStore(path);
    expect(db.prepare("SELECT surfaces FROM live_taken").pluck().all()).toEqual([noted.slice(1, -1)]);
    expect(db.pragma("user_version", { simple: true })).toBe(NEWEST);
    db.close();
  });
});

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

  it("keeps drafts; what was kept, named or applied is a version", () => {
    const design = (title: string) => `'{"base":{"title":"${title}"},"rules":[]}'`;
    const db = openStore(
      databaseOf(
        10,
        `INSERT INTO designs VALUES ('draft', 'product', ${design("{name} draft")}, 4, '2026-11-03'),
           ('kept', 'product', ${design("{name} kept")}, 2, '2026-11-02T10:00:00Z');
         INSERT INTO named_drafts VALUES (5, 'product', 'Shorter', ${design("{name} short")}, '2026-11-01');
         INSERT INTO runs (id, type, status, name, note, design, created_at, frozen) VALUES
           (1, 'apply', 'done', 'Spring', '', '{"product":' || ${design("{name} run")} || ',"post":{"base":{},"rules":[]}}', '2026-11-04', 1);
         INSERT INTO run_changes (run_id, item_id, text, before, after, revision) VALUES (1, 7, 'title', 'An oar', 'Oar', 1);`,
      ),
    );
    expect(readDraft(db, "product")).toMatchObject({ version: 4, design: { base: { title: "{name} draft" } } });
    const versions = listVersions(db, "product").map(({ id, name, run }) => ({
      ...{ name, run },
      title: readVersion(db, id)!.design.base.title,
    }));
    expect(versions).toEqual([
      { name: "Run 1: Spring", run: 1, title: "{name} run" },
      { name: "Kept on 2026-11-02", run: null, title: "{name} kept" },
      { name: "Shorter", run: null, title: "{name} short" },
    ]);
    expect(listVersions(db, "post")).toEqual([]);
    db.close();
  });

  it("loses no version whose name another one has already", () => {
    const design = `'{"base":{},"rules":[]}'`;
    const db = openStore(
      databaseOf(
        10,
        `INSERT INTO designs VALUES ('kept', 'product', ${design}, 2, '2026-11-02T10:00:00Z');
         INSERT INTO named_drafts VALUES (5, 'product', 'Kept on 2026-11-02', ${design}, '2026-11-01'), (6, 'product', 'Run 1', ${design}, '2026-11-01');
         INSERT INTO runs (id, type, status, name, note, design, created_at, frozen) VALUES
           (1, 'apply', 'done', '', '', '{"product":' || ${design} || '}', '2026-11-04', 1);
         INSERT INTO run_changes (run_id, item_id, text, before, after, revision) VALUES (1, 7, 'title', 'An oar', 'Oar', 1);`,
      ),
    );
    const names = listVersions(db, "product").map(({ name }) => name);
    expect(names).toHaveLength(4);
    expect(names.filter((name) => /^(Run 1|Kept on 2026-11-02)$/.test(name))).toHaveLength(2);
    db.close();
  });

  it("drafts the paths that were settings, lets lines that were written before move what they moved, and keeps redirects", () => {
    const db = openStore(
      databaseOf(
        11,
        `INSERT INTO site (id, settings) VALUES (1, '{"name":"Quill","paths":{"product":"/shop/{slug}","post":"/log/{slug}"}}');
         INSERT INTO drafts VALUES ('product', '{"base":{"slug":"{name}"},"rules":[]}', 4, '2026-11-03');
         INSERT INTO runs (id, type, status, note, design, created_at, ended_at) VALUES (3, 'apply', 'done', '', '{}', '2026-11-04', '2026-11-05');
         INSERT INTO redirects (id, run_id, item_id, from_path, to_path, status) VALUES (9, 3, 7, '/b', '/a', 301);`,
      ),
    );
    expect(readDraft(db, "product").design).toMatchObject({
      address: "/shop/{slug}",
      moves: "all",
      base: { slug: "{name}" },
    });
    expect(readDraft(db, "post").design).toMatchObject({ address: "/log/{slug}", moves: "all" });
    expect(db.prepare("SELECT settings FROM site").pluck().get()).toBe('{"name":"Quill"}');
    expect([...iterateRedirects(db)]).toMatchObject([
      { id: 9, run: 3, from: "/b", to: "/a", origin: "run", createdAt: "2026-11-05", prefix: false },
    ]);
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
