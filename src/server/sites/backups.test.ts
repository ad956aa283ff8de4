import { siteSchema } from "../../core/design/schema";
import { existsSync, mkdtempSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { siteFile, siteIds } from "../../store/data-folder";
import { openStore } from "../../store/open";
import { readSite, writeSite } from "../../store/site";
import { backUp, listBackups, siteOfBackup, sitesDue } from "./backups";
import { makeSite } from "./site-files";

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "nine-lines-backups-"));
  vi.stubEnv("NINE_LINES_DATA", folder);
});
afterEach(() => {
  vi.unstubAllEnvs();
  rmSync(folder, { recursive: true });
});

const DAY = 24 * 3600 * 1000;
const NOW = Date.parse("2026-11-26T10:00:00Z");
const made = (name: string) => makeSite(name, (db) => writeSite(db, siteSchema.parse({ name })));
const changed = (id: string, at: number) => utimesSync(siteFile(id), at / 1000, at / 1000);
const nameOf = (id: string): string => {
  const db = openStore(siteFile(id), { readonly: true });
  const { name } = readSite(db)!;
  db.close();
  return name;
};

describe("back-ups", () => {
  it("are due a day after the last, and only where something changed since", () => {
    const [one, two] = [made("One"), made("Two")];
    changed(one, NOW - 2 * DAY);
    changed(two, NOW - 2 * DAY);
    expect(sitesDue(NOW)).toEqual([one, two]);
    backUp(one, NOW);
    expect(sitesDue(NOW + 2 * DAY)).toEqual([two]);
    changed(one, NOW + DAY / 2);
    expect(sitesDue(NOW + DAY - 1)).toEqual([two]);
    expect(sitesDue(NOW + DAY)).toEqual([one, two]);
    vi.stubEnv("NINE_LINES_BACKUPS", "0");
    expect(sitesDue(NOW + DAY)).toEqual([]);
  });

  it("are made while the site is in use, so many of each, the newest first", () => {
    vi.stubEnv("NINE_LINES_BACKUPS", "2");
    const [id, other] = [made("One"), made("Other")];
    const open = openStore(siteFile(id));
    writeSite(open, siteSchema.parse({ name: "One, changed" }));
    backUp(other, NOW);
    for (let day = 0; day < 4; day++) backUp(id, NOW + day * DAY);
    open.close();
    expect(listBackups().map((own) => [own.id, own.at.slice(0, 10)])).toEqual([
      [id, "2026-11-29"],
      [id, "2026-11-28"],
      [other, "2026-11-26"],
    ]);
    const back = siteOfBackup(listBackups()[0]!.file);
    expect(nameOf(back)).toBe("One, changed – as on 2026-11-29");
  });

  it("become sites beside the one that they are of, which stays as it is", () => {
    const id = made("One");
    backUp(id, NOW);
    const db = openStore(siteFile(id));
    writeSite(db, siteSchema.parse({ name: "Later" }));
    db.close();
    const back = siteOfBackup(listBackups()[0]!.file);
    expect([nameOf(id), nameOf(back)]).toEqual(["Later", "One – as on 2026-11-26"]);
    expect(siteIds()).toEqual([id, back]);
    expect(listBackups()).toHaveLength(1);
  });

  it("that are not there, or damaged, are refused, and leave nothing behind", () => {
    const id = made("One");
    backUp(id, NOW);
    const { file } = listBackups()[0]!;
    expect(() => siteOfBackup("../sites/one.db")).toThrow(/no longer exists/);
    writeFileSync(join(folder, "backups", file), "no database");
    expect(() => siteOfBackup(file)).toThrow(/not a database|damaged/);
    expect(siteIds()).toEqual([id]);
    expect(existsSync(join(folder, "backups", file))).toBe(true);
  });
});
