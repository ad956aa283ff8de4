import Database from "better-sqlite3";
import { type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type App, startApp } from "./app";
import { ask, settled } from "./calls";

let app: App;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
}, 180_000);
afterAll(() => app.close());

const bodies = () => {
  const db = new Database(app.db, { readonly: true });
  const all = db.prepare("SELECT item_id, body FROM bodies ORDER BY item_id").all() as {
    item_id: number;
    body: string;
  }[];
  db.close();
  return all;
};
const bare = (all: readonly { body: string }[]) =>
  all.reduce((sum, { body }) => sum + (body.match(/<img[^>]*alt=""/g)?.length ?? 0), 0);
const typed = async (label: string, line: string) => {
  await page.click(`[aria-label="${label}"]`);
  await page.keyboard.insertText(line);
};

const stored = (line: string) =>
  expect.poll(async () => JSON.stringify((await ask(app.url, "site.state", {})).drafts.post!.design)).toContain(line);

describe("image descriptions", () => {
  let before: ReturnType<typeof bodies>;

  it("are switched on in the settings, and have lines on the Board, for a rule too", async () => {
    before = bodies();
    await page.goto(`${app.url}/settings?topic=extras`);
    await page.check("#extras input >> nth=0");
    await page.getByRole("button", { name: "Save settings" }).click();
    await expect.poll(async () => (await ask(app.url, "site.state", {})).site!.extras.alt).toBe(true);
    await page.goto(`${app.url}/`);
    await typed("Image descriptions line for posts", "{name}[ – picture {image.number}]");
    await stored("– picture {image.number}]");
    await page.waitForSelector(`text=${bare(before)} images on`);
    const rule = page.locator('[aria-label="Another line for a rule’s posts: Image descriptions"]');
    const name = (await ask(app.url, "site.state", {})).drafts.post!.design.rules[0]!.name;
    await rule.selectOption({ label: name });
    await typed(`Image descriptions line for posts, rule ${name}`, "Ruled: {image.file}");
    await stored("Ruled: {image.file}");
  });

  it("can be written by hand on a page, and undone to the line", async () => {
    const { item_id: id } = before.find(({ body }) => body.includes("<img"))!;
    await page.goto(`${app.url}/pages?item=post-${id}`);
    const own = page.locator('aside [aria-label="Extra texts"] li').first();
    await own.getByRole("button", { name: "Write by hand" }).click();
    await page.keyboard.press("Control+A");
    await page.keyboard.insertText("A splice, seen from above");
    await page.keyboard.press("Enter");
    await own.getByText("by hand", { exact: true }).waitFor();
    expect(await own.innerText()).toContain("A splice, seen from above");
  });

  it("go out with a run, one for each image, and come back byte by byte", async () => {
    await page.goto(`${app.url}/review`);
    const summary = await ask(app.url, "review.summary", {});
    const alts = summary.groups.reduce((sum, { includedByText }) => sum + includedByText.alt, 0);
    expect(summary.groups.find(({ group }) => group === "written")!.byText.alt).toBe(1);
    expect(alts).toBeGreaterThan(100);
    await page.waitForSelector("text=1 image description");
    const { run } = await ask(app.url, "runs.start", { goingOut: summary.goingOut, name: "", click: "extras-test" });
    await settled(app.url);
    expect(await ask(app.url, "runs.read", { id: run })).toMatchObject({ alts, skipped: 0, waiting: 0 });
    expect(bare(bodies())).toBe(bare(before) - alts);
    await page.goto(`${app.url}/runs/${run}`);
    await page.waitForSelector("dt:text('Image descriptions')");
    await ask(app.url, "runs.takeBack", { id: run });
    await settled(app.url);
    expect(bodies()).toEqual(before);
  });
});

describe("how numbers are written", () => {
  it("is set for a field in the settings", async () => {
    await page.goto(`${app.url}/settings?topic=figures`);
    await page.selectOption('[aria-label="How “price” of products is written"]', "comma");
    await page.getByRole("button", { name: "Save settings" }).click();
    await expect
      .poll(async () => (await ask(app.url, "site.state", {})).site!.formats.product)
      .toEqual({ price: { number: "comma" } });
  });
});
