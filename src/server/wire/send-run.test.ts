import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { readConnection } from "../../core/connection/connection-file";
import { chooseGroup } from "../../store/review-choices";
import { DEMO_SITE } from "../../demo/site";
import { type PageChange } from "../../practice/practice-store";
import { type Db, openStore } from "../../store/open";
import { changesAfter, readRun } from "../../store/runs";
import { writeSite } from "../../store/site";
import { noteSent, sentPages, writeConnection } from "../../store/wire";
import { practicePage } from "../../test/practice-page";
import { practiceServer, type PracticeServer } from "../../test/practice-server";
import { movingDesign } from "../../test/moving-design";
import { runOfReview } from "../../test/run-of-review";
import { Review } from "../review/review";
import { createTakeBack } from "../runs/take-back";
import { Workspace } from "../workspace/workspace";
import { lookAtSite } from "./look";
import { sendRun, type SendOptions } from "./send-run";
import { SiteClient } from "./site-client";

const PAGES = 60;
const now = () => new Date().toISOString();
type Face = "flat" | "nested";

let practice: PracticeServer;
let db: Db;
beforeEach(async () => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  practice = await practiceServer((store) => {
    for (let i = 1; i <= PAGES; i++) store.put(practicePage(i));
  });
});
afterEach(() => {
  practice.close();
  db.close();
});

async function lookAt(face: Face): Promise<void> {
  const connection = practice.connection(face);
  writeConnection(db, JSON.stringify(connection), true, now());
  const client = new SiteClient(connection, { secret: practice.token });
  await lookAtSite(db, client, { connection, isFull: true, byHand: "none" }, { now });
  await client.close();
}

const design = movingDesign({ title: "New: {name}", description: "All about {name}" });

/** A run of new titles and descriptions, and of new addresses where that is wanted. */
function newRun({ moves = false } = {}): number {
  if (moves) chooseGroup(db, "moves", true, () => false);
  const own = moves ? { ...design, base: { ...design.base, slug: "new-{name}" } } : design;
  return runOfReview(db, new Review(new Workspace(db)), { product: own, post: own });
}

/** @param together how many changes go out at once, where the interface takes several. */
function send(run: number, face: Face, options: Partial<SendOptions> = {}, limits = {}, together = 25) {
  const connection = practice.connection(face, limits);
  if (connection.write?.batch) connection.write.batch.most = together;
  return sendRun(db, run, { connection, secret: practice.token }, { now, firstWait: 20, ...options });
}

const pages = () =>
  Object.fromEntries(
    practice.store
      .pagesAfter({ place: 0, kind: null, since: "", count: 1e6 })
      .map(({ changedAt: _, version: __, place: ___, ...page }) => [page.id, page]),
  );

/** What the site’s log says that programs wrote, page by page. */
function written(): Map<string, PageChange[]> {
  const all = new Map<string, PageChange[]>();
  for (const { page, writer, after } of practice.store.writes())
    if (writer === "program") all.set(page, [...(all.get(page) ?? []), after]);
  return all;
}

/** Every change is confirmed, refused or a conflict; what is confirmed is on the site, and was written once. */
function expectSettled(run: number): { applied: number; refused: number; changed: number } {
  const counts = { applied: 0, refused: 0, changed: 0 };
  const log = written();
  const site = pages();
  const keyOf = db.prepare("SELECT key FROM items WHERE id = ?").pluck();
  for (const change of changesAfter(db, run, 0, 100_000)) {
    const key = keyOf.get(change.item_id) as string;
    expect(change.status, key).not.toBe("waiting");
    if (change.status === "skipped") {
      expect(change.reason, key).toBeTruthy();
      counts[change.trouble!]++;
      continue;
    }
    counts.applied++;
    if (change.text !== "title" && change.text !== "description") continue;
    const same = log.get(key)!.filter((after) => after[change.text as "title"] === change.after);
    expect(same, `${key} ${change.text}`).toHaveLength(1);
    const isEdited = practice.store
      .writes()
      .some(({ page, writer, after }) => page === key && writer === "editor" && "title" in after);
    if (!isEdited) expect(site[key]![change.text as "title"]).toBe(change.after);
  }
  expect(sentPages(db, run)).toEqual([]);
  return counts;
}

