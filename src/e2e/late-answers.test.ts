import { type Page } from "playwright-core";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { type LinesFile } from "../core/design/design";
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

describe("while answers come in another order than they were asked for", () => {
  it("the pages of the finding that is chosen stand there, and none of another", async () => {
    const pageOf = (id: number, name: string) => ({
      ...{ id, kind: "post", name, path: `/${id}`, title: name, description: "", checkedAt: "2026-11-28T12:00:00Z" },
      page: { findings: [], trouble: null, title: null, description: null, hops: [] },
    });
    const findings = (["noindex", "title-missing"] as const).map((finding) => ({ finding, words: finding, count: 1 }));
    await page.route("**/api/live.summary", (route) =>
      route.fulfill({ json: { pages: 2, lastAt: null, findings, theme: [] } }),
    );
    const letThrough: (() => void)[] = [];
    await page.route("**/api/live.pages", async (route) => {
      const { finding } = route.request().postDataJSON() as { finding: string | null };
      if (finding === "noindex") await new Promise<void>((resolve) => letThrough.push(resolve));
      await route.fulfill({ json: [pageOf(1, `Page of ${finding ?? "all"}`)] });
    });
    await page.goto(`${app.url}/live`);
    const listed = page.getByRole("list", { name: "Pages" });
    await listed.getByText("Page of all").waitFor();
    await page.getByRole("button", { name: "noindex" }).click();
    await expect.poll(() => letThrough.length).toBe(1);
    expect(await listed.innerText()).toBe("");
    await page.getByRole("button", { name: "title-missing" }).click();
    await listed.getByText("Page of title-missing").waitFor();
    const late = page.waitForEvent("requestfinished", (request) => request.postData()?.includes("noindex") === true);
    letThrough[0]!();
    await late;
    await drawn(page);
    expect(await listed.innerText()).toContain("Page of title-missing");
    expect(await listed.innerText()).not.toContain("Page of noindex");
  });

  it("no pages stand under a pair of versions that is not theirs", async () => {
    const { id } = await ask(app.url, "designs.saveVersion", { kind: "post", name: "Same as the draft" });
    await page.goto(`${app.url}/compare?kind=post`);
    const differing = page.getByRole("listbox", { name: "Pages that differ, most first" });
    await differing.waitFor();
    const letThrough = await holdBack("bench.compare");
    await page.getByLabel("First version").selectOption(String(id));
    await page.getByText("Checking both over every page").waitFor();
    expect(await differing.count()).toBe(0);
    letThrough();
    await page.getByText("Both make the same title for every page").waitFor();
  });
});

describe("what was asked for before", () => {
  it("is asked for again where a version was saved since: it can be compared with", async () => {
    await page.goto(`${app.url}/compare?kind=product`);
    await page.getByLabel("First version").locator("option", { hasText: "Live" }).waitFor({ state: "attached" });
    await page.getByRole("link", { name: "Back to the Bench" }).click();
    await page.waitForSelector("[role=option] [data-proof]");
    await page.getByRole("button", { name: "Versions" }).click();
    await page.getByRole("menuitem", { name: "Save as a version …" }).click();
    await page.getByLabel("Name of the version").fill("Saved since");
    await page.keyboard.press("Enter");
    await page.locator("[data-sonner-toast]").getByRole("button", { name: "Compare" }).click();
    await page.waitForURL(/compare/);
    const first = page.getByLabel("First version");
    await expect
      .poll(() => first.evaluate((own: HTMLSelectElement) => own.selectedOptions[0]!.text))
      .toMatch(/^Saved since/);
  });
});

describe("what is typed while redirects are on their way", () => {
  const box = () => page.getByLabel("Redirects to add");

  it("is not taken for checked, and stays when those before it are added", async () => {
    await page.goto(`${app.url}/addresses?face=redirects`);
    await box().fill("/first-old /bollards");
    const letLookThrough = await holdBack("redirects.look");
    await page.getByRole("button", { name: "Check them" }).click();
    await box().fill("/second-old /bollards");
    const looked = page.waitForResponse("**/api/redirects.look");
    letLookThrough();
    await looked;
    await drawn(page);
    await page.getByRole("button", { name: "Check them" }).click();
    const letAddThrough = await holdBack("redirects.add");
    await page.getByRole("button", { name: "Add 1 redirect" }).click();
    await box().fill("/second-old /bollards\n/third-old /bollards");
    letAddThrough();
    await page.getByText("1 redirect added").waitFor();
    expect(await box().inputValue()).toBe("/second-old /bollards\n/third-old /bollards");
    expect(await ask(app.url, "redirects.way", { path: "/first-old" })).toMatchObject({ by: null });
  });
});

