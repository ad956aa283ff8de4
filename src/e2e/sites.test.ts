import { ALL_CHANGES } from "../core/plan/review-filter";
import type { SiteState } from "../server/site/site-state";
import type { SiteList } from "../server/sites/site-cases";
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { CallName } from "../server/api/contract";
import { openStore } from "../store/open";
import { readSite } from "../store/site";
import { type App, axeFindings, endServer, freshDatabase, startApp, startServer } from "./app";
import { ask, send } from "./calls";

let app: App;
let page: Page;
/** Where all sites are listed. */
let home: string;
beforeAll(async () => {
  app = await startApp();
  home = new URL("/", app.url).href;
  page = await app.page();
}, 180_000);
afterAll(() => app.close());

const PAGES = [
  "Artikel;Adresse;Bezeichnung;Preis",
  "z1;/kessel/kupfer;Zymurgie-Kessel aus Kupfer;6,29",
  "z2;/kessel/stahl;Zymurgie-Kessel aus Stahl;11,50",
  "z3;/kessel/glas;Zymurgie-Kessel aus Glas;9,00",
];
const OWN = "/zymurgie-sohne";

describe("a fresh start", () => {
  it("shows the demo site, and how to start with one's own", async () => {
    await page.goto(home);
    await page.waitForSelector("role=link[name='Fennick & Dray']");
    await page.waitForSelector("role=heading[name='Start with your own site']");
    expect(await page.locator("main li").first().innerText()).toMatch(/13,806 pages.*14 lines drafted.*no run yet/s);
    expect(await axeFindings(page)).toEqual([]);
  });

  it("leads from a name to a site with pages, and says at each step what is next", async () => {
    await page.getByLabel("Name").fill("Zymurgie & Söhne");
    await page.getByLabel("Address").fill("https://zymurgie.example");
    await page.getByLabel("Language").selectOption("de");
    await page.click("text=Import pages from a file");
    await page.waitForURL(`**${OWN}/import`);
    await page.waitForSelector("#file", { state: "attached" });
    await page.goto(new URL(OWN, home).href);
    await page.click("[data-next=pages] >> role=link");
    await page.waitForURL(`**${OWN}/import`);
    const file = join(mkdtempSync(join(tmpdir(), "nine-lines-own-")), "kessel.csv");
    writeFileSync(file, PAGES.join("\n"));
    await page.setInputFiles("#file", file);
    await page.waitForSelector("text=columns separated by semicolons");
    await page.click("text=Import these pages");
    await page.waitForSelector("text=is imported");
    await page.click("role=button[name='View the pages']");
    await page.waitForURL(`**${OWN}/pages`);
    await page.waitForSelector("text=Zymurgie-Kessel aus Stahl");
    await page.click("nav >> text=Board");
    await page.waitForSelector("text=Nine lines for 3 pages");
    expect(await page.locator("h2", { hasText: /^Posts$/i }).count()).toBe(0);
    await page.click("[data-next=line] >> role=link");
    await page.waitForURL(`**${OWN}/bench?kind=product&text=title`);
    await page.click('[aria-label="Title line"]');
    await page.keyboard.insertText("{name} – {site}");
    const first = page.locator("[role=option] [data-proof]").first();
    await expect.poll(() => first.innerText()).toContain("– Zymurgie & Söhne");
    await page.waitForSelector("[data-draft=stored]");
    await page.click("nav >> text=Board");
    await page.waitForSelector("[data-next=review]");
  });

  it("begins without pages, too, with its settings", async () => {
    await page.goto(home);
    await page.getByLabel("Name").fill("Leer");
    await page.click("text=Start without pages");
    await page.waitForURL("**/leer/settings");
    await page.waitForSelector("role=heading[name='The site']");
    expect((await send(home, "api/sites.remove", { id: "leer" })).status).toBe(200);
    await page.goto(new URL(OWN, home).href);
  });

  it("has the other site a menu away, with nothing of this one on it", async () => {
    await page.click("role=button[name='Zymurgie & Söhne: other sites']");
    await page.click("role=link[name=/Fennick/]");
    await page.waitForURL("**/fennick-dray");
    await page.waitForSelector("text=Nine lines for 13,806 pages");
    await page.keyboard.press("Control+K");
    await page.click("text=Go to the site Zymurgie & Söhne");
    await page.waitForURL(`**${OWN}`);
    await page.waitForSelector("text=Nine lines for 3 pages");
  });
});