describe.each(["flat", "nested"] as const)("a run over the %s interface", (face) => {
  it("is on the site when it is done, and back byte by byte when it was taken back", async () => {
    practice.store.change("p5", { title: "Rope &amp; <b>twine</b>  with   spaces ", robots: " noindex" }, null, now());
    await lookAt(face);
    const before = pages();
    const run = newRun({ moves: true });
    expect(readRun(db, run)!.over_wire).toBe(1);
    const told: number[] = [];
    expect(await send(run, face, { progress: ({ done }) => told.push(done) })).toBe("done");
    const { applied } = expectSettled(run);
    expect(applied).toBe(PAGES * 3);
    expect(told.at(-1)).toBe(PAGES * 3);
    expect(pages()["p7"]).toMatchObject({
      title: "New: Rope 7",
      description: "All about Rope 7",
      path: "/goods/new-rope-7",
    });
    const back = createTakeBack(db, run, now());
    expect(await send(back, face)).toBe("done");
    expect(pages()).toEqual(before);
    expect(readRun(db, back)).toMatchObject({ applied: PAGES * 3, skipped: 0, over_wire: 1 });
  });

  it("goes on where it was stopped", async () => {
    await lookAt(face);
    const run = newRun();
    const isBegun = () => readRun(db, run)!.applied > 0;
    const stopped = await send(run, face, { stopped: isBegun }, { perSecond: 20, atOnce: 1 }, 2);
    expect(stopped).toBe("stopped");
    expect(readRun(db, run)).toMatchObject({ status: "stopped" });
    expect(readRun(db, run)!.waiting).toBeGreaterThan(0);
    expect(await send(run, face)).toBe("done");
    expect(expectSettled(run)).toEqual({ applied: PAGES * 2, refused: 0, changed: 0 });
  });

  it("says what was changed on the site meanwhile, and leaves it", async () => {
    await lookAt(face);
    const run = newRun();
    practice.store.change("p3", { title: "Written by an editor" }, null, now(), "editor");
    practice.store.change("p4", { intro: "Only the intro" }, null, now(), "editor");
    expect(await send(run, face)).toBe("done");
    expect(expectSettled(run)).toEqual({ applied: PAGES * 2 - 2, refused: 0, changed: 2 });
    const skipped = changesAfter(db, run, 0, 1000).filter(({ status }) => status === "skipped");
    expect(new Set(skipped.map(({ reason }) => reason))).toEqual(
      new Set(["The title was changed on the site meanwhile; it now reads “Written by an editor”"]),
    );
    expect(pages()["p3"]!.title).toBe("Written by an editor");
    expect(pages()["p4"]).toMatchObject({ title: "New: Rope 4", intro: "Only the intro" });
  });

  it("with everything going wrong now and then comes to its end: nothing twice, nothing lost", async () => {
    await lookAt(face);
    const run = newRun();
    for (const name of ["errors", "dropped", "rubbish", "changed-meanwhile"] as const) practice.fault(name, 10);
    for (const name of ["too-many", "hanging"] as const) practice.fault(name, 3);
    expect(await send(run, face, {}, { timeoutSeconds: 1, giveUpMinutes: 5 })).toBe("done");
    const { applied, refused, changed } = expectSettled(run);
    // How many somebody edited meanwhile is chance: an edit meets all pages of a request.
    expect([applied + changed, refused]).toEqual([PAGES * 2, 0]);
    const edits = practice.store.writes().filter(({ writer }) => writer === "editor");
    const edited = new Set(edits.map(({ page }) => page));
    expect(changed).toBeLessThanOrEqual(edited.size * 2);
  });
});

