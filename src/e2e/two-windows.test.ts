import { type Page, type Route } from "playwright-core";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { type KindDesign } from "../core/design/design";
import { changesAfter } from "../store/runs";
import { openStore } from "../store/open";
import { type App, startApp } from "./app";
import { ask, draftStored, drawn, settled } from "./calls";

let app: App;
/** Two windows of two people, who share nothing but the server. */
let one: Page;
let other: Page;

beforeAll(async () => {
  app = await startApp();
}, 180_000);
afterAll(() => app.close());
beforeEach(async () => {
  [one, other] = [await app.page(), await app.page()];
});
afterEach(() => Promise.all([one, other].map((page) => page.context().close())));

const LINE = '[aria-label="Title line"]';
const BENCH = "/bench?kind=product&text=title";
const openBench = async (page: Page) => {
  await page.goto(app.url + BENCH);
  await page.waitForSelector("[role=option] [data-proof]", { timeout: 60_000 });
};
const type = async (page: Page, text: string) => {
  await page.click(LINE);
  await page.keyboard.press("Control+A");
  await page.keyboard.insertText(text);
};
const stateOf = (page: Page) => page.getAttribute("[data-draft]", "data-draft");
const storedLine = async () => (await ask(app.url, "site.state", {})).drafts.product!.design.base.title;

/** A connection on which each save waits until it is let through. */
class SlowSaves {
  readonly waiting: { title: string; route: Route }[] = [];

  constructor(private readonly page: Page) {}

  async begin(): Promise<void> {
    await this.page.route("**/api/designs.save", (route) => {
      const { design } = route.request().postDataJSON() as { design: KindDesign };
      this.waiting.push({ title: design.base.title!, route });
    });
  }

  async arrive(title: string): Promise<void> {
    await expect.poll(() => this.waiting.map((save) => save.title)).toEqual([title]);
  }

  letThrough(): Promise<void> {
    return this.waiting.shift()!.route.continue();
  }

  end(): Promise<void> {
    return this.page.unroute("**/api/designs.save");
  }
}

describe("a slow connection", () => {
  it("loses none of three quick changes, and says “stored” only of the last", async () => {
    await openBench(one);
    const saves = new SlowSaves(one);
    await saves.begin();
    await type(one, "{name} one");
    await saves.arrive("{name} one");
    await type(one, "{name} two");
    await type(one, "{name} three");
    expect(await stateOf(one)).toBe("saving");
    await saves.letThrough();
    await saves.arrive("{name} three");
    expect(await stateOf(one)).toBe("saving");
    expect(await storedLine()).toBe("{name} one");
    await saves.letThrough();
    await draftStored(app.url, one, "product", "{name} three");
    await saves.end();
  });

  it("loses nothing where the window is closed before a save arrived", async () => {
    await openBench(one);
    const saves = new SlowSaves(one);
    await saves.begin();
    await type(one, "{name} four");
    await saves.arrive("{name} four");
    await type(one, "{name} five");
    const context = one.context();
    await saves.waiting.shift()!.route.abort();
    await one.waitForSelector("[data-draft=offline]");
    await one.close();
    one = await context.newPage();
    one.setDefaultTimeout(20_000);
    await openBench(one);
    await draftStored(app.url, one, "product", "{name} five");
    await expect.poll(() => one.locator(LINE).innerText()).toBe("{name} five");
  });

  it("keeps what was typed just before the page is loaded anew, though one types in another line at once", async () => {
    // What looks at drafts that were left comes after the page, later than the first letter is typed.
    const network = await one.context().newCDPSession(one);
    await network.send("Network.emulateNetworkConditions", {
      offline: false,
      latency: 500,
      downloadThroughput: -1,
      uploadThroughput: -1,
    });
    for (const word of ["six", "seven", "eight"]) {
      await openBench(one);
      await type(one, `{name} ${word}`);
      await expect.poll(() => one.locator(LINE).innerText()).toBe(`{name} ${word}`);
      await one.goto(`${app.url}/bench?kind=product&text=description`);
      await one.click('[aria-label="Description line"]');
      await one.keyboard.press("Control+A");
      await one.keyboard.insertText(`{intro} ${word}`);
      const lines = async () => (await ask(app.url, "site.state", {})).drafts.product!.design.base;
      await expect.poll(lines).toMatchObject({ title: `{name} ${word}`, description: `{intro} ${word}` });
      await one.waitForSelector("[data-draft=stored]");
    }
  });

  it("lets two windows choose between their drafts, and both buttons are to be seen and do what they say", async () => {
    await Promise.all([openBench(one), openBench(other)]);
    await type(one, "{name} mine");
    await draftStored(app.url, one, "product", "{name} mine");
    await type(other, "{name} theirs");
    await other.waitForSelector("[data-draft=conflict]");
    await other.click("role=button[name='Keep mine']");
    await draftStored(app.url, other, "product", "{name} theirs");
  });
});

