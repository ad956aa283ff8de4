import { beforeEach, describe, expect, it } from "vitest";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { goneMarker, gonePaths } from "../../store/gone";
import { type Db, openStore } from "../../store/open";
import { addRedirects, iterateRedirects, redirectsVersion } from "../../store/redirects";
import { nextRevision, writeSite } from "../../store/site";
import { bringPagesBack, chosenGone, deletePages, goneList } from "./gone-pages";

const EVERY = { search: "" };
let db: Db;
const put = (key: string, path: string) =>
  itemWriter(db)(
    {
      key,
      kind: "product",
      path,
      columns: { name: `Rope ${key}` },
      attributes: null,
      body: "<p>b</p>",
      byHand: ["title"],
    },
    nextRevision(db),
  );

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  for (let i = 1; i <= 700; i++) put(`${i}`, `/p/${i}`);
  goneMarker(db, 1, "2026-11-26T10:00:00Z")(Array.from({ length: 699 }, (_, i) => i + 1));
});

describe("pages that are gone", () => {
  it("are listed a page at a time, and found", () => {
    const first = goneList(db, { after: 0, search: "" });
    expect([first.total, first.pages.length]).toEqual([699, 200]);
    expect(goneList(db, { after: first.pages.at(-1)!.id, search: "" }).pages[0]!.id).toBe(201);
    expect(goneList(db, { after: 0, search: "ROPE p/42" }).pages.map(({ key }) => key)).toEqual([
      "42",
      ...Array.from({ length: 10 }, (_, i) => `42${i}`),
    ]);
    expect(goneList(db, { after: 0, search: "69 rope" })).toMatchObject({ total: 699, found: 17, isWhole: true });
    expect(goneList(db, { after: 200, search: "" })).toMatchObject({ found: 699, isWhole: false });
    expect(goneList(db, { after: 499, search: "" })).toMatchObject({ found: 699, isWhole: true });
  });

  it("are found whatever letters are written large", () => {
    db.prepare("UPDATE gone_items SET name = 'Ölzeug & ÉPISSOIR', title = 'Nur im Titel' WHERE id = 3").run();
    for (const search of ["ölzeug", "épissoir ÖLZEUG", "titel"])
      expect(goneList(db, { after: 0, search }).pages.map(({ id }) => id)).toEqual([3]);
  });

  it("that a search finds are what is done something to, and no others", async () => {
    const some = { search: "/p/69" };
    expect(gonePaths(db, chosenGone(db, some))).toHaveLength(11);
    await expect(deletePages(db, some, 699)).rejects.toThrow("There are 11 pages by now, not 699; nothing was deleted");
    expect(await bringPagesBack(db, some)).toEqual({ back: 11, stay: 0 });
    expect(await deletePages(db, { search: "/p/68" }, 11)).toEqual({ deleted: 11 });
    expect(goneList(db, { after: 0, search: "" }).total).toBe(699 - 22);
  });

  it("come back, but for those whose address or id another has by now", async () => {
    put("new", "/p/5");
    expect(await bringPagesBack(db, [4, 5, 4711])).toEqual({ back: 1, stay: 1 });
    expect(await bringPagesBack(db, EVERY)).toEqual({ back: 697, stay: 1 });
    expect(goneList(db, { after: 0, search: "" }).pages.map(({ id }) => id)).toEqual([5]);
  });

  it("are gone for good in the redirects no longer, once they are back", async () => {
    const at = (path: string) => ({ from: path, to: "", status: 410 as const, prefix: false });
    expect(gonePaths(db, [7, 8, 9999])).toEqual(["/p/7", "/p/8"]);
    expect(gonePaths(db, chosenGone(db, EVERY))).toHaveLength(699);
    addRedirects(db, [at("/p/7"), at("/p/8"), at("/other")], "hand", "2026-11-27T10:00:00Z");
    const before = redirectsVersion(db);
    await bringPagesBack(db, [7]);
    const holding = [...iterateRedirects(db)].flatMap(({ from, retiredAt }) => (retiredAt === null ? [from] : []));
    expect(holding).toEqual(["/p/8", "/other"]);
    expect(redirectsVersion(db)).toBe(before + 1);
  });

  it("are deleted for good only where there are as many as was typed", async () => {
    await expect(deletePages(db, EVERY, 12)).rejects.toThrow("There are 699 pages by now, not 12; nothing was deleted");
    expect(await deletePages(db, [1, 2], 2)).toEqual({ deleted: 2 });
    expect(await deletePages(db, EVERY, 697)).toEqual({ deleted: 697 });
    expect(goneList(db, { after: 0, search: "" })).toEqual({ pages: [], total: 0, found: 0, isWhole: true });
  });
});