describe("redirects of a run", () => {
  it("are on the site before the moves that they belong to, and gone when these are taken back", async () => {
    await lookAt("flat");
    const run = newRun({ moves: true });
    practice.heard.length = 0;
    await send(run, "flat");
    const at = (part: string) => practice.heard.findIndex((target) => target.includes(part));
    expect(at("POST /api/flat/redirects")).toBeLessThan(at("PATCH /api/flat/pages/"));
    expect(practice.store.redirects().filter(({ from }) => from === "/goods/rope-7")).toEqual([
      { from: "/goods/rope-7", to: "/goods/new-rope-7", status: 301, isPrefix: false },
    ]);
    expect(practice.store.redirects()).toHaveLength(PAGES);
    await send(createTakeBack(db, run, now()), "flat");
    expect(practice.store.redirects().map(({ from }) => from)).not.toContain("/goods/rope-7");
    expect(practice.store.redirectAt("/goods/new-rope-7")).toMatchObject({ to: "/goods/rope-7" });
  });

  it("of a page that cannot move are taken away again", async () => {
    await lookAt("flat");
    const run = newRun({ moves: true });
    practice.store.put({ ...practicePage(99), path: "/goods/new-rope-7", id: "other" });
    await send(run, "flat");
    const moved = changesAfter(db, run, 0, 1000).filter(({ trouble }) => trouble === "refused");
    expect(new Set(moved.map(({ reason }) => reason))).toEqual(
      new Set([expect.stringContaining("The page “other” is at that address already")]),
    );
    expect(practice.store.redirectAt("/goods/rope-7")).toBeNull();
    expect(pages()["p7"]!.path).toBe("/goods/rope-7");
  });
});

describe("a page that moved and was changed before that was known", () => {
  it("is told as changed, and its old address leads to it all the same", async () => {
    await lookAt("flat");
    const run = newRun({ moves: true });
    const seventh = db.prepare("SELECT id FROM items WHERE key = 'p7'").pluck().get() as number;
    noteSent(db, run, [seventh], now());
    practice.store.change(
      "p7",
      { path: "/goods/new-rope-7", title: "New: Rope 7", description: "Edited since" },
      null,
      now(),
    );
    await send(run, "flat");
    expect(expectSettled(run)).toMatchObject({ changed: 3 });
    expect(practice.store.redirectAt("/goods/rope-7")).toMatchObject({ to: "/goods/new-rope-7" });
  });
});

describe("a run", () => {
  it("whose secret is not taken stops in words, with nothing sent and nothing lost", async () => {
    await lookAt("flat");
    const run = newRun();
    practice.fault("token-ended", 100);
    await expect(send(run, "flat")).rejects.toThrow(/401: This token has ended/);
    expect(readRun(db, run)).toMatchObject({ status: "stopped", applied: 0, skipped: 0 });
    practice.fault("token-ended", 0);
    await send(run, "flat");
    expect(expectSettled(run).applied).toBe(PAGES * 2);
  });

  it("to a site that fails for longer than is said stops, and says how", async () => {
    await lookAt("nested");
    const run = newRun();
    practice.fault("errors", 100);
    await expect(send(run, "nested", {}, { giveUpMinutes: 0.02 })).rejects.toThrow(/500/);
    expect(readRun(db, run)!.status).toBe("stopped");
    practice.fault("errors", 0);
    await send(run, "nested");
    expect(expectSettled(run)).toEqual({ applied: PAGES * 2, refused: 0, changed: 0 });
  });

  it("of which half is refused says why of each", async () => {
    await lookAt("flat");
    const run = newRun();
    practice.fault("half-refused", 100);
    await send(run, "flat", {}, {}, 20);
    expect(expectSettled(run)).toEqual({ applied: PAGES, refused: PAGES, changed: 0 });
    const refused = changesAfter(db, run, 0, 1000).find(({ trouble }) => trouble === "refused")!;
    expect(refused.reason).toBe("422: This change was refused, as half of them are just now");
  });

  it("that the site refuses page after page is stopped", async () => {
    await lookAt("nested");
    const run = newRun();
    const connection = practice.connection("nested");
    // Writes without what has to be in them.
    const write = { ...connection.write!, body: { title: "{title}" } };
    const sent = sendRun(db, run, { connection: { ...connection, write }, secret: practice.token }, { now });
    await expect(sent).rejects.toThrow(/refused 20 pages one after another/);
    expect(readRun(db, run)!.waiting).toBeGreaterThan(0);
  });

  it("that sent what it does not know of cannot be taken back before it does", async () => {
    await lookAt("flat");
    const run = newRun();
    practice.fault("hanging", 100);
    let asked = 0;
    await send(run, "flat", { stopped: () => ++asked > 5 });
    expect(sentPages(db, run).length).toBeGreaterThan(0);
    expect(() => createTakeBack(db, run, now())).toThrow(/were sent and not confirmed yet/);
    practice.fault("hanging", 0);
    await send(run, "flat");
    expect(expectSettled(run)).toEqual({ applied: PAGES * 2, refused: 0, changed: 0 });
  });

  it("forgets what was sent of a page that was written by hand here meanwhile, and says so", async () => {
    await lookAt("flat");
    const run = newRun();
    noteSent(db, run, [1], now());
    db.prepare("UPDATE items SET title = 'Another', description = 'Another' WHERE id = 1").run();
    await send(run, "flat");
    expect(sentPages(db, run)).toEqual([]);
    expect(readRun(db, run)).toMatchObject({ applied: PAGES * 2 - 2, skipped: 2, waiting: 0 });
  });

  it("of pages that change places is refused, and of pages that follow each other goes out in their order", async () => {
    await lookAt("flat");
    const swap = db.prepare(
      "UPDATE run_changes SET path_after = ?, after = ? WHERE run_id = ? AND text = 'slug' AND item_id = (SELECT id FROM items WHERE key = ?)",
    );
    const run = newRun({ moves: true });
    const goes = (key: string, leaf: string) => swap.run(`/goods/${leaf}`, leaf, run, key);
    goes("p1", "rope-2");
    goes("p2", "rope-1");
    goes("p3", "rope-4");
    goes("p4", "rope-6");
    await send(run, "flat");
    const { refused } = expectSettled(run);
    expect(refused).toBe(6);
    expect(pages()["p1"]!.path).toBe("/goods/rope-1");
    expect([pages()["p3"]!.path, pages()["p4"]!.path]).toEqual(["/goods/rope-4", "/goods/rope-6"]);
  });
});