describe("a window that asks while the server is busy for another", () => {
  it("is told on its screen what it waits for, and gets its answer when the other goes away", async () => {
    // Looking this pattern up in every introduction takes the server far longer than a click.
    const where = { field: "intro", matches: "(z?){120}Q" };
    const query = { kind: "all", side: "live", findings: [], difference: null, where, mark: null, search: "" };
    const slow = new AbortController();
    const busy = fetch(`${app.url}/api/items.list`, {
      method: "POST",
      body: JSON.stringify({
        query: { ...query, sort: "site", down: false, group: null },
        from: 0,
        count: 1,
        columns: [],
      }),
      headers: { "content-type": "application/json", "x-client": "slow" },
      signal: slow.signal,
    });
    const response = await busy;
    const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
    let said = "";
    while (!said.includes("matching")) {
      const { value, done } = await reader.read();
      expect(done, said).toBe(false);
      said += value;
    }
    await one.goto(`${app.url}/bench?kind=product&text=title`);
    await one.locator("[role=status]", { hasText: "Waiting for the server. Finding which products" }).waitFor();
    slow.abort();
    await one.waitForSelector("[role=option] [data-proof]", { timeout: 60_000 });
    await one.locator("[role=status]", { hasText: "Waiting for the server" }).waitFor({ state: "detached" });
  });
});

describe("coming back to a window", () => {
  const comeBack = (page: Page) => page.evaluate(() => window.dispatchEvent(new Event("focus")));
  const rename = async (to: string) => {
    const { site } = await ask(app.url, "site.state", {});
    await ask(app.url, "site.saveSettings", { site: { ...site!, name: to }, seen: site! });
  };

  it("shows what others did, and not what was so before, where that answer comes last", async () => {
    await one.goto(app.url);
    const before = (await ask(app.url, "site.state", {})).site!.name;
    let letThrough = () => {};
    const isLate = new Promise<void>((resolve) => (letThrough = resolve));
    let isFirst = true;
    let askedFirst = () => {};
    const isAsked = new Promise<void>((resolve) => (askedFirst = resolve));
    await one.route("**/api/site.state", async (route) => {
      if (!isFirst) return route.continue();
      isFirst = false;
      const response = await route.fetch();
      askedFirst();
      await isLate;
      await route.fulfill({ response });
    });
    await comeBack(one);
    await isAsked;
    await rename("Fennick & Dray of the quay");
    await comeBack(one);
    await one.locator("header").getByText("Fennick & Dray of the quay").waitFor();
    const answered = one.waitForResponse("**/api/site.state");
    letThrough();
    await (await answered).finished();
    await drawn(one);
    expect(await one.locator("header").getByText("Fennick & Dray of the quay").count()).toBe(1);
    await rename(before);
  });

  it("shows it while long work goes on, too, and follows that", async () => {
    await one.goto(app.url);
    await one.route("**/api/jobs.list", async (route) => {
      const response = await route.fetch();
      const jobs = (await response.json()) as { result: unknown[] } | unknown[];
      const open = [
        { id: 4711, type: "import", state: "running", done: 1, total: 9, message: null, params: {}, result: null },
      ];
      await route.fulfill({ response, json: Array.isArray(jobs) ? open : { ...jobs, result: open } });
    });
    const before = (await ask(app.url, "site.state", {})).site!.name;
    await rename("Fennick & Dray at work");
    await comeBack(one);
    await one.locator("header").getByText("Fennick & Dray at work").waitFor();
    await one.unrouteAll({ behavior: "ignoreErrors" });
    await rename(before);
  });
});

describe("settings that are not right yet", () => {
  it("are there again after a reload, with every other edit", async () => {
    await other.goto(`${app.url}/settings?topic=slugs`);
    await other.fill('[aria-label="Most characters of a slug"]', "2");
    await other.waitForSelector("[role=alert]");
    await other.click("nav[aria-label=Settings] >> text=The site");
    const tagline = other.locator("label", { hasText: "Tagline" }).locator("input");
    await tagline.fill("Sails, ropes and lamps");
    await other.waitForSelector("role=button[name='Save settings'][disabled]");
    await other.reload();
    await expect.poll(() => tagline.inputValue()).toBe("Sails, ropes and lamps");
    await other.click("nav[aria-label=Settings] >> text=Slugs and addresses");
    expect(await other.inputValue('[aria-label="Most characters of a slug"]')).toBe("2");
  });
});

