import { type Page } from "playwright-core";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { type App, startApp } from "./app";
import { ask, drawn } from "./calls";

let app: App;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  page = await app.page();
}, 180_000);
afterAll(() => app.close());
beforeEach(() => page.unrouteAll());

/** Holds all answers of a call back. @returns lets them through. */
async function holdBack(call: string): Promise<() => void> {
  let letThrough = () => {};
  const isFree = new Promise<void>((resolve) => (letThrough = resolve));
  await page.route(`**/api/${call}`, async (route) => {
    const response = await route.fetch();
    await isFree;
    await route.fulfill({ response });
  });
  return letThrough;
}

describe("while an answer is on its way", () => {
  it("nothing of another page stands on the one that is open", async () => {
    const { items } = await ask(app.url, "items.list", {
      query: {
        ...{ kind: "post", side: "live", findings: [], difference: null, where: null, mark: null, search: "" },
        ...{ sort: "site", down: false, group: null },
      },
      from: 0,
      count: 2,
      columns: [],
    });
    const [first, second] = items;
    await page.goto(`${app.url}/pages?kind=post&item=post-${first!.id}`);
    const links = page.getByRole("region", { name: "Links" });
    await links.waitFor();
    const letThrough = await holdBack("links.list");
    await page.locator(`[data-column=name]`, { hasText: second!.name }).first().click();
    await page.keyboard.press("Enter");
    await page.getByRole("complementary", { name: "The page" }).getByRole("heading", { name: second!.name }).waitFor();
    await drawn(page);
    expect(await links.count()).toBe(0);
    letThrough();
    await links.waitFor();
  });

  it("the versions of another kind are not offered", async () => {
    await ask(app.url, "designs.saveVersion", { kind: "product", name: "Of the products" });
    await page.goto(`${app.url}/compare?kind=product`);
    const versions = page.getByLabel("First version").locator("option", { hasText: "Of the products" });
    await versions.waitFor({ state: "attached" });
    const letThrough = await holdBack("designs.versions");
    await page.getByRole("radio", { name: "posts" }).click();
    await page.waitForURL(/kind=post/);
    await drawn(page);
    expect(await versions.count()).toBe(0);
    const answered = page.waitForResponse("**/api/designs.versions");
    letThrough();
    await (await answered).finished();
  });
});

describe("what could not be done", () => {
  const isSaid = () => page.locator("[data-sonner-toast]", { hasText: "does not answer" }).first().waitFor();

  it("is said of a version that was to be deleted", async () => {
    const { id } = await ask(app.url, "designs.saveVersion", { kind: "product", name: "To be deleted" });
    await page.goto(`${app.url}/compare?kind=product&a=${id}`);
    await page.route("**/api/designs.deleteVersion", (route) => route.abort());
    await page.getByRole("button", { name: "Delete" }).click();
    await isSaid();
  });

  it("is said of a redirect that was to be retired", async () => {
    await ask(app.url, "redirects.add", { text: "/old-bollard /bollards", origin: "hand" });
    await page.goto(`${app.url}/addresses?face=redirects`);
    await page.route("**/api/redirects.retire", (route) => route.abort());
    await page.getByRole("button", { name: "Retire /old-bollard" }).click();
    await isSaid();
  });

  it("is said of versions that were to be listed, and not that there are none", async () => {
    await page.goto(`${app.url}/bench?kind=product&text=title`);
    await page.route("**/api/designs.versions", (route) => route.abort());
    await page.getByRole("button", { name: "Versions" }).click();
    await page.getByRole("menu").getByText("does not answer").waitFor();
    expect(await page.getByRole("menu").getByText("No versions").count()).toBe(0);
  });
});