/** A page that the demo site has, and the other one not. */
const DEMO_PAGE = 2000;

/** Something to ask of each call, with the number of a page, a run, a job that another site has: the compiler asks for what a new call is asked. */
function everyCall(id: number): { [N in Exclude<CallName, `sites.${string}`>]: unknown } {
  const product = { kind: "product" };
  const post = { kind: "post" };
  const stretch = { from: 0, count: 50 };
  const design = { base: { title: "{name}" }, rules: [] };
  const narrow = { kind: "all", side: "live", findings: [], difference: null, where: null, mark: null };
  const query = { ...narrow, search: "", sort: "site", down: false, group: null };
  const choice = { ...product, id };
  const mapping = { targets: ["id"], kind: "product" };
  const anyLink = { finding: "all", search: "", on: null, to: null };
  const rows = { text: "title", scope: "all", sort: "widest", filter: "all", search: "" };
  return {
    "site.state": {},
    "site.saveSettings": { site: { name: "Other" }, seen: { name: "Another" } },
    "site.settingsMoves": { from: { name: "Other" }, to: { name: "Another" } },
    "bench.board": {},
    "wire.read": {},
    "wire.save": { description: "{}", seen: null },
    "wire.remove": {},
    "wire.tryList": { description: "{}", kind: "product" },
    "wire.tryWrite": { description: "{}", kind: "product" },
    "wire.foresee": {},
    "wire.look": {},
    "live.summary": {},
    "live.pages": { finding: null, after: 0 },
    "live.check": { scope: { sample: 1 } },
    "live.takeTheme": { text: "title", before: "", behind: " | X" },
    "runs.schedule": { id: 1, dueAt: null },
    "wire.schema": {},
    "wire.examples": {},
    "redirects.figures": {},
    "redirects.list": { search: "", origin: "all", state: "holds", ...stretch },
    "redirects.way": { path: "/old" },
    "redirects.toPage": { path: "/old", most: 5 },
    "redirects.addPath": { page: id, path: "/further" },
    "redirects.goneForGood": { pages: [id] },
    "redirects.look": { text: "/old /new" },
    "redirects.add": { text: "/old /new", origin: "hand" },
    "redirects.retire": { ids: [id] },
    "redirects.restore": { ids: [id] },
    "bench.addresses": { ...product, design },
    "bench.prove": { ...product, design, scope: "all", text: "title" },
    "bench.rows": { ...product, design, ...rows, ...stretch },
    "bench.item": { ...product, design, text: "title", id },
    "bench.fields": product,
    "bench.values": { ...product, field: "name", search: "" },
    "bench.preview": { ...product, design, when: { field: "name", contains: "e" }, above: 0, texts: ["title"] },
    "bench.compare": { ...product, a: "live", b: "draft", text: "title", ...stretch },
    "designs.save": { ...post, design, seen: 0 },
    "designs.versions": product,
    "designs.saveVersion": { ...post, name: "Aside" },
    "designs.choose": { ...post, which: "draft" },
    "designs.deleteVersion": { id },
    "designs.propose": {},
    "designs.takeProposed": { kinds: ["tag"] },
    "edits.plan": { choice, action: { type: "set", field: "title", value: "Other" } },
    "edits.make": { choice, action: { type: "set", field: "title", value: "Other" } },
    "edits.steps": {},
    "edits.run": { id: 1, goal: "undone" },
    "exchange.foresee": { token: "no-such-token", mapping },
    "exchange.chooseSheet": { token: "no-such-token", name: "x", sheet: "One" },
    "exchange.bringIn": { token: "no-such-token", name: "x", mapping },
    "exchange.takeOutPages": { shape: "wide", format: "csv", query, columns: [{ column: "name", name: "name" }] },
    "exchange.imports": {},
    "exchange.import": { id },
    "exchange.importChanges": { id, after: 0 },
    "exchange.takeImportBack": { id },
    "exchange.reviewLines": { name: "x.json", text: '{"format":"nine-lines/1"}' },
    "exchange.adoptLines": { name: "x.json", text: '{"format":"nine-lines/1"}', site: false },
    "extras.page": { ...product, id },
    "extras.prove": {},
    "items.list": { query, columns: ["name", "price"], ...stretch },
    "items.sheet": { ...product, id },
    "items.makeRule": { choice },
    "items.gone": { after: 0 },
    "items.bringBack": { pages: [id] },
    "items.deleteGone": { pages: [id], count: 1 },
    "items.views": {},
    "items.putView": { name: "Mine", query: "" },
    "items.forgetView": { name: "Mine" },
    "jobs.list": {},
    "jobs.stop": { id: 1 },
    "links.figures": {},
    "links.list": { ...anyLink, ...stretch },
    "links.orphans": { kind: null, ...stretch },
    "links.mend": { item: id, href: "/old", after: "/new" },
    "links.mendAll": anyLink,
    "links.unmend": { links: null },
    "keywords.matrix": {},
    "keywords.coverage": { show: "all", search: "", ...stretch },
    "keywords.suggestions": { ...product, ...stretch },
    "keywords.competing": stretch,
    "keywords.assign": { pages: [{ ...product, id, keyword: "other" }] },
    "keywords.assignSuggested": { kind: "post", only: null },
    "keywords.bringIn": { token: "no-such-token", mapping: { keyword: 0, volume: null, firstToo: false } },
    "keywords.clear": {},
    "review.summary": {},
    "review.moves": { folder: "/", search: "", show: "all", ...stretch },
    "review.folders": { within: "/" },
    "review.movesAlong": { what: "redirects", ...stretch },
    "review.followLinks": { follows: true, filter: ALL_CHANGES },
    "review.list": { group: "reworded", ...stretch },
    "review.chooseGroup": { group: "worse", included: false },
    "review.facets": {},
    "review.forgetChoices": {},
    "review.restoreChoices": {},
    "review.chooseShown": { filter: { ...ALL_CHANGES, text: "title" }, included: false, only: false },
    "review.chooseChange": { item: id, text: "title", included: false },
    "runs.list": {},
    "runs.read": { id: 1 },
    "runs.changes": { id: 1, after: 0 },
    "runs.start": { goingOut: "0.0", click: "12345678" },
    "runs.goOn": { id: 1 },
    "runs.stop": { id: 1 },
    "runs.takeBack": { id: 1 },
  };
}

