import { ALL_PAGES } from "../../core/items/query";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeEach, describe, expect, it } from "vitest";
import { findingIds, type Side } from "../../core/checks/findings";
import { type KindDesign } from "../../core/design/design";
import { type Designs } from "../../core/design/designs";
import { kindDesignSchema } from "../../core/design/schema";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { createEdit, editChunk } from "../../store/edits";
import { goneMarker, goneReturner } from "../../store/gone";
import { type Db, openStore } from "../../store/open";
import { addRedirects } from "../../store/redirects";
import { chooseFollowing, chooseGroup } from "../../store/review-choices";
import { changesAfter, readRun } from "../../store/runs";
import { nextRevision, readSite, writeSite } from "../../store/site";
import { runOfReview } from "../../test/run-of-review";
import { type EditAction, planEdit } from "../edits/plan-edit";
import { bringIn } from "../exchange/bring-in";
import { outgoingLines } from "../exchange/take-out";
import { guessTargets } from "../../formats/guess-by-names";
import { SiteFindings } from "../findings/site-findings";
import { ItemsList } from "../items/items-list";
import { Review } from "../review/review";
import { applyRun } from "../runs/apply-run";
import { createTakeBack } from "../runs/take-back";
import { Workspace } from "../workspace/workspace";

const now = () => "2026-11-27T10:00:00Z";
let db: Db;
let workspace: Workspace;
let review: Review;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, { ...DEMO_SITE, extras: { ...DEMO_SITE.extras, canonical: true } });
  workspace = new Workspace(db);
  review = new Review(workspace);
  list = new ItemsList(workspace, new SiteFindings(workspace, () => 2026));
});

function put(path: string, columns: Record<string, string> = {}, kind = "product"): number {
  const slug = path.split("/").at(-1)!;
  const item = { kind, key: path, path, attributes: null, body: null, byHand: null };
  itemWriter(db)({ ...item, columns: { name: slug, slug, ...columns } }, nextRevision(db));
  return db.prepare("SELECT id FROM items WHERE key = ?").pluck().get(path) as number;
}

const canonicals = () =>
  Object.fromEntries(db.prepare("SELECT key, canonical FROM items ORDER BY id").raw().all() as [string, string][]);
const designed = (design: Partial<KindDesign>): Designs => ({
  product: kindDesignSchema.parse({ base: {}, ...design }),
});

/** The list that screens ask: it remembers what it found. */
let list: ItemsList;
function found(side: Side, designs: Designs = {}): Record<string, string[]> {
  const views = list.views(designs, {});
  return Object.fromEntries(
    views.kinds.flatMap(({ data, found: bySide }) =>
      data.paths.map((path, row) => [
        path,
        findingIds("page", bySide[side].page[row]!)
          .filter((id) => id.startsWith("canonical"))
          .map((id) => id.slice("canonical-".length)),
      ]),
    ),
  );
}

function edit(id: number, action: EditAction): readonly string[] {
  const { start, data } = list.views({}, {}).kinds[0]!;
  const row = start + data.rowOf(id);
  const made = planEdit(workspace.site(), list.chosen({}, ALL, [[row, row + 1]]), action);
  const number = createEdit(db, made.label, made.changes, now());
  while (editChunk(db, number, 10) > 0);
  return made.refused.map(({ reason }) => reason);
}

const ALL = { ...ALL_PAGES, side: "draft" as const };

describe("what is found of canonicals", () => {
  it("is where they lead, and what is there", () => {
    put("/own", { canonical: "https://fennickdray.example/own" });
    put("/none");
    put("/broken", { canonical: "/nowhere" });
    put("/no-address", { canonical: "rope and twine" });
    put("/redirected", { canonical: "/old-rope" });
    put("/hidden", { robots: "noindex, follow" }, "post");
    put("/to-hidden", { canonical: "/hidden" });
    put("/chain", { canonical: "/broken" });
    put("/scheme", { canonical: "http://fennickdray.example/none" });
    put("/own-scheme", { canonical: "http://fennickdray.example/own-scheme" });
    put("/slash", { canonical: "/none/" });
    put("/query", { canonical: "/none?p=1" });
    put("/elsewhere", { canonical: "https://riggers.example/oar" });
    addRedirects(db, [{ from: "/old-rope", to: "/none", status: 301, prefix: false }], "hand", now());
    expect(found("live")).toEqual({
      "/own": [],
      "/none": [],
      "/broken": ["broken"],
      "/no-address": ["broken"],
      "/redirected": ["redirected"],
      "/hidden": [],
      "/to-hidden": ["not-indexed"],
      "/chain": ["chain"],
      "/scheme": ["at-odds"],
      "/own-scheme": ["at-odds"],
      "/slash": ["redirected"],
      "/query": [],
      "/elsewhere": [],
    });
  });

  it("is told anew where a redirect, a page or the site’s address is another", () => {
    put("/a", { canonical: "/old" });
    expect(found("live")["/a"]).toEqual(["broken"]);
    addRedirects(db, [{ from: "/old", to: "/b", status: 301, prefix: false }], "hand", now());
    expect(found("live")["/a"]).toEqual(["broken"]);
    put("/b");
    expect(found("live")["/a"]).toEqual(["redirected"]);
    put("/old");
    expect(found("live")["/a"]).toEqual([]);
    put("/c", { canonical: "https://fennickdray.example/c" });
    expect(found("live")["/c"]).toEqual([]);
    writeSite(db, { ...DEMO_SITE, baseUrl: "https://www.fennickdray.example" });
    expect(found("live")["/c"]).toEqual(["at-odds"]);
  });

  it("answers to the drafts where canonicals are switched on", () => {
    put("/a", { canonical: "/nowhere" });
    put("/b");
    const designs = designed({ base: { canonical: "/b" } });
    expect(found("draft", designs)).toEqual({ "/a": [], "/b": [] });
    expect(found("draft", designed({ base: { canonical: "/{name}-2" } }))["/b"]).toEqual(["broken"]);
    writeSite(db, DEMO_SITE);
    expect(found("draft", designs)["/a"]).toEqual(["broken"]);
  });
});

