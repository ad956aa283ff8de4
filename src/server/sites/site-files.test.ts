import { siteSchema } from "../../core/design/schema";
import { cpSync, existsSync, mkdtempSync, readdirSync, renameSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { dataFolder, isSiteId, siteFile, siteIds, sitesFolder } from "../../store/data-folder";
import { addJob } from "../../store/jobs";
import { openStore } from "../../store/open";
import { readSite, writeSite } from "../../store/site";
import { fileWork } from "./file-work";
import { SiteCards } from "./site-card";
import {
  bringBack,
  checkSiteFile,
  copyOf,
  dropHalfMade,
  dropOldSites,
  freeId,
  KEPT_DAYS,
  lastUsed,
  makeSite,
  moveOldDatabase,
  removedSites,
  removeSite,
  requireSite,
} from "./site-files";
import { filesWanted } from "./wanted-files";

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "nine-lines-sites-"));
  vi.stubEnv("NINE_LINES_DATA", folder);
});
afterEach(() => {
  vi.unstubAllEnvs();
  rmSync(folder, { recursive: true });
});

const DAY = 24 * 3600 * 1000;
const made = (name: string) => makeSite(name, (db) => writeSite(db, siteSchema.parse({ name })));
const nameOf = (file: string) => {
  const db = openStore(file, { readonly: true });
  const site = readSite(db);
  db.close();
  return site?.name;
};

describe("the id of a site", () => {
  it.each([
    ["Fennick & Dray", "fennick-dray"],
    ["  Möwe – Taue ", "mowe-taue"],
    ["船具", "site"],
    ["API", "api-site"],
    ["sites", "sites-site"],
    ["a".repeat(80), "a".repeat(50)],
  ])("of %j is %s", (name, id) => expect(freeId(name)).toBe(id));

  it("is another for each site of a name", () => {
    expect([made("Rope"), made("Rope"), made("Rope!")]).toEqual(["rope", "rope-2", "rope-3"]);
    expect(siteIds()).toEqual(["rope", "rope-2", "rope-3"]);
  });

  it.each(["", "-a", "a-", "A", "a b", "../x", "a/b", "api", "_next", "a".repeat(61)])("is not %j", (id) => {
    expect(isSiteId(id)).toBe(false);
    expect(() => requireSite(id)).toThrow(/There is no site/);
  });
});

describe("making a site", () => {
  it("leaves one whole file, or nothing where it fails on the way", () => {
    expect(() =>
      makeSite("broken", (db) => {
        writeSite(db, siteSchema.parse({ name: "Half" }));
        throw new Error("The light went out");
      }),
    ).toThrow("The light went out");
    expect(readdirSync(sitesFolder())).toEqual([]);
    made("Whole");
    expect(readdirSync(sitesFolder())).toEqual(["whole.db"]);
  });

  it("takes the place of no other one that is made at the same time", () => {
    const ids: string[] = [];
    ids.push(
      makeSite("Rope", (db) => {
        writeSite(db, siteSchema.parse({ name: "Rope" }));
        ids.push(made("Rope"));
      }),
    );
    expect(ids).toEqual(["rope", "rope-2"]);
    expect(siteIds()).toEqual(["rope", "rope-2"]);
  });

  it("leaves nothing that anybody sees where the server ended in the midst; the next start tidies up", () => {
    made("Whole");
    for (const end of [".making", ".making-wal", ".making-shm"])
      writeFileSync(join(sitesFolder(), `half.db${end}`), "x");
    expect(siteIds()).toEqual(["whole"]);
    dropHalfMade();
    expect(readdirSync(sitesFolder())).toEqual(["whole.db"]);
  });
});

describe("removing a site", () => {
  it("moves it aside, with what still stood in its log; it comes back as it was", () => {
    const id = made("Rope");
    const db = openStore(siteFile(id));
    writeSite(db, siteSchema.parse({ name: "Rope and twine" }));
    // As where the server was killed: the log is left beside the file.
    const [file, log] = [siteFile(id), `${siteFile(id)}-wal`];
    cpSync(log, `${log}.kept`);
    cpSync(file, `${file}.kept`);
    db.close();
    renameSync(`${file}.kept`, file);
    renameSync(`${log}.kept`, log);
    removeSite(id);
    expect(readdirSync(sitesFolder())).toEqual([]);
    expect(siteIds()).toEqual([]);
    const [removed] = removedSites();
    expect(removed).toMatchObject({ id, name: "Rope and twine", daysLeft: KEPT_DAYS });
    expect(bringBack(removed!.file)).toBe(id);
    expect(nameOf(siteFile(id))).toBe("Rope and twine");
    expect(removedSites()).toEqual([]);
  });

  it("lets it come back beside another one that has its id by now", () => {
    removeSite(made("Rope"));
    made("Rope");
    expect(bringBack(removedSites()[0]!.file)).toBe("rope-2");
    expect(() => bringBack("rope@1.db")).toThrow(/no longer exists/);
  });

  it("is for good after thirty days, and not before", () => {
    const now = Date.now();
    removeSite(made("Old"), now - KEPT_DAYS * DAY - 1);
    removeSite(made("Young"), now - KEPT_DAYS * DAY + DAY);
    dropOldSites(now);
    expect(removedSites(now).map(({ id, daysLeft }) => [id, daysLeft])).toEqual([["young", 1]]);
  });
});