/** Whether a call only looks. */
function isReading(name: string): boolean {
  return /\.(state|board|prove|rows|item|fields|values|preview|compare|named|propose|plan|steps|imports?|importChanges|page|list|sheet|gone|views|matrix|coverage|suggestions|competing|summary|read|changes)$/.test(
    name,
  );
}

describe("two sites", () => {
  it("never show anything of one another, whatever is asked with the other's ids", async () => {
    const [demo, own] = [app.url, new URL(OWN, home).href];
    const dump = async () =>
      [await send(demo, "/api/site.state", {}), await send(demo, "/api/out/items")].map(({ text }) => text);
    // What is read in the background is there.
    await expect
      .poll(async () => (await send(demo, "/api/links.figures", {})).text, { timeout: 60_000 })
      .not.toContain('"found":null');
    const before = await dump();
    for (const [name, input] of Object.entries(everyCall(DEMO_PAGE))) {
      const here = await send(own, `/api/${name}`, input);
      expect(here.text, name).not.toMatch(/fennick|cleat|mooring/i);
      if (isReading(name)) expect((await send(demo, `/api/${name}`, input)).text, name).not.toMatch(/zymurgie/i);
    }
    expect(await dump()).toEqual(before);
    for (const path of [
      "/api/out/items",
      "/api/files/lines",
      "/api/out/redirects",
      "/api/out/redirect-set",
      "/api/out/links",
      "/api/out/moves",
    ]) {
      expect((await send(demo, path)).text).not.toMatch(/zymurgie/i);
      expect((await send(own, path)).text).not.toMatch(/fennick|cleat/i);
    }
    expect((await send(home, "nowhere/api/site.state", {})).body.error).toMatch(/There is no site “nowhere”/);
    expect((await send(home, "..%2Ffennick-dray/api/site.state", {})).status).not.toBe(200);
  });

  it("do not share what a browser keeps", async () => {
    await page.goto(new URL(`${OWN}/settings`, home).href);
    await page.locator("label", { hasText: "Tagline" }).locator("input").fill("Kessel seit je");
    await page.goto(`${app.url}/settings`);
    await page.waitForSelector("text=Tagline");
    expect(await page.locator("label", { hasText: "Tagline" }).locator("input").inputValue()).not.toContain("Kessel");
  });
});