describe("canonicals by a line and by hand", () => {
  it("go out by review and run and come back; what is the page’s own address is no change", () => {
    put("/a", { canonical: "/nowhere" });
    put("/b");
    put("/c", { canonical: "/c" });
    const designs = designed({ base: { canonical: "https://fennickdray.example/b" } });
    const before = canonicals();
    expect(review.summary(designs).groups.flatMap(({ byText }) => byText.canonical)).toContain(2);
    const run = runOfReview(db, review, designs);
    applyRun(db, run, { now });
    expect(readRun(db, run)).toMatchObject({ canonicals: 2, applied: 2, items: 2 });
    expect(canonicals()).toEqual({
      "/a": "https://fennickdray.example/b",
      "/b": "",
      "/c": "https://fennickdray.example/b",
    });
    expect(review.summary(designs).total).toBe(0);
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(canonicals()).toEqual(before);
  });

  it("have slugs for the fields of their line, by the site’s settings for slugs as they are now", () => {
    put("/a", { category: "The rope and twine", category_path: "Deck › The rope and twine" });
    const drafted = (line: string) => {
      const design = designed({ base: { canonical: line } })["product"]!;
      return workspace.extraProof("product", "canonical", design).proof.textOf(0);
    };
    expect(drafted("/{category.path}/{slug}")).toBe("/deck/the-rope-and-twine/a");
    expect(drafted("/{category:words(2)}")).toBe("/the-rope");
    const site = readSite(db)!;
    writeSite(db, { ...site, slug: { ...site.slug, dropStopWords: true } });
    expect(drafted("/{category.path}/{slug}")).toBe("/deck/rope-twine/a");
    db.prepare("UPDATE items SET category_path = 'Hull › Paint', revision = ?, content_revision = ?").run(
      ...Array<number>(2).fill(nextRevision(db)),
    );
    expect(drafted("/{category.path}")).toBe("/hull/paint");
  });

  it("are taken as they are written, refused where they are no address, and let go again", () => {
    const id = put("/a");
    expect(edit(id, { type: "set", field: "canonical", value: "rope" })).toEqual([
      "The canonical is no address; it begins with / or with https://, and has no spaces",
    ]);
    edit(id, { type: "set", field: "canonical", value: " /b#top " });
    const designs = designed({ base: { canonical: "/c" } });
    expect(workspace.extraProof("product", "canonical", designs["product"]!).proof.textOf(0)).toBe("/b#top");
    edit(id, { type: "let-go", field: "canonical" });
    expect(workspace.extraProof("product", "canonical", designs["product"]!).proof.textOf(0)).toBe("/c");
  });

  it("are skipped where somebody changed them since, or wrote one by hand", () => {
    put("/a");
    const id = put("/b");
    put("/c");
    const designs = designed({ base: { canonical: "/c" } });
    const run = runOfReview(db, review, designs);
    db.prepare("UPDATE items SET canonical = '/x' WHERE key = '/a'").run();
    edit(id, { type: "set", field: "canonical", value: "/mine" });
    applyRun(db, run, { now });
    expect(changesAfter(db, run, 0, 10).map(({ reason }) => reason)).toEqual([
      "The canonical was changed meanwhile; it now reads “/x”",
      "The canonical was written by hand meanwhile",
    ]);
  });
});

describe("a page’s own canonical, written out", () => {
  it("follows the page where it moves, and comes back with it; another one stays", () => {
    put("/a", { canonical: "/a" });
    put("/b", { canonical: "https://fennickdray.example/b" });
    put("/c", { canonical: "/a" });
    const before = canonicals();
    const designs = designed({ base: { slug: "new {name}" }, moves: "all" });
    review.summary(designs);
    chooseGroup(db, "moves", true, () => true);
    const run = runOfReview(db, review, designs);
    applyRun(db, run, { now });
    expect(canonicals()).toEqual({ "/a": "/new-a", "/b": "https://fennickdray.example/new-b", "/c": "/a" });
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(canonicals()).toEqual(before);
  });
});

