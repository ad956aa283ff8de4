import { mkdtempSync, readdirSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ALL_PAGES } from "../../core/items/query";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { openStore } from "../../store/open";
import { nextRevision, writeSite } from "../../store/site";
import { ExtraDesk } from "../extras/extra-desk";
import { SiteFindings } from "../findings/site-findings";
import { ItemsList } from "../items/items-list";
import { type OpenedSite } from "../workspace/opened-site";
import { Workspace } from "../workspace/workspace";
import { exchangeMethods } from "./methods";
import { madeFile, makePagesFile, pagesOutSchema } from "./out-files";

let folder = "";
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "nine-lines-made-"));
  vi.stubEnv("NINE_LINES_DATA", folder);
});
afterEach(() => vi.unstubAllEnvs());
const files = () => readdirSync(join(folder, "uploads"));

/** A site in a file, with pages of these titles. */
function siteOf(name: string, titles: readonly string[]): OpenedSite {
  const db = openStore(join(folder, `${name}.db`));
  writeSite(db, DEMO_SITE);
  const write = itemWriter(db);
  titles.forEach((title, i) =>
    write(
      { kind: "post", key: `${i}`, path: `/${i}`, columns: { title }, attributes: null, body: null, byHand: null },
      nextRevision(db),
    ),
  );
  const workspace = new Workspace(db);
  const list = new ItemsList(workspace, new SiteFindings(workspace, () => 2026));
  const methods = exchangeMethods(workspace, list, new ExtraDesk(workspace));
  const call = { cancelled: () => false, progress: () => {} } as never;
  const proof = { call: async (_: string, asked: never) => workspace.at(() => methods.pagesOut(asked, call)) };
  return { db, proof } as unknown as OpenedSite;
}
const asked = (format: string) =>
  pagesOutSchema.parse({
    shape: "wide",
    format,
    query: ALL_PAGES,
    columns: [{ column: "title_before", name: "Title" }],
  });
const asking = { signal: new AbortController().signal, progress: () => {}, client: "test" };

describe("a file of pages that is made to be fetched", () => {
  it("is whole, with its size, and is found from its own site alone", async () => {
    const site = siteOf("quill-ferrow", ["Linen paper", "Cotton paper"]);
    const made = await makePagesFile(site, asked("jsonl"), asking);
    const { body, bytes } = madeFile(site, made);
    const text = await new Response(body).text();
    expect(text).toBe('{"Title":"Linen paper"}\n{"Title":"Cotton paper"}\n');
    expect(bytes).toBe(text.length);
    expect(() => madeFile(siteOf("other", []), made)).toThrow("That file has expired");
    expect(() => madeFile(site, { ...made, format: "csv" })).toThrow("That file has expired");
  });

  it("says in words why it cannot be, and leaves nothing", async () => {
    const site = siteOf("quill-ferrow", ["Short", "long ".repeat(7000)]);
    await expect(makePagesFile(site, asked("xlsx"), asking)).rejects.toThrow(/Row 3 has a text of 35000 characters/);
    expect(files()).toEqual([]);
    await makePagesFile(site, asked("csv"), asking);
    expect(files()).toHaveLength(1);
  });

  it("says how far it is, and leaves nothing where nobody waits for it any more", async () => {
    const site = siteOf(
      "quill-ferrow",
      Array.from({ length: 1200 }, (_, i) => `Paper ${i}`),
    );
    const told: unknown[] = [];
    await makePagesFile(site, asked("csv"), { ...asking, progress: (pages) => told.push(pages) });
    expect(told).toEqual([0, 500, 1000]);
    const gone = new AbortController();
    const progress = (pages: unknown) => void (pages === 500 && gone.abort());
    await expect(makePagesFile(site, asked("csv"), { ...asking, signal: gone.signal, progress })).rejects.toThrow();
    expect(files()).toHaveLength(1);
  });
});