describe("a site as a whole", () => {
  const rows = () => page.locator("main section ul >> nth=0 >> li").allInnerTexts();

  it("is backed up, and as it was a site beside itself", async () => {
    await page.goto(home);
    await page.click('[aria-label="What can be done with Zymurgie & Söhne"]');
    await page.click("role=menuitem[name='Back up now']");
    await page.click("text=1 copy, made once a day");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("role=button[name='Restore as a new site']");
    await page.waitForSelector("role=link[name=/Zymurgie & Söhne – as on/]");
    await page.click('[aria-label^="What can be done with Zymurgie & Söhne – as on"]');
    await page.click("role=menuitem[name='Remove …']");
    await page.click("role=button[name='Remove site']");
    await page.waitForSelector("text=gone in 30 days");
  });

  it("is duplicated, exported, removed, brought back and taken in again", async () => {
    await page.goto(home);
    const menu = (name: string) => page.click(`[aria-label="What can be done with ${name}"]`);
    await menu("Zymurgie & Söhne");
    await page.click("role=menuitem[name='Duplicate']");
    await page.waitForSelector("role=link[name='Zymurgie & Söhne – copy']");
    await menu("Zymurgie & Söhne – copy");
    const [download] = await Promise.all([
      page.waitForEvent("download"),
      page.click("role=menuitem[name='Export as one file']"),
    ]);
    const file = await download.path();
    await menu("Zymurgie & Söhne – copy");
    await page.click("role=menuitem[name='Remove …']");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("role=button[name='Remove site']");
    await page.waitForSelector("text=gone in 30 days");
    expect((await send(home, "zymurgie-sohne-copy/api/site.state", {})).status).toBe(404);
    await page.locator("li", { hasText: "– copy" }).locator("role=button[name='Restore']").click();
    await page.waitForSelector("role=link[name='Zymurgie & Söhne – copy']");
    await page.setInputFiles('[aria-label="Site file"]', {
      name: "kessel.db",
      mimeType: "application/vnd.sqlite3",
      buffer: readFileSync(file),
    });
    await expect.poll(rows).toHaveLength(4);
    const { counts, site } = await ask(new URL("/zymurgie-sohne-copy-2", home).href, "site.state", {});
    expect([counts, site?.name]).toEqual([{ product: 3 }, "Zymurgie & Söhne – copy"]);
  });

  it("is not taken in where the file is none, and says why", async () => {
    await page.setInputFiles('[aria-label="Site file"]', {
      name: "bild.db",
      mimeType: "image/png",
      buffer: Buffer.from("PNG and more of that kind ".repeat(100)),
    });
    await page.waitForSelector("text=/is not a database of this application/");
    expect(await rows()).toHaveLength(4);
  });

  it("is made anew where it is the demo, with what was done to it put aside; no other is", async () => {
    await page.goto(home);
    await page.click('[aria-label="What can be done with Zymurgie & Söhne"]');
    expect(await page.locator("role=menuitem[name='Reset …']").count()).toBe(0);
    await page.keyboard.press("Escape");
    expect((await send(home, "api/sites.renewDemo", { id: OWN.slice(1) })).body.error).toMatch(/Only the demo site/);
    await ask(app.url, "designs.save", {
      kind: "tag",
      design: { base: { title: "{name} tried" }, rules: [] },
      seen: 99,
    });
    await page.click('[aria-label="What can be done with Fennick & Dray"]');
    await page.click("role=menuitem[name='Reset …']");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("role=button[name='Reset the demo site']");
    await page.waitForSelector("text=gone in 30 days");
    const isNew = async () => {
      const { body } = await send<Partial<SiteState>>(app.url, "/api/site.state", {});
      return [body.drafts?.tag?.design.base, body.counts?.product];
    };
    await expect.poll(isNew, { timeout: 60_000 }).toEqual([{}, 12_480]);
    await page.waitForSelector("role=link[name='Fennick & Dray']");
  });

  it("may be the last one and be removed: there is no demo site unless one wants it", async () => {
    const db = freshDatabase();
    const { server, url } = await startServer(db);
    await send(new URL("/", url).href, "api/sites.remove", { id: "fennick-dray" });
    await endServer(server);
    const again = await startServer(db);
    const { body } = await send(new URL("/", again.url).href, "api/sites.list", {});
    expect(body).toMatchObject({ sites: [], removed: [{ id: "fennick-dray" }] });
    await endServer(again.server);
  });
});

