import { siteSchema } from "../../core/design/schema";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { writeSite } from "../../store/site";
import { type OpenedSite } from "../workspace/opened-site";
import { makeSite } from "./site-files";
import { Sites } from "./sites";
import { SitesApi } from "./sites-api";

let folder: string;
let clock = 0;
let sites: Sites;
/** Sites as they were opened: without threads, as busy as they are told to be. */
let opened: { id: string; isAtWork: boolean; isClosed: boolean }[] = [];

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "nine-lines-open-"));
  vi.stubEnv("NINE_LINES_DATA", folder);
  for (const name of ["a", "b", "c", "d"]) makeSite(name, (db) => writeSite(db, siteSchema.parse({ name })));
  opened = [];
  clock = 1000;
  sites = new Sites(
    (path) => {
      const own = {
        id: /(\w+)\.db$/.exec(path)![1]!,
        isAtWork: false,
        isClosed: false,
        jobs: { open: () => (own.isAtWork ? ["a job"] : []) },
        close: () => {
          own.isClosed = true;
          return Promise.resolve();
        },
      };
      opened.push(own);
      return own as unknown as OpenedSite;
    },
    () => clock,
  );
});
afterEach(async () => {
  await sites.closeAll();
  vi.unstubAllEnvs();
  rmSync(folder, { recursive: true });
});

const use = async (...ids: string[]) => {
  for (const id of ids) {
    clock += 1000;
    await sites.api(id);
  }
};
const openNow = () => opened.filter(({ isClosed }) => !isClosed).map(({ id }) => id);

describe("sites", () => {
  it("open once, when somebody asks", async () => {
    await use("a", "a", "b", "a");
    expect(opened.map(({ id }) => id)).toEqual(["a", "b"]);
    await expect(sites.api("nowhere")).rejects.toThrow(/There is no site “nowhere”/);
  });

  it("say in words what is wrong with one that opens and cannot be read, and where there is more about it", async () => {
    const [broken, missing] = await Promise.all(["a", "nowhere"].map((id) => new SitesApi(sites).state(id)));
    expect(broken).toEqual({ trouble: expect.stringMatching(/^Something went wrong. Details are in the server log/) });
    expect(missing).toEqual({ trouble: expect.stringMatching(/^There is no site “nowhere”/) });
  });

  it("do not add up: with two open, the one that was used longest ago closes for a third", async () => {
    await use("a", "b", "a", "c");
    expect(openNow()).toEqual(["a", "c"]);
    await use("d", "b");
    expect(openNow()).toEqual(["d", "b"]);
    expect(sites.openIds()).toEqual(["d", "b"]);
  });

  it("stay open while something is done on them", async () => {
    await use("a", "b");
    for (const own of opened) own.isAtWork = true;
    await use("c");
    expect(openNow()).toEqual(["a", "b", "c"]);
    expect([sites.hasOpenJobs("a"), sites.hasOpenJobs("c"), sites.hasOpenJobs("d")]).toEqual([true, false, false]);
    opened[0]!.isAtWork = false;
    clock += 1000;
    sites.sweep();
    expect(openNow()).toEqual(["b", "c"]);
  });

  it("give their memory back when nobody asked for ten minutes", async () => {
    await use("a", "b");
    clock += 9.9 * 60_000;
    sites.sweep();
    expect(openNow()).toEqual(["a", "b"]);
    await use("b");
    clock += 5 * 60_000;
    sites.sweep();
    expect(openNow()).toEqual(["b"]);
  });

  it("that are being closed are opened anew only when they are", async () => {
    await use("a");
    const closing = sites.close("a");
    await use("a");
    await closing;
    expect(opened.map(({ isClosed }) => isClosed)).toEqual([true, false]);
  });
});
