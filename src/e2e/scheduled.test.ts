import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it, onTestFinished } from "vitest";
import { type App, endServer, startApp, startServer } from "./app";
import { ask, settled } from "./calls";

let app: App;
beforeAll(async () => {
  app = await startApp();
});
afterAll(async () => {
  await app.browser.close();
  app.server.kill("SIGKILL");
});

const inSeconds = (seconds: number) => new Date(Date.now() + seconds * 1000).toISOString();

/** Writes a run down that goes out by itself. */
async function scheduled(url: string, dueAt: string): Promise<number> {
  const { goingOut } = await ask(url, "review.summary", {});
  const { run } = await ask(url, "runs.start", { goingOut, click: randomUUID(), dueAt });
  await settled(url);
  return run;
}

describe("a run at a set time", () => {
  it("is written down now, can be kept from going out, and is chosen by hand in the review", async () => {
    const page = await app.page();
    await page.goto(`${app.url}/review`);
    await page.click("role=button[name=/^Apply [\\d,]+ changes/]");
    const local = new Date(Date.now() + 3 * 3600_000);
    const field = `${local.getFullYear()}-${String(local.getMonth() + 1).padStart(2, "0")}-${String(local.getDate()).padStart(2, "0")}T${String(local.getHours()).padStart(2, "0")}:${String(local.getMinutes()).padStart(2, "0")}`;
    await page.fill("[type=datetime-local]", field);
    await page.click("[role=dialog] >> role=button[name=/^Schedule [\\d,]+ changes/]");
    await page.waitForURL(/runs\/\d+/);
    await page.waitForSelector("text=/^Goes out on /");
    const id = Number(page.url().split("/").at(-1));
    expect(await ask(app.url, "runs.read", { id })).toMatchObject({ status: "ready", applied: 0 });
    await page.click("role=button[name='Do not apply by itself']");
    await page.waitForSelector("text=Ready, nothing applied yet");
    expect(await ask(app.url, "runs.read", { id })).toMatchObject({ due_at: null });
    await page.close();
  });

  it("is told as it is wherever it is told of, also after it was told of before", async () => {
    const run = await scheduled(app.url, inSeconds(3600));
    const page = await app.page();
    await page.goto(`${app.url}/runs/${run}`);
    await page.waitForSelector("text=/^Goes out on /");
    await page.click("role=link[name='All runs']");
    await page.click("role=button[name='Do not apply by itself']");
    await page.waitForSelector("role=button[name='Do not apply by itself']", { state: "detached" });
    await page.click(`a[href$='/runs/${run}']`);
    await page.waitForSelector("text=Ready, nothing applied yet");
    // Set again elsewhere: one hears of it when one comes back.
    await ask(app.url, "runs.schedule", { id: run, dueAt: inSeconds(7200) });
    await page.evaluate(() => window.dispatchEvent(new Event("focus")));
    await page.waitForSelector("text=/^Goes out on /");
    await page.click("role=link[name='All runs']");
    await page.waitForSelector("role=button[name='Do not apply by itself']");
    await ask(app.url, "runs.schedule", { id: run, dueAt: null });
    await page.close();
  });

  it.each([
    ["where another window has it done", false],
    ["where the answer of before comes last", true],
  ])("shows its changes as they are once it is done, %s", async (_name, isHeld) => {
    const run = await scheduled(app.url, inSeconds(3600));
    const page = await app.page();
    let isFirst = true;
    let letThrough = () => {};
    const isDone = new Promise<void>((resolve) => (letThrough = resolve));
    await page.route("**/api/runs.changes", async (route) => {
      // What was asked for while all of it waits comes when none of it does any more.
      if (!isHeld || !isFirst) return route.continue();
      isFirst = false;
      const response = await route.fetch();
      await isDone;
      await route.fulfill({ response }).catch(() => {});
    });
    const isAsked = page.waitForRequest("**/api/runs.changes");
    await page.goto(`${app.url}/runs/${run}`);
    await isAsked;
    if (!isHeld) await page.locator("[role=row]").first().getByText("waits").waitFor();
    await ask(app.url, "runs.goOn", { id: run });
    onTestFinished(async () => {
      await ask(app.url, "runs.takeBack", { id: run });
      await settled(app.url);
    });
    await settled(app.url);
    await page.evaluate(() => window.dispatchEvent(new Event("focus")));
    await page.getByText(/^Done: [\d,]+ changes/).waitFor();
    letThrough();
    await page.locator("[role=row]").first().waitFor();
    await expect.poll(() => page.locator("[role=row]").getByText("waits").count()).toBe(0);
    await page.close();
  });

  it("goes out then, also when the server was ended in between and nobody has the site open", async () => {
    await expect(scheduled(app.url, inSeconds(-5))).rejects.toThrow();
    const run = await scheduled(app.url, inSeconds(8));
    expect(await ask(app.url, "runs.read", { id: run })).toMatchObject({ status: "ready", applied: 0 });
    await endServer(app.server);
    const { server, url } = await startServer(app.db);
    const state = () => ask(url, "runs.read", { id: run });
    await expect.poll(async () => (await state()).status, { timeout: 60_000, interval: 500 }).toBe("done");
    expect(await state()).toMatchObject({ due_at: null, waiting: 0 });
    expect((await state()).applied).toBeGreaterThan(10_000);
    await endServer(server);
  });
});