describe("a kill", () => {
  it("while sites are made and duplicated leaves each whole or not there at all", async () => {
    const db = freshDatabase();
    let current = await startServer(db);
    for (const ms of [15, 120, 400, 900, 1800]) {
      const origin = new URL("/", current.url).href;
      const going = ["makeDemo", "duplicate", "make"].map((name) =>
        send(origin, `api/sites.${name}`, { id: "fennick-dray", name: "Rope", baseUrl: "", language: "en" }).catch(
          () => null,
        ),
      );
      await new Promise((resolve) => setTimeout(resolve, ms));
      current.server.removeAllListeners("exit");
      current.server.kill("SIGKILL");
      await Promise.all(going);
      current = await startServer(db);
      const names = readdirSync(dirname(db)).filter((name) => !/-(wal|shm|journal)$/.test(name));
      expect(names.filter((name) => !name.endsWith(".db"))).toEqual([]);
      for (const name of names) {
        const own = openStore(join(dirname(db), name), { readonly: true });
        expect(own.pragma("quick_check(1)", { simple: true }), name).toBe("ok");
        const pages = own.prepare("SELECT count(*) FROM items").pluck().get();
        expect(pages, name).toBe(readSite(own)!.name.startsWith("Rope") ? 0 : 13_806);
        own.close();
      }
    }
    await endServer(current.server);
  });

  it("while sites are moved aside, restored, backed up and made anew loses none", async () => {
    const db = freshDatabase();
    let current = await startServer(db);
    const origin = () => new URL("/", current.url).href;
    const listed = async () => {
      const { body } = await send<SiteList>(origin(), "api/sites.list", {});
      return { ...body, total: body.sites.length + body.removed.length };
    };
    const acts: readonly ((list: SiteList) => [call: string, input: object])[] = [
      ({ sites }) => ["remove", { id: sites[0]!.id }],
      ({ removed }) => ["bringBack", { file: removed[0]?.file ?? "none" }],
      ({ sites }) => ["backUp", { id: sites[0]?.id ?? "none" }],
      ({ sites }) => ["renewDemo", { id: sites[0]?.id ?? "none" }],
      ({ backups }) => ["ofBackup", { file: backups[0]?.file ?? "none" }],
    ];
    let round = 0;
    for (const ms of [5, 20, 60, 150, 400])
      for (const act of [acts[round % acts.length]!, acts[(round + 1) % acts.length]!]) {
        round++;
        const before = await listed();
        if (before.sites.length === 0) {
          await send(origin(), "api/sites.bringBack", { file: before.removed[0]!.file });
          continue;
        }
        const [call, input] = act(before);
        const going = send(origin(), `api/sites.${call}`, input).catch(() => null);
        await new Promise((resolve) => setTimeout(resolve, ms));
        current.server.removeAllListeners("exit");
        current.server.kill("SIGKILL");
        await going;
        current = await startServer(db);
        const after = await listed();
        // One is made at the most, and none is lost.
        expect(after.total - before.total, call).toBeGreaterThanOrEqual(0);
        expect(after.total - before.total, call).toBeLessThanOrEqual(1);
        for (const { id, pages, trouble } of after.sites)
          expect({ id, pages, trouble }).toEqual({ id, pages: 13_806, trouble: null });
      }
    await endServer(current.server);
  });
});