describe("a lines file", () => {
  const replace = () => page.getByRole("button", { name: /^Replace the drafts/ });
  /** The site's lines with another title line for products, as a file that is chosen. */
  const choose = async (name: string, title: string) => {
    const file = (await (await fetch(`${app.url}/api/files/lines`)).json()) as LinesFile;
    const product = { ...file.kinds.product!, base: { ...file.kinds.product!.base, title } };
    const buffer = Buffer.from(JSON.stringify({ ...file, kinds: { product } }));
    await page.setInputFiles("#lines-file", { name, mimeType: "application/json", buffer });
    return title;
  };

  it("that was chosen last is the one that is shown, whichever is looked at first", async () => {
    await page.goto(`${app.url}/lines`);
    const letThrough: (() => void)[] = [];
    await page.route("**/api/exchange.reviewLines", async (route) => {
      const { name } = route.request().postDataJSON() as { name: string };
      if (name === "first.json") await new Promise<void>((resolve) => letThrough.push(resolve));
      await route.continue().catch(() => {});
    });
    await choose("first.json", "{name} of the first file");
    await expect.poll(() => letThrough.length).toBe(1);
    expect(await replace().isDisabled()).toBe(true);
    await choose("second.json", "{name} of the second file");
    await page.getByRole("heading", { name: "What second.json would change" }).waitFor();
    letThrough[0]!();
    await drawn(page);
    expect(await page.getByText("of the second file").count()).toBeGreaterThan(0);
    expect(await page.getByText("of the first file").count()).toBe(0);
  });

  it("is held against the drafts as they are, not as they were when it was chosen", async () => {
    await page.goto(`${app.url}/lines`);
    const title = await choose("same.json", "{name} that another window took");
    await page.getByRole("button", { name: "Replace the drafts 1 difference" }).waitFor();
    const { version, design } = (await ask(app.url, "site.state", {})).drafts.product!;
    const changed = { ...design, base: { ...design.base, title } };
    await ask(app.url, "designs.save", { kind: "product", design: changed, seen: version }, "other");
    await page.evaluate(() => window.dispatchEvent(new Event("focus")));
    await page.getByRole("button", { name: "Replace the drafts 0 differences" }).waitFor();
    expect(await replace().isDisabled()).toBe(true);
  });

  it("is taken in once for a double click", async () => {
    await page.goto(`${app.url}/lines`);
    let taken = 0;
    await page.route("**/api/exchange.adoptLines", async (route) => {
      taken++;
      await route.continue();
    });
    await choose("twice.json", "{name} once");
    await page.getByRole("button", { name: "Replace the drafts 1 difference" }).dblclick();
    await page.getByText("The drafts for products were replaced.").waitFor();
    expect(taken).toBe(1);
  });
});

describe("what could not be done", () => {
  const isSaid = () => page.locator("[data-sonner-toast]", { hasText: "does not answer" }).first().waitFor();

  it("is said of a job that was to be stopped", async () => {
    const job = {
      ...{ id: 1, type: "check", state: "running", label: "Checking", params: {}, result: null, done: 1, total: 9 },
      ...{ message: null, begunBy: "", createdAt: "2026-11-28T12:00:00Z", startedAt: null, endedAt: null },
    };
    await page.route("**/api/jobs.list", (route) => route.fulfill({ json: [job] }));
    await page.route("**/api/jobs.stop", (route) => route.abort());
    await page.goto(`${app.url}/live`);
    await page.getByRole("button", { name: "Stop the check" }).click();
    await isSaid();
  });

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

describe("a server that neither answers nor ends", () => {
  it("is not waited for without a limit, and what was typed stands in the cell again", async () => {
    const own = await app.page();
    await own.clock.install();
    await own.goto(`${app.url}/pages?kind=category&side=draft&columns=title+name`);
    await own.waitForSelector("[role=row] [data-column=title]");
    await own.focus("[role=grid]");
    await own.keyboard.type("Typed");
    const editor = own.locator('[aria-label="Title by hand"]');
    await expect.poll(() => editor.inputValue().catch(() => "")).toBe("Typed");
    app.server.kill("SIGSTOP");
    try {
      const sent = own.waitForRequest("**/api/edits.make");
      await own.keyboard.type(" while the server stood still");
      await editor.press("Shift+Enter");
      await sent;
      expect(await editor.count()).toBe(0);
      await own.clock.fastForward(60_000);
      await own.locator("[data-sonner-toast]", { hasText: "does not answer" }).first().waitFor();
      await expect.poll(() => editor.inputValue().catch(() => "closed")).toBe("Typed while the server stood still");
    } finally {
      app.server.kill("SIGCONT");
    }
  });
});
