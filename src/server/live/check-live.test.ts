import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { limitsOf } from "../../core/design/design";
import { DEMO_SITE } from "../../demo/site";
import { addedTexts, liveFigures, liveFindingCounts, livePagesAfter } from "../../store/live";
import { type Db, openStore } from "../../store/open";
import { chooseGroup } from "../../store/review-choices";
import { writeSite } from "../../store/site";
import { writeConnection } from "../../store/wire";
import { movingDesign } from "../../test/moving-design";
import { practicePage } from "../../test/practice-page";
import { practiceServer, type PracticeServer } from "../../test/practice-server";
import { runOfReview } from "../../test/run-of-review";
import { Review } from "../review/review";
import { lookAtSite } from "../wire/look";
import { sendRun } from "../wire/send-run";
import { SiteClient } from "../wire/site-client";
import { type OpenedSite } from "../workspace/opened-site";
import { Workspace } from "../workspace/workspace";
import { checkLive, type CheckScope } from "./check-live";
import { takeTheme, themeOf, withTheme } from "./theme";

const PAGES = 30;
const now = () => new Date().toISOString();

let practice: PracticeServer;
let db: Db;
beforeEach(async () => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  practice = await practiceServer((store) => {
    for (let i = 1; i <= PAGES; i++)
      store.put({ ...practicePage(i), description: `About rope ${i}, and what it is for on a boat` });
  });
  const connection = practice.connection("flat");
  writeConnection(db, JSON.stringify(connection), true, now());
  const client = new SiteClient(connection, { secret: practice.token });
  await lookAtSite(db, client, { connection, isFull: true, byHand: "none" }, { now });
  await client.close();
});
afterEach(() => {
  practice.close();
  db.close();
});

const check = (scope: CheckScope = { all: true }) => checkLive(db, practice.connection("flat"), scope, { now });
const counts = () => Object.fromEntries(liveFindingCounts(db));

async function run({ moves = false } = {}): Promise<number> {
  if (moves) chooseGroup(db, "moves", true, () => false);
  const design = movingDesign({ title: "New: {name}", ...(moves && { slug: "new-{name}" }) });
  const id = runOfReview(db, new Review(new Workspace(db)), { product: design, post: design });
  await sendRun(db, id, { connection: practice.connection("flat"), secret: practice.token }, { now });
  return id;
}

