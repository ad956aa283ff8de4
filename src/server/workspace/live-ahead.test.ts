import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { build } from "esbuild";
import { afterAll, beforeAll, beforeEach, afterEach, describe, expect, it } from "vitest";
import { EMPTY_DESIGN } from "../../core/design/design";
import { type TextName, TEXTS } from "../../core/design/kinds";
import { GIVEN_COLUMNS } from "../../core/proof/given-prover";
import { Cancelled } from "../../core/proof/prove-set";
import { loadDemo } from "../../demo/load";
import { CHUNK } from "../../store/items";
import { createEdit } from "../../store/edits";
import { type Db, openStore } from "../../store/open";
import { readSite, revision, writeSite } from "../../store/site";
import { applyEdit } from "../edits/apply-edit";
import { LiveAhead } from "./live-ahead";
import { proveLive } from "./live-proving";
import { LiveShare } from "./live-share";
import { Workspace } from "./workspace";

// Beneath the project, where the bundle finds the database driver.
mkdirSync("test-results", { recursive: true });
const folder = mkdtempSync(join(process.cwd(), "test-results", "live-ahead-"));
const path = join(folder, "site.db");
/** Two stretches and a part of one. */
const PAGES = 2 * CHUNK + 77;
const real = join(folder, "live.mjs");
const share = `import { workerData } from "node:worker_threads"; const { cells } = workerData.memory;`;
/** Threads that do not do what they are asked for. */
const BROKEN = {
  "ends at once": "process.exit(1);",
  throws: `throw new Error("odd");`,
  "begins and says no more": `${share} Atomics.store(cells, 2, 1); setInterval(() => {}, 1000);`,
  "gives up within a stretch": `${share} Atomics.store(cells, 2, 1); Atomics.store(cells, 0, 1);`,
};
const fileOf = (name: string) => join(folder, `${name.replaceAll(" ", "-")}.mjs`);

beforeAll(async () => {
  await build({
    entryPoints: [join(process.cwd(), "src/server/workspace/live-worker.ts")],
    bundle: true,
    platform: "node",
    format: "esm",
    outfile: real,
    external: ["better-sqlite3"],
    banner: {
      js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
    },
    logLevel: "silent",
  });
  for (const [name, source] of Object.entries(BROKEN)) writeFileSync(fileOf(name), source);
  const made = openStore(path);
  loadDemo(made, { products: PAGES });
  const set = made.prepare("UPDATE items SET title = ?, description = ?, slug = ?, keyword = ? WHERE id = ?");
  const odd = ["", " ", "Été ﬁ 真鍮 🚢  two  spaces", "<b>&amp;</b>", "mooring cleat\u001fcleats", "x".repeat(5000)];
  const ids = made.prepare("SELECT id FROM items WHERE kind = 'product' ORDER BY id").pluck().all() as number[];
  odd.forEach((text, i) => set.run(text, text, text, odd[(i + 1) % odd.length], ids[i * 700]!));
  made.close();
});
afterAll(() => rmSync(folder, { recursive: true }));

let db: Db;
beforeEach(() => (db = openStore(path)));
afterEach(() => db.close());

const ahead = (file: string) => new LiveAhead(file, path, { fewest: 1, silent: 300 });
const columnsOf = (workspace: Workspace, text: TextName) => {
  const { proof } = workspace.liveProof("product", text);
  const groups = Array.from({ length: proof.size }, (_, row) => proof.groups.countOf(row));
  const columns = ([...GIVEN_COLUMNS, "shape", "from", "line"] as const).map((name) => [name, proof[name]] as const);
  return [...columns, ["groups", groups]];
};
const all = (workspace: Workspace) => TEXTS.map((text) => columnsOf(workspace, text));
const design = { ...EMPTY_DESIGN, base: { title: "{name}", description: "{intro}", slug: "{name}" } };

describe("what the site has, proved in a thread of its own", () => {
  it("is what is proved here, whether it is asked for at once or later", () => {
    const here = all(new Workspace(db));
    expect(all(new Workspace(db, { ahead: ahead(real) }))).toEqual(here);
    const later = new Workspace(db, { ahead: ahead(real) });
    for (const text of TEXTS) later.textProof("product", text, design);
    expect(all(later)).toEqual(here);
  });

  it.each(Object.keys(BROKEN))("is proved here where the thread %s, and the wait has an end", (name) => {
    expect(all(new Workspace(db, { ahead: ahead(fileOf(name)) }))).toEqual(all(new Workspace(db)));
  });

  it("is of the pages as they are, where they changed since it began", () => {
    const workspace = new Workspace(db, { ahead: ahead(real) });
    const { ids } = workspace.data("product");
    const id = ids[5]!;
    const before = db.prepare("SELECT title FROM items WHERE id = ?").pluck().get(id) as string;
    const put = (title: string) => {
      db.prepare("UPDATE items SET title = ? WHERE id = ?").run(title, id);
      // The edit tells the site that the page is another one.
      applyEdit(
        db,
        createEdit(db, title, [{ item: id, field: "title", before: null, after: title }], "2026-11-25T10:00:00Z"),
        "set",
      );
    };
    put("Another title");
    expect(all(workspace)).toEqual(all(new Workspace(db)));
    put(before);
  });

  it("is of the limits as they are, where they changed since it began", () => {
    const workspace = new Workspace(db, { ahead: ahead(real) });
    workspace.data("product");
    const site = readSite(db)!;
    writeSite(db, { ...site, slug: { ...site.slug, max: 12 } });
    try {
      expect(all(workspace)).toEqual(all(new Workspace(db)));
    } finally {
      writeSite(db, site);
    }
  });

  it("can be gone on with where it was no longer wanted", () => {
    const workspace = new Workspace(db, { ahead: ahead(real) });
    for (const text of TEXTS)
      expect(() => workspace.liveProof("product", text, { cancelled: () => true })).toThrow(Cancelled);
    expect(all(workspace)).toEqual(all(new Workspace(db)));
  });

  it("is what is proved here, where all of it is the thread's work", () => {
    const share = LiveShare.blank(PAGES);
    proveLive({ path, site: readSite(db)!, kind: "product", revision: revision(db), memory: share.memory });
    const workspace = new Workspace(db);
    for (const text of TEXTS) {
      const { proof } = workspace.liveProof("product", text);
      for (const column of GIVEN_COLUMNS) expect(share.memory.texts[text][column]).toEqual(proof[column]);
    }
  });

  it("is given up where the pages are others than those that are asked about", () => {
    const asked = { path, site: readSite(db)!, kind: "product", revision: revision(db) };
    const states = (share: LiveShare) => Array.from({ length: share.stretches }, (_, i) => share.stateOf(i));
    const current = LiveShare.blank(PAGES);
    current.keep(2);
    proveLive({ ...asked, memory: current.memory });
    expect(states(current)).toEqual(["done", "done", "kept"]);
    for (const other of [{ revision: revision(db) + 1 }, { path: join(folder, "none.db") }]) {
      const share = LiveShare.blank(PAGES);
      proveLive({ ...asked, ...other, memory: share.memory });
      expect([share.hasEnded, ...states(share)]).toEqual([true, "free", "free", "free"]);
    }
    const more = LiveShare.blank(PAGES + 1);
    proveLive({ ...asked, memory: more.memory });
    expect([more.hasEnded, more.stateOf(2)]).toEqual([true, "begun"]);
  });
});