describe("a review that is open", () => {
  const applied = (page: Page) => page.locator("button", { hasText: /^Apply [\d,]+ changes? …$/ });
  const offered = async (page: Page) => Number((await applied(page).innerText()).replace(/\D/g, ""));
  const runs = async () => (await ask(app.url, "runs.list", {})).runs;
  const openApply = async (page: Page) => {
    // While the review looks again its button is switched off: a click that falls into that moment opens nothing.
    const opened = async () => {
      if (await page.locator("[role=dialog]").isVisible()) return true;
      await applied(page)
        .click({ timeout: 2000 })
        .catch(() => {});
      return page.locator("[role=dialog]").isVisible();
    };
    await expect.poll(opened, { timeout: 60_000 }).toBe(true);
  };
  const overtaken = (page: Page) => page.locator("text=/Nothing was applied; check it again/").first();
  /** Presses the dialog's button; a window that heard of the change by itself has closed the dialog already, and says so. */
  const submit = async (page: Page) => {
    const button = page.locator("[role=dialog] button[type=submit]");
    await button.or(overtaken(page)).first().waitFor();
    if (await overtaken(page).isVisible()) return;
    await Promise.race([button.click(), overtaken(page).waitFor()]);
  };
  /** Says that it is another review by now, makes no run, and goes back to the review. */
  const refused = async (page: Page) => {
    await overtaken(page).waitFor();
    await page.locator("[role=dialog]").waitFor({ state: "hidden" });
    expect(page.url()).toContain("/review");
    expect(await runs()).toEqual([]);
    await page.reload();
    await applied(page).waitFor();
  };
  const untick = async (page: Page, label: RegExp) => {
    await page.goto(`${app.url}/review`);
    const ticked = page.getByRole("checkbox", { name: label, checked: true }).first();
    const name = (await ticked.getAttribute("aria-label"))!;
    await ticked.click();
    await page.getByRole("checkbox", { name, exact: true, checked: false }).first().waitFor();
  };

  it("is not another one behind an open question: that says so, and applies nothing", async () => {
    await one.goto(`${app.url}/review`);
    await applied(one).waitFor();
    await openApply(one);
    const { site } = await ask(app.url, "site.state", {});
    await ask(app.url, "site.saveSettings", { site: { ...site!, sep: "/" }, seen: site! });
    await one.evaluate(() => window.dispatchEvent(new Event("focus")));
    await refused(one);
    await ask(app.url, "site.saveSettings", { site: site!, seen: { ...site!, sep: "/" } });
  });

  it("goes out only as it stood there: what another window changes is looked at first", async () => {
    await one.goto(`${app.url}/review`);
    await applied(one).waitFor();
    await one.click('[aria-label="Include: Address moves"]');
    await expect.poll(() => offered(one)).toBeGreaterThan(5000);

    // The settings are saved in the other window, the question asked already.
    await openApply(one);
    await other.goto(`${app.url}/settings?topic=slugs`);
    await other.fill('[aria-label="Most characters of a slug"]', "24");
    await other.click("text=Save settings");
    await other.waitForSelector("text=Settings saved");
    await submit(one);
    await refused(one);

    // A line is changed there.
    await openApply(one);
    await openBench(other);
    await type(other, "{name} at {site}");
    await draftStored(app.url, other, "product", "{name} at {site}");
    await submit(one);
    await refused(one);

    // A group is left out there, then one change of another.
    await openApply(one);
    await untick(other, /^Include: Address moves$/);
    await submit(one);
    await refused(one);
    await openApply(one);
    await untick(other, /^Include: title of .+/);
    await submit(one);
    await refused(one);

    // What was ticked there is seen on coming back to this window.
    const before = await offered(one);
    await untick(other, /^Include: title of .+/);
    await one.evaluate(() => window.dispatchEvent(new Event("focus")));
    await expect.poll(() => offered(one)).toBe(before - 1);

    // What stands there now goes out.
    const summary = await ask(app.url, "review.summary", {});
    await expect.poll(() => offered(one)).toBe(summary.included);
    await openApply(one);
    await submit(one);
    await one.waitForURL(/runs\/1$/);
    await one.waitForSelector("text=/Done: [\\d,]+ changes/", { timeout: 60_000 });
    await settled(app.url);
    const [run] = await runs();
    expect(run!.skipped).toBe(0);
    const db = openStore(app.db);
    const changes = changesAfter(db, 1, 0, 1_000_000);
    const amount = (text: string) => changes.filter((change) => change.text === text).length;
    expect(amount("title") + amount("description") + amount("slug") + amount("robots")).toBe(summary.included);
    expect(changes.filter(({ text, after }) => text === "slug" && after.length > 24)).toEqual([]);
    // A page's slug is the last part of its address: no slug went out without its address.
    const torn = db
      .prepare("SELECT count(*) FROM items WHERE kind <> 'page' AND slug <> '' AND path NOT LIKE '%/' || slug || '%'")
      .pluck()
      .get();
    expect(torn).toBe(0);
    db.close();
  });
});