describe("canonicals that name a page which moves", () => {
  const designs = designed({
    rules: [{ id: "b", name: "b", when: { field: "name", is: "b" }, slug: "new b" }],
    moves: "all",
  });

  beforeEach(() => {
    put("/a", { canonical: "/b#top" });
    put("/b");
    put("/c", { canonical: "http://www.fennickdray.example/b" });
    put("/d", { canonical: "/b" });
    put("/e", { canonical: "/a" });
    edit(4, { type: "set", field: "canonical", value: "/b" });
    review.summary(designs);
    chooseGroup(db, "moves", true, () => true);
  });

  it("are rewritten with the move where that is asked, unless a person or a line decides them, and come back", () => {
    expect(review.summary(designs).links).toEqual({ count: 2, canonicals: 2, pages: 2 });
    const left = review.summary(designs).included;
    chooseFollowing(db, true);
    expect(review.summary(designs)).toMatchObject({ included: left + 2, items: 3 });
    const rows = review.movesAlong(designs, { what: "links", from: 0, count: 9 }).rows;
    expect(rows).toMatchObject([
      { page: "a", before: "/b#top", after: "/new-b", number: 0 },
      { page: "c", before: "http://www.fennickdray.example/b", after: "http://www.fennickdray.example/new-b" },
    ]);
    const before = canonicals();
    const run = runOfReview(db, review, designs);
    applyRun(db, run, { now });
    expect(readRun(db, run)).toMatchObject({ canonicals: 2, skipped: 0 });
    const after = { ...before, "/a": "/new-b", "/c": "http://www.fennickdray.example/new-b" };
    expect(canonicals()).toEqual(after);
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(canonicals()).toEqual(before);
  });

  it("stay where the page does not move after all", () => {
    chooseFollowing(db, true);
    const run = runOfReview(db, review, designs);
    db.prepare("UPDATE items SET path = '/elsewhere' WHERE key = '/b'").run();
    const before = canonicals();
    applyRun(db, run, { now });
    expect(canonicals()).toEqual(before);
    expect(changesAfter(db, run, 0, 10).flatMap(({ text, reason }) => (text === "canonical" ? [reason] : []))).toEqual(
      Array(2).fill(expect.stringContaining("The page that it was to follow did not move")),
    );
  });

  it("follow where the line of their kind says nothing of the page", () => {
    const lined = designed({ ...designs["product"]!, base: { canonical: "{category}" } });
    expect(review.summary(lined).links).toMatchObject({ canonicals: 2 });
  });

  it("are left to the line that decides them", () => {
    const lined = designed({ ...designs["product"]!, base: { canonical: "/e" } });
    expect(review.summary(lined).links).toEqual({ count: 0, canonicals: 0, pages: 0 });
  });
});

describe("canonicals in files", () => {
  it("come in by the usual headings, go out, and come in again without a change", async () => {
    const folder = mkdtempSync(join(tmpdir(), "nine-lines-canonicals-"));
    const bring = async (name: string, text: string) => {
      const file = join(folder, name);
      writeFileSync(file, text);
      const header = text.split(/\r?\n/)[0]!.replace("\ufeff", "").split(",");
      const mapping = { targets: guessTargets(header), kind: "product" as const };
      return bringIn(db, file, name, { mapping, byHand: "none" }, { now });
    };
    const first = "id,address,name,Canonical Link Element 1\n1,/a,Rope,https://fennickdray.example/b\n2,/b,Twine,\n";
    await bring("first.csv", first);
    expect(canonicals()).toEqual({ "1": "https://fennickdray.example/b", "2": "" });
    edit(1, { type: "set", field: "canonical", value: "/mine" });
    const out = [...outgoingLines(db, "items", "csv", null)].join("");
    expect(out).toContain("https://fennickdray.example/b");
    expect(await bring("again.csv", out)).toMatchObject({ unchanged: 2, updated: 0, refused: 0 });
    db.prepare("UPDATE items SET canonical = ''").run();
    db.prepare("DELETE FROM hand_extras").run();
    expect(await bring("back.csv", out)).toMatchObject({ updated: 1 });
    expect(canonicals()["1"]).toBe("https://fennickdray.example/b");
    expect(db.prepare("SELECT value FROM hand_extras WHERE text = 'canonical'").pluck().all()).toEqual(["/mine"]);
  });

  it("are kept by pages that go and come back", () => {
    const id = put("/a", { canonical: "/b" });
    db.transaction(() => goneMarker(db, 0, now())([id])).immediate();
    expect(canonicals()).toEqual({});
    db.transaction(() => goneReturner(db)(id, nextRevision(db))).immediate();
    expect(canonicals()).toEqual({ "/a": "/b" });
  });
});