describe("an interface that no description ships for", () => {
  const THIRD = {
    version: 1,
    name: "Third",
    headers: { "x-key": "{secret}" },
    limits: { perSecond: 1000, atOnce: 8 },
    fields: {
      id: "/number",
      address: "/web/href",
      name: "/texts/heading",
      title: "/texts/search/headline",
      description: "/texts/search/snippet",
      intro: "/texts/opening",
      "category.path": { at: "/labels", join: " › " },
    },
    read: { url: "/documents/{id}", record: "/document" },
    write: {
      method: "POST",
      url: "/documents/{id}/texts",
      body: { lock: "{etag}", search: { headline: "{title}", snippet: "{description}" } },
      unchanged: { by: "etag", at: "/lock" },
    },
  };

  it("is spoken to by a JSON template, with numbers for ids and a lock in the body, and answers nothing", async () => {
    const list = (kind: string) => ({
      list: {
        url: `/documents?collection=${kind}&start={offset}&take={limit}`,
        limit: 50,
        records: "/documents",
        next: { by: "offset" },
      },
    });
    const connection = readConnection(
      JSON.stringify({
        ...THIRD,
        base: `${practice.base}/api/third`,
        kinds: { product: list("product"), post: list("post") },
      }),
    );
    writeConnection(db, JSON.stringify(connection), true, now());
    const client = new SiteClient(connection, { secret: practice.token });
    await lookAtSite(db, client, { connection, isFull: true, byHand: "none" }, { now });
    await client.close();
    const before = pages();
    const run = newRun();
    practice.store.change("p3", { title: "Written by an editor" }, null, now(), "editor");
    const options = { connection, secret: practice.token };
    expect(await sendRun(db, run, options, { now })).toBe("done");
    expect(readRun(db, run)).toMatchObject({ applied: PAGES * 2 - 2, skipped: 2 });
    expect(pages()["p7"]).toMatchObject({ title: "New: Rope 7", description: "All about Rope 7" });
    await sendRun(db, createTakeBack(db, run, now()), options, { now });
    expect(pages()).toEqual({ ...before, p3: { ...before["p3"], title: "Written by an editor" } });
  });
});