describe("the live pages", () => {
  it("of a site that does what it is told have nothing to find, by all, by a run, by a sample", async () => {
    expect(await check()).toEqual({ done: PAGES, total: PAGES, found: 0, state: "done" });
    expect(counts()).toEqual({});
    expect(liveFigures(db).pages).toBe(PAGES);
    expect(await check({ run: await run() })).toMatchObject({ done: PAGES, found: 0 });
    expect(await check({ sample: 7 })).toMatchObject({ done: 7 });
  });

  it.each([
    ["adds-name", { "title-added": PAGES }],
    ["noindex", { noindex: PAGES }],
    ["broken-html", { "title-twice": PAGES }],
    ["wrong-charset", {}],
    ["huge", {}],
  ] as const)("of a site with %s say so", async (fault, found) => {
    practice.fault(fault, 100);
    await check({ sample: fault === "huge" ? 2 : PAGES });
    expect(counts()).toEqual(found);
  });

  it("are told to be cut, escaped twice or old, each by itself", async () => {
    practice.store.change(
      "p1",
      { description: "A long description. ".repeat(12), title: "Rope & twine" },
      null,
      "2026-01-01T00:00:00Z",
    );
    const connection = practice.connection("flat");
    const client = new SiteClient(connection, { secret: practice.token });
    await lookAtSite(db, client, { connection, isFull: true, byHand: "none" }, { now });
    await client.close();
    practice.fault("cuts-descriptions", 100);
    await check();
    expect(counts()).toEqual({ "description-cut": 1 });
    practice.fault("cuts-descriptions", 0);
    practice.fault("escapes-twice", 100);
    await check();
    // Every title has an ampersand in the site’s name, but for the one that was changed, which has one of its own.
    expect(counts()).toEqual({ "title-escaped": PAGES });
    practice.fault("escapes-twice", 0);
    await run();
    practice.fault("stale-pages", 100);
    await check();
    expect(counts()).toEqual({ "title-old": PAGES });
    practice.fault("stale-pages", 0);
    expect(await check()).toMatchObject({ found: 0 });
  });

  it("that are gone, or answer nothing that can be read, are told in words", async () => {
    practice.store.db.prepare("DELETE FROM pages WHERE id = 'p2'").run();
    await check();
    expect(counts()).toEqual({ missing: 1 });
    practice.fault("gzip-bomb", 100);
    expect(await check({ sample: 1 })).toMatchObject({ done: 1 });
  });

  it("that moved are looked for at their old addresses, too", async () => {
    const id = await run({ moves: true });
    expect(await check({ run: id })).toMatchObject({ found: 0 });
    practice.fault("redirect-302", 100);
    await check({ run: id });
    expect(counts()).toEqual({ "old-temporary": PAGES });
    practice.fault("redirect-302", 0);
    practice.fault("redirect-chain", 100);
    await check({ run: id });
    expect(counts()).toEqual({ "old-chain": PAGES });
    practice.fault("redirect-loop", 100);
    await check({ run: id });
    expect(counts()).toEqual({ "old-lost": PAGES });
  });

  it("are left when the check is stopped, and what was found stays", async () => {
    let done = 0;
    const stopped = await checkLive(
      db,
      practice.connection("flat"),
      { all: true },
      {
        now,
        stopped: () => done > 0,
        progress: () => done++,
      },
    );
    expect(["stopped", "done"]).toContain(stopped.state);
    expect(liveFigures(db).pages).toBe(stopped.done);
  });

  it("are listed with what was met", async () => {
    practice.store.change("p3", { title: "Something else" }, null, now());
    await check();
    const [page] = livePagesAfter(db, "title-other", 0, 10);
    expect(page).toMatchObject({
      name: "Rope 3",
      page: { says: { title: "Something else" }, title: { how: "other" } },
    });
    expect(livePagesAfter(db, null, 0, 100)).toHaveLength(PAGES);
  });
});

describe("what the theme adds", () => {
  it("is taken as long as the surfaces are as they were made for it", async () => {
    practice.fault("adds-name", 100);
    await check();
    const [added] = themeOf(db, addedTexts(db));
    const site = { db, jobs: { list: () => [] }, warm: () => {} } as unknown as OpenedSite;
    takeTheme(site, added!);
    expect(themeOf(db, addedTexts(db))[0]!.isTaken).toBe(true);
    expect(() => takeTheme(site, added!)).toThrow(/already/);
    writeSite(db, DEMO_SITE);
    expect(themeOf(db, addedTexts(db))[0]!.isTaken).toBe(false);
  });

  it("is told once, with the room that it takes, and makes the surfaces narrower by that", async () => {
    practice.fault("adds-name", 100);
    await check();
    const [added] = themeOf(db, addedTexts(db));
    expect(added).toMatchObject({
      text: "title",
      before: "",
      behind: " | Fennick & Dray",
      pages: PAGES,
      of: PAGES,
      isTaken: false,
    });
    expect(added!.px).toBeGreaterThan(100);
    const site = DEMO_SITE;
    const next = withTheme(site, added!);
    const [was, is] = [limitsOf(site, "title").surfaces, limitsOf(next, "title").surfaces];
    expect(is[0]!.width).toBe(was[0]!.width - added!.px);
    expect(limitsOf(next, "description")).toEqual(limitsOf(site, "description"));
    expect(() => withTheme(site, { ...added!, behind: "W".repeat(200) })).toThrow(/nothing would be left/);
  });
});