describe("a copy of a site", () => {
  it("is made while the site is in use, under a name of its own", () => {
    const id = made("Rope");
    const db = openStore(siteFile(id));
    db.exec("BEGIN IMMEDIATE");
    expect(fileWork.duplicate({ id })).toBe("rope-copy");
    db.exec("ROLLBACK");
    db.close();
    expect(siteIds().map((own) => nameOf(siteFile(own)))).toEqual(["Rope", "Rope – copy"]);
  });

  it("goes out as one file and comes in elsewhere", () => {
    const file = fileWork.takeOut({ id: made("Rope") });
    removeSite("rope");
    expect(fileWork.takeIn({ file })).toBe("rope");
    expect([nameOf(siteFile("rope")), existsSync(file)]).toEqual(["Rope", false]);
  });

  it("leaves nothing behind where it cannot be changed as it should", () => {
    const db = openStore(siteFile(made("Rope")));
    const change = () => {
      throw new Error("no room");
    };
    expect(() => copyOf(db, change)).toThrow("no room");
    db.close();
    expect(readdirSync(sitesFolder())).toEqual(["rope.db"]);
  });

  it("is refused in words where the file is no site", () => {
    const text = join(folder, "text.db");
    writeFileSync(text, "not a database at all, but long enough to be looked at as one ".repeat(20));
    expect(() => checkSiteFile(text)).toThrow(/is not a database of this application/);
    const empty = join(folder, "empty.db");
    openStore(empty).close();
    expect(() => checkSiteFile(empty)).toThrow(/holds no site/);
    expect(siteIds()).toEqual([]);
  });
});

describe("what an older version kept", () => {
  it("becomes the first site, under its own name, with what stood in its log", () => {
    const old = join(dataFolder(), "nine-lines.db");
    const db = openStore(old);
    writeSite(db, siteSchema.parse({ name: "Fennick & Dray" }));
    db.close();
    moveOldDatabase();
    expect(existsSync(old)).toBe(false);
    expect(siteIds()).toEqual(["fennick-dray"]);
    expect(nameOf(siteFile("fennick-dray"))).toBe("Fennick & Dray");
    moveOldDatabase();
    expect(siteIds()).toEqual(["fennick-dray"]);
  });
});

describe("a site's card", () => {
  it("says what is in it, again when that is another, and what is wrong where it cannot be read", () => {
    const id = made("Rope");
    const cards = new SiteCards();
    expect(cards.of(id)).toMatchObject({ name: "Rope", pages: 0, lines: 0, lastRun: null, trouble: null });
    const db = openStore(siteFile(id));
    writeSite(db, siteSchema.parse({ name: "Twine", baseUrl: "https://twine.example" }));
    expect(cards.of(id)).toMatchObject({ name: "Twine", address: "https://twine.example" });
    db.close();
    writeFileSync(siteFile("torn"), "torn ".repeat(500));
    expect(cards.of("torn").trouble).toMatch(/not a database of this application/);
  });
});

describe("the site that was written last", () => {
  it("is told by its file and its log", () => {
    expect(lastUsed()).toBeNull();
    const [rope, twine] = [made("Rope"), made("Twine")].map(siteFile) as [string, string];
    utimesSync(rope, 1000, 3000);
    utimesSync(twine, 1000, 2000);
    expect(lastUsed()).toBe("rope");
    writeFileSync(`${twine}-wal`, "");
    utimesSync(`${twine}-wal`, 1000, 4000);
    expect(lastUsed()).toBe("twine");
  });
});

describe("received files", () => {
  it("are wanted by the open jobs of any site; where a site cannot be read nobody knows", () => {
    for (const name of ["Rope", "Twine"]) {
      const db = openStore(siteFile(made(name)));
      addJob(
        db,
        { type: "import", label: name, params: { token: name }, total: null, begunBy: "x" },
        "2026-11-26T06:00Z",
      );
      db.close();
    }
    const tokens = new Set(["Rope", "Twine"]);
    expect(filesWanted()).toEqual({ tokens, isSure: true });
    writeFileSync(siteFile("torn"), "torn ".repeat(500));
    expect(filesWanted()).toEqual({ tokens, isSure: false });
  });
});
