import type { Page } from "playwright-core";
import { readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import Database from "better-sqlite3";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { practicePage } from "../test/practice-page";
import { practiceServer, type PracticeServer } from "../test/practice-server";
import { type App, axeFindings, startApp } from "./app";
import { ask, draftStored, send, settled } from "./calls";

const PAGES = 240;
const LINE = '[role=textbox][aria-label="Title line"]';

let app: App;
let practice: PracticeServer;
let page: Page;
/** What the server says on its standard outputs. */
const said: string[] = [];
beforeAll(async () => {
  app = await startApp();
  for (const output of [app.server.stdout!, app.server.stderr!])
    output.on("data", (part: Buffer) => said.push(part.toString()));
  page = await app.page();
  practice = await practiceServer((store) => {
    for (let i = 1; i <= PAGES; i++)
      store.put({ ...practicePage(i), kind: "product", description: `All about rope ${i}` });
  });
});
afterAll(async () => {
  practice.close();
  await app.close();
});

const titles = () =>
  practice.store
    .pagesAfter({ place: 0, kind: null, since: "", count: 1e6 })
    .map(({ id, title, description, path }) => ({ id, title, description, path }));
const programWrites = () => practice.store.writes().filter(({ writer }) => writer === "program");

describe.each(["flat", "nested"] as const)("a site over the %s interface", (face) => {
  const name = `Ropes ${face}`;
  let site: string;
  let before: ReturnType<typeof titles>;

  it("is connected: tried against a real answer, a field pointed at, a page written as it is, and saved", async () => {
    const home = new URL("/", app.url).href.slice(0, -1);
    const made = await send<{ id: string }>(home, "/api/sites.make", {
      name,
      baseUrl: "https://ropes.example",
      language: "en",
    });
    site = `${home}/${made.body.id}`;
    const file = JSON.parse(JSON.stringify(practice.connection(face, { perSecond: 200, atOnce: 4 }))) as {
      fields: Record<string, unknown>;
      kinds: Record<string, unknown>;
    };
    file.kinds = { product: file.kinds["product"] };
    const { title } = file.fields;
    file.fields = { ...file.fields, title: "/nowhere" };
    await page.goto(`${site}/connection`);
    await page.waitForSelector("text=Try the first page");
    for (const begin of ["A new one", "Practice site, nested", "Practice site, flat"]) {
      await page.click(`role=button[name='${begin}']`);
      const { name: called } = JSON.parse(await page.inputValue("#description")) as { name: string };
      expect(called).toBe(begin === "A new one" ? "My site" : begin);
    }
    await page.setInputFiles("[type=file]", {
      name: "site.connection.json",
      mimeType: "application/json",
      buffer: Buffer.from(JSON.stringify(file, null, 2)),
    });
    await expect.poll(() => page.inputValue("#description")).toContain("/nowhere");
    await page.fill("#secret", practice.token);
    await page.click("role=button[name='Try the first page']");
    await page.waitForSelector("text=The record as it came");
    const row = page.locator("tr", { has: page.locator("th", { hasText: /^title$/ }) });
    expect(await row.innerText()).toContain("not in this record");
    await row.locator("role=button[name='Point at it']").click();
    await page.locator("section[aria-label='The record as it came'] >> text=/Rope 1 [|] Fennick/").click();
    await row.locator("text=/Rope 1 [|] Fennick/").waitFor();
    const place = await row.locator("input").inputValue();
    expect(place).toBe(typeof title === "string" ? title : (title as { at: string }).at);
    await page.click("role=button[name='Remove robots']");
    await page.click("role=button[name='+ robots']");
    await page.locator("section[aria-label='The record as it came'] button").nth(1).click();
    await page.fill("[aria-label='Where robots stands']", "/nothing-there");
    const robots = page.locator("tr", { has: page.locator("th", { hasText: /^robots$/ }) });
    await robots.locator("text=not in this record").waitFor();
    await page.click("role=button[name=Next]");
    await page.waitForSelector("text=Record 2 of 10");
    // What the values are encoded with stays to be said.
    await page.fill("#description", JSON.stringify({ ...file, fields: { ...file.fields, title } }, null, 2));
    expect(await axeFindings(page)).toEqual([]);
    const writes = programWrites().length;
    await page.click("role=button[name='Try to write']");
    await page.waitForSelector("text=The site took it, and the page reads as before.");
    expect(programWrites()).toHaveLength(writes);
    await page.click("role=button[name='Save connection']");
    await page.waitForSelector("text=Applying a review changes the live site.");
  });

  it("is brought in, and its secret is nowhere but in its own file", async () => {
    await page.click("role=button[name='Import all pages']");
    await page.waitForSelector(`text=Done: ${PAGES} pages, ${PAGES} new`);
    await page.waitForSelector(`text=it has ${PAGES} pages over this connection`);
    before = titles();
    const { lastRun: _, ...state } = await ask(site, "site.state", {});
    const shown = JSON.stringify([state, await ask(site, "wire.read", {}), await ask(site, "jobs.list", {})]);
    expect(shown).not.toContain(practice.token);
    expect(await page.content()).not.toContain(practice.token);
    const folder = join(dirname(app.db));
    const id = site.split("/").at(-1)!;
    for (const end of [".db", ".db-wal"])
      expect(readFileSync(join(folder, id + end)).includes(practice.token)).toBe(false);
    expect(readFileSync(join(folder, `${id}.secret`), "utf8")).toContain(practice.token);
    for (const path of ["/api/files/lines", "/api/out/items", "/api/out/redirects"])
      expect((await send(site, path)).text, path).not.toContain(practice.token);
    const whole = await fetch(new URL(`/api/sites/${id}/file`, app.url));
    expect(whole.status).toBe(200);
    expect(Buffer.from(await whole.arrayBuffer()).includes(practice.token)).toBe(false);
    expect(said.join("")).toContain("job-ended");
    expect(said.join("")).not.toContain(practice.token);
    expect(readFileSync(`/proc/${app.server.pid}/cmdline`, "utf8")).not.toContain(practice.token);
  });

  it("says what changed there, and what of it is worked on here, before it is taken over", async () => {
    await page.goto(`${site}/connection`);
    const db = new Database(join(dirname(app.db), `${site.split("/").at(-1)}.db`));
    const hand = db.prepare(
      "INSERT INTO hand_texts (item_id, text, value) SELECT id, 'title', 'By hand' FROM items WHERE key = 'p4'",
    );
    hand.run();
    for (const id of ["p3", "p4"])
      practice.store.change(id, { title: `${id} changed there, ${face}` }, null, new Date().toISOString(), "program");
    await page.click("role=button[name='Show what changed']");
    await page.waitForSelector("section[aria-label='Live site'] >> text=/2 changed, 0 new/");
    await page.reload();
    await page.click("role=button[name='Import what changed']");
    await page.waitForSelector("text=1 text was changed on the site that somebody works on here");
    expect(await axeFindings(page)).toEqual([]);
    await page.click("role=button[name='Import it all the same']");
    await page.waitForSelector("text=/^Done: .*0 new, 2 changed/");
    db.prepare("DELETE FROM hand_texts").run();
    db.close();
    await page.click("role=button[name='Import everything again']");
    await page.waitForSelector(`text=Done: ${PAGES} pages, 0 new, 0 changed, 0 gone`);
    before = titles();
  });

  it("gets a line, and a run that goes out with everything going wrong, is stopped and goes on", async () => {
    await page.goto(`${site}/bench?kind=product`);
    await page.click(LINE);
    await page.keyboard.type("{name}, cut to length");
    await draftStored(site, page, "product", "{name}, cut to length");
    const earlier = programWrites().length;
    await page.goto(`${site}/review`);
    await page.click(`role=button[name='Apply ${PAGES} changes …']`);
    await page.waitForSelector("[role=dialog] >> text=They go to the live site over");
    // Nothing is answered: the run cannot end before it is stopped.
    practice.fault("hanging", 100);
    await page.click(`[role=dialog] >> role=button[name='Apply ${PAGES} changes']`);
    await page.waitForURL(/runs\/\d+/);
    await page.click("role=button[name=Stop]");
    await page.waitForSelector("text=/^Stopped at /");
    practice.fault("hanging", 0);
    // The site asks to be left alone for a second now and then; that is obeyed, and takes its time.
    const faults = { errors: 5, dropped: 5, "changed-meanwhile": 8, "too-many": 1 } as const;
    for (const [fault, share] of Object.entries(faults)) practice.fault(fault as keyof typeof faults, share);
    await page.click("role=button[name=Continue]");
    await page.waitForSelector("text=/^Done: /", { timeout: 90_000 });
    await settled(site);
    for (const fault of Object.keys(faults)) practice.fault(fault as keyof typeof faults, 0);
    const { wire, applied, waiting } = await ask(site, "runs.read", { id: 1 });
    expect([waiting, wire!.sent, applied + wire!.refused + wire!.changed]).toEqual([0, 0, PAGES]);
    // How many were edited meanwhile is chance.
    expect(applied).toBeGreaterThan(0);
    const written = new Map<string, number>();
    for (const { page: id, after } of programWrites().slice(earlier))
      if (after.title?.endsWith(", cut to length")) written.set(id, (written.get(id) ?? 0) + 1);
    expect([...written.values()].every((times) => times === 1)).toBe(true);
    await page.waitForSelector("text=Changed on the site meanwhile");
    expect(await axeFindings(page)).toEqual([]);
  });

  it("is checked as visitors get it: what the theme adds is taken into the surface", async () => {
    practice.fault("adds-name", 100);
    await page.click("role=link[name='Check what is live']");
    await page.click("role=button[name='Check run 1']");
    await page.waitForSelector("text=/^Done: /", { timeout: 60_000 });
    await page.waitForSelector("text=/The site adds.*Fennick/");
    expect(await axeFindings(page)).toEqual([]);
    const width = async () =>
      (await ask(site, "site.state", {})).site!.surfaces.find(({ id }) => id === "desktop-title")?.width ?? 600;
    expect(await width()).toBe(600);
    const words = await page.locator("role=button[name=/Make the surfaces narrower by/]").innerText();
    await page.click("role=button[name=/Make the surfaces narrower by/]");
    await page.waitForSelector("text=The surfaces are narrower by that already.");
    expect(await width()).toBe(600 - Number(/by (\d+) px/.exec(words)![1]));
    practice.fault("adds-name", 0);
  });

  it("is taken back: every page reads as it did", async () => {
    const edited = new Set(
      practice.store
        .writes()
        .filter(({ writer }) => writer === "editor")
        .map(({ page: id }) => id),
    );
    await page.goto(`${site}/runs/1`);
    await page.click("role=button[name=Undo]");
    await page.waitForSelector("text=Done: run 1 is undone", { timeout: 60_000 });
    await page.waitForSelector("text=Undone on the live site");
    const untouched = (all: ReturnType<typeof titles>) => all.filter(({ id }) => !edited.has(id));
    expect(untouched(titles())).toEqual(untouched(before));
    expect(untouched(before).length).toBeGreaterThan(0);
  });

  it("keeps what was typed and not saved, and does not let it overwrite what another window saved", async () => {
    const saved = (await ask(site, "wire.read", {}))!.description;
    await page.goto(`${site}/connection`);
    await page.waitForSelector("#description:enabled");
    await page.locator("#description").press("Control+End");
    await page.keyboard.type(" ");
    await page.waitForSelector("text=Not saved yet");
    await page.goto(`${site}/runs`);
    await page.goto(`${site}/connection`);
    await page.waitForSelector("text=Not saved yet");
    expect(await page.inputValue("#description")).toBe(`${saved} `);
    await ask(site, "wire.save", { description: `${saved}\n`, secret: null, seen: saved });
    await page.evaluate(() => window.dispatchEvent(new Event("focus")));
    await page.waitForSelector("text=Another window saved something else since you began");
    await page.reload();
    await page.waitForSelector("text=Another window saved something else since you began");
    await page.click("role=button[name='Save connection']");
    await page.getByRole("alert").filter({ hasText: "was changed in another window" }).waitFor();
    expect((await ask(site, "wire.read", {}))!.description).toBe(`${saved}\n`);
    await page.click("role=button[name='Discard these changes']");
    expect(await page.inputValue("#description")).toBe(`${saved}\n`);
    await page.reload();
    await page.waitForSelector("#description:enabled");
    expect(await page.locator("text=Not saved yet").count()).toBe(0);
  });

  it("loses its connection when that is removed, and nothing else", async () => {
    await page.goto(`${site}/connection`);
    await page.click("role=button[name='Remove the connection']");
    await page.waitForSelector("text=Where the site has an interface for programs");
    expect(await ask(site, "wire.read", {})).toBeNull();
    expect((await ask(site, "site.state", {})).counts["product"]).toBe(PAGES);
  });
});
